import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Building2, Plus, Search, Star } from 'lucide-react';
import { Link } from 'react-router';

import { sendJson } from '../api/client.ts';
import { useAsOf, useCompany } from '../data/company.ts';
import { viewAddress } from '../data/statement-choices.ts';
import { useViews } from '../data/use-views.ts';
import { Page } from '../ui/page.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';

const STARRED = 'Starred';

/** The views, by folder, with a search. Each opens as it was saved. */
export default function LibraryPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const [search, setSearch] = useSearch();
  const views = useViews(company.id);
  const find = search.get('find') ?? '';
  const shown = (views.data ?? []).filter(({ name, note, folder }) =>
    `${name} ${note} ${folder}`.toLowerCase().includes(find.toLowerCase()),
  );
  const client = useQueryClient();
  const star = useMutation({
    mutationFn: ({ key, starred }: { readonly key: string; readonly starred: boolean }) =>
      sendJson('PUT', `/companies/${company.id}/views/${key}`, { starred, version: 0 }),
    onSettled: () => client.invalidateQueries({ queryKey: ['views', company.id] }),
  });
  const starredShown = shown.filter(({ starred }) => starred);
  const folders = [...new Set(shown.map(({ folder }) => folder))];
  return (
    <Page
      title="Statements"
      words="All views use the as-of month"
      actions={
        <>
          <Link className="button" to={`/c/${company.id}/statements/combined${asOf === null ? '' : `?asOf=${asOf}`}`}>
            <Building2 size={15} aria-hidden="true" /> Combined
          </Link>
          <Link className="button" to={`/c/${company.id}/statements/new${asOf === null ? '' : `?asOf=${asOf}`}`}>
            <Plus size={15} aria-hidden="true" /> New view
          </Link>
        </>
      }
    >
      <label className="mt-1 mb-3 flex w-80 items-center gap-2 text-[14px]">
        <Search size={15} aria-hidden="true" className="text-ink-soft" />
        <input
          className="field w-full"
          placeholder="Find a view"
          aria-label="Find a view"
          value={find}
          onChange={(event) =>
            setSearch(
              (before) => {
                if (event.target.value === '') before.delete('find');
                else before.set('find', event.target.value);
              },
              { replace: true },
            )
          }
        />
      </label>
      {views.isError ? <Failure error={views.error} retry={() => void views.refetch()} /> : null}
      {star.isError ? <Failure error={star.error} retry={() => star.reset()} /> : null}
      {views.isPending ? <Loading what="the views" /> : null}
      {views.data && shown.length === 0 ? (
        <p className="text-ink-soft">No view matches “{find}”. Try a word such as income, balance, cash or trend.</p>
      ) : null}
      <div className="grid min-h-0 grid-cols-1 gap-x-6 overflow-y-auto pb-4 lg:grid-cols-3">
        {[...(starredShown.length > 0 ? [STARRED] : []), ...folders].map((folder) => (
          <section key={folder} aria-labelledby={`folder-${folder}`} className="mb-4">
            <h2 id={`folder-${folder}`} className="border-b border-ink-soft pb-1 font-serif text-[17px] font-semibold">
              {folder}
            </h2>
            <ul>
              {(folder === STARRED ? starredShown : shown.filter((view) => view.folder === folder)).map(
                ({ key, name, note, starred, owner, shared, isShipped }) => (
                  <li key={key} className="flex items-start border-b border-hairline">
                    <Link
                      to={viewAddress({ company: company.id, view: key }, asOf)}
                      className="block min-w-0 flex-1 px-1 py-2 hover:bg-wash"
                    >
                      <span className="block text-[15px] font-semibold">{name}</span>
                      <span className="block text-[13px] text-ink-soft">
                        {[note, isShipped ? '' : shared ? `shared by ${owner}` : 'private'].filter((text) => text !== '').join('; ')}
                      </span>
                    </Link>
                    <button
                      type="button"
                      aria-pressed={starred}
                      aria-label={`Star ${name}`}
                      onClick={() => star.mutate({ key, starred: !starred })}
                      className="mt-2 flex min-h-6 min-w-6 items-center justify-center text-copper"
                    >
                      <Star size={15} aria-hidden="true" fill={starred ? 'currentColor' : 'none'} />
                    </button>
                  </li>
                ),
              )}
            </ul>
          </section>
        ))}
      </div>
    </Page>
  );
}
