import type { PackDto, PackState } from '@wise-margin/contract';
import { useMemo, useState } from 'react';
import { useBlocker, useParams } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { usePack } from '../data/use-packs.ts';
import { Page } from '../ui/page.tsx';
import { PageFailure } from '../ui/page-failure.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';
import { useUnloadWarning } from '../ui/use-unload-warning.ts';
import { IssueDialog } from './issue-dialog.tsx';
import { Outline } from './outline.tsx';
import { PackActions } from './pack-actions.tsx';
import { LeaveQuestion, SaveNotice, SliceChoice } from './pack-notices.tsx';
import { PageList } from './page-list.tsx';
import { SectionInPlace } from './section-in-place.tsx';
import { usePackEditor } from './use-pack-editor.ts';

const STATES: Readonly<Record<PackState, string>> = { draft: 'Draft', inReview: 'In review', issued: 'Issued' };

/** A pack in the as-of month: its sections at the left, its pages as they will print at the right. */
export default function PackPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const { pack = '' } = useParams();
  const saved = usePack({ company: company.id, pack });
  if (saved.isError)
    return <PageFailure title="Pack" error={saved.error} retry={() => void saved.refetch()} company={company.id} list="packs" />;
  if (asOf === null) return <Empty title="No entries yet">Import a ledger on the Ledger page first.</Empty>;
  if (!saved.data) return <Loading what="the pack" />;
  return <OpenPack key={`${company.id} ${pack} ${asOf} ${saved.data.version}`} saved={saved.data} month={asOf} />;
}

function OpenPack({ saved, month }: { readonly saved: PackDto; readonly month: string }) {
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
      {blocker.state === 'blocked' ? <LeaveQuestion stay={() => blocker.reset()} leave={() => blocker.proceed()} /> : null}
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
                <SectionInPlace
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
