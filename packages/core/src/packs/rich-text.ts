/** A figure of a view, read when the text is: the cell where a line and a column meet. */
export type TextFigure = { readonly view: string; readonly line: string; readonly column: string };
type TextMark = { readonly type: 'bold' | 'italic' };
export type TextInline =
  | { readonly type: 'text'; readonly text: string; readonly marks?: readonly TextMark[] | undefined }
  | { readonly type: 'hardBreak' }
  | { readonly type: 'figure'; readonly attrs: TextFigure };
export type TextBlock =
  | { readonly type: 'paragraph'; readonly content?: readonly TextInline[] | undefined }
  | { readonly type: 'heading'; readonly attrs: { readonly level: number }; readonly content?: readonly TextInline[] | undefined }
  | { readonly type: 'bulletList' | 'orderedList'; readonly content: readonly TextItem[] }
  /** a table of some lines of a view, with the columns of the view's first block */
  | { readonly type: 'figureTable'; readonly attrs: { readonly view: string; readonly lines: readonly string[] } };
export type TextItem = { readonly type: 'listItem'; readonly content: readonly TextBlock[] };
/** Text with headings, lists, and figures that follow the ledger. */
export type RichText = { readonly type: 'doc'; readonly content: readonly TextBlock[] };

export const EMPTY_TEXT: RichText = { type: 'doc', content: [] };

/** A text of one paragraph for each of some lines. */
export const textOf = (...paragraphs: readonly string[]): RichText => ({
  type: 'doc',
  content: paragraphs.map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })),
});

/** Whether nobody wrote anything: no character but blanks, no figure, no table. */
export function isEmptyText({ content }: RichText): boolean {
  const isEmpty = (block: TextBlock): boolean => {
    if (block.type === 'figureTable') return false;
    if (block.type === 'bulletList' || block.type === 'orderedList')
      return block.content.every(({ content: inner }) => inner.every(isEmpty));
    return (block.content ?? []).every((inline) => inline.type === 'hardBreak' || (inline.type === 'text' && inline.text.trim() === ''));
  };
  return content.every(isEmpty);
}

/** Keys of the views whose figures a text shows, each once. */
export function viewsOfText({ content }: RichText): string[] {
  const views = new Set<string>();
  const visit = (block: TextBlock): void => {
    if (block.type === 'figureTable') views.add(block.attrs.view);
    else if (block.type === 'bulletList' || block.type === 'orderedList') for (const item of block.content) item.content.forEach(visit);
    else for (const inline of block.content ?? []) if (inline.type === 'figure') views.add(inline.attrs.view);
  };
  content.forEach(visit);
  return [...views];
}

/** How many characters a text has, live figures not counted. */
export function lengthOfText({ content }: RichText): number {
  const length = (block: TextBlock): number => {
    if (block.type === 'figureTable') return 0;
    if (block.type === 'bulletList' || block.type === 'orderedList')
      return block.content.reduce((sum, item) => sum + item.content.reduce((inner, each) => inner + length(each), 0), 0);
    return (block.content ?? []).reduce((sum, inline) => sum + (inline.type === 'text' ? inline.text.length : 0), 0);
  };
  return content.reduce((sum, block) => sum + length(block), 0);
}
