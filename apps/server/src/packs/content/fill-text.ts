import type { RichText, TextBlock, TextFigure, TextInline } from '@wise-margin/core';

import type { ContentBlock, ParagraphStyle, TextRun } from './content.ts';

const HEADING_STYLES: Readonly<Record<number, ParagraphStyle>> = { 2: 'heading', 3: 'subheading', 4: 'subheading' };
/** What the figures and tables of a text show now. */
export type TextSources = {
  readonly figure: (figure: TextFigure) => Promise<string>;
  readonly table: (view: string, lines: readonly string[]) => Promise<ContentBlock>;
};

/** A text as paragraphs, its live figures filled in. */
export async function filledText({ content }: RichText, sources: TextSources): Promise<ContentBlock[]> {
  const filled: ContentBlock[] = [];
  for (const block of content) filled.push(...(await blocksOf(block, { sources, depth: 0 })));
  return filled;
}

async function blocksOf(
  block: TextBlock,
  { sources, depth }: { readonly sources: TextSources; readonly depth: number },
): Promise<ContentBlock[]> {
  switch (block.type) {
    case 'figureTable':
      return [await sources.table(block.attrs.view, block.attrs.lines)];
    case 'bulletList':
    case 'orderedList': {
      const items: ContentBlock[] = [];
      for (const [at, { content }] of block.content.entries()) {
        const inner: ContentBlock[] = [];
        for (const each of content) inner.push(...(await blocksOf(each, { sources, depth: depth + 1 })));
        const label = block.type === 'orderedList' ? `${at + 1}.` : '•';
        items.push(
          ...inner.map((each, index): ContentBlock =>
            each.kind === 'paragraph' && each.label === ''
              ? { ...each, style: 'item', label: index === 0 ? label : '', depth: depth + 1 }
              : each,
          ),
        );
      }
      return items;
    }
    default: {
      const style = block.type === 'heading' ? (HEADING_STYLES[block.attrs.level] ?? 'subheading') : 'body';
      return [{ kind: 'paragraph', style, runs: await runsOf(block.content ?? [], sources), label: '', depth }];
    }
  }
}

async function runsOf(inlines: readonly TextInline[], { figure }: TextSources): Promise<TextRun[]> {
  const runs: TextRun[] = [];
  for (const inline of inlines) {
    if (inline.type === 'hardBreak') runs.push({ text: '\n', bold: false, italic: false });
    else if (inline.type === 'figure') runs.push({ text: await figure(inline.attrs), bold: false, italic: false });
    else {
      const has = (type: 'bold' | 'italic'): boolean => inline.marks?.some((mark) => mark.type === type) ?? false;
      runs.push({ text: inline.text, bold: has('bold'), italic: has('italic') });
    }
  }
  return runs;
}
