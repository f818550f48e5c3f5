import { closeSync, openSync, writeSync } from 'node:fs';

export type LargeLedger = {
  readonly lines: number;
  readonly accounts: number;
  /** calendar years from 2021 on that the dates spread over */
  readonly years: number;
  readonly departments: number;
  readonly memo?: string;
};
const CLASSES = ['Cash', 'Revenue', 'Cost of sales', 'Operating expenses', 'Other income'];
const numberOf = (index: number): string => String(10_000 + index);

/** Accounts for a generated ledger, classes in turn. */
export function largeAccountsCsv(count: number): string {
  const rows = Array.from(
    { length: count },
    (_, index) => `${numberOf(index)},Account ${index},${CLASSES[index % CLASSES.length]},yes,Group ${index % 60}`,
  );
  return `account,name,class,active,group\n${rows.join('\n')}\n`;
}

/** Writes a ledger of any size, two lines an entry, in bounded memory and the same each time. @returns rows written */
export function writeLargeLedger(path: string, { lines, accounts, years, departments, memo = 'Generated line' }: LargeLedger): number {
  const file = openSync(path, 'w');
  let text = 'entry,date,account,debit,credit,memo,party,document,due,source,kind,state,department\n';
  const entries = Math.floor(lines / 2);
  for (let entry = 0; entry < entries; entry += 1) {
    const mixed = Math.imul(entry + 1, 2654435761) >>> 0;
    const month = entry % (years * 12);
    const date = `${2021 + Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, '0')}-${String((mixed % 28) + 1).padStart(2, '0')}`;
    const amount = `${(mixed % 90_000) + 10}.${String(mixed % 100).padStart(2, '0')}`;
    const [debit, credit] = [numberOf(mixed % accounts), numberOf((mixed >>> 8) % accounts)];
    const rest = `${memo},Party ${mixed % 40},D${entry},,general,,,Department ${mixed % departments}\n`;
    text += `L${entry},${date},${debit},${amount},,${rest}L${entry},${date},${credit},,${amount},${rest}`;
    if (text.length > 1 << 20) {
      writeSync(file, text);
      text = '';
    }
  }
  writeSync(file, text);
  closeSync(file);
  return entries * 2;
}
