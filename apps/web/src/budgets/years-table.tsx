import type { BudgetRowDto } from '@wise-margin/contract';
import { TOTAL_RULE } from '@wise-margin/core';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { ruleClasses } from '../ui/rule-classes.ts';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';

/** The months of a line: up to three years as posted, then the new year. */
export function YearsTable({
  months,
  history,
  year,
  amounts,
  total,
  isPreview,
}: {
  readonly months: readonly string[];
  readonly history: BudgetRowDto['history'];
  readonly year: number;
  readonly amounts: readonly number[];
  readonly total: number;
  /** the new year is what a basis would give, not what is budgeted */
  readonly isPreview: boolean;
}) {
  const { exponent, currencyWords } = useCompany();
  const posted = (held: readonly (number | null)[]) => held.filter((amount) => amount !== null).length;
  const figure = (amount: number | null) => (amount === null ? null : <Amount value={amount} exponent={exponent} unit="dollars" />);
  return (
    <table className="ledger-table compact-table mt-2 w-full" aria-label="The line by month and year">
      <caption className="sr-only">
        {currencyWords}, {history.length} prior years and FY{year} {isPreview ? 'with this basis' : 'budget'}
      </caption>
      <thead>
        <tr>
          <td className="border-b border-ink" />
          {history.map((each) => (
            <th key={each.year} scope="col" className="border-b border-ink pr-2! text-right!">
              FY{each.year}
              {posted(each.months) < 12 ? (
                <span className="block text-[11px] leading-3 font-normal text-ink-soft">{posted(each.months)} months</span>
              ) : null}
            </th>
          ))}
          <th scope="col" className={`border-b border-ink pr-2! text-right! ${isPreview ? 'text-copper' : ''}`}>
            <ScenarioSwatch scenario="budget" />
            FY{year}
          </th>
        </tr>
      </thead>
      <tbody>
        {months.map((month, index) => (
          <tr key={month}>
            <th scope="row" className="font-normal! text-ink-soft">
              {month}
            </th>
            {history.map((each) => (
              <td key={each.year} className="figure text-ink-soft">
                {figure(each.months[index] ?? null)}
              </td>
            ))}
            <td className="figure">{figure(amounts[index]!)}</td>
          </tr>
        ))}
        <tr>
          <th scope="row">Year</th>
          {history.map((each) => (
            <td key={each.year} className={`figure ${ruleClasses(TOTAL_RULE)} text-ink-soft`}>
              {figure(each.total)}
            </td>
          ))}
          <td className={`figure ${ruleClasses(TOTAL_RULE)} font-semibold`}>{figure(total)}</td>
        </tr>
      </tbody>
    </table>
  );
}
