import { safeText } from '@wise-margin/server';
import { stringify } from 'csv-stringify/sync';

const isFigure = (text: string): boolean => /^-?\d[\d.,]*$/.test(text);

export type Format = 'table' | 'csv' | 'json';
/** What a verb answers: rows of texts for tables and CSV, and the same as data for JSON. */
export type Answer = {
  /** rows for CSV where a table rounds: figures in full, and no letters beside them */
  readonly csv?: {
    readonly headings: readonly string[];
    readonly rows: readonly (readonly string[])[];
    readonly figures: ReadonlySet<number>;
  };
  readonly title: string;
  readonly headings: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** positions of columns that hold figures and are set to the right */
  readonly figures: ReadonlySet<number>;
  readonly json: unknown;
};

const csvOf = ({ headings, rows, figures }: NonNullable<Answer['csv']>): string =>
  stringify([
    headings.map(safeText),
    ...rows.map((row) => row.map((text, column) => (figures.has(column) && isFigure(text) ? text : safeText(text)))),
  ]);

/** An answer in the format asked for, ready to print. */
export function print(answer: Answer, format: Format): string {
  switch (format) {
    case 'json':
      return `${JSON.stringify(answer.json, null, 2)}\n`;
    case 'csv':
      // cells that are no figures and look like formulas are made harmless; figures stay numbers
      return csvOf(answer.csv ?? answer);
    case 'table': {
      const all = [answer.headings, ...answer.rows];
      const widths = answer.headings.map((_, column) => Math.max(...all.map((row) => row[column]?.length ?? 0)));
      const lines = all.map((row) =>
        widths
          .map((width, column) => (answer.figures.has(column) ? (row[column] ?? '').padStart(width) : (row[column] ?? '').padEnd(width)))
          .join('  ')
          .trimEnd(),
      );
      lines.splice(1, 0, widths.map((width) => '-'.repeat(width)).join('  '));
      return `${answer.title}\n\n${lines.join('\n')}\n`;
    }
  }
}
