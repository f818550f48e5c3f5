import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';

import Papa from 'papaparse';

import type { InspectedFile } from './inspect-file.ts';

/** The quoting of a file breaks off at a row. */
export class BrokenCsvError extends Error {
  override readonly name = 'BrokenCsvError';
  constructor(
    readonly row: number,
    message: string,
    readonly code: 'brokenQuotes' | 'rowTooLong' = 'brokenQuotes',
  ) {
    super(message);
  }
}
const MOST_CHARACTERS_IN_ROW = 1_000_000;
const BYTES_AT_ONCE = 1 << 18;

/**
 * Reads a file of columns as a stream, row by row in order, in bounded memory. Rows count from 1 as
 * a spreadsheet numbers them: a row with line breaks inside quotes is one row. Line breaks of every
 * kind are read as `\n`; a quote inside a cell that does not begin with one stands for itself. Each row
 * is handed on as it is parsed, so that none is lost when a later one breaks off.
 * @param file.pace waited for before more of the file is read, so that what takes the rows can keep up
 * @throws BrokenCsvError where quotes do not close or a row runs past a million characters
 */
export async function readCsv(
  path: string,
  file: Pick<InspectedFile, 'encoding' | 'delimiter'> & { readonly pace?: () => Promise<void> },
  onRow: (cells: string[], row: number) => void,
): Promise<void> {
  let row = 0;
  let emptyRows = 0;
  const progress = { charactersSinceRow: 0 };
  const beforeReading = async (): Promise<void> => {
    if (progress.charactersSinceRow > MOST_CHARACTERS_IN_ROW)
      throw new BrokenCsvError(row + emptyRows + 1, 'a row does not end', 'rowTooLong');
    await file.pace?.();
  };
  const text = Readable.from(textOf(path, file.encoding, { progress, beforeReading }));
  await new Promise<void>((resolve, reject) => {
    Papa.parse<string[]>(text, {
      delimiter: file.delimiter,
      newline: '\n',
      step: ({ data, errors }, parser) => {
        progress.charactersSinceRow = 0;
        // an empty row counts when another follows; the one after the last line break does not
        if (data.length === 1 && data[0] === '' && errors.length === 0) return void (emptyRows += 1);
        try {
          for (; emptyRows > 0; emptyRows -= 1) onRow([''], (row += 1));
          const [broken] = errors;
          if (broken) throw new BrokenCsvError(row + 1, broken.message);
          onRow(data, (row += 1));
        } catch (error) {
          reject(error as Error);
          parser.abort();
          text.destroy();
        }
      },
      complete: () => resolve(),
      error: reject,
    });
  });
}

/** The text of a file in pieces, its line breaks made alike. */
async function* textOf(
  path: string,
  encoding: InspectedFile['encoding'],
  { progress, beforeReading }: { readonly progress: { charactersSinceRow: number }; readonly beforeReading: () => Promise<void> },
): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding);
  let held = '';
  for await (const chunk of createReadStream(path, { highWaterMark: BYTES_AT_ONCE }) as AsyncIterable<Buffer>) {
    await beforeReading();
    let piece = held + decoder.decode(chunk, { stream: true });
    // the other half of a line break may come with the next piece
    held = piece.endsWith('\r') ? '\r' : '';
    if (held) piece = piece.slice(0, -1);
    progress.charactersSinceRow += piece.length;
    yield withPlainBreaks(piece);
  }
  yield withPlainBreaks(held + decoder.decode());
}

const withPlainBreaks = (text: string): string => (text.includes('\r') ? text.replaceAll(/\r\n?/g, '\n') : text);
