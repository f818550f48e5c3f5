import type { GridDto, PackReading, ReadingBlock, ReadingCell, ReadingSection } from '@wise-margin/contract';
import { cellReasonWords, figureFormat, figureText, isFigureColumn, reportCellText, shownFavor } from '@wise-margin/presentation';

import type { WholeReport } from '../../ledger/index.ts';
import type { ExportedStatement } from '../../statements/index.ts';
import type { ContentBlock, FilledSection, PackContent } from '../content/content.ts';
import { chartDrawings } from './chart-drawings.ts';
import { titleOf } from './pack-pdf.ts';

/** A pack as it is read on a screen: what the web page and the shared page show. */
export function packReading(content: PackContent): PackReading {
  const { company, slice, monthWords, stateWords, fingerprint, logo, sections } = content;
  return {
    title: titleOf(content),
    company,
    monthWords: slice === '' ? monthWords : `${slice}, ${monthWords}`,
    stateWords,
    fingerprint,
    logo: logo ? `data:${logo.type};base64,${logo.base64}` : null,
    sections: sections.filter(({ omissionReason }) => omissionReason === '').map((section) => readingSection(section, content)),
  };
}

function readingSection(
  { id, kind, title, dateWords, blocks, notes, cover, source }: FilledSection,
  { stateWords }: PackContent,
): ReadingSection {
  const lines = [cover?.subtitle ?? '', cover?.preparedBy ? `Prepared by ${cover.preparedBy}` : '', stateWords];
  return {
    ...{ id, title, dateWords, notes: [...notes] },
    kind: kind === 'cover' || kind === 'contents' ? kind : 'body',
    lines: kind === 'cover' ? lines.filter((text) => text !== '') : [],
    blocks: blocks.map(readingBlock),
    drillsDown: source !== null,
  };
}

function readingBlock(block: ContentBlock): ReadingBlock {
  switch (block.kind) {
    case 'paragraph':
      return { ...block, runs: block.runs.map((run) => ({ ...run })) };
    case 'statement':
      return statementTable(block.statement);
    case 'report':
      return reportTable(block.report);
    case 'charts':
    case 'bridge':
      return {
        kind: 'charts',
        isBridge: block.kind === 'bridge',
        drawings: chartDrawings(block).map(({ width, height, marks, alt }) => ({ width, height, marks: [...marks], alt })),
        legend: block.kind === 'charts' ? 'Solid: actual. Outlined: budget. Grey: prior year.' : '',
      };
  }
}

function statementTable(statement: ExportedStatement): ReadingBlock {
  const { dto, lines, exponent, signed, currencySign } = statement;
  return {
    kind: 'table',
    caption: statement.title.slice(2),
    groups: dto.blocks
      .map(({ heading }, block) => ({ heading, columns: dto.columns.filter((column) => column.block === block).length }))
      .filter(({ columns }) => columns > 0),
    headings: ['Line', ...dto.columns.map(({ heading }) => heading)],
    columns: dto.columns.map(({ key }) => key),
    rows: lines.map(({ line, index }) => ({
      line: line.key,
      name: line.account ? `${line.account} ${line.name}` : line.name,
      depth: line.depth,
      emphasis: line.kind === 'section' ? 'bold' : (line.emphasis ?? ''),
      cells: dto.columns.map((_, position) => {
        const cell = dto.cells[index]![position]!;
        const sign = signed.has(line.key) ? currencySign : '';
        return statementCell(cell, {
          text: figureText(cell, figureFormat(dto, position, { exponent, sign, isFormula: line.kind === 'formula' })),
          line,
        });
      }),
    })),
    notes: [...dto.head.footnotes],
  };
}

function statementCell(
  cell: GridDto['cells'][number][number],
  { text, line }: { readonly text: string; readonly line: GridDto['lines'][number] },
): ReadingCell {
  const hasRule = line.rule !== null && cell.kind !== 'blank';
  return {
    text,
    isFigure: true,
    ruleAbove: hasRule && line.rule?.above !== undefined,
    ruleBelow: hasRule && line.rule?.below !== undefined,
    favor: shownFavor(cell, text),
    reason: cell.kind === 'notMeaningful' ? cellReasonWords(cell) : '',
  };
}

function reportTable(report: WholeReport): ReadingBlock {
  return {
    kind: 'table',
    caption: [report.words.join('; '), ...report.notes.map(({ text }) => text)].filter((text) => text !== ''),
    groups: [],
    headings: report.columns.map(({ heading }) => heading),
    columns: report.columns.slice(1).map(({ key }) => key),
    rows: report.rows.map(({ kind, cells }) => {
      const [name, ...others] = report.columns.map((column, at) => reportCellText(cells[at]!, column, report));
      return {
        line: null,
        name: name!,
        depth: 0,
        emphasis: kind === 'line' ? '' : 'bold',
        cells: others.map((text, at) => {
          const isFigure = isFigureColumn(report.columns[at + 1]!);
          const hasRule = isFigure && text !== '';
          return {
            ...{ text, isFigure, favor: null, reason: '' },
            ruleAbove: hasRule && (kind === 'total' || kind === 'subtotal'),
            ruleBelow: hasRule && kind === 'total',
          };
        }),
      };
    }),
    notes: [],
  };
}
