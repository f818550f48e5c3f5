import type { CoverageDto } from '@wise-margin/contract';
import {
  changeLine,
  duplicateLine,
  findLine,
  hideLine,
  indentLine,
  insertLine,
  type Line,
  lineAndColumnCount,
  type LineSet,
  moveLine,
  moveToSection,
  outdentLine,
  removeLineAndUses,
  renameLine,
  sectionOf,
  stepLine,
  usesOfLine,
  type ViewSets,
  walkLines,
} from '@wise-margin/core';
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { type KeyboardEvent, useRef, useState } from 'react';

import { useCompany } from '../../data/company.ts';
import { SortableItem, SortableList } from '../../ui/sortable-list.tsx';
import { useReturnFocus } from '../../ui/use-return-focus.ts';
import { ActionSelect } from './action-select.tsx';
import { CoverageNote } from './coverage-note.tsx';
import { Field, Select } from './field.tsx';
import { IconButton } from './icon-button.tsx';
import { LineForm } from './line-form.tsx';
import { firstStatistic, keyAfter, LINE_KINDS, newLine } from './line-kinds.ts';
import { lineChoices, lineHint, lineName, sectionChoices } from './line-names.ts';
import { RemovalPrompt } from './removal-prompt.tsx';
import { useIdentities } from './use-identities.ts';

/** What Alt and an arrow do to a line. */
const MOVES: Readonly<Record<string, (set: LineSet, key: string) => LineSet>> = {
  ArrowUp: (set, key) => stepLine(set, key, -1),
  ArrowDown: (set, key) => stepLine(set, key, 1),
  ArrowRight: indentLine,
  ArrowLeft: outdentLine,
};

/** The lines of a view as a tree in one list: dragged or moved by key, added after the chosen one, duplicated, removed. */
export function LinesPanel({
  sets,
  coverage,
  change,
}: {
  readonly sets: ViewSets;
  readonly coverage: CoverageDto | null;
  readonly change: (next: (sets: ViewSets) => ViewSets) => void;
}) {
  const { lineSet } = sets;
  const company = useCompany();
  const [chosen, setChosen] = useState<string | null>(null);
  const [justAdded, setJustAdded] = useState<string | null>(null);
  const [removing, setRemoving] = useState<string | null>(null);
  const identities = useIdentities();
  const addSelect = useRef<HTMLSelectElement>(null);
  useReturnFocus(removing !== null, () => addSelect.current);
  const changeLines = (next: (set: LineSet) => LineSet) => change((own) => ({ ...own, lineSet: next(own.lineSet) }));
  const rows: { readonly line: Line; readonly depth: number }[] = [];
  walkLines(lineSet.lines, (line, around) => rows.push({ line, depth: around.length }));
  const keys = rows.map(({ line }) => line.key);
  const choices = lineChoices(lineSet);
  const sections = sectionChoices(lineSet);
  const { percentBase } = lineSet;
  /** Into the chosen section, after any other chosen line, or at the end. */
  const add = (kind: Line['kind']): void => {
    const at = rows.find(({ line }) => line.key === chosen)?.line;
    const section = at?.kind === 'section' ? at.key : at ? sectionOf(lineSet, at.key) : null;
    const line = newLine(kind, { section: findLine(lineSet, section ?? sections.at(-1)?.[0] ?? ''), ...firstStatistic(company) });
    const place = at ? ({ at: at.kind === 'section' ? 'inside' : 'after', key: at.key } as const) : ({ at: 'end' } as const);
    const made = insertLine(lineSet, line, place);
    changeLines((set) => insertLine(set, line, place).set);
    identities.add(made.key);
    setJustAdded(made.key);
    setChosen(made.key);
  };
  const remove = (key: string): void => {
    if (usesOfLine(sets, key).length > 0) return setRemoving(key);
    change((own) => removeLineAndUses(own, key));
    addSelect.current?.focus();
  };
  const replace = (line: Line, next: Line): void => {
    // the formula name of a line added here follows its name; that of others may be known elsewhere
    const key = identities.isAdded(line.key) ? keyAfter(line, next, keys) : line.key;
    changeLines((set) =>
      renameLine(
        changeLine(set, line.key, () => next),
        line.key,
        key,
      ),
    );
    identities.rename(line.key, key);
    setChosen(key);
  };
  return (
    <div>
      <div className="mb-2 flex items-end gap-2">
        <div className="min-w-0 flex-1">
          <Field label="Percent of">
            <Select
              value={percentBase ?? ''}
              options={[
                ['', 'No line'],
                ...choices,
                ...(percentBase !== undefined && !keys.includes(percentBase) ? [[percentBase, 'A line that was removed'] as const] : []),
              ]}
              choose={(key) => changeLines(({ percentBase: _base, ...set }) => (key === '' ? set : { ...set, percentBase: key }))}
            />
          </Field>
        </div>
        <ActionSelect
          ref={addSelect}
          label="Add line"
          prompt="Add line"
          className="field w-32 py-0.5 text-[13px] font-semibold"
          options={LINE_KINDS.filter(([kind]) => kind !== 'total' || sections.length > 0)}
          act={(kind) => add(kind as Line['kind'])}
        />
      </div>
      {coverage ? <CoverageNote coverage={coverage} /> : null}
      {rows.length === 0 ? <p className="py-3 text-[14px] text-ink-soft">No lines yet. Add a line and choose its accounts.</p> : null}
      <SortableList
        keys={keys}
        move={(key, to) =>
          changeLines((set) => {
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
            const name = lineName(line);
            const section = sectionOf(lineSet, line.key);
            const moveBy = (event: KeyboardEvent): void => {
              const move = event.altKey ? MOVES[event.key] : undefined;
              if (!move) return;
              event.preventDefault();
              changeLines((set) => move(set, line.key));
            };
            return (
              <SortableItem key={identities.of(line.key)} id={line.key} label={`line ${name}`} className="border-b border-hairline">
                <div className="flex items-center gap-1" style={{ paddingLeft: depth * 12 }}>
                  <button
                    type="button"
                    aria-expanded={isChosen}
                    aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown Alt+ArrowRight Alt+ArrowLeft"
                    onClick={() => setChosen(isChosen ? null : line.key)}
                    onKeyDown={moveBy}
                    className={`min-h-6 min-w-0 flex-1 truncate py-0.5 text-left text-[13px] ${isChosen || line.kind === 'section' ? 'font-semibold' : ''} ${line.hidden ? 'text-ink-soft italic' : ''}`}
                  >
                    {name}
                    <span className="ml-1.5 text-[11px] font-normal text-ink-soft">{lineHint(line, lineSet)}</span>
                  </button>
                  {isChosen ? (
                    <>
                      <IconButton
                        label={`Move ${name} up`}
                        icon={<ArrowUp size={13} aria-hidden="true" />}
                        act={() => changeLines((set) => stepLine(set, line.key, -1))}
                      />
                      <IconButton
                        label={`Move ${name} down`}
                        icon={<ArrowDown size={13} aria-hidden="true" />}
                        act={() => changeLines((set) => stepLine(set, line.key, 1))}
                      />
                      {section === null ? (
                        <IconButton
                          label={`Move ${name} into the section beside it`}
                          icon={<ArrowRight size={13} aria-hidden="true" />}
                          act={() => changeLines((set) => indentLine(set, line.key))}
                        />
                      ) : (
                        <IconButton
                          label={`Move ${name} out of its section`}
                          icon={<ArrowLeft size={13} aria-hidden="true" />}
                          act={() => changeLines((set) => outdentLine(set, line.key))}
                        />
                      )}
                      <IconButton
                        label={`Duplicate ${name}`}
                        icon={<Copy size={13} aria-hidden="true" />}
                        act={() => changeLines((set) => duplicateLine(set, line.key).set)}
                      />
                      <IconButton label={`Remove ${name}`} icon={<Trash2 size={13} aria-hidden="true" />} act={() => remove(line.key)} />
                    </>
                  ) : null}
                </div>
                {removing === line.key ? (
                  <RemovalPrompt
                    name={name}
                    uses={usesOfLine(sets, line.key)}
                    removed={lineAndColumnCount(sets) - lineAndColumnCount(removeLineAndUses(sets, line.key))}
                    removeAll={() => {
                      change((own) => removeLineAndUses(own, line.key));
                      setRemoving(null);
                    }}
                    hide={() => {
                      changeLines((set) => hideLine(set, line.key));
                      setRemoving(null);
                    }}
                    cancel={() => setRemoving(null)}
                  />
                ) : null}
                {isChosen ? (
                  <div className="mb-2 border-l-2 border-copper pl-2">
                    <LineForm
                      line={line}
                      keys={keys}
                      choices={choices.filter(([key]) => key !== line.key)}
                      sections={sections.filter(([key]) => key !== line.key)}
                      section={section}
                      isNew={justAdded === line.key}
                      nearest={findLine(lineSet, section ?? sections.at(-1)?.[0] ?? '')}
                      moveTo={(to) => changeLines((set) => moveToSection(set, line.key, to))}
                      change={(next) => replace(line, next)}
                      rename={(key) => {
                        changeLines((set) => renameLine(set, line.key, key));
                        identities.rename(line.key, key);
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
