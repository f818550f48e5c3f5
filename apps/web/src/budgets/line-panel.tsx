import { line as linePath, max, min, scaleLinear } from 'd3';
import type { BudgetEditDto, BudgetGridDto, BudgetRowDto } from '@wise-margin/contract';
import { useState } from 'react';
import { useCompany } from '../shell/company.ts';
import { Amount } from '../ui/figure.tsx';
import { BasisForm } from './basis/basis-form.tsx';

/** The selected line: how its year is derived, its history and the new year drawn together, its departments, its held months. */
export function LinePanel({
  data,
  row,
  name,
  locked,
  apply,
}: {
  readonly data: BudgetGridDto;
  readonly row: BudgetRowDto;
  readonly name: string;
  readonly locked: boolean;
  readonly apply: (edits: BudgetEditDto[], shown: ReadonlyMap<string, string>) => void;
}) {
  const company = useCompany();
  const months = data.grid.blocks.filter(({ key }) => key.startsWith('months.')).map(({ heading }) => heading.slice(0, 3));
  const gridRow = data.grid.lines.findIndex(({ account }) => account === row.account);
  const amounts = data.grid.cells[gridRow]!.slice(0, 12).map((cell) => (cell.kind === 'amount' ? cell.value : 0));
  const year = data.grid.cells[gridRow]![data.grid.columns.findIndex(({ key }) => key === 'year.budget')];
  const held = row.held.flatMap((isHeld, month) => (isHeld ? [month] : []));
  const release = (which: number[]) => apply([{ kind: 'release', account: row.account, months: which }], new Map());
  const [isForming, setForming] = useState(false);
  const [previewed, setPreviewed] = useState<readonly number[] | null>(null);
  const bases = [...new Set(row.lines.map(({ basis }) => basis))];
  return (
    <aside aria-label="Line" className="ml-3 w-[340px] shrink-0 overflow-y-auto border border-hairline bg-sheet p-4" tabIndex={0}>
      <p className="text-[13px] text-ink-soft">Line {row.account}</p>
      <h2 className="font-serif text-[19px] leading-6 font-semibold">{name}</h2>
      {bases.length === 0 ? <p className="mt-2 text-[14px]">Nothing budgeted yet. Type a month or the year.</p> : null}
      {bases.length === 1 ? <p className="mt-2 text-[14px]">{bases[0]}.</p> : null}
      {[...new Set(row.lines.flatMap(({ lacks }) => lacks))].map((words) => (
        <p key={words} className="mt-1 text-[13px] text-brick">
          {words}
        </p>
      ))}
      {locked ? null : isForming ? (
        <BasisForm
          key={row.account}
          budget={data.budget.id}
          budgetYear={data.budget.year}
          account={row.account}
          filter={data.filter}
          basis={row.lines[0]?.basisForm ?? { kind: 'typed' }}
          months={months}
          years={row.history.map(({ year }) => year)}
          show={setPreviewed}
          set={(basis) => {
            apply([{ kind: 'basis', account: row.account, basis }], new Map());
            setForming(false);
          }}
          close={() => setForming(false)}
        />
      ) : (
        <button type="button" className="link mt-1 text-[13px]" onClick={() => setForming(true)}>
          Change how it is derived
        </button>
      )}
      <YearChart
        months={months}
        amounts={previewed ?? amounts}
        isPreview={previewed !== null}
        history={row.history}
        year={data.budget.year}
      />
      {row.lines.length > 1 || bases.length > 1 ? (
        <table className="ledger-table mt-3 w-full">
          <tbody>
            {row.lines.map((each) => (
              <tr key={each.id}>
                <th scope="row" className="border-b border-hairline whitespace-normal!">
                  {Object.values(each.dimensions).join(', ') || `No ${data.dimension ?? 'slice'} given`}
                  {bases.length > 1 ? <div className="text-[12px] font-normal text-ink-soft">{each.basis}</div> : null}
                </th>
                <td className="figure border-b border-hairline align-top">
                  <Amount value={each.total} exponent={company.exponent} unit="dollars" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {held.length > 0 ? (
        <div className="mt-3 text-[14px]">
          <p className="font-semibold">Held by hand</p>
          <ul>
            {held.map((month) => (
              <li key={month} className="flex items-center justify-between gap-2">
                <span>
                  {months[month]} <Amount value={amounts[month]!} exponent={company.exponent} />
                </span>
                {locked ? null : (
                  <button type="button" className="link" onClick={() => release([month])}>
                    Release {months[month]}
                  </button>
                )}
              </li>
            ))}
          </ul>
          {locked || held.length < 2 ? null : (
            <button type="button" className="link mt-1" onClick={() => release(held)}>
              Release all {held.length}
            </button>
          )}
        </div>
      ) : null}
      <p className="mt-3 flex justify-between border-t border-hairline pt-2 text-[13px]">
        <span>Months add to the year</span>
        <Amount value={year?.kind === 'amount' ? year.value : 0} exponent={company.exponent} />
      </p>
    </aside>
  );
}

const WIDTH = 306;
const HEIGHT = 130;
const SHADES = ['#c9c2b3', '#b4ac9b', '#8b8371'];

/** The new year as outlined bars over the lines of up to three years before it, lighter the older. */
function YearChart({
  months,
  amounts,
  history,
  year,
  isPreview,
}: {
  readonly months: readonly string[];
  readonly amounts: readonly number[];
  readonly history: BudgetRowDto['history'];
  readonly year: number;
  /** the bars are what a basis would give, not what is budgeted */
  readonly isPreview: boolean;
}) {
  const company = useCompany();
  const all = [...amounts, ...history.flatMap((each) => each.months.flatMap((amount) => amount ?? []))];
  const y = scaleLinear([Math.min(0, min(all) ?? 0), Math.max(0, max(all) ?? 0) || 1], [HEIGHT - 16, 8]);
  const x = scaleLinear([0, 12], [0, WIDTH]);
  const shades = SHADES.slice(SHADES.length - history.length);
  const words = history.map((each) => `FY${each.year}`);
  return (
    <figure className="mt-3">
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`FY${year} budget by month as bars over ${words.join(', ') || 'no history'} as lines, ${company.currencyWords}`}
      >
        {amounts.map((amount, month) => (
          <rect
            key={month}
            x={x(month) + 5}
            width={x(1) - 10}
            y={Math.min(y(amount), y(0))}
            height={Math.abs(y(amount) - y(0))}
            className="fill-sheet stroke-ink"
          />
        ))}
        {history.map((each, index) => (
          <path
            key={each.year}
            fill="none"
            stroke={shades[index]}
            strokeWidth="2"
            d={
              linePath<number | null>(
                (_, month) => x(month + 0.5),
                (amount) => y(amount ?? 0),
              ).defined((amount) => amount !== null)([...each.months]) ?? ''
            }
          />
        ))}
        <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} className="stroke-ink" />
        {months.map((month, index) => (
          <text key={month} x={x(index + 0.5)} y={HEIGHT - 2} textAnchor="middle" className="fill-ink-soft text-[11px]">
            {month[0]}
          </text>
        ))}
      </svg>
      <figcaption className="text-[12px] text-ink-soft">
        Outlined: FY{year} {isPreview ? 'as this basis would give it' : 'budget'}. Lines: {words.join(', ') || 'no history'}
        {words.length > 1 ? ', lighter is older' : ''}. {company.currencyWords}.
      </figcaption>
    </figure>
  );
}
