import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';

import { cellText, ratioNumber } from '../statements/export/statement-csv.ts';
import { inspectFile } from './inspect-file.ts';
import { BrokenCsvError, readCsv } from './read-csv.ts';
import { safeText } from './safe-text.ts';

const folder = mkdtempSync(join(tmpdir(), 'wise-margin-formats-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
let count = 0;
const file = (content: string | Uint8Array): string => {
  const path = join(folder, String((count += 1)));
  writeFileSync(path, content);
  return path;
};
const rows = async (content: string | Uint8Array): Promise<string[][]> => {
  const path = file(content);
  const found: string[][] = [];
  await readCsv(path, await inspectFile(path), (cells, row) => {
    expect(row).toBe(found.length + 1);
    found.push(cells);
  });
  return found;
};

describe('files are recognized by what is in them', () => {
  it.each([
    ['UTF-8', 'Größe,b\n', 'utf-8', ','],
    ['a byte order mark', '\ufeffa;b\n', 'utf-8', ';'],
    ['Latin-1', new Uint8Array(Buffer.from('Größe;b\n', 'latin1')), 'windows-1252', ';'],
    ['UTF-16 with its mark', new Uint8Array(Buffer.from('\ufeffa\tb\n', 'utf16le')), 'utf-16le', '\t'],
    ['UTF-16 without a mark', new Uint8Array(Buffer.from('entry,date,account\n', 'utf16le')), 'utf-16le', ','],
    ['big-endian UTF-16', new Uint8Array(Buffer.from('\ufeffentry,date,account\n', 'utf16le').swap16()), 'utf-16be', ','],
  ])('%s', async (_, content, encoding, delimiter) =>
    expect(await inspectFile(file(content))).toMatchObject({ encoding, delimiter, notText: null }),
  );
  it.each([
    ['a PNG picture', [0x89, 0x50, 0x4e, 0x47, 1]],
    ['a PDF document', [0x25, 0x50, 0x44, 0x46, 0x2d]],
    ['a spreadsheet or another zipped file', [0x50, 0x4b, 3, 4]],
    ['a binary file', [1, 2, 0, 4, 5, 6, 7, 200]],
  ])('%s', async (notText, bytes) => expect(await inspectFile(file(new Uint8Array(bytes)))).toMatchObject({ notText }));
  it('a character cut at the edge of a read is still UTF-8', async () => {
    const text = `${'x'.repeat((1 << 20) - 1)}é,b\n`;
    expect((await inspectFile(file(text))).encoding).toBe('utf-8');
  });
});

describe('rows', () => {
  const expected = [
    ['a', 'b'],
    ['é', 'two\nlines "q"'],
  ];
  const text = 'a,b\né,"two\nlines ""q"""\n';
  it.each([
    ['LF', text],
    ['CRLF', text.replace('a,b\n', 'a,b\r\n')],
    ['a byte order mark', `\ufeff${text}`],
    ['Latin-1', new Uint8Array(Buffer.from(text, 'latin1'))],
    ['UTF-16', new Uint8Array(Buffer.from(`\ufeff${text}`, 'utf16le'))],
  ])('%s', async (_, content) => expect(await rows(content)).toEqual(expected));
  it('keep rows of any width, empty ones included', async () =>
    expect(await rows('a,b\n\n1\n1,2,3\n')).toEqual([['a', 'b'], [''], ['1'], ['1', '2', '3']]));
  it('tell the row where quotes break', async () => {
    await expect(rows('a,b\n1,2\n"open,3\n')).rejects.toThrow(BrokenCsvError);
    await expect(rows('a,b\n1,2\n"3"x,y\n')).rejects.toMatchObject({ row: 3 });
  });
  it('take a quote inside a cell as it stands', async () =>
    expect(await rows('a,b\n3,5" pipe\n')).toEqual([
      ['a', 'b'],
      ['3', '5" pipe'],
    ]));
  it('hand on what stands before a break', async () => {
    const seen: string[][] = [];
    const path = file('a,b\n1,2\n"open,3\n');
    await expect(readCsv(path, await inspectFile(path), (cells) => seen.push(cells))).rejects.toMatchObject({ row: 3 });
    expect(seen).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ]);
  });
  it('pass on what goes wrong while a row is taken', async () => {
    const path = file('a,b\n1,2\n3,4\n');
    const taken = readCsv(path, await inspectFile(path), (_, row) => {
      if (row === 2) throw new RangeError('too much');
    });
    await expect(taken).rejects.toThrow('too much');
  });
  it('are the same whatever the line breaks and wherever the reads fall', async () => {
    const cell = fc.string({ unit: fc.constantFrom('a', 'é', '"', ',', '\n', ' ', '€'), maxLength: 8 });
    const written = (table: string[][], lineBreak: string) =>
      table.map((cells) => cells.map((text) => `"${text.replaceAll('"', '""').replaceAll('\n', lineBreak)}"`).join(',')).join(lineBreak) +
      lineBreak;
    const table = fc.array(fc.tuple(fc.constant('x'), cell), { minLength: 1, maxLength: 30 });
    await fc.assert(
      fc.asyncProperty(table, fc.constantFrom('\n', '\r\n', '\r'), async (plain, lineBreak) => {
        expect(await rows(written([['h', 'long'], ...plain], lineBreak))).toEqual([['h', 'long'], ...plain]);
      }),
      { numRuns: 60 },
    );
    const wide = Array.from({ length: 3000 }, (_, index) => ['x', `${'é"\n'.repeat(index % 60)}${index}`]);
    expect(await rows(written([['h', 'long'], ...wide], '\r\n'))).toEqual([['h', 'long'], ...wide]);
  });
  it('do not swallow a whole file behind one open quote', async () => {
    await expect(rows(`a,b\n"${'x'.repeat(1_200_000)}\n`)).rejects.toThrow(BrokenCsvError);
  });
});

describe('texts for files', () => {
  it('are not run by a spreadsheet', () =>
    expect(['=1+1', '+1', '-1', '@a', 'Plain', ''].map(safeText)).toEqual(["'=1+1", "'+1", "'-1", "'@a", 'Plain', '']));
  it('carry exact amounts, percentages in percent and reasons', () => {
    expect(cellText({ kind: 'amount', value: -123456 }, 2)).toBe('-1234.56');
    expect(cellText({ kind: 'ratio', value: 0.14153, unit: 'percent' }, 2)).toBe('14.153');
    expect(cellText({ kind: 'notMeaningful', reason: 'zeroBase' }, 2)).toBe('n/m (the base is zero)');
    expect(cellText({ kind: 'blank', reason: 'notYetPosted' }, 2)).toBe('');
    expect(Object.is(ratioNumber({ kind: 'ratio', value: -1e-12, unit: 'percent' }), 0)).toBe(true);
  });
});
