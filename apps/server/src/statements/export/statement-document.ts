import { figureFormat, figureText, shownFavor, type ShownLine } from '@wise-margin/presentation';
import { type FileChild, Paragraph } from 'docx';

import { textWidth } from '../../formats/font-metrics.ts';
import { heading, roomOf, softParagraph, wordDocument } from '../../formats/word-document.ts';
import { type WordRow, WordTable } from '../../formats/word-table.ts';
import type { ExportedStatement } from './exported-statement.ts';
import { pageParts } from './page-parts.ts';
import { Figures, nameOf, type PdfColumn, PdfMeasures } from './pdf-layout.ts';

const SIZE = 7.5;
// word processors need more room for a figure than its bare width
const SPARE = { part: 1.1, points: 8 };
const INDENT = 8;
const measuring = { widthOf: textWidth };

/** A statement as a word-processor document: real tables with their headings on every page, native headings and page numbers. */
export function statementDocument(statement: ExportedStatement): Promise<Buffer> {
  const { dto, company, title } = statement;
  const name = `${dto.head.title}, ${dto.asOfWords}`;
  const children = [
    softParagraph(company),
    heading(name, 1),
    ...title.slice(2).map((text) => softParagraph(text)),
    ...statementTables(statement, fitsUpright(statement)),
    ...dto.head.footnotes.map((text) => softParagraph(text)),
  ];
  return wordDocument([{ isPortrait: fitsUpright(statement), children }], { title: name, author: company, foot: `${company} · ${name}` });
}

type Measured = { readonly columns: readonly PdfColumn[]; readonly names: number };
function measured(statement: ExportedStatement): Measured {
  const measures = new PdfMeasures(measuring, statement, new Figures(statement));
  return {
    columns: measures.columns(SIZE).map((column) => ({ ...column, width: column.width * SPARE.part + SPARE.points })),
    names: measures.names(SIZE) * SPARE.part + SPARE.points,
  };
}

/** Whether the columns of a statement fit an upright page. */
export function fitsUpright(statement: ExportedStatement): boolean {
  const { columns, names } = measured(statement);
  return names + columns.reduce((sum, { width }) => sum + width, 0) <= roomOf(true);
}

/** The tables of a statement: one, or as many as the page needs for its columns, each with the line names. */
export function statementTables(statement: ExportedStatement, isPortrait: boolean): FileChild[] {
  const { columns, names } = measured(statement);
  const room = roomOf(isPortrait);
  return pageParts(columns, room - names).flatMap((part, at) => {
    const table = tableOf(statement, { columns: part.map((position) => columns[position]!), names });
    return at === 0 ? [table] : [new Paragraph({ text: '' }), table];
  });
}

function tableOf(statement: ExportedStatement, { columns, names }: Measured): WordTable {
  const { dto, lines } = statement;
  const blocks = [...new Set(columns.map(({ block }) => block))].map((block) => columns.filter((column) => column.block === block));
  const head: WordRow[] = [
    {
      isHead: true,
      cells: [
        { text: '' },
        ...blocks.map((own) => ({
          text: dto.blocks[own[0]!.block]!.heading,
          bold: true,
          isRight: true,
          span: own.length,
          below: 'single' as const,
        })),
      ],
    },
    {
      isHead: true,
      cells: [
        { text: '', below: 'single' },
        ...columns.map(({ position }) => ({
          text: dto.columns[position]!.heading,
          bold: true,
          isRight: true,
          below: 'single' as const,
        })),
      ],
    },
  ];
  return new WordTable({
    widths: [names, ...columns.map(({ width }) => width)],
    size: SIZE,
    rows: [...head, ...lines.map((shown) => rowOf(statement, shown, columns))],
  });
}

function rowOf(statement: ExportedStatement, { line, index }: ShownLine, columns: readonly PdfColumn[]): WordRow {
  const { dto, exponent, signed, currencySign } = statement;
  const bold = line.emphasis === 'bold' || line.kind === 'section';
  const italic = line.emphasis === 'italic';
  return {
    cells: [
      { text: nameOf(line), bold, italic, indent: line.depth * INDENT },
      ...columns.map(({ position }) => {
        const cell = dto.cells[index]![position]!;
        const sign = signed.has(line.key) ? currencySign : '';
        const text = figureText(cell, figureFormat(dto, position, { exponent, sign, isFormula: line.kind === 'formula' }));
        const favor = shownFavor(cell, text);
        const hasRule = line.rule !== null && cell.kind !== 'blank' && cell.kind !== 'notMeaningful';
        return {
          text: favor === null ? text : `${text} ${favor}`,
          bold,
          italic,
          isRight: true,
          above: hasRule && line.rule?.above !== undefined,
          ...(hasRule && line.rule?.below ? { below: line.rule.below } : {}),
          ...(dto.display.negatives === 'red' && (text.startsWith('(') || text.startsWith('−')) ? { color: 'A1302A' } : {}),
        };
      }),
    ],
  };
}
