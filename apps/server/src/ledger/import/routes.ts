import { rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { stringify } from 'csv-stringify';
import { Router } from 'express';
import { importChoicesSchema, newCompanySchema } from '@wise-margin/contract';
import type { Actor } from '../../database/audit.ts';
import { refused } from '../../http/problem.ts';
import { handle, numberIn, parse } from '../../http/route.ts';
import { uploadOf, uploadedFiles, uploadedName } from '../../http/upload.ts';
import { safeText } from '../../formats/safe-text.ts';
import type { ImportService } from './service.ts';

const MOST_BYTES = 1024 ** 3;
/** Uploads go to disk as they arrive, each at most 1 GiB. */
export function importRoutes(options: { readonly imports: ImportService; readonly directory: string; readonly actor: Actor }): Router {
  const { imports, actor } = options;
  const router = Router();
  router.post(
    '/imports',
    uploadOf(
      [
        { name: 'accounts', maxCount: 1 },
        { name: 'ledger', maxCount: 1 },
      ],
      { directory: options.directory, mostBytes: MOST_BYTES },
    ),
    handle(async (request, response) => {
      const files = uploadedFiles(request.files);
      const chosen = (kind: string) => {
        const file = files[kind]?.[0];
        return file ? { path: file.path, name: uploadedName(file.originalname), move: true } : null;
      };
      try {
        const body = request.body as Record<string, string>;
        if (body.company !== undefined && !/^\d+$/.test(body.company)) throw refused('The company is a number.', 'company');
        const target = body.company === undefined ? { newCompany: parse(newCompanySchema, body) } : { companyId: Number(body.company) };
        const id = await imports.submit({ target, accounts: chosen('accounts'), ledger: chosen('ledger'), actor });
        response.status(202).json(await imports.describe(id));
      } catch (error) {
        await Promise.all(
          Object.values(files)
            .flatMap((kind) => kind ?? [])
            .map((file) => rm(file.path, { force: true })),
        );
        throw error;
      }
    }),
  );
  router.get(
    '/companies/:company/imports',
    handle(async (request, response) => response.json(await imports.list(numberIn(request, 'company')))),
  );
  router.get(
    '/imports/:import',
    handle(async (request, response) => response.json(await imports.describe(numberIn(request, 'import')))),
  );
  router.post(
    '/imports/:import/post',
    handle(async (request, response) => {
      const id = numberIn(request, 'import');
      await imports.post(id, actor);
      response.json(await imports.describe(id));
    }),
  );
  router.post(
    '/imports/:import/check',
    handle(async (request, response) => {
      const id = numberIn(request, 'import');
      await imports.choose(id, parse(importChoicesSchema, request.body));
      response.status(202).json(await imports.describe(id));
    }),
  );
  router.post(
    '/imports/:import/reverse',
    handle(async (request, response) => {
      const id = numberIn(request, 'import');
      await imports.reverse(id, actor);
      response.json(await imports.describe(id));
    }),
  );
  router.delete(
    '/imports/:import',
    handle(async (request, response) => {
      await imports.discard(numberIn(request, 'import'), actor);
      response.status(204).end();
    }),
  );
  router.get(
    '/imports/:import/issues.csv',
    handle(async (request, response) => {
      const id = numberIn(request, 'import');
      await imports.describe(id);
      response.type('text/csv').attachment(`import-${id}-refused-rows.csv`);
      const rows = stringify({
        header: true,
        columns: ['file', 'row', 'column', 'text', 'reason', 'fix'],
        bom: true,
        record_delimiter: 'windows',
        cast: { string: safeText },
      });
      await pipeline(imports.issues(id), rows, response);
    }),
  );
  return router;
}
