import { type Entry, open, type ZipFile } from 'yauzl';

import { refused } from '../http/problem.ts';

const MOST_INFLATED = 60 * 1024 ** 2;
const MOST_ENTRIES = 400;

/**
 * Inflates a workbook's parts to nowhere and counts, before any parser sees it: a small file can hold
 * gigabytes of zeros.
 * @throws ProblemError 422 when it is no zipped workbook, has too many parts, or inflates past 60 MB
 */
export async function refuseOversizedWorkbook(path: string): Promise<void> {
  const tooLarge = () =>
    refused('The spreadsheet is larger than 60 MB when it is unpacked. Save only the sheet that was sent, and try again.', 'file');
  const zip = await openZip(path).catch(() => {
    throw refused('The file cannot be read as a spreadsheet. Save it as XLSX and try again.', 'file');
  });
  try {
    if (zip.entryCount > MOST_ENTRIES) throw tooLarge();
    let inflated = 0;
    for await (const entry of entriesOf(zip)) {
      if (inflated + entry.uncompressedSize > MOST_INFLATED) throw tooLarge();
      inflated += await inflatedSize(zip, entry, MOST_INFLATED - inflated).catch(() => {
        throw refused('The spreadsheet is damaged. Open it, save it again as XLSX, and try again.', 'file');
      });
      if (inflated > MOST_INFLATED) throw tooLarge();
    }
  } finally {
    zip.close();
  }
}

const openZip = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false }, (error, zip) => (error ? reject(error) : resolve(zip))),
  );

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (let read = 0; read < zip.entryCount; read += 1) {
    yield await new Promise<Entry>((resolve, reject) => {
      const fail = (error: Error): void => reject(error);
      zip.once('error', fail);
      zip.once('entry', (entry: Entry) => {
        zip.off('error', fail);
        resolve(entry);
      });
      zip.readEntry();
    });
  }
}

/** Bytes a part inflates to, counted up to just past a limit. */
const inflatedSize = (zip: ZipFile, entry: Entry, most: number): Promise<number> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) return reject(error);
      let size = 0;
      stream.on('data', (chunk: Buffer) => {
        size += chunk.length;
        if (size > most) {
          stream.destroy();
          resolve(size);
        }
      });
      stream.on('end', () => resolve(size));
      stream.on('error', reject);
    }),
  );
