import { type GridDto } from '@wise-margin/contract';
import { shownLines } from '@wise-margin/presentation';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';

import { useCompany } from '../../data/company.ts';
import { CellFigure } from '../../ui/figure.tsx';
import { ruleClasses } from '../../ui/rule-classes.ts';
import { ScenarioSwatch } from '../../ui/scenario-swatch.tsx';

/** A planned statement by month. Groups open to their accounts; an account leads to its rule. */
export function BalancePlanTable({
  grid,
  selected,
  choose,
  hrefOf,
}: {
  readonly grid: GridDto;
  readonly selected: string | null;
  readonly choose: (account: string) => void;
  /** where an account of income is budgeted; null for an account of the balance sheet */
  readonly hrefOf: (account: string) => string | null;
}) {
  const { exponent } = useCompany();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const lines = shownLines(grid, { open, hideZero: true });
  const accountsOf = (key: string) => grid.lines.filter(({ kind, parent }) => kind === 'account' && parent === key);
  const toggle = (key: string) => {
    const next = new Set(open);
    if (!next.delete(key)) next.add(key);
    setOpen(next);
  };
  return (
    <div
      className="min-h-0 min-w-0 flex-1 overflow-auto border border-hairline bg-sheet"
      tabIndex={0}
      role="region"
      aria-label={grid.view.name}
    >
      <table className="ledger-table w-full">
        <thead>
          <tr>
            <th scope="col" className="sticky top-0 left-0 z-30 border-b border-ink bg-sheet px-3 py-1.5 font-normal! text-ink-soft">
              Line
            </th>
            {grid.blocks.map(({ key, heading }) => (
              <th key={key} scope="col" className="sticky top-0 z-20 border-b border-ink bg-sheet px-2 text-right!">
                <ScenarioSwatch scenario="budget" />
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ line, index, canOpen, isOpen }) => {
            const accounts = canOpen ? accountsOf(line.key) : [];
            const only = accounts.length === 1 ? accounts[0]!.account : null;
            const target = line.account ?? only;
            const href = target === null ? null : hrefOf(target);
            const bold = line.emphasis === 'bold' || line.kind === 'section' ? 'font-semibold' : '';
            const rule = ruleClasses(line.rule);
            return (
              <tr key={line.key} className={target !== null && target === selected ? 'bg-wash' : 'group hover:bg-wash'}>
                <th
                  scope="row"
                  className={`sticky left-0 z-10 max-w-64 truncate bg-inherit px-3 ${bold || 'font-normal!'} ${target !== null && target === selected ? 'bg-wash!' : 'bg-sheet! group-hover:bg-wash!'}`}
                  style={{ paddingLeft: 12 + line.depth * 10 }}
                  title={line.name}
                >
                  {href !== null ? (
                    <Link to={href} className="ml-4 hover:underline" title="Go to the account in the budget">
                      {line.account ? <span className="mr-1 text-ink-soft">{line.account}</span> : null}
                      {line.name}
                    </Link>
                  ) : target !== null ? (
                    <button type="button" className="ml-4 hover:underline" onClick={() => choose(target)}>
                      {line.account ? <span className="mr-1 text-ink-soft">{line.account}</span> : null}
                      {line.name}
                    </button>
                  ) : canOpen ? (
                    <button type="button" className="hover:underline" aria-expanded={isOpen} onClick={() => toggle(line.key)}>
                      {isOpen ? (
                        <ChevronDown size={13} aria-hidden="true" className="mr-0.5 inline align-[-2px]" />
                      ) : (
                        <ChevronRight size={13} aria-hidden="true" className="mr-0.5 inline align-[-2px]" />
                      )}
                      {line.name}
                    </button>
                  ) : (
                    line.name
                  )}
                </th>
                {line.kind === 'section' || line.kind === 'spacer' ? (
                  <td colSpan={grid.columns.length} />
                ) : (
                  grid.cells[index]!.map((cell, position) => (
                    <td key={grid.columns[position]!.key} className={`figure px-2! ${bold} ${rule}`}>
                      <CellFigure cell={cell} format={{ exponent, unit: 'dollars', withUnit: false }} />
                    </td>
                  ))
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
