import {
  changeLine,
  duplicateLine,
  insertLine,
  keyOfWords,
  moveLine,
  removeLine,
  renameLine,
  stepLine,
  walkLines,
  type Line,
  type LineSet,
} from '@wise-margin/core';
import type { CoverageDto } from '@wise-margin/contract';
import { ArrowDown, ArrowUp, Copy, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { IconButton } from './columns-panel.tsx';
import { CoverageNote } from './coverage-note.tsx';
import { Field, Select } from './field.tsx';
import { LineForm } from './line-form.tsx';
import { SortableItem, SortableList } from './sortable-list.tsx';

const NEW_LINE: Line = { kind: 'accounts', key: 'new_line', name: 'New line', selection: {}, sign: 'credit' };

/** The lines of a view as a tree in one list: dragged or stepped, added after the chosen one, duplicated, removed. */
export function LinesPanel({
  lineSet,
  coverage,
  change,
}: {
  readonly lineSet: LineSet;
  readonly coverage: CoverageDto | null;
  readonly change: (next: (set: LineSet) => LineSet) => void;
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const rows: { readonly line: Line; readonly depth: number }[] = [];
  walkLines(lineSet.lines, (line, sections) => rows.push({ line, depth: sections.length }));
  const keys = rows.map(({ line }) => line.key);
  const sections = rows.flatMap(({ line }) => (line.kind === 'section' ? [line.key] : []));
  const add = (line: Line): void => {
    const place = chosen !== null && keys.includes(chosen) ? ({ at: 'after', key: chosen } as const) : ({ at: 'end' } as const);
    const made = insertLine(lineSet, line, place);
    change((set) => insertLine(set, line, place).set);
    setChosen(made.key);
  };
  return (
    <div>
      <div className="mb-2 flex items-end gap-2">
        <div className="flex-1">
          <Field label="Shares are of the line">
            <Select
              value={lineSet.percentBase}
              options={(keys.includes(lineSet.percentBase) ? keys : [...keys, lineSet.percentBase]).map((key) => [key, key] as const)}
              choose={(percentBase) => change((set) => ({ ...set, percentBase }))}
            />
          </Field>
        </div>
        <button type="button" className="button" onClick={() => add(NEW_LINE)}>
          <Plus size={14} aria-hidden="true" /> Line
        </button>
      </div>
      {coverage ? <CoverageNote coverage={coverage} /> : null}
      {rows.length === 0 ? <p className="py-3 text-[14px] text-ink-soft">No lines yet. Add one and choose its accounts.</p> : null}
      <SortableList
        keys={keys}
        move={(key, to) =>
          change((set) => {
            const target = rows[to]!.line;
            const isDown = keys.indexOf(key) < to;
            // dropped on a section from above, or on one without lines, it goes in
            if (target.kind === 'section' && target.lines.length === 0) return moveLine(set, key, { at: 'inside', key: target.key });
            if (target.kind === 'section' && isDown) return moveLine(set, key, { at: 'before', key: target.lines[0]!.key });
            return moveLine(set, key, { at: isDown ? 'after' : 'before', key: target.key });
          })
        }
      >
        <ul aria-label="Lines">
          {rows.map(({ line, depth }) => {
            const isChosen = chosen === line.key;
            const name = line.name || (line.kind === 'spacer' ? 'Empty line' : line.key);
            return (
              <SortableItem key={line.key} id={line.key} label={`line ${name}`} className="border-b border-hairline">
                <div className="flex items-center gap-1" style={{ paddingLeft: depth * 12 }}>
                  <button
                    type="button"
                    aria-expanded={isChosen}
                    onClick={() => setChosen(isChosen ? null : line.key)}
                    onKeyDown={(event) => {
                      if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
                      event.preventDefault();
                      change((set) => stepLine(set, line.key, event.key === 'ArrowUp' ? -1 : 1));
                    }}
                    className={`min-h-6 min-w-0 flex-1 truncate py-0.5 text-left text-[13px] ${isChosen || line.kind === 'section' ? 'font-semibold' : ''} ${line.hidden ? 'text-ink-soft italic' : ''}`}
                  >
                    {name}
                    <span className="ml-1.5 font-mono text-[11px] font-normal text-ink-soft">
                      {line.kind === 'formula'
                        ? `${line.key} = ${line.expression}`
                        : line.kind === 'total'
                          ? `${line.key}, total of ${line.of}`
                          : line.key}
                    </span>
                  </button>
                  {isChosen ? (
                    <>
                      <IconButton
                        label={`Move ${name} up`}
                        icon={<ArrowUp size={13} aria-hidden="true" />}
                        act={() => change((set) => stepLine(set, line.key, -1))}
                      />
                      <IconButton
                        label={`Move ${name} down`}
                        icon={<ArrowDown size={13} aria-hidden="true" />}
                        act={() => change((set) => stepLine(set, line.key, 1))}
                      />
                      <IconButton
                        label={`Duplicate ${name}`}
                        icon={<Copy size={13} aria-hidden="true" />}
                        act={() => change((set) => duplicateLine(set, line.key).set)}
                      />
                      <IconButton
                        label={`Remove ${name}`}
                        icon={<Trash2 size={13} aria-hidden="true" />}
                        act={() => change((set) => removeLine(set, line.key))}
                      />
                    </>
                  ) : null}
                </div>
                {isChosen ? (
                  <div className="mb-2 border-l-2 border-copper pl-2">
                    <LineForm
                      key={line.key}
                      line={line}
                      keys={keys}
                      sections={sections}
                      change={(next) => {
                        // a line just added takes its key from its first name
                        const fresh = line.key.startsWith('new_line') && next.name !== line.name ? keyOfWords(next.name) : null;
                        const key = fresh && !keys.includes(fresh) ? fresh : line.key;
                        change((set) =>
                          renameLine(
                            changeLine(set, line.key, () => next),
                            line.key,
                            key,
                          ),
                        );
                        setChosen(key);
                      }}
                      rename={(key) => {
                        change((set) => renameLine(set, line.key, key));
                        setChosen(key);
                      }}
                    />
                  </div>
                ) : null}
              </SortableItem>
            );
          })}
        </ul>
      </SortableList>
    </div>
  );
}
