import { Router } from 'express';
import { exportQuerySchema, packGrid, shownLines, statementQuerySchema, trailQuerySchema } from '@wise-margin/contract';
import { handle, numberIn, parse } from '../http/route.ts';
import { gridDto } from './grid-dto.ts';
import { gridCsv } from './export-csv.ts';
import type { StatementService } from './service.ts';
import { trailOf } from './trail.ts';

export function statementRoutes(statements: StatementService): Router {
  const router = Router();
  const at = '/companies/:company/statements';
  router.get(
    `${at}/income`,
    handle(async (request, response) =>
      response.json(packGrid(await statements.income(numberIn(request, 'company'), parse(statementQuerySchema, request.query)))),
    ),
  );
  router.get(
    `${at}/strip`,
    handle(async (request, response) =>
      response.json(await statements.strip(numberIn(request, 'company'), parse(statementQuerySchema, request.query))),
    ),
  );
  router.get(
    `${at}/income/trail`,
    handle(async (request, response) => {
      const query = parse(trailQuerySchema, request.query);
      const { books, grid, budgets } = await statements.incomeGrid(numberIn(request, 'company'), query);
      response.json(trailOf({ books, grid, budgets, line: query.line, column: query.column }));
    }),
  );
  router.get(
    `${at}/income.csv`,
    handle(async (request, response) => {
      const query = parse(exportQuerySchema, request.query);
      const company = numberIn(request, 'company');
      const { books, grid: evaluated, budgetWords } = await statements.incomeGrid(company, query);
      const grid = gridDto(evaluated, { budget: budgetWords });
      const open = query.open === 'all' ? query.open : new Set(query.open.split(','));
      const shown = new Set(shownLines(grid, { open, hideZero: query.zero === 'hide' }).map(({ line }) => line.key));
      const filters = Object.entries(grid.filter).map(([name, values]) => `${name}: ${values.map((value) => value || 'none').join(', ')}`);
      const title = [
        books.name,
        `Income statement, ${grid.asOfWords}`,
        `Against ${grid.budgetWords} and prior year; percentages of ${grid.percentBase.toLowerCase()}; ${books.currency.words}`,
        ...filters,
      ];
      response.type('text/csv').attachment(`income-statement-${grid.asOf}.csv`);
      response.send(`\ufeff${gridCsv(grid, { exponent: books.currency.exponent, keys: shown, title })}`);
    }),
  );
  return router;
}
