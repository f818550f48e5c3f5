import JSZip from 'jszip';
import { describe, expect, it } from 'vitest';

import { wordDocument } from './word-document.ts';
import { WordTable, type WordTableShape } from './word-table.ts';

/** The markup of a document with one table. */
async function markupOf(shape: WordTableShape): Promise<string> {
  const document = await wordDocument([{ isPortrait: true, children: [new WordTable(shape)] }], { title: 'T', author: 'A', foot: '' });
  return (await JSZip.loadAsync(document)).file('word/document.xml')!.async('string');
}
/** Properties of a cell in the order of the schema (ECMA-376, 17.4.69, from memory). */
const CELL_ORDER = ['tcW', 'gridSpan', 'tcBorders', 'vAlign'];
const childrenOf = (markup: string, name: string): string[] =>
  [...(new RegExp(`<w:${name}>(.*?)</w:${name}>`).exec(markup)?.[1] ?? '').matchAll(/<w:(\w+)[ />]/g)].map((match) => match[1]!);

describe('a table of a word-processor document', () => {
  it('has its widths in twentieths of a point, and a heading over several columns as wide as they are together', async () => {
    const markup = await markupOf({
      widths: [100, 50.26, 60],
      size: 8,
      rows: [
        { isHead: true, cells: [{ text: '' }, { text: 'October', span: 2 }] },
        { cells: [{ text: 'a' }, { text: '1' }, { text: '2' }] },
      ],
    });
    expect([...markup.matchAll(/<w:gridCol w:w="(\d+)"/g)].map((match) => Number(match[1]))).toEqual([2000, 1005, 1200]);
    expect([...markup.matchAll(/<w:tcW w:w="(\d+)"/g)].map((match) => Number(match[1]))).toEqual([2000, 2205, 2000, 1005, 1200]);
    expect(markup).toContain('<w:gridSpan w:val="2"/>');
    expect(markup.match(/<w:tblHeader\/>/g)).toHaveLength(1);
  });

  it('writes properties in the order of the schema', async () => {
    const markup = await markupOf({
      widths: [100],
      size: 8,
      rows: [{ cells: [{ text: 'Total', span: 1, bold: true, italic: true, isRight: true, indent: 4, above: true, below: 'double' }] }],
    });
    expect(childrenOf(markup, 'tcPr').filter((name) => CELL_ORDER.includes(name))).toEqual(CELL_ORDER);
    expect(childrenOf(markup, 'tcBorders')).toEqual(['top', 'bottom']);
    const paragraph = /<w:tc>.*<\/w:tc>/.exec(markup)![0];
    expect(childrenOf(paragraph, 'pPr')).toEqual(['spacing', 'ind', 'jc']);
    expect(childrenOf(paragraph, 'rPr')).toEqual(['b', 'bCs', 'i', 'iCs', 'color', 'sz', 'szCs']);
    expect(childrenOf(markup, 'tblPr').filter((name) => name.startsWith('tbl'))).toEqual(['tblW', 'tblBorders', 'tblLayout', 'tblCellMar']);
  });

  it('keeps every character of a text, and leaves rules out where there are none', async () => {
    const markup = await markupOf({ widths: [100], size: 8, rows: [{ cells: [{ text: ' R&D <b> "1" ' }] }] });
    expect(markup).toContain('<w:t xml:space="preserve"> R&amp;D &lt;b&gt; ');
    expect(markup).not.toContain('<w:tcBorders>');
    expect(markup).not.toContain('<w:b/>');
  });

  it('without rows has its columns alone', async () => {
    const markup = await markupOf({ widths: [10, 20], size: 8, rows: [] });
    expect(markup).toMatch(/<w:tblGrid>.*<\/w:tblGrid><\/w:tbl>/);
  });
});
