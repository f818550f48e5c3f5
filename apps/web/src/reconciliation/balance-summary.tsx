import type { ReconciliationDto } from '@wise-margin/contract';
import { BANK_FORMAT_NAMES, dayWords } from '@wise-margin/presentation';
import { Trash2 } from 'lucide-react';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import type { useReconciliationActs } from './use-reconciliation.ts';

const counted = (count: number, one: string, many: string): string => `${count.toLocaleString('en-US')} ${count === 1 ? one : many}`;

/** The reconciliation as a controller writes it: from the bank's balance and from the ledger's to the same figure. */
export function BalanceSummary({ of, acts }: { readonly of: ReconciliationDto; readonly acts: ReturnType<typeof useReconciliationActs> }) {
  const { exponent, currencyWords } = useCompany();
  const { figures } = of;
  return (
    <aside
      aria-label="Reconciliation"
      className="w-[340px] shrink-0 overflow-y-auto border border-hairline bg-sheet px-3 py-2 narrow:w-full"
    >
      <h2 className="font-serif text-lg font-semibold">
        {of.account} on {dayWords(of.asOf)}
      </h2>
      {figures === null ? (
        <p className="py-2 text-[14px] text-ink-soft">
          No statement reaches this day. Statements go from {dayWords(of.reach?.from ?? of.statements[0]!.from)} to{' '}
          {dayWords(of.reach?.to ?? of.statements.at(-1)!.to)}.
        </p>
      ) : (
        <table className="ledger-table w-full text-[14px]" aria-label="Reconciliation">
          <thead>
            <tr className="text-[12.5px]">
              <th scope="col" className="font-normal! text-ink-soft">
                {currencyWords}
              </th>
              <th scope="col" className="sr-only">
                Amount
              </th>
            </tr>
          </thead>
          <tbody>
            <Row name="Balance on the statement" value={figures.bankBalance} exponent={exponent} />
            {of.clearedCount === 0 ? (
              <NotYetMatched figures={figures} exponent={exponent} />
            ) : (
              <Adjusted figures={figures} exponent={exponent} />
            )}
          </tbody>
        </table>
      )}
      {figures ? (
        <p role="status" className={`mt-1 text-[13px] ${isReconciled(of) ? 'text-pine' : 'text-ink-soft'}`}>
          {stateWords(of)}
        </p>
      ) : null}
      <h3 className="mt-3 border-b border-hairline text-[14px] font-semibold">Statements</h3>
      <ul className="text-[13px]">
        {of.statements.map(({ id, file, from, to, format, lines, open, closing }) => (
          <li key={id} className="flex items-start gap-2 border-b border-hairline py-1">
            <span className="min-w-0 flex-1">
              <span className="block truncate" title={file}>
                {file}
              </span>
              <span className="block text-ink-soft">
                {dayWords(from)} to {dayWords(to)}, {BANK_FORMAT_NAMES[format]}, {counted(lines, 'line', 'lines')}
                {open === 0 ? ', all cleared' : `, ${open.toLocaleString('en-US')} open`}
              </span>
            </span>
            <Amount value={closing} exponent={exponent} />
            <button
              type="button"
              aria-label={`Remove ${file}`}
              title="Remove this statement and what was cleared with it; entries stay"
              className="mt-0.5 text-ink-soft hover:text-brick"
              disabled={acts.isPending}
              onClick={() => acts.mutate({ kind: 'removeStatement', statement: id })}
            >
              <Trash2 size={14} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ul>
    </aside>
  );
}

type Figures = { readonly figures: NonNullable<ReconciliationDto['figures']>; readonly exponent: number };

/** Before anything is matched nobody can say what is outstanding: both balances, and how much of each side waits. */
function NotYetMatched({ figures, exponent }: Figures) {
  const { depositsInTransit, outstandingPayments, unrecorded } = figures;
  return (
    <>
      <Row
        name={counted(unrecorded.count, 'bank line not yet matched', 'bank lines not yet matched')}
        value={unrecorded.amount}
        exponent={exponent}
        isPart
      />
      <Row name="Balance in the ledger" value={figures.ledgerBalance} exponent={exponent} />
      <Row
        name={counted(depositsInTransit.count, 'ledger deposit not yet matched', 'ledger deposits not yet matched')}
        value={depositsInTransit.amount}
        exponent={exponent}
        isPart
      />
      <Row
        name={counted(outstandingPayments.count, 'ledger payment not yet matched', 'ledger payments not yet matched')}
        value={outstandingPayments.amount}
        exponent={exponent}
        isPart
      />
    </>
  );
}

/** From the bank's balance and from the ledger's to the same figure. */
function Adjusted({ figures, exponent }: Figures) {
  return (
    <>
      <Row
        name={counted(figures.depositsInTransit.count, 'deposit in transit', 'deposits in transit')}
        value={figures.depositsInTransit.amount}
        exponent={exponent}
        isPart
      />
      <Row
        name={counted(figures.outstandingPayments.count, 'outstanding check or payment', 'outstanding checks and payments')}
        value={figures.outstandingPayments.amount}
        exponent={exponent}
        isPart
      />
      <Row name="Adjusted bank balance" value={figures.adjustedBank} exponent={exponent} isTotal />
      <Row name="Balance in the ledger" value={figures.ledgerBalance} exponent={exponent} />
      <Row
        name={counted(figures.unrecorded.count, 'bank line not in the ledger', 'bank lines not in the ledger')}
        value={figures.unrecorded.amount}
        exponent={exponent}
        isPart
      />
      <Row name="Adjusted ledger balance" value={figures.adjustedLedger} exponent={exponent} isTotal />
      <tr>
        <th scope="row" className="pt-2! font-semibold!">
          Difference
        </th>
        <td className={`figure pt-2! font-semibold ${figures.difference === 0 ? 'text-pine' : 'text-brick'}`}>
          <Amount value={figures.difference} exponent={exponent} />
        </td>
      </tr>
    </>
  );
}

const isReconciled = ({ figures, cleared }: ReconciliationDto): boolean =>
  figures !== null &&
  figures.difference === 0 &&
  figures.unrecorded.count === 0 &&
  !cleared.some(({ isBroken, kind, explanation }) => isBroken || (kind === 'difference' && explanation === ''));

function stateWords(of: ReconciliationDto): string {
  const { figures, cleared, clearedCount } = of;
  if (clearedCount === 0) return 'Nothing is matched yet. Match the bank’s lines with the ledger to see what is outstanding.';
  if (figures!.unrecorded.count > 0) return 'Match the bank’s lines or post them, and the ledger agrees with the bank.';
  if (figures!.difference !== 0)
    return 'The opening balances of ledger and bank differ. Mark earlier lines that the bank had not seen by then as outstanding.';
  const broken = cleared.filter(({ isBroken }) => isBroken).length;
  if (broken > 0) return `${counted(broken, 'cleared item', 'cleared items')} no longer ${broken === 1 ? 'adds' : 'add'} up. See Cleared.`;
  const forced = cleared.filter(({ kind, explanation }) => kind === 'difference' && explanation === '').length;
  if (forced > 0) return `${counted(forced, 'forced difference', 'forced differences')} without an explanation. See Cleared.`;
  return 'Reconciled: the ledger agrees with the bank.';
}

function Row({
  name,
  value,
  exponent,
  isPart = false,
  isTotal = false,
}: {
  readonly name: string;
  readonly value: number;
  readonly exponent: number;
  readonly isPart?: boolean;
  readonly isTotal?: boolean;
}) {
  const rule = isTotal ? 'border-t border-ink font-semibold!' : '';
  return (
    <tr>
      <th scope="row" className={`font-normal! whitespace-normal! ${isPart ? 'pl-4! text-ink-soft' : ''} ${rule}`}>
        {name}
      </th>
      <td className={`figure ${rule}`}>
        <Amount value={value} exponent={exponent} />
      </td>
    </tr>
  );
}
