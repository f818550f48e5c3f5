import { FilePlus2 } from 'lucide-react';
import { Link } from 'react-router';

import { useAsOf, useCompany } from '../../data/company.ts';
import { useViews } from '../../data/use-views.ts';
import { Page } from '../../ui/page.tsx';
import { Failure, Loading } from '../../ui/states.tsx';
import { useSearch } from '../../ui/use-search.ts';
import EditorPage from './editor-page.tsx';
import { BLANK } from './use-draft.ts';

/** A new view: first what it starts from, then its editor. The choice is in the address, so that Back returns to it. */
export default function NewViewPage() {
  const [search] = useSearch();
  const from = search.get('from');
  return from === null ? <StartChoice /> : <EditorPage key={from} />;
}

/** Blank, or a copy of any view, by folder. */
function StartChoice() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const views = useViews(company.id);
  const address = (from: string) =>
    `/c/${company.id}/statements/new?${new URLSearchParams({ from, ...(asOf === null ? {} : { asOf }) }).toString()}`;
  const folders = [...new Set((views.data ?? []).map(({ folder }) => folder))];
  return (
    <Page title="New view" words="Start from a blank view or a copy">
      {views.isError ? <Failure error={views.error} retry={() => void views.refetch()} /> : null}
      {views.isPending ? <Loading what="the views" /> : null}
      <div className="min-h-0 overflow-y-auto pb-4">
        <Link
          to={address(BLANK)}
          className="my-2 flex w-fit items-center gap-2 border border-hairline bg-sheet px-3 py-2 text-[15px] font-semibold hover:bg-wash"
        >
          <FilePlus2 size={16} aria-hidden="true" className="text-copper" /> Blank view
        </Link>
        <p className="mt-3 mb-2 text-[14px] text-ink-soft">Or start from a copy of:</p>
        <div className="grid grid-cols-1 gap-x-6 lg:grid-cols-3">
          {folders.map((folder) => (
            <section key={folder} aria-labelledby={`folder-${folder}`} className="mb-4">
              <h2 id={`folder-${folder}`} className="border-b border-ink-soft pb-1 font-serif text-[17px] font-semibold">
                {folder}
              </h2>
              <ul>
                {views.data
                  ?.filter((view) => view.folder === folder)
                  .map(({ key, name, note }) => (
                    <li key={key} className="border-b border-hairline">
                      <Link to={address(key)} className="block px-1 py-2 hover:bg-wash">
                        <span className="block text-[15px] font-semibold">{name}</span>
                        <span className="block text-[13px] text-ink-soft">{note}</span>
                      </Link>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
        </div>
      </div>
    </Page>
  );
}
