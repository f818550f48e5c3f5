import { importChoicesSchema, importFormSchema, importListSchema, importSchema, newCompanySchema } from '@wise-margin/contract';
import { stringify } from 'csv-stringify';

import type { Actor } from '../../database/audit.ts';
import { safeText } from '../../formats/safe-text.ts';
import { download, type Route, route } from '../../http/route.ts';
import type { ImportService } from './service.ts';

const MOST_BYTES = 1024 ** 3;
type Services = { readonly imports: ImportService; readonly directory: string; readonly actor: Actor };

/** Imports of ledgers and charts of accounts; files go to disk as they arrive, each at most 1 GiB. */
export function importRoutes({ imports, directory, actor }: Services): readonly Route[] {
  return [
    route({
      method: 'post',
      path: '/imports',
      summary: 'Upload files; they are checked, not posted',
      request: { form: { files: ['accounts', 'ledger'], directory, mostBytes: MOST_BYTES }, body: importFormSchema },
      response: importSchema,
      status: 202,
      handle: async ({ body: { company, ...described }, uploads }) => {
        const target = company === undefined ? { newCompany: newCompanySchema.parse(described) } : { companyId: Number(company) };
        const file = (kind: string) => (uploads[kind] ? { ...uploads[kind], move: true } : null);
        return imports.describe(await imports.submit({ target, accounts: file('accounts'), ledger: file('ledger'), actor }));
      },
    }),
    route({
      method: 'get',
      path: '/companies/:company/imports',
      summary: 'Imports, newest first',
      response: importListSchema,
      handle: ({ path }) => imports.list(path.company),
    }),
    route({
      method: 'get',
      path: '/imports/:import',
      summary: 'An import with its preview and rejected rows',
      response: importSchema,
      handle: ({ path }) => imports.describe(path.import),
    }),
    route({
      method: 'post',
      path: '/imports/:import/post',
      summary: 'Post a checked import, all or nothing',
      response: importSchema,
      handle: async ({ path }) => {
        await imports.post(path.import, actor);
        return imports.describe(path.import);
      },
    }),
    route({
      method: 'post',
      path: '/imports/:import/check',
      summary: 'Check an import again with other choices',
      request: { body: importChoicesSchema },
      response: importSchema,
      status: 202,
      handle: async ({ path, body }) => {
        await imports.choose(path.import, body);
        return imports.describe(path.import);
      },
    }),
    route({
      method: 'post',
      path: '/imports/:import/reverse',
      summary: 'Reverse a posted import',
      response: importSchema,
      handle: async ({ path }) => {
        await imports.reverse(path.import, actor);
        return imports.describe(path.import);
      },
    }),
    route({
      method: 'delete',
      path: '/imports/:import',
      summary: 'Discard an import that was not posted',
      response: null,
      handle: ({ path }) => imports.discard(path.import, actor),
    }),
    download({
      method: 'get',
      path: '/imports/:import/issues.csv',
      summary: 'Every rejected row',
      type: 'text/csv',
      handle: async ({ path }) => {
        await imports.describe(path.import);
        const rows = stringify({
          header: true,
          columns: ['file', 'row', 'column', 'text', 'reason', 'fix'],
          bom: true,
          record_delimiter: 'windows',
          cast: { string: safeText },
        });
        return { content: [imports.issues(path.import), rows], name: `import-${path.import}-rejected-rows.csv` };
      },
    }),
  ];
}
