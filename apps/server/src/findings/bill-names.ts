import type { ListedLineDto } from '@wise-margin/contract';
import type { Cause, LineTable } from '@wise-margin/core';
import type { BillNames } from '@wise-margin/presentation';

/** Positions of the lines that causes name, each once. */
export function linesNamed(causes: readonly Cause[]): number[] {
  const named = causes.flatMap((cause): (number | null)[] => {
    switch (cause.kind) {
      case 'repeatedBill':
        return [cause.line, cause.of];
      case 'unusualAmount':
      case 'unfamiliarAccount':
      case 'newParty':
      case 'changedPrice':
      case 'timing':
        return [cause.line];
      case 'stoppedParty':
      case 'missingBill':
        return [cause.lastLine];
      case 'part':
        return [];
    }
  });
  return [...new Set(named.filter((line) => line !== null))];
}

/** Positions of all lines of the bill that a line is the first of: those of its entry on the same account for the same party. */
export function linesOfBill(table: LineTable, line: number): number[] {
  const found: number[] = [];
  for (let position = line; position < table.count && table.entry[position] === table.entry[line]; position += 1)
    if (table.account[position] === table.account[line] && table.party[position] === table.party[line]) found.push(position);
  return found;
}

const DAY = new Intl.DateTimeFormat('en-US', { month: 'short', day: 'numeric', timeZone: 'UTC' });
const DAY_AND_YEAR = new Intl.DateTimeFormat('en-US', { month: 'short', day: 'numeric', year: 'numeric', timeZone: 'UTC' });

/** A bill in words. @param year calendar year in view; days of others name theirs */
export function billNames(
  line: ListedLineDto,
  { lineIds, year }: { readonly lineIds: readonly number[]; readonly year: string },
): BillNames {
  const day = (line.date.startsWith(year) ? DAY : DAY_AND_YEAR).format(new Date(`${line.date}T00:00:00Z`));
  return { number: line.entry, document: line.document, memo: line.memo, party: line.party, day, field: `{lines:${lineIds.join(',')}}` };
}
