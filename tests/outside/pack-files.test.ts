import { type GridDto, type PackFormat } from '@wise-margin/contract';
import { figureFormat, figureText, shownLines } from '@wise-margin/presentation';
import workbooks from 'exceljs';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { JSDOM } from 'jsdom';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fromBuffer, type ZipFile } from 'yauzl';

import { demoServer } from '../support/demo-company.ts';
import { PICTURE, type TestServer } from '../support/server.ts';

// Files of a pack are opened again by general-purpose libraries of the npm registry: pdfjs-dist, exceljs, jsdom, and for
// word-processor documents yauzl and fast-xml-parser. The figures they find are the statement’s own.
let server: TestServer;
let statement: GridDto;
const files = new Map<PackFormat, Buffer>();
beforeAll(async () => {
  server = await demoServer();
  await server.sendFile('PUT', '/companies/1/logo', 'logo', PICTURE);
  statement = await server.statement('/companies/1/statements/income?asOf=2026-10');
  for (const format of ['pdf', 'docx', 'xlsx', 'html'] as const) {
    const response = await fetch(`${server.base}/companies/1/packs/monthly-review/months/2026-10/export.${format}`);
    expect(response.status).toBe(200);
    files.set(format, Buffer.from(await response.arrayBuffer()));
  }
}, 120_000);
afterAll(() => server.close());

/** The lines of the statement as it is shown, each with the texts of its figures in the order of the columns. */
function shownRows(): { readonly name: string; readonly figures: string[] }[] {
  return shownLines(statement, { open: new Set(), hideZero: true }).flatMap(({ line, index }) => {
    const figures = statement.columns.map((_, at) =>
      figureText(statement.cells[index]![at]!, figureFormat(statement, at, { exponent: 2, sign: '', isFormula: line.kind === 'formula' })),
    );
    return figures.some((text) => text !== '') ? [{ name: line.name, figures }] : [];
  });
}
const withoutFavor = (text: string): string => text.replace(/ [FU]$/, '').trim();

describe('the PDF', () => {
  const open = () => getDocument({ data: new Uint8Array(files.get('pdf')!), verbosity: 0 }).promise;
  it('has the figures of the statement, on its pages', async () => {
    const pdf = await open();
    const words: string[] = [];
    for (let page = 1; page <= pdf.numPages; page += 1) {
      const { items } = await (await pdf.getPage(page)).getTextContent();
      words.push(...items.flatMap((item) => ('str' in item ? [withoutFavor(item.str.trim())] : [])));
    }
    const found = new Set(words);
    const missing = shownRows().flatMap(({ figures }) => figures.filter((text) => text !== '' && !found.has(text)));
    expect(missing).toEqual([]);
  });
  it('has bookmarks, a language, tags, and says that it keeps to PDF/A-2', async () => {
    const pdf = await open();
    const outline = await pdf.getOutline();
    expect(outline.map(({ title }) => title).slice(0, 5)).toEqual([
      'Monthly management review',
      'Contents',
      'Summary',
      'Key measures',
      'Income statement',
    ]);
    const { info, metadata } = await pdf.getMetadata();
    expect((info as { Language: string }).Language).toBe('en-US');
    expect(metadata?.get('pdfaid:part')).toBe('2');
    expect((await pdf.getMarkInfo())?.['Marked']).toBe(true);
  });
  it('names its parts: sections, headings, tables with heading cells, figures in words', async () => {
    const pdf = await open();
    const roles = new Map<string, number>();
    const alternatives: string[] = [];
    type Node = { readonly role?: string; readonly alt?: string; readonly children?: readonly Node[] };
    const visit = ({ role, alt, children = [] }: Node): void => {
      if (role !== undefined) roles.set(role, (roles.get(role) ?? 0) + 1);
      if (alt !== undefined) alternatives.push(alt);
      children.forEach(visit);
    };
    for (let page = 1; page <= pdf.numPages; page += 1) visit((await (await pdf.getPage(page)).getStructTree()) as Node);
    for (const role of ['H1', 'Table', 'TR', 'TH', 'TD', 'P', 'Figure']) expect(roles.get(role) ?? 0, role).toBeGreaterThan(0);
    expect(alternatives.some((alt) => alt.startsWith('Revenue, net by month, Oct 2026: actual '))).toBe(true);
  });
});

describe('the spreadsheet', () => {
  it('has a sheet for each section with its figures, live formulas, print areas and titles', async () => {
    const workbook = new workbooks.Workbook();
    await workbook.xlsx.load(files.get('xlsx')!.buffer as ArrayBuffer);
    const sheet = workbook.getWorksheet('Income statement')!;
    const row = sheet.getRows(1, sheet.rowCount)!.find((each) => each.getCell(2).text === 'Net income')!;
    const cell = statement.cells[statement.lines.findIndex(({ key }) => key === 'net_income')]![0]!;
    if (cell.kind !== 'amount') throw new TypeError('net income is not an amount');
    const value = row.getCell(3).value as { formula: string; result: number };
    expect([value.result, /^[A-Z(]/.test(value.formula)]).toEqual([cell.value / 100, true]);
    expect(workbook.worksheets.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Contents', 'Key measures', 'Findings', 'Balance sheet', 'Receivables aging', 'Largest customers']),
    );
    for (const each of workbook.worksheets) {
      expect(each.pageSetup.printArea, each.name).toMatch(/^A1:[A-Z]+\d+$/);
      expect([each.pageSetup.fitToPage, each.pageSetup.fitToWidth], each.name).toEqual([true, 1]);
    }
    // percentages are written as percentages
    const measures = workbook.getWorksheet('Key measures')!;
    const margin = measures.getRows(1, measures.rowCount)!.find((each) => each.getCell(1).text === 'Gross margin')!.number;
    expect(measures.getRow(margin + 2).getCell(2).numFmt).toBe('0.0%;(0.0%)');
    expect(sheet.pageSetup.printTitlesRow).toMatch(/^\d+:\d+$/);
  });
});

describe('the web page', () => {
  const page = () => new JSDOM(files.get('html')!.toString('utf8')).window.document;
  it('has the figures of the statement in a table with headings', () => {
    const rows = [...page().querySelectorAll('#income tbody tr')].map((row) => ({
      name: row.querySelector('th')!.textContent,
      figures: [...row.querySelectorAll('td')].map((cell) => withoutFavor(cell.textContent ?? '')),
    }));
    expect(rows.filter(({ figures }) => figures.some((text) => text !== ''))).toEqual(shownRows());
  });
  it('loads nothing, runs nothing, and links only within itself', () => {
    const html = page();
    expect([html.querySelectorAll('script, link, iframe').length, html.querySelectorAll('svg').length > 4]).toEqual([0, true]);
    for (const each of html.querySelectorAll('[src]')) expect(each.getAttribute('src')).toMatch(/^data:image\/png;base64,/);
    for (const each of html.querySelectorAll('a')) expect(html.querySelector(each.getAttribute('href')!), each.outerHTML).not.toBeNull();
    expect(html.querySelector('style')!.textContent).not.toMatch(/url\(|@import/);
  });
});

type Node = { readonly [name: string]: Node[] | string };
const kindOf = (node: Node): string => Object.keys(node).find((name) => name !== ':@')!;
const childrenOf = (node: Node): Node[] => node[kindOf(node)] as Node[];
const within = (node: Node, kind: string): Node[] =>
  kindOf(node) === '#text' ? [] : childrenOf(node).flatMap((child) => [...(kindOf(child) === kind ? [child] : []), ...within(child, kind)]);
const textOf = (node: Node): string =>
  kindOf(node) === '#text'
    ? String(node['#text'])
    : childrenOf(node)
        .map((child) => textOf(child))
        .join('');

describe('the document', () => {
  let parts: Map<string, Buffer>;
  let body: Node;
  beforeAll(async () => {
    parts = await unzipped(files.get('docx')!);
    const parser = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      trimValues: false,
      parseTagValue: false,
      processEntities: true,
      htmlEntities: true,
    });
    const document = (parser.parse(parts.get('word/document.xml')!.toString('utf8')) as Node[]).find(
      (node) => kindOf(node) === 'w:document',
    )!;
    body = within(document, 'w:body')[0]!;
  });
  it('has the figures of the statement in real tables', () => {
    const cells = within(body, 'w:tr').map((row) =>
      within(row, 'w:tc').map((cell) => withoutFavor(within(cell, 'w:t').map(textOf).join(''))),
    );
    // the statement is broken into parts of its columns, each with the names of its lines
    const found = new Map<string, string[]>();
    const tables = cells.filter(
      ([name, ...figures]) => figures.some((text) => text !== '') && shownRows().some((row) => row.name === name),
    );
    for (const [name, ...figures] of tables) found.set(name!, [...(found.get(name!) ?? []), ...figures]);
    for (const { name, figures } of shownRows()) expect(found.get(name)!.slice(0, figures.length), name).toEqual(figures);
  });
  it('keeps to the rules of its schema (ECMA-376, WordprocessingML) that readers trip over', () => {
    for (const [name, content] of parts)
      if (/\.(xml|rels)$/.test(name)) expect(XMLValidator.validate(content.toString('utf8')), name).toBe(true);
    // a table has its grid before its rows; a cell ends with a paragraph; a document ends with its last section
    for (const table of within(body, 'w:tbl')) {
      const kinds = childrenOf(table).map(kindOf);
      expect(kinds.indexOf('w:tblGrid')).toBeLessThan(kinds.indexOf('w:tr'));
      for (const cell of within(table, 'w:tc')) expect(kindOf(childrenOf(cell).at(-1)!)).toBe('w:p');
    }
    expect(kindOf(childrenOf(body).at(-1)!)).toBe('w:sectPr');
    // rows are as wide as the grid
    for (const table of within(body, 'w:tbl')) {
      const columns = within(within(table, 'w:tblGrid')[0]!, 'w:gridCol').length;
      for (const row of within(table, 'w:tr')) {
        const spans = within(row, 'w:tc').map((cell) => Number(attribute(within(cell, 'w:gridSpan')[0], 'w:val') ?? 1));
        expect(spans.reduce((sum, span) => sum + span, 0)).toBe(columns);
      }
    }
    const ids = within(body, 'w:bookmarkStart').map((mark) => attribute(mark, 'w:id'));
    expect(new Set(ids).size).toBe(ids.length);
  });
  it('has native headings and page numbers, and charts as pictures with their words', () => {
    const styles = within(body, 'w:pStyle').map((style) => attribute(style, 'w:val'));
    expect(styles.filter((style) => style === 'Heading1').length).toBeGreaterThan(10);
    const footers = [...parts].filter(([name]) => /^word\/footer\d+\.xml$/.test(name)).map(([, content]) => content.toString('utf8'));
    expect(footers.every((footer) => footer.includes('NUMPAGES'))).toBe(true);
    const words = within(body, 'wp:docPr').map((picture) => attribute(picture, 'descr'));
    expect(words.every((text) => text !== undefined && text !== '')).toBe(true);
    expect(words.some((text) => text!.startsWith('Revenue, net by month'))).toBe(true);
    const pictures = [...parts].filter(([name]) => name.startsWith('word/media/'));
    expect(pictures.length).toBeGreaterThan(8);
    for (const [, content] of pictures) expect(content.subarray(1, 4).toString()).toBe('PNG');
  });
  it('is written for a statement alone too', async () => {
    const response = await fetch(`${server.base}/companies/1/statements/income/export.docx?asOf=2026-10`);
    expect([response.status, response.headers.get('content-type')]).toEqual([
      200,
      'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    ]);
    const alone = await unzipped(Buffer.from(await response.arrayBuffer()));
    expect(alone.get('word/document.xml')!.toString('utf8')).toContain('219,617');
  });
});

const attribute = (node: Node | undefined, name: string): string | undefined =>
  node === undefined ? undefined : (node[':@'] as unknown as Record<string, string> | undefined)?.[`@_${name}`];

/** The parts of a package by their names. */
async function unzipped(bytes: Buffer): Promise<Map<string, Buffer>> {
  const zip = await new Promise<ZipFile>((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true }, (error, opened) => (error ? reject(error) : resolve(opened)));
  });
  const parts = new Map<string, Buffer>();
  await new Promise<void>((resolve, reject) => {
    zip.on('error', reject);
    zip.on('end', resolve);
    zip.on('entry', (entry: { readonly fileName: string }) => {
      zip.openReadStream(entry as never, (error, stream) => {
        if (error) return reject(error);
        const chunks: Buffer[] = [];
        stream.on('data', (chunk: Buffer) => chunks.push(chunk));
        stream.on('end', () => {
          parts.set(entry.fileName, Buffer.concat(chunks));
          zip.readEntry();
        });
      });
    });
    zip.readEntry();
  });
  return parts;
}
