import { useQuery } from '@tanstack/react-query';
import type { ComparisonDto, GridDto } from '@wise-margin/contract';
import { shownLines, unpackGrid } from '@wise-margin/presentation';
import { useParams } from 'react-router';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { useBudgets } from '../data/use-statement.ts';
import { Choice } from '../ui/choice.tsx';
import { CellFigure, favorColor, favorOf } from '../ui/figure.tsx';
import { Page } from '../ui/page.tsx';
import { PageFailure } from '../ui/page-failure.tsx';
import { ruleClasses } from '../ui/rule-classes.ts';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';
import { comparisonChoices } from './comparison-choices.ts';

/** Two versions of a plan line by line, with the reasons behind each side. */
export default function ComparisonPage() {
  const company = useCompany();
  const id = Number(useParams().budget);
  const [search, setSearch] = useSearch();
  const budgets = useBudgets(company.id);
  const own = budgets.data?.find((budget) => budget.id === id);
  const others = budgets.data?.filter((budget) => budget.id !== id) ?? [];
  const offered = own ? comparisonChoices(company, own, others) : [];
  const other = search.get('with') ?? offered[0]?.[0] ?? 'projection';
  const compared = useQuery({
    queryKey: ['comparison', company.id, id, other],
    enabled: own !== undefined,
    queryFn: async ({ signal }) => {
      const { grid, ...rest } = await getJson<ComparisonDto>(`/companies/${company.id}/budgets/${id}/comparison?with=${other}`, signal);
      return { ...rest, grid: unpackGrid(grid) };
    },
  });
  if (budgets.isError) return <Failure error={budgets.error} retry={() => void budgets.refetch()} />;
  if (!budgets.data) return <Loading what="the budgets" />;
  if (!own) return <PageFailure title="Comparison" error={new Error(`There is no budget ${id}.`)} company={company.id} list="budgets" />;
  const setOther = (value: string) =>
    setSearch((before) => {
      before.set('with', value);
    });
  return (
    <Page title={`${own.name}, FY${own.year}, compared`} words={own.note}>
      <div className="my-2 flex flex-wrap items-center gap-4 text-[13px]">
        <Choice label="Compare with" value={other} options={offered} choose={setOther} />
        <span className="text-ink-soft">{company.currencyWords}. Variance is this version minus the one compared with.</span>
      </div>
      {compared.isError ? <Failure error={compared.error} retry={() => void compared.refetch()} /> : null}
      {!compared.data && !compared.isError ? <Loading what="the comparison" /> : null}
      {compared.data ? <ComparisonTable grid={compared.data.grid} reasons={compared.data.reasons} exponent={company.exponent} /> : null}
    </Page>
  );
}

function ComparisonTable({
  grid,
  reasons,
  exponent,
}: {
  readonly grid: GridDto;
  readonly reasons: ComparisonDto['reasons'];
  readonly exponent: number;
}) {
  const all = shownLines(grid, { open: new Set(grid.lines.map(({ key }) => key)), hideZero: true });
  // a group of one account says nothing its account does not
  const members = new Map<string, number>();
  for (const { line } of all) if (line.kind === 'account' && line.parent) members.set(line.parent, (members.get(line.parent) ?? 0) + 1);
  const lines = all.filter(({ line }) => line.kind !== 'accounts' || members.get(line.key) !== 1);
  return (
    <div
      className="mb-3 min-h-0 flex-1 overflow-auto border border-hairline bg-sheet"
      tabIndex={0}
      role="region"
      aria-label="Versions compared"
    >
      <table className="ledger-table w-full">
        <thead className="sticky top-0 z-20 bg-sheet">
          <tr>
            <th scope="col" className="border-b border-ink px-3 py-1.5 font-normal! text-ink-soft">
              Line
            </th>
            {grid.columns.map(({ key, kind, heading, words, scenario }) => (
              <th
                key={key}
                scope="col"
                title={words}
                className={`border-b border-ink px-3 text-right! ${kind === 'difference' ? 'pr-8!' : ''}`}
              >
                {scenario ? <ScenarioSwatch scenario={scenario} /> : null}
                {heading}
              </th>
            ))}
            <th scope="col" className="border-b border-ink px-3">
              What differs
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ line, index }) => {
            const why = line.account === null ? undefined : reasons[line.account];
            const cells = grid.cells[index]!;
            const bold = line.emphasis === 'bold' || line.kind === 'section' ? 'font-semibold' : '';
            const rule = ruleClasses(line.rule);
            return (
              <tr key={line.key} className="hover:bg-wash">
                <th scope="row" className={`px-3 ${bold || 'font-normal!'}`} style={{ paddingLeft: 12 + line.depth * 10 }}>
                  {line.account ? (
                    <>
                      <span className="mr-0.5 text-ink-soft">{line.account}</span>{' '}
                    </>
                  ) : null}
                  {line.name}
                </th>
                {line.kind === 'section' || line.kind === 'spacer' ? (
                  <td colSpan={grid.columns.length + 1} />
                ) : (
                  <>
                    {cells.map((cell, position) => {
                      const { key, kind } = grid.columns[position]!;
                      const isDifference = kind === 'difference';
                      const ruled = kind === 'percentDifference' ? '' : rule;
                      return (
                        <td
                          key={key}
                          className={`figure relative px-3! ${isDifference ? 'pr-7!' : ''} ${bold} ${ruled} ${favorColor(favorOf(cell))}`}
                        >
                          <CellFigure cell={cell} format={{ exponent, unit: 'dollars', withUnit: line.kind === 'formula' }} />
                          {/* beside the figure, outside its column, so that ruled and plain figures line up */}
                          {isDifference ? (
                            <span className="absolute top-0 right-3 text-[10px] leading-[25px] font-normal">{favorOf(cell)}</span>
                          ) : null}
                        </td>
                      );
                    })}
                    <td className="max-w-[420px] px-3! text-[12.5px] text-ink-soft">{why ? <Why {...why} /> : null}</td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What differs between the two: what this version has and the other has not, then the other; a basis that both have is not repeated. */
function Why({ left, right }: { readonly left: readonly string[]; readonly right: readonly string[] }) {
  const here = right.filter((words) => !left.includes(words));
  const there = left.filter((words) => !right.includes(words));
  // beside actuals there is no basis to differ from
  const text =
    left.length === 0
      ? right.join('; ')
      : [here.join('; '), there.length > 0 ? `compared with: ${there.join('; ')}` : ''].filter((part) => part !== '').join('; ');
  return (
    <span className="block truncate" title={text}>
      {text}
    </span>
  );
}
