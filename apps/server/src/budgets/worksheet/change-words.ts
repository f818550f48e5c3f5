import { type Chart, type FiscalCalendar, monthOfYearName, type WorksheetEdit } from '@wise-margin/core';

/** What a batch of edits does, in words: `Oct of 5010 Guide wages: 12k`; several are counted. */
export function changeWords(
  books: { readonly chart: Chart; readonly calendar: FiscalCalendar },
  year: number,
  edits: readonly WorksheetEdit[],
): string {
  const name = (number: string) => {
    const account = books.chart.accounts.find((each) => each.number === number);
    return account ? `${number} ${account.name}` : number;
  };
  const [edit] = edits;
  if (!edit) return '';
  if (edits.length > 1) {
    const accounts = new Set(edits.map(({ account }) => account));
    const kinds = new Set(edits.map(({ kind }) => kind));
    const what = kinds.size > 1 ? 'changes' : kinds.has('basis') ? 'bases' : kinds.has('note') ? 'notes' : 'figures';
    return `${edits.length.toLocaleString('en-US')} ${what} in ${accounts.size === 1 ? name(edit.account) : `${accounts.size} lines`}`;
  }
  const month = (index: number) => monthOfYearName(books.calendar, year, index);
  const several = 'together' in edit && edit.together && edit.together.length > 0 ? ` and ${edit.together.length} more` : '';
  switch (edit.kind) {
    case 'month':
      return `${month(edit.month)} of ${name(edit.account)}${several}: ${edit.text}`;
    case 'year':
      return `Annual total of ${name(edit.account)}${several}: ${edit.text}`;
    case 'span':
      return `${month(edit.months[0]!)} to ${month(edit.months.at(-1)!)} of ${name(edit.account)}${several}: ${edit.text}`;
    case 'basis':
      return `Basis of ${name(edit.account)}`;
    case 'release':
      return `${edit.months.map(month).join(', ')} of ${name(edit.account)}: override removed`;
    case 'note':
      return `Note on ${edit.month === null ? '' : `${month(edit.month)} of `}${name(edit.account)}`;
  }
}
