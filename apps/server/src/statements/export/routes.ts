import { exportQuerySchema } from '@wise-margin/contract';

import type { LogoStore } from '../../companies/index.ts';
import { download, type Route } from '../../http/route.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import { STATEMENT } from '../paths.ts';
import type { StatementService } from '../service.ts';
import { EXPORT_FORMATS } from './export-formats.ts';
import { exportedStatement } from './exported-statement.ts';

type Services = { readonly statements: StatementService; readonly logos: LogoStore; readonly work: WorkPool };

/** Statements as files, in each of the export formats; a download that is canceled stops the work. */
export const exportRoutes = ({ statements, logos, work }: Services): readonly Route[] =>
  EXPORT_FORMATS.map(({ extension, type, summary, write }) =>
    download({
      method: 'get',
      path: `${STATEMENT}/export.${extension}`,
      summary,
      request: { query: exportQuerySchema },
      type,
      handle: async ({ path, query, signal }) => {
        const evaluated = await statements.evaluated(path.company, path.view, query);
        const logo = evaluated.run.display.logo ? await logos.of(evaluated.books.id) : null;
        const statement = exportedStatement(evaluated, { query, logo });
        const { view, asOf } = statement.dto;
        return { content: await write(statement, { pool: work, signal }), name: `${view.key}-${asOf}.${extension}` };
      },
    }),
  );
