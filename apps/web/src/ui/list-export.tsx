import type { ListColumn } from './list.tsx';

/** A text that a spreadsheet would run as a formula is written with an apostrophe before it; commas and quotes are kept whole. */
function cellText(value: string | number | null): string {
  if (typeof value === 'number') return String(value);
  const safe = /^[=+\-@\t\r]/.test(value ?? '') ? `'${value}` : (value ?? '');
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** The rows of a list as CSV: the columns that have a value, figures as plain numbers. */
export function listCsv<Row>(columns: readonly ListColumn<Row>[], rows: readonly Row[]): string {
  const held = columns.filter(({ value, file }) => value !== undefined || file !== undefined);
  const lines = rows.map((row) => held.map(({ value, file }) => cellText((file ?? value)!(row))));
  return [held.map(({ name }) => cellText(name)), ...lines].map((cells) => `${cells.join(',')}\r\n`).join('');
}

/** Saves what a list shows as a file; for lists that hold all of their rows. */
export function ListExport<Row>({
  name,
  columns,
  rows,
}: {
  /** of the file, without its ending */
  readonly name: string;
  readonly columns: readonly ListColumn<Row>[];
  readonly rows: readonly Row[];
}) {
  const save = () => {
    const address = URL.createObjectURL(new Blob([`\ufeff${listCsv(columns, rows)}`], { type: 'text/csv' }));
    const link = document.createElement('a');
    link.href = address;
    link.download = `${name}.csv`;
    link.click();
    URL.revokeObjectURL(address);
  };
  return (
    <button type="button" className="link" onClick={save}>
      Export CSV
    </button>
  );
}
