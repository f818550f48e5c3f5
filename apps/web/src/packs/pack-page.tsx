import { PACK_FORMATS, type PackDto, type PackState } from '@wise-margin/contract';
import type { DateRule, Section } from '@wise-margin/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { type ReactNode, useMemo, useState } from 'react';
import { Link, useBlocker, useParams } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { packFileAddress, usePack } from '../data/use-packs.ts';
import { momentWords } from '../ui/date-words.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';
import { useUnloadWarning } from '../ui/use-unload-warning.ts';
import { FindingComments } from './finding-comments.tsx';
import { IssueDialog } from './issue-dialog.tsx';
import { Outline } from './outline.tsx';
import { PackSettings } from './pack-settings.tsx';
import { PageList } from './page-list.tsx';
import { TextEditor } from './text-editor.tsx';
import { type PackEditor, usePackEditor } from './use-pack-editor.ts';

const STATES: Readonly<Record<PackState, string>> = { draft: 'Draft', inReview: 'In review', issued: 'Issued' };
const FORMATS = { pdf: 'PDF', docx: 'Document (DOCX)', xlsx: 'Spreadsheet (XLSX)', html: 'Web page (HTML)' } as const;

/** A pack in the as-of month: its sections at the left, its pages as they will print at the right. */
export default function PackPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const { pack = '' } = useParams();
  const saved = usePack({ company: company.id, pack });
  if (saved.isError) return <Failure error={saved.error} retry={() => void saved.refetch()} />;
  if (asOf === null) return <Empty title="No entries yet">Import a ledger on the Ledger page first.</Empty>;
  if (!saved.data) return <Loading what="the pack" />;
  return <PackDesk key={`${company.id} ${pack} ${asOf} ${saved.data.version}`} saved={saved.data} month={asOf} />;
}

function PackDesk({ saved, month }: { readonly saved: PackDto; readonly month: string }) {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const slice = search.get('slice') ?? undefined;
  const place = { company: company.id, pack: saved.key };
  const editor = usePackEditor(place, { saved, month, slice });
  const { design, preview, monthData } = editor;
  const [chosen, setChosen] = useState<string | null>(null);
  // the section that was chosen in the outline, brought into view as soon as its page is known
  const [toShow, setToShow] = useState<string | null>(null);
  const [isIssuing, setIssuing] = useState(false);
  // another month opens the pack as it was saved, as another page does
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      editor.isChanged &&
      (currentLocation.pathname !== nextLocation.pathname || asOfIn(currentLocation.search) !== asOfIn(nextLocation.search)),
  );
  useUnloadWarning(editor.isChanged);
  const pages = preview.data?.pages ?? [];
  const choose = (id: string | null): void => {
    setChosen(id);
    setToShow(id);
  };
  const pageToShow = preview.data?.sections.find((section) => section.id === toShow)?.page ?? null;
  const shown = useMemo(() => (toShow === null || pageToShow === null ? null : { page: pageToShow - 1 }), [toShow, pageToShow]);
  // texts and comments are edited on the page itself
  const edited = design.sections.find(
    (section) => section.id === chosen && (section.kind === 'text' || section.kind === 'findings') && !section.hidden,
  );
  return (
    <Page
      title={design.name}
      words={STATES[monthData.data?.state ?? 'draft']}
      actions={
        <PackActions
          editor={editor}
          month={month}
          slice={slice}
          scope={saved.scope}
          issue={() => {
            void editor.flush().then(() => setIssuing(true));
          }}
        />
      }
    >
      {blocker.state === 'blocked' ? (
        <Notice label="Unsaved changes">
          <span>The sections of this pack have unsaved changes.</span>
          <button type="button" className="button button-primary" onClick={() => blocker.reset()}>
            Keep editing
          </button>
          <button type="button" className="link" onClick={() => blocker.proceed()}>
            Discard changes
          </button>
        </Notice>
      ) : null}
      {editor.isChanged || editor.saving.isError ? <SaveNotice editor={editor} saved={saved} /> : null}
      {monthData.change.isError ? <Failure error={monthData.change.error} /> : null}
      {preview.isError ? <Failure error={preview.error} retry={() => void preview.refetch()} /> : null}
      {preview.data && preview.data.slices.length > 0 ? (
        <SliceChoice
          slices={preview.data.slices}
          value={slice ?? preview.data.slices[0]!}
          choose={(value) => setSearch((before) => before.set('slice', value), { replace: true })}
        />
      ) : null}
      <div className="mt-2 flex min-h-0 flex-1 gap-3 pb-3 narrow:flex-col narrow:overflow-y-auto">
        <div
          className="w-[320px] shrink-0 overflow-y-auto narrow:w-full narrow:overflow-visible"
          role="region"
          aria-label="Outline"
          tabIndex={0}
        >
          <Outline
            sections={design.sections}
            preview={preview.data}
            chosen={chosen}
            month={month}
            choose={choose}
            set={(sections) => editor.setDesign({ ...design, sections: [...sections] })}
          />
        </div>
        {preview.data ? (
          <PageList
            pages={pages}
            logo={preview.data.logo}
            label="Preview"
            showPage={shown}
            choose={(id) => setChosen(id)}
            overlay={(page, scale) => {
              const region = edited && pages[page]?.regions.find(({ section }) => section === edited.id);
              const isFirst = edited && preview.data!.sections.find(({ id }) => id === edited.id)?.page === page + 1;
              if (!region || !isFirst) return null;
              return (
                <InPlace
                  key={edited.id}
                  section={edited}
                  editor={editor}
                  month={month}
                  top={region.top * scale}
                  close={() => setChosen(null)}
                />
              );
            }}
          />
        ) : preview.isError ? null : (
          <Loading what="the preview" />
        )}
      </div>
      {isIssuing ? <IssueDialog place={place} month={month} close={() => setIssuing(false)} /> : null}
    </Page>
  );
}

const asOfIn = (search: string): string | null => new URLSearchParams(search).get('asOf');

/** The text of a section or the comments of its findings, edited on the page where they print. */
function InPlace({
  section,
  editor,
  month,
  top,
  close,
}: {
  readonly section: Section;
  readonly editor: PackEditor;
  readonly month: string;
  readonly top: number;
  readonly close: () => void;
}) {
  const company = useCompany();
  const at = { top: top + 28 };
  if (section.kind === 'findings') {
    const asOf = monthOfRule(section.date, month, company.periods);
    return asOf === null ? null : (
      <div className="absolute right-4 left-4 z-10" style={at}>
        <FindingComments asOf={asOf} comparison={section.comparison} close={close} />
      </div>
    );
  }
  if (section.kind !== 'text') return null;
  const text = section.written === 'monthly' ? (editor.texts[section.id] ?? section.text) : section.text;
  return (
    <div className="absolute right-4 left-4 z-10" style={at}>
      <TextEditor text={text} month={month} label={section.title} change={(changed) => editor.setText(section, changed)} />
      <button type="button" className="button mt-1" onClick={close}>
        Done
      </button>
    </div>
  );
}

/** The month whose findings a section shows; null where it has none of its own, as on the day of the meeting. */
function monthOfRule(rule: DateRule, month: string, periods: readonly { readonly key: string }[]): string | null {
  const at = periods.findIndex(({ key }) => key === month);
  switch (rule.kind) {
    case 'month':
    case 'quarterToDate':
      return month;
    case 'monthBefore':
      return periods[at - 1]?.key ?? null;
    case 'sameMonthLastYear':
      return periods[at - 12]?.key ?? null;
    case 'fixed':
      return rule.month;
    case 'meeting':
      return null;
  }
}

function PackActions({
  editor,
  month,
  slice,
  scope,
  issue,
}: {
  readonly editor: PackEditor;
  readonly scope: PackDto['scope'];
  readonly month: string;
  readonly slice: string | undefined;
  readonly issue: () => void;
}) {
  const company = useCompany();
  const [, setAsOf] = useAsOf();
  const { monthData, design } = editor;
  const at = company.periods.findIndex(({ key }) => key === month);
  const [before, after] = [company.periods[at - 1], company.periods[at + 1]];
  const state = monthData.data?.state ?? 'draft';
  const last = monthData.data?.issues[0];
  const place = { company: company.id, pack: design.key };
  return (
    <>
      <span role="status" className="text-[13px] text-ink-soft">
        {monthData.change.isPending ? 'Saving…' : monthData.change.isSuccess ? 'Text saved' : ''}
      </span>
      {last ? (
        <Link className="link text-[13px]" title={momentWords(last.at)} to={`/c/${company.id}/packs/${design.key}/${last.id}`}>
          Issue {last.number}
        </Link>
      ) : null}
      <span className="flex items-center">
        <Step
          label={before ? `Previous month, ${before.name}` : 'Previous month'}
          act={before ? () => setAsOf(before.key) : null}
          icon={<ChevronLeft size={16} aria-hidden="true" />}
        />
        <span className="min-w-18 text-center text-[14px] font-semibold">{company.periods[at]?.name}</span>
        <Step
          label={after ? `Next month, ${after.name}` : 'Next month'}
          act={after ? () => setAsOf(after.key) : null}
          icon={<ChevronRight size={16} aria-hidden="true" />}
        />
      </span>
      <label className="flex items-center gap-1.5 text-[13px]">
        <span className="text-ink-soft">Meeting</span>
        <input
          type="date"
          className="field py-0.5"
          value={monthData.data?.meeting ?? ''}
          onChange={({ target: { value } }) => editor.changeNow({ meeting: value === '' ? null : value })}
        />
      </label>
      <PackSettings design={design} scope={scope} set={editor.setDesign} />
      <FloatingPanel label="Export" atRight>
        <ul>
          {PACK_FORMATS.map((format) => (
            <li key={format}>
              <a className="link block py-1" href={packFileAddress(place, { month, format, slice: slice ?? '' })} download>
                {FORMATS[format]}
              </a>
            </li>
          ))}
        </ul>
        {editor.isChanged ? <p className="mt-1 text-ink-soft">Files are of the saved sections. Save your changes first.</p> : null}
      </FloatingPanel>
      {state === 'inReview' ? (
        <button type="button" className="button" onClick={() => setState('draft')}>
          Return to draft
        </button>
      ) : state === 'draft' ? (
        <button type="button" className="button" onClick={() => setState('inReview')}>
          Submit for review
        </button>
      ) : null}
      <button
        type="button"
        className="button button-primary"
        disabled={editor.isChanged}
        title={editor.isChanged ? 'Save your changes first' : ''}
        onClick={issue}
      >
        {last ? 'Reissue…' : 'Issue…'}
      </button>
    </>
  );
  function setState(to: 'draft' | 'inReview'): void {
    editor.changeNow({ state: to });
  }
}

function Step({ label, act, icon }: { readonly label: string; readonly act: (() => void) | null; readonly icon: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={act === null}
      onClick={() => act?.()}
      className="flex h-7 w-6 items-center justify-center hover:bg-wash disabled:opacity-40"
    >
      {icon}
    </button>
  );
}

function Notice({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <div
      role="alertdialog"
      aria-label={label}
      className="my-2 flex flex-wrap items-center gap-3 border-l-2 border-brick bg-sheet px-3 py-2 text-[14px]"
    >
      {children}
    </div>
  );
}

/** The sections changed: who should have the change. */
function SaveNotice({ editor, saved }: { readonly editor: PackEditor; readonly saved: PackDto }) {
  const company = useCompany();
  const { saving } = editor;
  const others = saved.changedBy.filter((name) => name !== company.name);
  return (
    <div className="my-1 border-l-2 border-copper bg-sheet px-3 py-1.5 text-[14px]">
      <div className="flex flex-wrap items-center gap-3">
        <span className="font-semibold">Unsaved changes</span>
        <button type="button" className="button button-primary" disabled={saving.isPending} onClick={() => editor.save('company')}>
          Save for {company.name}
        </button>
        <button type="button" className="button" disabled={saving.isPending} onClick={() => editor.save('all')}>
          Save for all companies
        </button>
        <button type="button" className="link" onClick={() => editor.setDesign(saved)}>
          Discard changes
        </button>
        {others.length > 0 ? (
          <span className="text-[13px] text-ink-soft">
            {others.join(', ')} {others.length === 1 ? 'keeps its' : 'keep their'} own version.
          </span>
        ) : null}
      </div>
      {saving.isError ? (
        <p role="alert" className="mt-1 text-brick">
          {saving.error.message}
        </p>
      ) : null}
    </div>
  );
}

function SliceChoice({
  slices,
  value,
  choose,
}: {
  readonly slices: readonly string[];
  readonly value: string;
  readonly choose: (slice: string) => void;
}) {
  return (
    <label className="mt-1 flex items-center gap-2 text-[13px]">
      <span className="text-ink-soft">Report for</span>
      <select className="field py-0.5" value={value} onChange={(event) => choose(event.target.value)}>
        {slices.map((slice) => (
          <option key={slice} value={slice}>
            {slice}
          </option>
        ))}
      </select>
      <span className="text-ink-soft">{slices.length} reports are issued together.</span>
    </label>
  );
}
