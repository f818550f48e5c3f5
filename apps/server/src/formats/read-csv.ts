import { createReadStream } from 'node:fs';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { CsvError, parse } from 'csv-parse';
import type { InspectedFile } from './inspect-file.ts';

/** The quoting of a file breaks off at a row. */
export class BrokenCsvError extends Error {
  override readonly name = 'BrokenCsvError';
  constructor(
    readonly row: number,
    message: string,
    options: { cause: unknown },
  ) {
    super(message, options);
  }
}
const MOST_CHARACTERS_IN_ROW = 1_000_000;

/**
 * Reads a file of columns as a stream, row by row in order, in bounded memory. Rows count from 1 as
 * a spreadsheet numbers them: a row with line breaks inside quotes is one row.
 * @throws BrokenCsvError where quotes do not close or a row runs past a million characters
 */
export async function readCsv(
  path: string,
  file: Pick<InspectedFile, 'encoding' | 'delimiter'>,
  onRow: (cells: string[], row: number) => void,
): Promise<void> {
  let row = 0;
  // each row is handed on as it is parsed, so that none is lost when a later one breaks off
  const parser = parse({
    bom: true,
    delimiter: file.delimiter,
    relax_column_count: true,
    max_record_size: MOST_CHARACTERS_IN_ROW,
    record_delimiter: ['\r\n', '\n', '\r'],
    on_record: (cells: string[]) => {
      row += 1;
      onRow(cells, row);
      return null;
    },
  });
  parser.resume();
  try {
    const input = createReadStream(path, { highWaterMark: 1 << 18 });
    await (file.encoding === 'utf-8' ? pipeline(input, parser) : pipeline(input, toUtf8(file.encoding), parser));
  } catch (error) {
    if (error instanceof CsvError) throw new BrokenCsvError(row + 1, error.message, { cause: error });
    throw error;
  }
}

/** Turns another encoding into UTF-8 as it flows by; the parser takes bytes. */
function toUtf8(encoding: string): Transform {
  const decoder = new TextDecoder(encoding);
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      done(null, Buffer.from(decoder.decode(chunk, { stream: true })));
    },
    flush(done) {
      done(null, Buffer.from(decoder.decode()));
    },
  });
}
