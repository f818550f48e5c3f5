import { rm } from 'node:fs/promises';
import { Router } from 'express';
import { budgetFileQuerySchema } from '@wise-margin/contract';
import type { Actor } from '../../database/audit.ts';
import { refused } from '../../http/problem.ts';
import { handle, numberIn, parse } from '../../http/route.ts';
import { uploadOf, uploadedFiles, uploadedName } from '../../http/upload.ts';
import type { BudgetFileService } from './budget-file-service.ts';

const MOST_BYTES = 20 * 1024 ** 2;

/** Budgets as CSV and spreadsheets, and files read back, at most 20 MiB. */
export function budgetFileRoutes(options: {
  readonly budgetFiles: BudgetFileService;
  readonly directory: string;
  readonly actor: Actor;
}): Router {
  const { budgetFiles, directory, actor } = options;
  const router = Router();
  const at = '/companies/:company/budgets/:budget';
  router.get(
    `${at}/export.csv`,
    handle(async (request, response) => {
      const { filter } = parse(budgetFileQuerySchema, request.query);
      const { name, text } = await budgetFiles.csv(numberIn(request, 'company'), numberIn(request, 'budget'), filter);
      response.attachment(`${name}.csv`).type('text/csv').send(text);
    }),
  );
  router.get(
    `${at}/export.xlsx`,
    handle(async (request, response) => {
      const { filter } = parse(budgetFileQuerySchema, request.query);
      const { name, content } = await budgetFiles.workbook(numberIn(request, 'company'), numberIn(request, 'budget'), filter);
      response.attachment(`${name}.xlsx`).type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').send(content);
    }),
  );
  router.post(
    `${at}/files`,
    uploadOf([{ name: 'file', maxCount: 1 }], { directory, mostBytes: MOST_BYTES }),
    handle(async (request, response) => {
      const file = uploadedFiles(request.files)['file']?.[0];
      if (!file) throw refused('Choose a completed template or a CSV file.', 'file');
      const { apply, session } = request.body as Readonly<Record<string, string | undefined>>;
      try {
        response.json(
          await budgetFiles.read(
            numberIn(request, 'company'),
            numberIn(request, 'budget'),
            { path: file.path, name: uploadedName(file.originalname) },
            { apply: apply === 'yes', session: (session ?? '').slice(0, 100), actor },
          ),
        );
      } finally {
        await rm(file.path, { force: true });
      }
    }),
  );
  return router;
}
