import { createHash } from 'node:crypto';

import type { IssuedFigure } from '@wise-margin/core';
import { figureFormat, figureText, reportCellText } from '@wise-margin/presentation';

import type { WholeReport } from '../../ledger/index.ts';
import type { ExportedStatement } from '../../statements/index.ts';
import type { ContentBlock, FilledSection, MonthChart, PackContent } from './content.ts';
import { measureText } from './statement-sections.ts';

type Figure = Omit<IssuedFigure, 'section' | 'title'>;

/** Every figure and text of a pack as it shows them, in order: what two issues are compared by. */
export function issuedFigures({ sections }: Pick<PackContent, 'sections'>): IssuedFigure[] {
  return sections
    .filter(({ omissionReason }) => omissionReason === '')
    .flatMap((section) =>
      section.blocks.flatMap((block, at) =>
        figuresOf(block, at).map((figure) => ({ section: section.id, title: section.title, ...figure })),
      ),
    );
}

/** What identifies a pack's content: the same figures and texts always give the same 32 digits. */
export function fingerprintOf(content: PackContent): string {
  const { company, name, monthWords, slice, sections } = content;
  const whole = JSON.stringify([company, name, monthWords, slice, sections.map(titleOf), issuedFigures(content)]);
  const digits = createHash('sha256').update(whole).digest('hex').slice(0, 32).toUpperCase();
  return digits.match(/.{4}/g)!.join(' ');
}
const titleOf = ({ title, dateWords, omissionReason, notes }: FilledSection): readonly unknown[] => [
  title,
  dateWords,
  omissionReason,
  notes,
];

function figuresOf(block: ContentBlock, at: number): Figure[] {
  switch (block.kind) {
    case 'paragraph': {
      const text = block.runs.map((run) => run.text).join('');
      return text === '' ? [] : [{ line: `text ${at}`, lineName: 'Text', column: 'text', heading: '', text, amount: null }];
    }
    case 'statement':
      return statementFigures(block.statement);
    case 'report':
      return reportFigures(block.report);
    case 'charts':
      return block.withFigures ? block.charts.flatMap(measureFigures) : [];
    case 'bridge': {
      const { base, compared, headings, line } = block.bridge.explanation;
      const { exponent } = block.bridge;
      const figure = (column: 'base' | 'compared', amount: number): Figure => ({
        line: line.key,
        lineName: line.name,
        column,
        heading: headings[column],
        text: figureText({ kind: 'amount', value: amount }, { exponent, unit: 'dollars' }),
        amount,
      });
      return [figure('base', base), figure('compared', compared)];
    }
  }
}

function statementFigures({ dto, lines, exponent }: ExportedStatement): Figure[] {
  return lines.flatMap(({ line, index }) =>
    dto.columns.map((column, position): Figure => {
      const cell = dto.cells[index]![position]!;
      const block = dto.blocks[column.block]!.heading;
      return {
        line: line.key,
        lineName: line.name,
        column: column.key,
        heading: block === '' ? column.heading : `${block}, ${column.heading}`,
        text: figureText(cell, figureFormat(dto, position, { exponent, sign: '', isFormula: line.kind === 'formula' })),
        amount: cell.kind === 'amount' ? cell.value : null,
      };
    }),
  );
}

function reportFigures(report: WholeReport): Figure[] {
  // rows have no key of their own: names that occur again are numbered
  const seen = new Map<string, number>();
  return report.rows.flatMap(({ cells, kind }) => {
    if (kind === 'section') return [];
    const name = reportCellText(cells[0]!, report.columns[0]!, report);
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return report.columns.slice(1).map((column, index): Figure => {
      const cell = cells[index + 1]!;
      return {
        line: count === 1 ? name : `${name} ${count}`,
        lineName: name,
        column: column.key,
        heading: column.heading,
        text: reportCellText(cell, column, report),
        amount: column.kind === 'amount' && typeof cell === 'number' ? cell : null,
      };
    });
  });
}

function measureFigures({ trend, asOf, exponent }: MonthChart): Figure[] {
  const at = trend.months.findIndex(({ period }) => period === asOf);
  return (['actual', 'budget', 'prior'] as const).map((series) => {
    const value = trend[series][at] ?? null;
    return {
      line: trend.line.key,
      lineName: trend.line.name,
      column: series,
      heading: { actual: 'Actual', budget: 'Budget', prior: 'Prior year' }[series],
      text: measureText(trend, { value, books: { currency: { exponent } } }),
      amount: trend.kind === 'amount' ? value : null,
    };
  });
}
