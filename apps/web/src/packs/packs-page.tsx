import type { PackListDto } from '@wise-margin/contract';
import { EMPTY_TEXT } from '@wise-margin/core';
import { Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { usePackChanges, usePacks, useReadyForPages } from '../data/use-packs.ts';
import { momentWords } from '../ui/date-words.ts';
import { Page } from '../ui/page.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { newSection } from './section-kinds.ts';

const SCOPES = { builtIn: 'Built-in', all: 'All companies', company: 'This company' } as const;
const STATES = { draft: 'Draft', inReview: 'In review', issued: 'Issued' } as const;

/** The packs of a company, with where each is in the as-of month. */
export default function PacksPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const navigate = useNavigate();
  const packs = usePacks(company.id, asOf);
  const { create } = usePackChanges(company.id);
  useReadyForPages(company.id, asOf);
  const month = company.periods.find(({ key }) => key === asOf)?.name ?? '';
  const createPack = (): void => {
    const name = freeName(packs.data ?? []);
    create.mutate(
      {
        name,
        note: '',
        splitBy: null,
        scope: 'company',
        sections: [newSection('cover', []), { ...newSection('text', []), text: EMPTY_TEXT } as never],
      },
      { onSuccess: ({ key }) => void navigate(`/c/${company.id}/packs/${key}`) },
    );
  };
  return (
    <Page
      title="Packs"
      words="Review packs for management: designed once, made every month"
      actions={
        <>
          <Link className="button" to={`/c/${company.id}/packs/companies`}>
            Companies
          </Link>
          <Link className="button" to={`/c/${company.id}/packs/schedules`}>
            Schedules
          </Link>
          <Link className="button" to={`/c/${company.id}/packs/outbox`}>
            Outbox
          </Link>
          <button type="button" className="button" disabled={!packs.data || create.isPending} onClick={createPack}>
            <Plus size={15} aria-hidden="true" /> New pack
          </button>
        </>
      }
    >
      {packs.isError ? <Failure error={packs.error} retry={() => void packs.refetch()} /> : null}
      {create.isError ? <Failure error={create.error} /> : null}
      {packs.isPending ? <Loading what="the packs" /> : null}
      {packs.data ? (
        <div className="mt-2 min-h-0 flex-1 overflow-auto pb-4">
          <table className="w-full max-w-6xl border-collapse text-[14px]">
            <thead>
              <tr className="border-b border-ink text-left">
                <th className="py-1 pr-4 font-semibold">Pack</th>
                <th className="py-1 pr-4 font-semibold">Scope</th>
                <th className="py-1 pr-4 text-right font-semibold">Sections</th>
                <th className="py-1 pr-4 font-semibold">{month}</th>
                <th className="py-1 font-semibold">Last issue</th>
              </tr>
            </thead>
            <tbody>
              {packs.data.map(({ key, name, note, scope, splitBy, sections, state, lastIssue }) => (
                <tr key={key} className="border-b border-hairline align-top hover:bg-wash">
                  <td className="py-1.5 pr-4">
                    <Link className="block" to={`/c/${company.id}/packs/${key}`}>
                      <span className="block text-[15px] font-semibold">{name}</span>
                      <span className="block text-[13px] text-ink-soft">
                        {[note, splitBy === null ? '' : `by ${splitBy}`].filter((text) => text !== '').join('; ')}
                      </span>
                    </Link>
                  </td>
                  <td className="py-1.5 pr-4">{SCOPES[scope]}</td>
                  <td className="py-1.5 pr-4 text-right tabular-nums">{sections}</td>
                  <td className="py-1.5 pr-4">{state === null ? <span className="text-ink-soft">Not started</span> : STATES[state]}</td>
                  <td className="py-1.5">
                    {lastIssue ? (
                      <Link className="link" to={`/c/${company.id}/packs/${key}/${lastIssue.id}`}>
                        {lastIssue.monthName}, issue {lastIssue.number}, {momentWords(lastIssue.at)}
                      </Link>
                    ) : (
                      <span className="text-ink-soft">None</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : null}
    </Page>
  );
}

function freeName(packs: PackListDto): string {
  const taken = new Set(packs.map(({ name }) => name.toLowerCase()));
  for (let number = 1; ; number += 1) {
    const name = number === 1 ? 'New pack' : `New pack ${number}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}
