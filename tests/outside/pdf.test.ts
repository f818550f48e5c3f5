import { type GridDto } from '@wise-margin/contract';
import { SHIPPED_VIEWS } from '@wise-margin/core';
import { figureFormat, figureText, shownLines, signedLines } from '@wise-margin/presentation';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from '../support/demo-company.ts';
import { PICTURE, type TestServer } from '../support/server.ts';

// A general-purpose reader of PDF (pdfjs-dist, from the npm registry) takes the text out again.
let server: TestServer;
let at: string;
beforeAll(async () => {
  server = await demoServer();
  at = `/companies/1/statements`;
});
afterAll(() => server.close());

type Page = { readonly words: readonly string[]; readonly fonts: ReadonlySet<string>; readonly smallest: number };
async function pagesOf(view: string, query: string): Promise<Page[]> {
  const response = await fetch(`${server.base}${at}/${view}/export.pdf?${query}`);
  expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/pdf']);
  const pdf = await getDocument({ data: new Uint8Array(await response.arrayBuffer()), verbosity: 0 }).promise;
  return Promise.all(
    Array.from({ length: pdf.numPages }, async (_, index): Promise<Page> => {
      const page = await pdf.getPage(index + 1);
      const { items, styles } = await page.getTextContent();
      return {
        words: items.flatMap((item) => ('str' in item ? item.str.split(/\s+/).filter((word) => word !== '') : [])),
        fonts: new Set(Object.keys(styles)),
        // in points: a text's transform carries its size
        smallest: Math.min(
          ...items.flatMap((item) => ('str' in item && item.str.trim() !== '' ? [Math.abs((item.transform as number[])[3]!)] : [])),
        ),
      };
    }),
  );
}

/** The figures a part of the columns shows, row by row, as they are written. */
function figuresOf(grid: GridDto, open: 'all' | ReadonlySet<string>, positions: readonly number[]): string[] {
  const lines = shownLines(grid, { open, hideZero: grid.display.zeroLines === 'hide' });
  const signed = grid.display.currencySign ? signedLines(grid, lines) : new Set<string>();
  return lines.flatMap((line) =>
    positions.flatMap((position) => {
      const format = figureFormat(grid, position, {
        exponent: 2,
        sign: signed.has(line.line.key) ? '$' : '',
        isFormula: line.line.kind === 'formula',
      });
      const text = figureText(grid.cells[line.index]![position]!, format);
      return text === '' ? [] : [text];
    }),
  );
}
/** The first of the wanted texts that does not follow the one before it among the words; null when all do. */
function missingInOrder(words: readonly string[], wanted: readonly string[]): string | null {
  let next = 0;
  for (const word of wanted.flatMap((text) => text.split(' '))) {
    next = words.indexOf(word, next) + 1;
    if (next === 0) return word;
  }
  return null;
}
/** The same for texts that may be broken within a word. */
function missingText(words: readonly string[], wanted: readonly string[]): string | null {
  const text = words.join('');
  let next = 0;
  for (const each of wanted) {
    const found = text.indexOf(each.replaceAll(/\s/g, ''), next);
    if (found < 0) return each;
    next = found + 1;
  }
  return null;
}

describe('every built-in view as PDF', () => {
  it.each(SHIPPED_VIEWS.map(({ key }) => key))('%s is written in 7 points or more', async (key) => {
    for (const { words, smallest } of await pagesOf(key, 'asOf=2026-10&open=all')) {
      expect(words.length).toBeGreaterThan(20);
      expect(Math.round(smallest * 100) / 100).toBeGreaterThanOrEqual(7);
    }
  });
});

describe('pages', () => {
  it.each([
    ['trend', 1],
    ['balance-months', 1],
    ['activity', 1],
    ['five-years', 1],
    ['income', 1],
    ['departments', 2],
  ])('of %s are no more than %i', async (view, most) => expect(await pagesOf(view, 'asOf=2026-10')).toHaveLength(most));
});

describe('a statement as PDF', () => {
  it.each([
    ['income-months', 'asOf=2026-10&open=all'],
    ['income', 'asOf=2026-10&sign=yes&negatives=minus'],
    ['balance', 'asOf=2026-10&unit=thousands&decimals=1&foots=yes'],
    ['customers', 'asOf=2026-10&open=all&unit=cents'],
    ['ratios', 'asOf=2026-10'],
  ])('of %s holds every figure in order, the line names beside every part of the columns', async (view, query) => {
    const grid = await server.statement(`${at}/${view}?${query.replace('&open=all', '')}`);
    const pages = await pagesOf(view, query);
    const lines = shownLines(grid, { open: query.includes('open=all') ? 'all' : new Set(), hideZero: true });
    // parts of the columns follow one another, each over as many pages as its lines need
    const ranges = pages.map(({ words }) => /Columns (\d+) to (\d+) of (\d+)/.exec(words.join(' ')));
    const parts = new Map<string, string[]>();
    pages.forEach(({ words }, index) => {
      const range = ranges[index];
      const key = range ? `${range[1]} ${range[2]}` : `1 ${grid.columns.length}`;
      parts.set(key, [...(parts.get(key) ?? []), ...words]);
    });
    let covered = 0;
    for (const [key, words] of parts) {
      const [from, to] = key.split(' ').map(Number) as [number, number];
      expect(from).toBe(covered + 1);
      covered = to;
      const positions = Array.from({ length: to - from + 1 }, (_, index) => from - 1 + index);
      expect(missingInOrder(words, figuresOf(grid, query.includes('open=all') ? 'all' : new Set(), positions))).toBeNull();
      expect(
        missingText(
          words,
          lines.map(({ line }) => line.name),
        ),
      ).toBeNull();
    }
    expect(covered).toBe(grid.columns.length);
    pages.forEach(({ words }, index) => {
      expect(words.join(' ')).toContain(`Page ${index + 1} of ${pages.length}`);
      expect(grid.columns.some(({ heading }) => words.includes(heading))).toBe(true);
    });
  });

  it('has the title, the month, footnotes with their fields, and the logo', async () => {
    const [, company] = at.split('/').slice(1);
    expect((await server.sendFile('PUT', `/companies/${company}/logo`, 'logo', PICTURE)).status).toBe(200);
    const { lineSet, columnSet } = await server.get<{ lineSet: object; columnSet: object }>(`/companies/${company}/views/income`);
    const made = await server.send('POST', `/companies/${company}/views`, {
      name: 'For the bank',
      lineSet,
      columnSet,
      display: { title: 'Results of {company}', footnotes: ['Printed on {printed_on}, {quarter}'], logo: true, accountNumbers: false },
    });
    const { key } = made.body as { key: string };
    const pages = await pagesOf(key, 'asOf=2026-10');
    const words = pages.flatMap((page) => page.words).join(' ');
    expect(words).toContain('Results of Tern Island, October 2026');
    expect(words).toContain('Printed on Nov 9, 2026, {quarter}');
    const grid = await server.statement(`${at}/${key}?asOf=2026-10`);
    expect(grid.issues).toMatchObject([{ place: 'Title and footnotes', message: 'There is no field "quarter"' }]);
    expect(grid.lines.every(({ account }) => account === null)).toBe(true);
  });
});
