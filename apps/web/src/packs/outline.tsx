import type { PackPreviewDto } from '@wise-margin/contract';
import type { Section, SectionKind } from '@wise-margin/core';
import { Copy, Eye, EyeOff, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';

import { SortableItem, SortableList } from '../ui/sortable-list.tsx';
import { SectionFields } from './section-fields.tsx';
import { kindName, moved, newSection, SECTION_KINDS, withCopy } from './section-kinds.ts';

/** The sections of a pack in order; the chosen one shows what can be chosen for it. */
export function Outline({
  sections,
  preview,
  chosen,
  month,
  choose,
  set,
}: {
  readonly sections: readonly Section[];
  readonly preview: PackPreviewDto | undefined;
  readonly chosen: string | null;
  readonly month: string;
  readonly choose: (section: string | null) => void;
  readonly set: (sections: readonly Section[]) => void;
}) {
  const filled = new Map(preview?.sections.map((section) => [section.id, section]));
  const replace = (section: Section): void => set(sections.map((each) => (each.id === section.id ? section : each)));
  return (
    <>
      <SortableList keys={sections.map(({ id }) => id)} move={(id, to) => set(moved(sections, id, to))}>
        <ol aria-label="Sections">
          {sections.map((section) => {
            const { page = null, omissionReason = '', notes = [], dateWords = '' } = filled.get(section.id) ?? {};
            const isChosen = section.id === chosen;
            return (
              <SortableItem
                key={section.id}
                id={section.id}
                label={section.title}
                className={`border-b border-hairline ${isChosen ? 'bg-sheet' : ''}`}
              >
                <div className="flex items-start gap-1 pr-1">
                  <button
                    type="button"
                    aria-expanded={isChosen}
                    onClick={() => choose(isChosen ? null : section.id)}
                    className={`min-w-0 flex-1 py-1 text-left ${omissionReason === '' ? '' : 'text-ink-soft'}`}
                  >
                    <span className="flex gap-2">
                      <span className={`min-w-0 flex-1 truncate text-[14px] font-semibold ${section.hidden ? 'line-through' : ''}`}>
                        {section.title}
                      </span>
                      <span className="text-[13px] tabular-nums text-ink-soft">{page ?? ''}</span>
                    </span>
                    <span className="block truncate text-[12.5px] text-ink-soft">
                      {[kindName(section.kind), dateWords, omissionReason === '' ? '' : `not included: ${omissionReason.toLowerCase()}`]
                        .filter((text) => text !== '')
                        .join('; ')}
                    </span>
                    {notes.map((note) => (
                      <span key={note} className="block text-[12.5px] text-brick">
                        {note}
                      </span>
                    ))}
                  </button>
                  <Act
                    label={section.hidden ? `Show ${section.title}` : `Hide ${section.title}`}
                    act={() => replace({ ...section, hidden: !section.hidden })}
                    icon={section.hidden ? <EyeOff size={14} aria-hidden="true" /> : <Eye size={14} aria-hidden="true" />}
                  />
                  {isChosen ? (
                    <>
                      <Act
                        label={`Duplicate ${section.title}`}
                        act={() => set(withCopy(sections, section.id))}
                        icon={<Copy size={14} aria-hidden="true" />}
                      />
                      <Act
                        label={`Remove ${section.title}`}
                        act={() => {
                          choose(null);
                          set(sections.filter(({ id }) => id !== section.id));
                        }}
                        icon={<Trash2 size={14} aria-hidden="true" />}
                      />
                    </>
                  ) : null}
                </div>
                {isChosen ? (
                  <div className="pr-2 pb-2">
                    <SectionFields section={section} month={month} set={replace} />
                  </div>
                ) : null}
              </SortableItem>
            );
          })}
        </ol>
      </SortableList>
      <label className="mt-2 flex items-center gap-2 text-[13px]">
        <span className="text-ink-soft">Add</span>
        <select
          className="field min-w-0 flex-1 py-0.5"
          value=""
          onChange={(event) => {
            const made = newSection(event.target.value as SectionKind, sections);
            const at = chosen === null ? sections.length : sections.findIndex(({ id }) => id === chosen) + 1;
            set([...sections.slice(0, at), made, ...sections.slice(at)]);
            choose(made.id);
          }}
        >
          <option value="">a section…</option>
          {SECTION_KINDS.map(([kind, name]) => (
            <option key={kind} value={kind}>
              {name}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}

function Act({ label, act, icon }: { readonly label: string; readonly act: () => void; readonly icon: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={act}
      className="mt-1 flex min-h-6 min-w-6 items-center justify-center text-ink-soft hover:text-ink"
    >
      {icon}
    </button>
  );
}
