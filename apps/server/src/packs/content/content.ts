import type { LineTrendDto, PackFormat, ReadingSource, VarianceExplanationDto } from '@wise-margin/contract';
import type { SectionKind } from '@wise-margin/core';

import type { Logo } from '../../companies/index.ts';
import type { WholeReport } from '../../ledger/index.ts';
import type { ExportedStatement } from '../../statements/index.ts';

export type TextRun = { readonly text: string; readonly bold: boolean; readonly italic: boolean };
export type ParagraphStyle = 'body' | 'heading' | 'subheading' | 'item' | 'soft';
/** A line of the notation's charts over the months of a year. */
export type MonthChart = {
  readonly trend: LineTrendDto;
  readonly asOf: string;
  readonly exponent: number;
  /** what its amounts are in, such as `US dollars`; empty for ratios */
  readonly unit: string;
  /** what it shows, in words */
  readonly alt: string;
};
export type BridgeChart = {
  readonly explanation: VarianceExplanationDto;
  readonly by: string;
  readonly isBudget: boolean;
  readonly exponent: number;
  readonly unit: string;
  readonly alt: string;
};
/** What a section consists of, whatever it is written as. */
export type ContentBlock =
  | {
      readonly kind: 'paragraph';
      readonly style: ParagraphStyle;
      readonly runs: readonly TextRun[];
      /** before an item of a list: a bullet or its number; empty without one */
      readonly label: string;
      readonly depth: number;
    }
  | { readonly kind: 'statement'; readonly statement: ExportedStatement }
  | { readonly kind: 'report'; readonly report: WholeReport }
  | { readonly kind: 'charts'; readonly charts: readonly MonthChart[]; readonly withFigures: boolean }
  | { readonly kind: 'bridge'; readonly bridge: BridgeChart };
export type FilledSection = {
  readonly id: string;
  readonly kind: SectionKind;
  readonly title: string;
  /** the date of its figures, in words; empty for text */
  readonly dateWords: string;
  readonly orientation: 'auto' | 'portrait' | 'landscape';
  readonly startsPage: boolean;
  readonly blocks: readonly ContentBlock[];
  /** what the company lacks for it, what was left away */
  readonly notes: readonly string[];
  /** why it is not in the pack; empty when it is */
  readonly omissionReason: string;
  readonly cover: { readonly subtitle: string; readonly preparedBy: string } | null;
  /** where the figures of a statement come from; null for other sections */
  readonly source: ReadingSource | null;
};
/** A pack of one month with everything it shows; all that is written, on screen, on paper or in files, is written from it. */
export type PackContent = {
  readonly name: string;
  readonly company: string;
  readonly monthWords: string;
  /** the value it is of, where a pack is split; empty for the whole company */
  readonly slice: string;
  readonly stateWords: string;
  readonly sections: readonly FilledSection[];
  readonly logo: Logo | null;
  /** printed on the last page; empty before it is issued */
  readonly fingerprint: string;
};
export type PackFile = { readonly format: PackFormat; readonly content: Buffer };

export const run = (text: string, marks: Partial<TextRun> = {}): TextRun => ({ text, bold: false, italic: false, ...marks });
export const paragraph = (text: string, style: ParagraphStyle = 'body'): ContentBlock => ({
  kind: 'paragraph',
  style,
  runs: [run(text)],
  label: '',
  depth: 0,
});
export const item = (text: string): ContentBlock => ({ kind: 'paragraph', style: 'item', runs: [run(text)], label: '•', depth: 1 });
