import { LineTable, type TableLine } from '../ledger/line-table.ts';
import type { Minor } from '../money/minor.ts';
import type { CheckedLedger } from './checked-ledger.ts';

/** A posting of the small ledgers that the check is tried on, and measured with. */
export type SmallPosting = {
  readonly month: number;
  readonly dayOfMonth: number;
  readonly account: number;
  readonly amount: number;
  readonly party?: number;
  readonly document?: string;
  readonly memo?: string;
  readonly department?: string;
  readonly source?: number;
  readonly isManual?: boolean;
  readonly isDraft?: boolean;
};
const DEPARTMENTS = ['', 'North', 'South', 'East'];
/** Account 0 is a bank, 1 to 98 are expenses, 99 is a watched account. */
const ACCOUNTS = 100;
const FIRST_DAY = Date.UTC(2024, 0, 1) / 86_400_000;
const DAYS_A_MONTH = 30.4375;

/** Postings as a ledger of the calendar years from 2024 on, one entry each, its other side on the bank without a party. */
export function smallLedger(postings: readonly SmallPosting[], months: number): CheckedLedger {
  const lines = postings.flatMap(
    (
      {
        month,
        dayOfMonth,
        account,
        amount,
        party = -1,
        document = '',
        memo = '',
        department = 'North',
        source = 0,
        isManual = false,
        isDraft = false,
      },
      at,
    ): TableLine[] => {
      const of = {
        entry: at + 1,
        day: Math.floor(FIRST_DAY + month * DAYS_A_MONTH) + dayOfMonth,
        slot: month,
        source,
        isManual,
        isDraft,
        isClosing: false,
        text: `E-${at + 1}\t${document}\t${memo}\t`,
      };
      return [
        { ...of, line: at * 2 + 1, account, amount: amount as Minor, combination: DEPARTMENTS.indexOf(department), party },
        { ...of, line: at * 2 + 2, account: 0, amount: -amount as Minor, combination: 0, party: -1 },
      ];
    },
  );
  return {
    table: LineTable.of(lines),
    accounts: Array.from({ length: ACCOUNTS }, (_, account) => ({
      isIncome: account > 0,
      isDebit: true,
      isWatched: account === ACCOUNTS - 1,
    })),
    combinations: new Map(DEPARTMENTS.map((department, id) => [id, department === '' ? {} : { department }])),
    dimensions: ['department'],
    monthOfSlot: Array.from({ length: months }, (_, slot) => (slot % 12) + 1),
    slotsInYear: 12,
    slots: { from: 0, to: months - 1 },
    lastActual: months - 1,
    learned: new Set(),
  };
}
