import type { BalanceMeasure, ColumnSet } from '../statements/column-set.ts';
import { COMPANY } from './combined-layout.ts';

/** The months a combined statement is over. */
export const COMBINED_SPANS = ['month', 'quarterToDate', 'yearToDate', 'trailingTwelve'] as const;
export type CombinedSpan = (typeof COMBINED_SPANS)[number];
/** What companies are set side by side in. */
export const COMBINED_SCENARIOS = ['actual', 'budget'] as const;
export type CombinedScenario = (typeof COMBINED_SCENARIOS)[number];

const held = new Map<string, ColumnSet>();
const MEASURE: BalanceMeasure = 'closing';

/** One column for each company and for what is left out between them, and their total; the same object for the same choice. */
export function companyColumns(span: CombinedSpan, scenario: CombinedScenario): ColumnSet {
  const key = `companies_${span.toLowerCase()}_${scenario}`;
  const made: ColumnSet = held.get(key) ?? {
    key,
    name: 'Companies side by side',
    blocks: [
      {
        key: 'companies',
        heading: '{value}',
        span: { kind: span },
        columns: [
          {
            kind: 'amount',
            key: 'amount',
            heading: scenario === 'actual' ? 'Actual' : 'Budget',
            scenario,
            span: { kind: span },
            measure: MEASURE,
          },
        ],
        repeat: { over: 'dimension', dimension: COMPANY },
        total: { heading: 'Combined' },
      },
    ],
  };
  held.set(key, made);
  return made;
}
