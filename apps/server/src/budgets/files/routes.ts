import { budgetFileEffectSchema, budgetFileFormSchema, budgetFileQuerySchema } from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { WORKBOOK_TYPE } from '../../formats/media-types.ts';
import { download, type Route, route } from '../../http/route.ts';
import { requiredUpload } from '../../http/upload.ts';
import { BUDGET } from '../paths.ts';
import type { BudgetFileService } from './budget-file-service.ts';

const MOST_BYTES = 20 * 1024 ** 2;
type Services = { readonly budgetFiles: BudgetFileService; readonly directory: string; readonly actor: Actor };

/** Budgets as CSV and spreadsheets, and completed files read back, at most 20 MiB. */
export const budgetFileRoutes = ({ budgetFiles, directory, actor }: Services): readonly Route[] => [
  download({
    method: 'get',
    path: `${BUDGET}/export.csv`,
    summary: 'Account, period, amount and dimensions',
    request: { query: budgetFileQuerySchema },
    type: 'text/csv',
    handle: async ({ path, query }) => {
      const { name, text } = await budgetFiles.csv(path, query.filter);
      return { content: text, name: `${name}.csv` };
    },
  }),
  download({
    method: 'get',
    path: `${BUDGET}/export.xlsx`,
    summary: 'Budget template as a spreadsheet',
    request: { query: budgetFileQuerySchema },
    type: WORKBOOK_TYPE,
    handle: async ({ path, query }) => {
      const { name, content } = await budgetFiles.workbook(path, query.filter);
      return { content, name: `${name}.xlsx` };
    },
  }),
  route({
    method: 'post',
    path: `${BUDGET}/files`,
    summary: 'Preview the changes in a completed file; with the field "apply" set to yes they are made',
    request: { form: { files: ['file'], directory, mostBytes: MOST_BYTES }, body: budgetFileFormSchema },
    response: budgetFileEffectSchema,
    handle: ({ path, body, uploads }) => {
      const file = requiredUpload(uploads, 'file', 'Choose a completed template or a CSV file.');
      return budgetFiles.read(path, file, { apply: body.apply === 'yes', session: body.session, actor });
    },
  }),
];
