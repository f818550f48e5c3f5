import type { CoverageDto, ViewDto } from '@wise-margin/contract';
import type { ColumnSet } from '@wise-margin/core';

import { useCompany } from '../../data/company.ts';
import { useBudgets } from '../../data/use-statement.ts';
import { useViews } from '../../data/use-views.ts';
import { ActionSelect } from './action-select.tsx';
import { ColumnsPanel } from './columns-panel.tsx';
import { LinesPanel } from './lines-panel.tsx';
import { PagePanel } from './page-panel.tsx';
import { PartSource, TakenPart } from './part-source.tsx';
import type { Draft } from './use-draft.ts';

const PARTS = [
  ['columns', 'Columns'],
  ['lines', 'Lines'],
  ['page', 'Page'],
] as const;
export type Part = (typeof PARTS)[number][0];
/** A view whose lines or columns are wanted, copied or followed. */
export type TakenFrom = { readonly view: string; readonly part: 'lines' | 'columns'; readonly isFollowed: boolean };
const NO_COLUMNS: ColumnSet = { key: 'columns', name: 'Columns', blocks: [] };

/** The left side of the editor: the columns, lines or page of the view. */
export function EditorPanel({
  part,
  setPart,
  view,
  draft,
  hasSides,
  coverage,
  asOf,
  change,
  take,
}: {
  readonly part: Part;
  readonly setPart: (part: Part) => void;
  /** the view that is edited; null for a new one */
  readonly view: ViewDto | null;
  readonly draft: Draft;
  readonly hasSides: boolean;
  readonly coverage: CoverageDto | null;
  readonly asOf: string;
  readonly change: (next: (draft: Draft) => Draft) => void;
  readonly take: (from: TakenFrom) => void;
}) {
  const company = useCompany();
  const views = useViews(company.id).data ?? [];
  const budgets = useBudgets(company.id).data ?? [];
  const of = part === 'page' ? null : draft[`${part}Of`];
  const own = () => change((before) => ({ ...before, [`${part}Of`]: null }));
  return (
    <aside aria-label="Editor" className="flex w-[370px] shrink-0 flex-col border border-hairline bg-paper">
      <div className="flex items-center gap-3 border-b border-hairline px-2 py-1">
        {PARTS.map(([each, words]) => (
          <button
            key={each}
            type="button"
            aria-pressed={part === each}
            onClick={() => setPart(each)}
            className={`py-0.5 text-[14px] ${part === each ? 'border-b-2 border-copper font-semibold' : 'text-ink-soft'}`}
          >
            {words}
          </button>
        ))}
        {part === 'page' ? null : (
          <ActionSelect
            label={`Copy ${part} from another view`}
            prompt="Copy from …"
            className="field ml-auto max-w-44 py-0.5 text-[13px]"
            options={views.map(({ key, name }) => [key, name])}
            act={(key) => take({ view: key, part, isFollowed: false })}
          />
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto p-2" tabIndex={0} role="region" aria-label={PARTS.find(([each]) => each === part)![1]}>
        {part === 'page' ? (
          <PagePanel
            name={view?.name ?? 'New view'}
            display={draft.display}
            choices={draft.choices}
            hasSides={hasSides}
            changeDisplay={(next) => change((before) => ({ ...before, display: next(before.display) }))}
            changeChoices={(next) => change((before) => ({ ...before, choices: next(before.choices) }))}
          />
        ) : (
          <PartSource
            part={part}
            of={of}
            own={view?.key ?? null}
            views={views}
            usedBy={view?.usedBy[part] ?? []}
            choose={(key) => (key === null ? own() : take({ view: key, part, isFollowed: true }))}
          />
        )}
        {part !== 'page' && of !== null ? (
          <TakenPart
            part={part}
            sets={draft}
            source={views.find(({ key }) => key === of)?.name ?? 'another view'}
            address={`/c/${company.id}/statements/${of}/edit?asOf=${asOf}`}
            edit={own}
          />
        ) : null}
        {part === 'columns' && of === null ? (
          <ColumnsPanel
            columnSet={draft.columnSet}
            lineSet={draft.lineSet}
            budgets={budgets}
            change={(next) => change((before) => ({ ...before, columnSet: next(before.columnSet) }))}
          />
        ) : null}
        {part === 'lines' && of === null ? (
          <LinesPanel
            sets={draft.columnsOf === null ? draft : { ...draft, columnSet: NO_COLUMNS }}
            coverage={coverage}
            change={(next) =>
              change((before) => {
                const after = { ...before, ...next(before) };
                // columns of another view stay as they are there
                return before.columnsOf === null ? after : { ...after, columnSet: before.columnSet };
              })
            }
          />
        ) : null}
      </div>
    </aside>
  );
}
