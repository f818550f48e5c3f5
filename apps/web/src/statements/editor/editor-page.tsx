import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { displayChoicesOf, type NewView, type PreviewDto, type Scope, type ViewDto } from '@wise-margin/contract';
import { changeColumn, columnPlaceOf, type ColumnSet, type LineSet } from '@wise-margin/core';
import { shownLines, unpackGrid } from '@wise-margin/presentation';
import { Redo2, Undo2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useBlocker, useNavigate, useParams } from 'react-router';

import { getJson, sendDelete, sendJson } from '../../api/client.ts';
import { useAsOf, useCompany } from '../../data/company.ts';
import { readChoices } from '../../data/statement-choices.ts';
import { useMonthKeys } from '../../data/use-month-keys.ts';
import { Page } from '../../ui/page.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { useSearch } from '../../ui/use-search.ts';
import { useUnloadWarning } from '../../ui/use-unload-warning.ts';
import { StatementIssues } from '../statement-issues.tsx';
import { StatementTable } from '../statement-table.tsx';
import { unitLine } from '../statement-words.ts';
import { EditorPanel, type Part, type TakenFrom } from './editor-panel.tsx';
import { IconButton } from './icon-button.tsx';
import { type SaveAs, SaveBar } from './save-bar.tsx';
import { BLANK, type Draft, useDraft } from './use-draft.ts';

const NO_COLUMNS: ColumnSet = { key: 'columns', name: 'Columns', blocks: [] };
/** Where the view that is being edited is kept: read anew each time its editor opens, since it may follow lines that have changed. */
const editedKey = (company: number, view: string | undefined) => ['edited view', company, view] as const;
const NO_LINES: LineSet = { key: 'lines', name: 'Lines', lines: [] };

/** The editor of a view: its columns or lines at the left, the statement on real figures at the right. */
export default function EditorPage() {
  const company = useCompany();
  const edited = useParams()['view'];
  const [search] = useSearch();
  const from = search.get('from');
  const key = edited ?? (from === BLANK ? undefined : (from ?? undefined));
  const [asOf] = useAsOf();
  const view = useQuery({
    queryKey: editedKey(company.id, key),
    enabled: key !== undefined,
    queryFn: ({ signal }) => getJson<ViewDto>(`/companies/${company.id}/views/${key}`, signal),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (asOf === null)
    return (
      <Page title="New view">
        <Empty title="No entries yet">A view is edited on real figures. Import a ledger first.</Empty>
      </Page>
    );
  if (view.isError) return <Failure error={view.error} retry={() => void view.refetch()} />;
  if (key !== undefined && !view.data) return <Loading what="the view" />;
  const opened = view.data ?? null;
  const draft: Draft = opened
    ? {
        lineSet: opened.lineSet,
        columnSet: opened.columnSet,
        linesOf: opened.linesOf,
        columnsOf: opened.columnsOf,
        ...withChosen(opened, search, asOf),
      }
    : { lineSet: NO_LINES, columnSet: NO_COLUMNS, linesOf: null, columnsOf: null, display: {}, choices: {} };
  return (
    <Editor
      key={key ?? BLANK}
      opened={edited === undefined ? null : opened}
      copyOf={edited === undefined ? opened : null}
      start={draft}
      asOf={asOf}
    />
  );
}

/** The display and choices of a view as it was last run: what was chosen there is what is edited and saved. */
function withChosen(view: ViewDto, search: URLSearchParams, asOf: string): Pick<Draft, 'display' | 'choices'> {
  const { display, filter, accounts, drafts } = readChoices(search, asOf);
  const filters = Object.entries({ ...view.choices.filter, ...filter }).filter(([, values]) => values.length > 0);
  const typed = accounts ?? view.choices.accounts ?? '';
  return {
    display: { ...view.display, ...displayChoicesOf(display) },
    choices: {
      ...(filters.length > 0 ? { filter: Object.fromEntries(filters) } : {}),
      ...(typed === '' || typed === 'all' ? {} : { accounts: typed }),
      ...(drafts === undefined ? (view.choices.drafts ? { drafts: true } : {}) : drafts === 'yes' ? { drafts: true } : {}),
    },
  };
}

function Editor({
  opened,
  copyOf,
  start,
  asOf,
}: {
  readonly opened: ViewDto | null;
  /** the view a new one starts from */
  readonly copyOf: ViewDto | null;
  readonly start: Draft;
  readonly asOf: string;
}) {
  const company = useCompany();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { draft, change, undo, redo, canUndo, canRedo } = useDraft(start);
  const [saved, setSaved] = useState<{ readonly draft: Draft; readonly version: number }>({ draft: start, version: opened?.version ?? 0 });
  const [part, setPart] = useState<Part>(start.lineSet.lines.length === 0 ? 'lines' : 'columns');
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  useMonthKeys();
  const preview = useQuery({
    queryKey: ['preview', company.id, asOf, draft, part === 'lines', [...open]],
    queryFn: async () => {
      const name = opened?.name ?? 'New view';
      const answer = await sendJson<PreviewDto>('POST', `/companies/${company.id}/statement-preview`, {
        ...draft,
        asOf,
        name,
        withCoverage: part === 'lines',
        open: [...open],
      });
      return { grid: unpackGrid(answer.grid), coverage: answer.coverage };
    },
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
  const save = useMutation({
    mutationFn: (as: SaveAs | Scope) =>
      typeof as === 'string'
        ? sendJson<ViewDto>('PUT', `/companies/${company.id}/views/${opened!.key}`, { ...draft, version: saved.version, scope: as })
        : sendJson<ViewDto>('POST', `/companies/${company.id}/views`, {
            ...draft,
            ...as,
            note: (opened ?? copyOf)?.note ?? '',
          } satisfies NewView),
    onSuccess: (made) => {
      setSaved({ draft, version: made.version });
      latest.current = { draft, saved: draft };
      if (made.key === opened?.key) client.setQueryData(editedKey(company.id, made.key), made);
      void client.invalidateQueries({ predicate: ({ queryKey }) => ['views', 'statement', 'view'].includes(String(queryKey[0])) });
      if (made.key !== opened?.key) void navigate(`/c/${company.id}/statements/${made.key}?asOf=${asOf}`);
    },
  });
  const describe = useMutation({
    mutationFn: (as: SaveAs) =>
      sendJson<ViewDto>('PUT', `/companies/${company.id}/views/${opened!.key}`, { ...as, version: saved.version }),
    onSuccess: (made) => {
      setSaved((before) => ({ ...before, version: made.version }));
      client.setQueryData(editedKey(company.id, made.key), made);
      void client.invalidateQueries({ queryKey: ['views', company.id] });
    },
  });
  const remove = useMutation({
    mutationFn: () => sendDelete(`/companies/${company.id}/views/${opened!.key}`),
    onSuccess: () => {
      latest.current = { draft, saved: draft };
      void client.invalidateQueries({ queryKey: ['views', company.id] });
      void navigate(`/c/${company.id}/statements?asOf=${asOf}`);
    },
  });
  const take = useMutation({
    mutationFn: ({ view }: TakenFrom) => getJson<ViewDto>(`/companies/${company.id}/views/${view}`),
    onSuccess: (other, { part: taken, isFollowed }) => {
      const of = isFollowed ? other.key : null;
      change((own) =>
        taken === 'columns' ? { ...own, columnSet: other.columnSet, columnsOf: of } : { ...own, lineSet: other.lineSet, linesOf: of },
      );
    },
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      if ((event.target as HTMLElement | null)?.closest('input, textarea')) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [undo, redo]);
  const isChanged = draft !== saved.draft;
  const latest = useRef({ draft, saved: saved.draft });
  useEffect(() => {
    latest.current = { draft, saved: saved.draft };
  });
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname && latest.current.draft !== latest.current.saved,
  );
  useUnloadWarning(isChanged);
  const grid = preview.data?.grid;
  const isEmptyView = draft.lineSet.lines.length === 0 || grid?.columns.length === 0;
  const lines = grid ? shownLines(grid, { open, hideZero: grid.display.zeroLines === 'hide' }) : [];
  return (
    <Page
      title={opened ? `Edit ${opened.name}` : 'New view'}
      words={opened?.isShipped ? 'Built-in view. Save a copy to change it.' : copyOf ? `Copy of ${copyOf.name}` : ''}
      actions={
        <>
          <IconButton label="Undo" icon={<Undo2 size={16} aria-hidden="true" className={canUndo ? '' : 'opacity-40'} />} act={undo} />
          <IconButton label="Redo" icon={<Redo2 size={16} aria-hidden="true" className={canRedo ? '' : 'opacity-40'} />} act={redo} />
          <Link className="button" to={`/c/${company.id}/statements/${opened?.key ?? ''}?asOf=${asOf}`}>
            Close
          </Link>
        </>
      }
    >
      {blocker.state === 'blocked' ? (
        <div
          role="alertdialog"
          aria-label="Unsaved changes"
          className="my-2 flex items-center gap-3 border-l-2 border-brick bg-sheet px-3 py-2 text-[14px]"
        >
          <span>You have unsaved changes.</span>
          <button type="button" className="button button-primary" onClick={() => blocker.reset()}>
            Keep editing
          </button>
          <button type="button" className="link" onClick={() => blocker.proceed()}>
            Discard changes
          </button>
        </div>
      ) : null}
      <div className="my-2">
        <SaveBar
          view={opened}
          newName={copyOf ? `${copyOf.name}, copy` : ''}
          isChanged={isChanged}
          isSaving={save.isPending}
          refusal={(save.error ?? describe.error ?? remove.error ?? take.error)?.message ?? null}
          save={(scope) => save.mutate(scope)}
          saveAs={(as) => save.mutate(as)}
          describe={(as) => describe.mutate(as)}
          remove={() => remove.mutate()}
        />
      </div>
      <p className="hidden pb-1 text-[13px] text-ink-soft narrow:block">Editing a view needs a wider window.</p>
      <div className="flex min-h-0 flex-1 gap-3 pb-3">
        <EditorPanel
          part={part}
          setPart={setPart}
          view={opened}
          draft={draft}
          hasSides={grid?.lines.some(({ startsSide }) => startsSide) ?? false}
          coverage={preview.data?.coverage ?? null}
          asOf={asOf}
          change={change}
          take={(from) => take.mutate(from)}
        />
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          {grid ? <StatementIssues issues={grid.issues} /> : null}
          {preview.isError ? <Failure error={preview.error} retry={() => void preview.refetch()} /> : null}
          {!grid && !preview.isError ? <Loading what="the preview" /> : null}
          {grid && isEmptyView && grid.issues.length === 0 ? (
            <Empty title={draft.lineSet.lines.length === 0 ? 'No lines yet' : 'No columns yet'}>
              {draft.lineSet.lines.length === 0
                ? 'Add lines and columns on the left, or choose another view that has them. The statement is shown here.'
                : 'Add a block of columns on the left, or choose another view that has them. The statement is shown here.'}
            </Empty>
          ) : null}
          {grid && !isEmptyView ? (
            <StatementTable
              grid={grid}
              lines={lines}
              unitWords={unitLine(grid, company.currencyWords)}
              cellsDrawnWhole={600}
              chosen={null}
              openDrillDown={null}
              resize={
                draft.columnsOf === null
                  ? (column, width) =>
                      change((own) => {
                        const place = columnPlaceOf(own.columnSet, column);
                        return place ? { ...own, columnSet: changeColumn(own.columnSet, place, (each) => ({ ...each, width })) } : own;
                      })
                  : null
              }
              toggle={(line) =>
                setOpen((before) => {
                  const next = new Set(before);
                  if (!next.delete(line)) next.add(line);
                  return next;
                })
              }
            />
          ) : null}
        </div>
      </div>
    </Page>
  );
}
