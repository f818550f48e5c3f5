import type { LineTrendDto } from '@wise-margin/contract';
import { bridgeSteps } from '@wise-margin/presentation';

import type { ContentBlock } from '../content/content.ts';

/** The figures behind a chart, as a table of plain numbers: amounts in the currency's own unit, ratios as they are. */
export type ChartTable = {
  readonly title: string;
  readonly headings: readonly string[];
  /** what its figures are: percentages are fractions */
  readonly kind: LineTrendDto['kind'];
  readonly rows: readonly (readonly (string | number | null)[])[];
};

/** The figures of a block's charts: months by scenario, or the steps of a bridge. */
export function chartTables(block: Extract<ContentBlock, { readonly kind: 'charts' | 'bridge' }>): ChartTable[] {
  if (block.kind === 'bridge') {
    const { explanation, by, exponent, unit } = block.bridge;
    const { base, compared, headings, line } = explanation;
    const steps = bridgeSteps(
      explanation.layouts.find((layout) => layout.by === by)!,
      base,
    );
    const plain = (value: number): number => value / 10 ** exponent;
    const rows = [
      [headings.base, plain(base)],
      ...steps.map(({ name, amount }) => [name, plain(amount)]),
      [headings.compared, plain(compared)],
    ];
    return [{ title: `${line.name}, ${unit}`, headings: ['Step', 'Amount'], kind: 'amount', rows }];
  }
  return block.charts.map(({ trend, exponent, unit }) => {
    const plain = (values: LineTrendDto['actual'], at: number): number | null => {
      const value = values[at] ?? null;
      return value === null ? null : trend.kind === 'amount' ? value / 10 ** exponent : value;
    };
    return {
      title: [trend.line.name, unit].filter((text) => text !== '').join(', '),
      headings: ['Month', 'Actual', 'Budget', 'Prior year'],
      kind: trend.kind,
      rows: trend.months.map(({ name }, at) => [name, plain(trend.actual, at), plain(trend.budget, at), plain(trend.prior, at)]),
    };
  });
}
