import { type DrillDownDto, type FigureGroupsDto } from '@wise-margin/contract';
import { type DisplayUnit, formatAmount, type Minor } from '@wise-margin/core';
import { cellReasonWords, figureText } from '@wise-margin/presentation';
import { Link } from 'react-router';

import { Amount, favorColor, favorOf } from '../ui/figure.tsx';
import type { AccountStep } from './drill-down-address.ts';

/** A figure opened: the accounts that add up to it, or the figures it was made from. */
export function FigureStep({
  drillDown,
  exponent,
  companyId,
  openFigure,
  openAccount,
}: {
  readonly drillDown: DrillDownDto;
  readonly exponent: number;
  readonly companyId: number;
  readonly openFigure: (place: { line: string; column: string }) => void;
  readonly openAccount: (step: AccountStep) => void;
}) {
  const unit: DisplayUnit = 'cents';
  const favor = favorOf(drillDown.cell);
  const reason = cellReasonWords(drillDown.cell);
  return (
    <>
      <p className="text-[14px] text-ink-soft">{drillDown.column.words}</p>
      {favor ? <p className={`text-[14px] font-semibold ${favorColor(favor)}`}>{favor === 'F' ? '▲ Favorable' : '▼ Unfavorable'}</p> : null}
      {reason ? <p className="mt-1">{reason}.</p> : null}
      <p className="mt-2 text-[14px]">{drillDown.sentence}</p>
      {drillDown.parts.length > 0 ? (
        <table className="ledger-table mt-2 w-full">
          <tbody>
            {drillDown.parts.map((part) => (
              <tr key={`${part.line} ${part.column}`} className="hover:bg-wash">
                <td className="border-b border-hairline whitespace-normal!">
                  <button type="button" className="link" onClick={() => openFigure({ line: part.line, column: part.column })}>
                    {part.role ? `${part.role} ` : ''}
                    {part.name}
                  </button>
                  <div className="pb-1 text-[12px] text-ink-soft">{part.words}</div>
                </td>
                <td className="figure border-b border-hairline align-top">
                  <span className="figure-text pt-1">{figureText(part.cell, { exponent, unit, withUnit: true })}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {drillDown.accounts.length > 0 ? (
        <table className="ledger-table mt-2 w-full">
          <thead>
            <tr>
              <th scope="col" className="border-b border-ink">
                Account
              </th>
              <th scope="col" className="border-b border-ink text-right!">
                Amount
              </th>
            </tr>
          </thead>
          <tbody>
            {drillDown.accounts.map((account) => (
              <tr key={account.number} className="hover:bg-wash">
                <td className="border-b border-hairline whitespace-normal!">
                  {account.entries ? (
                    <button type="button" className="link" onClick={() => openAccount({ account: account.number, ...account.entries! })}>
                      {account.number} {account.name}
                    </button>
                  ) : (
                    <>
                      <Link
                        className="link"
                        to={`/c/${companyId}/budgets/${account.budgetId}${account.isBalanceSheet ? '/balance-plan?account' : '?row'}=${account.number}`}
                      >
                        {account.number} {account.name}
                      </Link>
                      {account.basis.map((basis) => (
                        <div key={basis} className="text-[12px] text-ink-soft">
                          {basis}
                        </div>
                      ))}
                    </>
                  )}
                </td>
                <td className="figure border-b border-hairline align-top">
                  <Amount value={account.amount} exponent={exponent} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </>
  );
}

/** The listed accounts' sum, and its difference to the cell. Null when the cell is not an amount made of accounts. */
export function figureProof(drillDown: DrillDownDto, exponent: number): { listed: string; difference: string; isZero: boolean } | null {
  if (drillDown.accountsSum === null || drillDown.cell.kind !== 'amount') return null;
  const difference = drillDown.cell.value - drillDown.accountsSum;
  const text = (value: number) => (value === 0 ? '0.00' : formatAmount(value as Minor, { exponent, unit: 'cents' }));
  return { listed: `Listed accounts ${text(drillDown.accountsSum)}`, difference: text(difference), isZero: difference === 0 };
}

/** What the groups of a figure add up to, and the difference to the figure, which is what has no part in them. */
export function groupsProof(
  { sum, figure }: Pick<FigureGroupsDto, 'sum' | 'figure'>,
  exponent: number,
): { listed: string; difference: string; isZero: boolean } {
  const text = (value: number) => (value === 0 ? '0.00' : formatAmount(value as Minor, { exponent, unit: 'cents' }));
  return { listed: `Listed ${text(sum)}`, difference: text(figure - sum), isZero: figure === sum };
}
