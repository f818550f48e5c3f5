import { type CompanyMaterialityDto, type MaterialityDto, materialitySchema, type setMaterialitySchema } from '@wise-margin/contract';
import { INCOME_LINES, type Materiality, minor, suggestedMateriality } from '@wise-margin/core';
import type { z } from 'zod';

import type { Books } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { Evaluator } from '../evaluation/index.ts';

const TRAILING_YEAR = {
  key: 'trailing-year',
  name: 'Trailing year',
  blocks: [
    {
      key: 'year',
      heading: '{span}',
      span: { kind: 'trailingTwelve' },
      columns: [{ kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'trailingTwelve' } }],
    },
  ],
} as const;

/** Limits of materiality: a company's own, else those for all companies; until somebody sets any, limits suggested from its revenue. */
export class MaterialityStore {
  readonly #database: Database;
  readonly #evaluator: Evaluator;

  constructor(database: Database, evaluator: Evaluator) {
    this.#database = database;
    this.#evaluator = evaluator;
  }

  async of(books: Books): Promise<{ readonly materiality: Materiality; readonly source: CompanyMaterialityDto['source'] }> {
    const [own] = await this.#database.select<{ limits: string }>('SELECT limits FROM materiality WHERE company_id = $1', [books.id]);
    if (own) return { materiality: materialityOf(materialitySchema.parse(JSON.parse(own.limits))), source: 'company' };
    const [all] = await this.#database.select<{ limits: string; exponent: number }>('SELECT limits, exponent FROM materiality_for_all');
    if (all) {
      const limits = materialitySchema.parse(JSON.parse(all.limits));
      return { materiality: materialityOf(inCurrency(limits, books.currency.exponent - all.exponent)), source: 'all' };
    }
    return { materiality: suggestedMateriality(await this.#revenue(books), 10 ** books.currency.exponent), source: 'suggested' };
  }

  /** Names of the companies with limits of their own. */
  async changedBy(): Promise<string[]> {
    const rows = await this.#database.select<{ name: string }>(
      'SELECT c.name FROM materiality m JOIN companies c ON c.id = m.company_id ORDER BY c.id',
    );
    return rows.map(({ name }) => name);
  }

  /** Takes a company's own limits back; those for all companies, or the suggested ones, hold again. */
  async remove(books: Books, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM materiality WHERE company_id = $1', [books.id], transaction);
      await recordAudit(
        this.#database,
        { companyId: books.id, actor, action: 'materiality.remove', subject: 'materiality', details: {} },
        transaction,
      );
    });
  }

  /** Sets the limits of one company, or of every company without its own. Setting them for all removes this company's own. */
  async set(books: Books, { scope, ...limits }: z.infer<typeof setMaterialitySchema>, actor: Actor): Promise<void> {
    const before = (await this.of(books)).materiality;
    await this.#database.write(async (transaction) => {
      if (scope === 'company')
        await this.#database.run(
          'INSERT INTO materiality (company_id, limits) VALUES ($1, $2) ON CONFLICT (company_id) DO UPDATE SET limits = excluded.limits',
          [books.id, JSON.stringify(limits)],
          transaction,
        );
      else {
        await this.#database.run(
          'INSERT INTO materiality_for_all (id, limits, exponent) VALUES (1, $1, $2) ON CONFLICT (id) DO UPDATE SET limits = excluded.limits, exponent = excluded.exponent',
          [JSON.stringify(limits), books.currency.exponent],
          transaction,
        );
        await this.#database.run('DELETE FROM materiality WHERE company_id = $1', [books.id], transaction);
      }
      const words = (each: MaterialityDto | Materiality) =>
        (['month', 'yearToDate'] as const).map((span) => ({
          what: span === 'month' ? 'month' : 'year to date',
          text: limitWords(each[span], books),
        }));
      const [from, to] = [words(before), words(limits)];
      await recordAudit(
        this.#database,
        {
          companyId: books.id,
          actor,
          action: 'materiality.change',
          subject: 'materiality',
          details: { overrides: limits.overrides.length, scope },
          changes: to.flatMap(({ what, text }, at) => (from[at]!.text === text ? [] : [{ what, from: from[at]!.text, to: text }])),
        },
        transaction,
      );
    });
  }

  /** Revenue of the last twelve months; of fewer, what there is, as a year. Zero without any. */
  async #revenue(books: Books): Promise<number> {
    const { lastActual, firstPosted } = books;
    if (lastActual === null || firstPosted === null) return 0;
    const months = Math.min(12, lastActual - firstPosted + 1);
    const columnSet =
      months === 12
        ? TRAILING_YEAR
        : {
            ...TRAILING_YEAR,
            blocks: [
              {
                ...TRAILING_YEAR.blocks[0],
                columns: [{ ...TRAILING_YEAR.blocks[0].columns[0], span: { kind: 'fromBeginning' as const } }],
              },
            ],
          };
    const { grid } = await this.#evaluator.evaluate(books, { lineSet: INCOME_LINES, columnSet, asOf: lastActual, filter: {} });
    const cell = grid.cells[grid.plan.lineOfKey.get('revenue')!]![0]!;
    return cell.kind === 'amount' ? Math.round((cell.value * 12) / months) : 0;
  }
}

/** The same numbers of dollars in a currency with more or fewer decimals. */
function inCurrency({ month, yearToDate, overrides }: MaterialityDto, decimals: number): MaterialityDto {
  const scale = 10 ** decimals;
  const limit = (each: MaterialityDto['month']) => ({
    ...each,
    amount: each.amount === null ? null : Math.max(1, Math.round(each.amount * scale)),
    least: Math.round(each.least * scale),
  });
  return {
    month: limit(month),
    yearToDate: limit(yearToDate),
    overrides: overrides.map((each) => ({ ...each, month: limit(each.month), yearToDate: limit(each.yearToDate) })),
  };
}

/** Limits as the core has them. */
export const materialityOf = ({ month, yearToDate, overrides }: MaterialityDto): Materiality => {
  const limit = ({ amount, least, ...rest }: MaterialityDto['month']) => ({
    ...rest,
    amount: amount === null ? null : minor(amount),
    least: minor(least),
  });
  return {
    month: limit(month),
    yearToDate: limit(yearToDate),
    overrides: overrides.map((each) => ({ ...each, month: limit(each.month), yearToDate: limit(each.yearToDate) })),
  };
};

/** `4,000 or 10% from 800` */
function limitWords({ amount, percent, passes, least }: MaterialityDto['month'], { currency: { exponent } }: Books): string {
  const money = (value: number) => (value / 10 ** exponent).toLocaleString('en-US');
  const parts = [...(amount === null ? [] : [money(amount)]), ...(percent === null ? [] : [`${(percent * 100).toLocaleString('en-US')}%`])];
  return `${parts.join(passes === 'both' ? ' and ' : ' or ')}${least > 0 ? `, from ${money(least)}` : ''}`;
}
