import type { ShownLine } from '@wise-margin/presentation';
import { ChevronDown, ChevronRight } from 'lucide-react';

const indent = (kind: string, depth: number): number => (kind === 'account' || kind === 'slice' ? 16 : 0) + Math.max(0, depth) * 10;

/** A line's name at the left of its figures, which opens it to its parts where it has any. */
export function LineName({
  shown: { line, canOpen, isOpen },
  row,
  isChosen,
  toggle,
}: {
  readonly shown: ShownLine;
  readonly row: number;
  readonly isChosen: boolean;
  readonly toggle: (line: string) => void;
}) {
  const weight =
    line.emphasis === 'bold' || line.kind === 'section' ? 'font-semibold' : line.emphasis === 'italic' ? 'italic text-ink-soft' : '';
  const name = (
    <span className="truncate" title={line.words ? `${line.name}: ${line.words}` : line.name}>
      {line.account ? (
        <>
          <span className="mr-0.5 text-ink-soft">{line.account}</span>{' '}
        </>
      ) : null}
      {line.name}
      {line.kind === 'statistic' && line.words ? <span className="text-[12px] text-ink-soft">, {line.words.toLowerCase()}</span> : null}
    </span>
  );
  return (
    <th
      scope="row"
      className={`sticky left-0 z-10 max-w-60 narrow:max-w-36 border-r border-hairline text-[13px] ${isChosen ? 'bg-wash' : 'bg-sheet group-hover:bg-wash'} ${weight || 'font-normal!'} ${line.kind === 'section' ? 'pt-1' : ''}`}
      style={{ paddingLeft: 12 + indent(line.kind, line.depth) }}
    >
      <span className="flex items-center">
        {canOpen ? (
          <button
            type="button"
            tabIndex={-1}
            data-row={row}
            data-column={-1}
            aria-expanded={isOpen}
            onClick={() => toggle(line.key)}
            className="flex min-w-0 items-center gap-0.5 text-left"
            title={`${isOpen ? 'Collapse' : 'Expand'} ${line.name}`}
          >
            {isOpen ? (
              <ChevronDown size={13} className="shrink-0" aria-hidden="true" />
            ) : (
              <ChevronRight size={13} className="shrink-0" aria-hidden="true" />
            )}
            {name}
          </button>
        ) : (
          name
        )}
      </span>
    </th>
  );
}
