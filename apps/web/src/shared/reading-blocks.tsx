import type { ReadingBlock, ReadingCell } from '@wise-margin/contract';

import { PageDrawing } from '../ui/page-drawing.tsx';

type Place = { readonly line: string; readonly column: string };
type Follow = (place: Place, button: HTMLElement) => void;
type Table = Extract<ReadingBlock, { readonly kind: 'table' }>;

/** Texts, tables and charts of a section. Figures of its first table are buttons where they can be followed. */
export function ReadingBlocks({
  title,
  blocks,
  chosen,
  follow,
}: {
  readonly title: string;
  readonly blocks: readonly ReadingBlock[];
  readonly chosen: Place | null;
  /** null where figures lead nowhere */
  readonly follow: Follow | null;
}) {
  const firstTable = blocks.findIndex(({ kind }) => kind === 'table');
  return blocks.map((block, at) => {
    switch (block.kind) {
      case 'paragraph':
        return <Paragraph key={at} block={block} />;
      case 'table':
        return <ReadingTable key={at} table={block} label={title} chosen={chosen} follow={at === firstTable ? follow : null} />;
      case 'charts':
        return (
          <div key={at} className="my-3">
            <div className={block.isBridge ? 'overflow-x-auto' : 'grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-5'}>
              {block.drawings.map((drawing, index) => (
                <PageDrawing key={index} page={drawing} logo={null} label={drawing.alt} paper="" />
              ))}
            </div>
            {block.legend === '' ? null : <p className="mt-1 text-[0.8em] text-ink-soft">{block.legend}</p>}
          </div>
        );
    }
  });
}

function Paragraph({ block }: { readonly block: Extract<ReadingBlock, { readonly kind: 'paragraph' }> }) {
  const words = (
    <>
      {block.label === '' ? null : `${block.label} `}
      {block.runs.map(({ text, bold, italic }, at) => (
        <span key={at} className={`whitespace-pre-line ${bold ? 'font-semibold' : ''} ${italic ? 'italic' : ''}`}>
          {text}
        </span>
      ))}
    </>
  );
  if (block.style === 'heading') return <h2 className="mt-4 mb-1 font-serif text-[1.1em] font-semibold">{words}</h2>;
  if (block.style === 'subheading') return <h3 className="mt-3 mb-0.5 font-serif font-semibold">{words}</h3>;
  if (block.style === 'soft') return <p className="text-[0.85em] text-ink-soft">{words}</p>;
  return <p className={`my-1.5 max-w-[68ch] font-serif ${block.depth > 0 ? 'pl-5' : ''}`}>{words}</p>;
}

function ReadingTable({
  table: { caption, groups, headings, columns, rows, notes },
  label,
  chosen,
  follow,
}: {
  readonly table: Table;
  readonly label: string;
  readonly chosen: Place | null;
  readonly follow: Follow | null;
}) {
  return (
    <div className="my-2">
      {caption.map((line) => (
        <p key={line} className="text-[0.8em] text-ink-soft">
          {line}
        </p>
      ))}
      <div className="mt-1 overflow-x-auto border border-hairline bg-sheet" tabIndex={0} role="region" aria-label={`${label}, table`}>
        <table className="border-collapse text-[0.88em]">
          <thead>
            {groups.length === 0 ? null : (
              <tr>
                <td className="sticky left-0 bg-sheet" />
                {groups.map(({ heading, columns: span }, at) => (
                  <th
                    key={at}
                    scope="colgroup"
                    colSpan={span}
                    className="border-b border-hairline px-3 pt-1 text-center font-serif font-semibold"
                  >
                    {heading}
                  </th>
                ))}
              </tr>
            )}
            <tr>
              {headings.map((heading, at) => (
                <th
                  key={at}
                  scope="col"
                  className={`border-b border-ink px-3 py-1 align-bottom font-semibold ${at === 0 ? 'sticky left-0 bg-sheet text-left' : 'text-right'}`}
                >
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ line, name, depth, emphasis, cells }, row) => (
              <tr key={row} className={emphasis === 'italic' ? 'italic' : ''}>
                <th
                  scope="row"
                  className={`sticky left-0 max-w-[46vw] min-w-56 bg-sheet py-0.5 pr-3 text-left narrow:min-w-32 ${emphasis === 'bold' ? 'font-semibold' : 'font-normal'}`}
                  style={{ paddingLeft: 12 + depth * 14 }}
                >
                  {name}
                </th>
                {cells.map((cell, at) => {
                  const place = line === null ? null : { line, column: columns[at]! };
                  const isChosen = place !== null && chosen?.line === place.line && chosen.column === place.column;
                  return (
                    <td
                      key={at}
                      title={cell.reason || undefined}
                      className={`px-3 py-0.5 whitespace-nowrap ${emphasis === 'bold' ? 'font-semibold' : ''} ${cell.isFigure ? 'text-right' : 'text-left'} ${cell.ruleAbove ? 'border-t border-t-ink' : ''} ${cell.ruleBelow ? 'border-b-[3px] border-double border-b-ink' : ''} ${isChosen ? 'bg-wash' : ''} ${cell.reason === '' ? '' : 'text-ink-soft'}`}
                    >
                      <Figure
                        cell={cell}
                        label={`${name}, ${headings[at + 1]}`}
                        open={follow && place ? (button) => follow(place, button) : null}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {notes.map((note) => (
        <p key={note} className="mt-1 text-[0.8em] text-ink-soft">
          {note}
        </p>
      ))}
    </div>
  );
}

function Figure({
  cell: { text, favor },
  label,
  open,
}: {
  readonly cell: ReadingCell;
  readonly label: string;
  readonly open: ((button: HTMLElement) => void) | null;
}) {
  const words = (
    <>
      {text}
      {favor ? <span className={`ml-1 ${favor === 'F' ? 'text-pine' : 'text-brick'}`}>{favor}</span> : null}
    </>
  );
  if (open === null || text === '') return words;
  return (
    <button
      type="button"
      className="decoration-hairline underline-offset-4 hover:underline"
      aria-label={`${label}: ${text}`}
      onClick={(event) => open(event.currentTarget)}
    >
      {words}
    </button>
  );
}
