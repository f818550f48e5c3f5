import type { CoverageDto } from '@wise-margin/contract';

import { useCompany } from '../../data/company.ts';
import { Amount } from '../../ui/figure.tsx';

/** Which accounts are on no line or on two, and whether the bottom of an income statement is the ledger's net income. */
export function CoverageNote({ coverage }: { readonly coverage: CoverageDto }) {
  const company = useCompany();
  const { held, inNone, inSeveral, netIncome } = coverage;
  const isWhole = inNone.length === 0 && inSeveral.length === 0;
  if (held === 0 && isWhole && !netIncome)
    return (
      <section aria-label="Coverage" className="mb-2 border-l-2 border-hairline bg-sheet px-2 py-1 text-[13px] text-ink-soft">
        No line has accounts yet. Add a line and choose its accounts.
      </section>
    );
  return (
    <section
      aria-label="Coverage"
      className={`mb-2 border-l-2 bg-sheet px-2 py-1 text-[13px] ${isWhole && netIncome?.agrees !== false ? 'border-pine' : 'border-brick'}`}
    >
      {isWhole ? <p>Every account with a balance is on exactly one line.</p> : null}
      {inNone.length > 0 ? (
        <details>
          <summary className="cursor-pointer font-semibold">
            {inNone.length === 1 ? '1 account is' : `${inNone.length} accounts are`} on no line
          </summary>
          <ul>
            {inNone.map(({ number, name }) => (
              <li key={number}>
                {number} {name}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {inSeveral.length > 0 ? (
        <details>
          <summary className="cursor-pointer font-semibold">
            {inSeveral.length === 1 ? '1 account is' : `${inSeveral.length} accounts are`} on more than one line
          </summary>
          <ul>
            {inSeveral.map(({ number, name, lines }) => (
              <li key={number}>
                {number} {name}: {lines.join(', ')}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {netIncome ? (
        <p>
          {netIncome.agrees
            ? `${netIncome.line} agrees with the ledger’s net income, year to date: `
            : `${netIncome.line} does not agree with the ledger’s net income, year to date, of `}
          <Amount value={netIncome.ledger} exponent={company.exponent} />
          {netIncome.agrees ? null : (
            <>
              ; this line is <Amount value={netIncome.shown} exponent={company.exponent} />
            </>
          )}
        </p>
      ) : null}
    </section>
  );
}
