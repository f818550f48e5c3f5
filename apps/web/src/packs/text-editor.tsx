import { Node } from '@tiptap/core';
import { EditorContent, type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer, useEditor, useEditorState } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import type { RichText, TextFigure } from '@wise-margin/core';
import { figureText } from '@wise-margin/presentation';
import { Bold, Heading2, Italic, List, ListOrdered, Redo2, Table, Undo2 } from 'lucide-react';
import { createContext, type ReactNode, useContext, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { withShares } from '../data/statement-choices.ts';
import { useStatement } from '../data/use-statement.ts';
import { FigurePicker } from './figure-picker.tsx';

/** The month that figures in a text are shown for while it is written. */
const MonthContext = createContext('');

/** A figure of a view within a text: it shows what the view shows now. */
function FigureChip({ node }: NodeViewProps) {
  const company = useCompany();
  const { view, line, column } = node.attrs as TextFigure;
  const statement = useStatement(company.id, view, withShares(useContext(MonthContext)));
  const grid = statement.data;
  const row = grid?.lines.findIndex(({ key }) => key === line) ?? -1;
  const at = grid?.columns.findIndex(({ key }) => key === column) ?? -1;
  const cell = grid?.cells[row]?.[at];
  const text = cell ? figureText(cell, { exponent: company.exponent, unit: grid.display.unit, withUnit: true }) || 'none' : '…';
  const name = grid && row >= 0 && at >= 0 ? `${grid.lines[row]!.name}, ${grid.columns[at]!.words}` : `${line} of ${view}`;
  return (
    <NodeViewWrapper as="span" className="border-b border-dotted border-copper" title={name}>
      {grid && !cell ? '[no figure]' : text}
    </NodeViewWrapper>
  );
}

function TableChip({ node }: NodeViewProps) {
  const { view, lines } = node.attrs as { readonly view: string; readonly lines: readonly string[] };
  return (
    <NodeViewWrapper className="my-1 border border-dotted border-copper px-2 py-1 text-[13px] text-ink-soft">
      Table of {view}: {lines.join(', ')}
    </NodeViewWrapper>
  );
}

const attribute = (fallback: unknown) => ({ default: fallback, rendered: false });
const FigureNode = Node.create({
  name: 'figure',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ view: attribute(''), line: attribute(''), column: attribute('') }),
  parseHTML: () => [{ tag: 'data-figure' }],
  renderHTML: () => ['data-figure'],
  addNodeView: () => ReactNodeViewRenderer(FigureChip),
});
const FigureTableNode = Node.create({
  name: 'figureTable',
  group: 'block',
  atom: true,
  addAttributes: () => ({ view: attribute(''), lines: attribute([]) }),
  parseHTML: () => [{ tag: 'data-figure-table' }],
  renderHTML: () => ['data-figure-table'],
  addNodeView: () => ReactNodeViewRenderer(TableChip),
});
const EXTENSIONS = [
  StarterKit.configure({
    heading: { levels: [2, 3] },
    blockquote: false,
    code: false,
    codeBlock: false,
    horizontalRule: false,
    link: false,
    strike: false,
    underline: false,
  }),
  FigureNode,
  FigureTableNode,
];

/** An editor of text with headings, lists and figures that follow the ledger. */
export function TextEditor({
  text,
  month,
  label,
  change,
}: {
  /** what it begins with; it is not read again while it is edited */
  readonly text: RichText;
  readonly month: string;
  readonly label: string;
  readonly change: (text: RichText) => void;
}) {
  const [picking, setPicking] = useState<'figure' | 'table' | null>(null);
  const editor = useEditor({
    extensions: EXTENSIONS,
    content: text.content.length === 0 ? '' : (text as never),
    editorProps: {
      attributes: { 'aria-label': label, class: 'pack-text min-h-24 px-3 py-2 outline-none', role: 'textbox', 'aria-multiline': 'true' },
    },
    // its styles are in the style sheet: the page allows no others
    injectCSS: false,
    onUpdate: ({ editor: now }) => change(now.isEmpty ? { type: 'doc', content: [] } : (now.getJSON() as RichText)),
  });
  const marks = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      bold: now?.isActive('bold') ?? false,
      italic: now?.isActive('italic') ?? false,
      heading: now?.isActive('heading', { level: 2 }) ?? false,
      bullets: now?.isActive('bulletList') ?? false,
      numbers: now?.isActive('orderedList') ?? false,
    }),
  });
  const chain = () => editor.chain().focus();
  return (
    <MonthContext value={month}>
      <div className="border border-copper bg-sheet">
        <div role="toolbar" aria-label="Text format" className="flex flex-wrap items-center gap-0.5 border-b border-hairline px-1 py-0.5">
          <Tool label="Bold" isOn={marks.bold} act={() => chain().toggleBold().run()} icon={<Bold size={14} aria-hidden="true" />} />
          <Tool
            label="Italic"
            isOn={marks.italic}
            act={() => chain().toggleItalic().run()}
            icon={<Italic size={14} aria-hidden="true" />}
          />
          <Tool
            label="Heading"
            isOn={marks.heading}
            act={() => chain().toggleHeading({ level: 2 }).run()}
            icon={<Heading2 size={14} aria-hidden="true" />}
          />
          <Tool
            label="Bullets"
            isOn={marks.bullets}
            act={() => chain().toggleBulletList().run()}
            icon={<List size={14} aria-hidden="true" />}
          />
          <Tool
            label="Numbers"
            isOn={marks.numbers}
            act={() => chain().toggleOrderedList().run()}
            icon={<ListOrdered size={14} aria-hidden="true" />}
          />
          <Tool label="Undo" isOn={null} act={() => chain().undo().run()} icon={<Undo2 size={14} aria-hidden="true" />} />
          <Tool label="Redo" isOn={null} act={() => chain().redo().run()} icon={<Redo2 size={14} aria-hidden="true" />} />
          <button
            type="button"
            className="ml-auto px-1.5 text-[13px] text-copper hover:underline"
            onClick={() => setPicking(picking === 'figure' ? null : 'figure')}
            aria-expanded={picking === 'figure'}
          >
            Insert figure
          </button>
          <button
            type="button"
            className="flex items-center gap-1 px-1.5 text-[13px] text-copper hover:underline"
            onClick={() => setPicking(picking === 'table' ? null : 'table')}
            aria-expanded={picking === 'table'}
          >
            <Table size={13} aria-hidden="true" /> Insert table
          </button>
        </div>
        {picking === null ? null : (
          <FigurePicker
            month={month}
            of={picking}
            cancel={() => setPicking(null)}
            insert={(chosen) => {
              setPicking(null);
              if (chosen.kind === 'figure') chain().insertContent({ type: 'figure', attrs: chosen.figure }).run();
              else
                chain()
                  .insertContent({ type: 'figureTable', attrs: { view: chosen.view, lines: chosen.lines } })
                  .run();
            }}
          />
        )}
        <EditorContent editor={editor} />
      </div>
    </MonthContext>
  );
}

function Tool({
  label,
  isOn,
  act,
  icon,
}: {
  readonly label: string;
  readonly isOn: boolean | null;
  readonly act: () => void;
  readonly icon: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      {...(isOn === null ? {} : { 'aria-pressed': isOn })}
      className={`flex h-7 w-7 items-center justify-center ${isOn ? 'bg-wash text-copper' : 'text-ink-soft hover:bg-wash'}`}
      onMouseDown={(event) => event.preventDefault()}
      onClick={act}
    >
      {icon}
    </button>
  );
}
