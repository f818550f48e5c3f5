import { Router, type Request } from 'express';
import {
  exportQuerySchema,
  lineTrendQuerySchema,
  newViewSchema,
  packGrid,
  previewRequestSchema,
  shownLines,
  statementQuerySchema,
  trailQuerySchema,
  viewChangeSchema,
  type ExportQuery,
  type GridDto,
  type ShownLine,
} from '@wise-margin/contract';
import type { Books } from '../companies/books.ts';
import { statementWorkbook } from '../formats/statement-workbook.ts';
import type { Actor } from '../database/audit.ts';
import { handle, numberIn, parse } from '../http/route.ts';
import { gridCsv } from './export-csv.ts';
import type { StatementService } from './service.ts';
import { trailOf } from './trail.ts';
import type { ViewStore } from './view-store.ts';

const viewIn = (request: Request): string => String(request.params['view']);

export function statementRoutes(statements: StatementService, views: ViewStore, actor: Actor): Router {
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
    `${at}/:view/trail`,
    handle(async (request, response) => {
      const query = parse(trailQuerySchema, request.query);
      const { books, grid, budgets } = await statements.evaluated(numberIn(request, 'company'), viewIn(request), query);
      response.json(trailOf({ books, grid, budgets, line: query.line, column: query.column }));
    }),
  );
  router.get(
    `${at}/:view/line-trend`,
    handle(async (request, response) =>
      response.json(await statements.lineTrend(numberIn(request, 'company'), viewIn(request), parse(lineTrendQuerySchema, request.query))),
    ),
  );
  router.get(
    `${at}/:view/export.csv`,
    handle(async (request, response) => {
      const query = parse(exportQuerySchema, request.query);
      const { books, dto } = await statements.evaluated(numberIn(request, 'company'), viewIn(request), query);
      const { shown, title } = exportParts(books, dto, query);
      response.type('text/csv').attachment(`${dto.view.key}-${dto.asOf}.csv`);
      response.send(
        `\ufeff${gridCsv(dto, { exponent: books.currency.exponent, keys: new Set(shown.map(({ line }) => line.key)), title })}`,
      );
    }),
  );
  router.get(
    `${at}/:view/export.xlsx`,
    handle(async (request, response) => {
      const query = parse(exportQuerySchema, request.query);
      const { books, grid, dto } = await statements.evaluated(numberIn(request, 'company'), viewIn(request), query);
      const { shown, title } = exportParts(books, dto, query);
      const workbook = await statementWorkbook(grid, {
        lines: shown.map(({ line }) => ({
          index: grid.plan.lineOfKey.get(line.key)!,
          opened: line.kind === 'account' || line.kind === 'slice',
        })),
        title,
        exponent: books.currency.exponent,
        unit: query.unit,
        sheetName: dto.view.name,
      });
      response.type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').attachment(`${dto.view.key}-${dto.asOf}.xlsx`);
      response.send(workbook);
    }),
  );
  return router;
}

/** The lines in view and the words above them, the same for every format. */
function exportParts(books: Books, dto: GridDto, query: ExportQuery): { readonly shown: ShownLine[]; readonly title: string[] } {
  const open = query.open === 'all' ? query.open : new Set(query.open.split(','));
  const filters = Object.entries(dto.filter).map(([name, values]) => `${name}: ${values.map((value) => value || 'none').join(', ')}`);
  const base = dto.percentBase === null ? '' : `percentages of ${dto.percentBase.toLowerCase()}; `;
  return {
    shown: shownLines(dto, { open, hideZero: query.zero === 'hide' }),
    title: [
      books.name,
      `${dto.view.name}, ${dto.asOfWords}`,
      `${dto.view.note === '' ? '' : `${dto.view.note}; `}budget: ${dto.budgetWords}; ${base}${books.currency.words}`,
      ...filters,
    ],
  };
}
