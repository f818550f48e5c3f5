import type { SuspectDto } from '@wise-margin/contract';
import { dayWords, postingAnswerWords } from '@wise-margin/presentation';
import { useMemo, useState } from 'react';

import { queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { Choice } from '../ui/choice.tsx';
import { Amount } from '../ui/figure.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useListColumns } from '../ui/use-list-columns.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { PostingPanel } from './posting-panel.tsx';
import { type PostingChoices, usePostingCheck } from './use-postings.ts';

const NO_EXTRA: readonly string[] = [];

/** Unusual postings, the most suspicious first; each is answered beside the list. */
export default function PostingsPage() {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const choices: PostingChoices = {
    show: search.get('show') === 'answered' ? 'answered' : 'open',
    from: search.get('from') ?? '',
    to: search.get('to') ?? '',
  };
  const check = usePostingCheck(company.id, choices);
  const [sort, setSort] = useState<ListSort>({ by: 'rank', descending: false });
  const chosenColumns = useListColumns('postings', NO_EXTRA);
  const columns = useMemo(() => postingColumns(company.exponent), [company.exponent]);
  const address = useDrillDownAddress();
  const posting = search.get('posting');
  const set = (name: string, value: string) =>
    setSearch((before) => {
      if (value === '') before.delete(name);
      else before.set(name, value);
      if (name !== 'posting') before.delete('posting');
      before.delete('entry');
    });
  const close = () => set('posting', '');
  useKeys({ Escape: () => (address.isOpen ? address.back() : posting === null ? undefined : close()) });
  useReturnFocus(address.isOpen || posting !== null, () => document.querySelector<HTMLElement>('[data-tab-stop]'));
  if (company.entryCount === 0)
    return <Empty title="No entries yet">Import a ledger on the Ledger page to have its postings checked.</Empty>;
  if (check.isError) return <Failure error={check.error} retry={() => void check.refetch()} />;
  if (!check.data) return <Loading what="the check of postings" />;
  const { suspects, count, answered, lines } = check.data;
  const chosen = suspects.find((suspect) => suspect.posting === posting);
  const months = [
    ['', 'any month'] as const,
    ...company.periods
      .filter(({ key }) => company.lastActual !== null && key <= company.lastActual)
      .map(({ key, name }) => [key, name] as const),
  ];
  return (
    <>
      <div className="no-print mb-2 flex flex-wrap items-center gap-x-5 gap-y-1 text-[13px]">
        <Choice
          label="Show"
          value={choices.show}
          options={[
            ['open', 'Open'],
            ['answered', 'Answered'],
          ]}
          choose={(value) => set('show', value === 'open' ? '' : value)}
        />
        <Choice label="From" value={choices.from} options={months} choose={(value) => set('from', value)} />
        <Choice label="To" value={choices.to} options={months} choose={(value) => set('to', value)} />
        <span role="status" className="text-ink-soft">
          {`${count.toLocaleString('en-US')} ${count === 1 ? 'posting' : 'postings'} of ${lines.toLocaleString('en-US')} lines${count > suspects.length ? `; the first ${suspects.length} are listed` : ''}, ${answered.toLocaleString('en-US')} answered.`}
        </span>
        <span className="flex-1" />
        <a className="link" href={`/api/companies/${company.id}/posting-checks/export.csv${queryText(choices)}`} download>
          Export CSV
        </a>
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        {suspects.length === 0 ? (
          <Empty title={choices.show === 'open' ? 'Nothing to look at' : 'No answers yet'}>
            {choices.show === 'open'
              ? 'No posting of these months stands out, or all that do are answered.'
              : 'Answers to suspected postings are listed here.'}
          </Empty>
        ) : (
          <List
            label="Unusual postings"
            rows={suspects}
            rowKey={({ posting: key }) => key}
            columns={columns}
            chosen={chosenColumns}
            sort={{ now: sort, set: setSort, isOfServer: false }}
            open={{
              words: ({ account, party, entry, period }) => `${entry?.number ?? `${account} ${period}`}${party === '' ? '' : `, ${party}`}`,
              act: (suspect) => () => set('posting', suspect.posting),
            }}
          />
        )}
        {address.isOpen ? (
          <DrillDownSteps
            address={address}
            outerCrumbs={
              <button type="button" className="link" onClick={address.close}>
                Reasons
              </button>
            }
          />
        ) : chosen ? (
          <PostingPanel key={chosen.posting} suspect={chosen} close={close} openEntry={address.openEntry} />
        ) : null}
      </div>
    </>
  );
}

function postingColumns(exponent: number): readonly ListColumn<SuspectDto>[] {
  return [
    {
      key: 'entry',
      name: 'Entry',
      value: ({ entry, period }) => entry?.number ?? period,
      cell: ({ entry, period }) => entry?.number ?? `none in ${period}`,
    },
    { key: 'rank', name: 'Rank', isAmount: true, value: ({ rank }) => rank, cell: ({ rank }) => rank },
    {
      key: 'date',
      name: 'Date',
      value: ({ entry, period }) => entry?.date ?? period,
      cell: ({ entry, period }) => (entry ? dayWords(entry.date) : period),
    },
    {
      key: 'account',
      name: 'Account',
      value: ({ account }) => account,
      cell: ({ account, accountName }) => `${account} ${accountName}`,
    },
    { key: 'party', name: 'Customer or vendor', value: ({ party }) => party, cell: ({ party }) => party },
    {
      key: 'amount',
      name: 'Amount',
      isAmount: true,
      value: ({ amount }) => amount,
      file: ({ amount }) => amount / 10 ** exponent,
      cell: ({ amount }) => <Amount value={amount} exponent={exponent} />,
    },
    {
      key: 'reason',
      name: 'Reason',
      most: 330,
      value: ({ reasons }) => reasons.map(({ words }) => words).join('; '),
      cell: ({ reasons }) => (
        <span title={reasons.map(({ words }) => words).join('; ')}>{reasons.map(({ words }) => words).join('; ')}</span>
      ),
    },
    { key: 'score', name: 'Score', isAmount: true, value: ({ score }) => score, cell: ({ score }) => score.toFixed(0) },
    {
      key: 'answer',
      name: 'Answer',
      value: ({ answer }) => (answer ? postingAnswerWords(answer.answer) : ''),
      cell: ({ answer }) => (answer ? postingAnswerWords(answer.answer) : ''),
    },
  ];
}
