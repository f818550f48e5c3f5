import type { WorkPool } from '../work/work-pool.ts';
import { Router, type Request } from 'express';
import {
  benchmarkChangeSchema,
  choicesSchema,
  exportQuerySchema,
  lineTrendQuerySchema,
  newViewSchema,
  previewRequestSchema,
  statementQuerySchema,
  drillDownQuerySchema,
  viewChangeSchema,
} from '@wise-margin/contract';
import { packGrid } from '@wise-margin/presentation';
import type { LogoStore } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import { handle, numberIn, parse } from '../http/route.ts';
import type { BenchmarkStore } from '../evaluation/index.ts';
import { EXPORT_FORMATS } from './export/export-formats.ts';
import { exportedStatement } from './export/exported-statement.ts';
import type { StatementService } from './service.ts';
import { drillDownOf } from './drill-down/drill-down.ts';
import type { ViewStore } from './views/view-store.ts';

const viewIn = (request: Request): string => String(request.params['view']);

export function statementRoutes(options: {
  readonly statements: StatementService;
  readonly views: ViewStore;
  readonly benchmarks: BenchmarkStore;
  readonly logos: LogoStore;
  readonly work: WorkPool;
  readonly actor: Actor;
}): Router {
  const { statements, views, benchmarks, logos, work, actor } = options;
  const router = Router();
  const at = '/companies/:company/statements';
  const library = '/companies/:company/views';
  router.get(
    library,
    handle(async (request, response) => response.json(await views.list(numberIn(request, 'company'), actor))),
  );
  router.post(
    library,
    handle(async (request, response) =>
      response.status(201).json(await views.create(numberIn(request, 'company'), parse(newViewSchema, request.body), actor)),
    ),
  );
  router.get(
    `${library}/:view`,
    handle(async (request, response) => response.json(await views.of(numberIn(request, 'company'), viewIn(request), actor))),
  );
  router.put(
    `${library}/:view`,
    handle(async (request, response) =>
      response.json(await views.change(numberIn(request, 'company'), viewIn(request), parse(viewChangeSchema, request.body), actor)),
    ),
  );
  router.delete(
    `${library}/:view`,
    handle(async (request, response) => {
      await views.remove(numberIn(request, 'company'), viewIn(request), actor);
      response.status(204).end();
    }),
  );
  router.post(
    '/companies/:company/statement-preview',
    handle(async (request, response) => {
      const { grid, coverage } = await statements.preview(numberIn(request, 'company'), parse(previewRequestSchema, request.body));
      response.json({ grid: packGrid(grid), coverage });
    }),
  );
  router.get(
    '/companies/:company/period-strip',
    handle(async (request, response) =>
      response.json(await statements.strip(numberIn(request, 'company'), parse(statementQuerySchema, request.query))),
    ),
  );
  router.get(
    `${at}/:view`,
    handle(async (request, response) => {
      const query = parse(statementQuerySchema, request.query);
      response.json(packGrid(await statements.statement(numberIn(request, 'company'), viewIn(request), query)));
    }),
  );
  router.get(
    `${at}/:view/drill-down`,
    handle(async (request, response) => {
      const query = parse(drillDownQuerySchema, request.query);
      const { books, grid, standing, run } = await statements.evaluated(numberIn(request, 'company'), viewIn(request), query);
      response.json(drillDownOf({ books, grid, standing, line: query.line, column: query.column, drafts: run.drafts }));
    }),
  );
  router.get(
    `${at}/:view/line-trends`,
    handle(async (request, response) =>
      response.json(await statements.lineTrends(numberIn(request, 'company'), viewIn(request), parse(lineTrendQuerySchema, request.query))),
    ),
  );
  for (const format of EXPORT_FORMATS) {
    router.get(
      `${at}/:view/export.${format.extension}`,
      handle(async (request, response) => {
        const query = parse(exportQuerySchema, request.query);
        const evaluated = await statements.evaluated(numberIn(request, 'company'), viewIn(request), query);
        const logo = evaluated.run.display.logo ? await logos.of(evaluated.books.id) : null;
        const statement = exportedStatement(evaluated, { query, logo });
        const { view, asOf } = statement.dto;
        const canceled = new AbortController();
        response.on('close', () => canceled.abort());
        const body = await format.write(statement, { pool: work, signal: canceled.signal });
        response.type(format.type).attachment(`${view.key}-${asOf}.${format.extension}`).send(body);
      }),
    );
  }
  router.put(
    `${library}/:view/choices`,
    handle(async (request, response) => {
      await views.remember(numberIn(request, 'company'), viewIn(request), parse(choicesSchema, request.body), actor);
      response.status(204).end();
    }),
  );
  const ratios = '/companies/:company/benchmarks';
  router.get(
    ratios,
    handle(async (request, response) => response.json(await benchmarks.list(numberIn(request, 'company')))),
  );
  router.put(
    ratios,
    handle(async (request, response) =>
      response.json(await benchmarks.change(numberIn(request, 'company'), parse(benchmarkChangeSchema, request.body), actor)),
    ),
  );
  return router;
}
