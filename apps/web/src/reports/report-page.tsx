import {
  type FilterDto,
  filterParameters,
  isFilterParameter,
  readFilter,
  type ReportDto,
  type ReportKey,
  type ReportRowDto,
  REPORTS,
} from '@wise-margin/contract';
import { reportCellText } from '@wise-margin/presentation';
import { Download, Printer } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Navigate, NavLink, useLocation, useNavigate, useParams } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { List, type ListSort } from '../ui/list.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useListColumns } from '../ui/use-list-columns.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { CHOICES, chosenIn, readChoices, rememberChoices, rememberedChoices, REPORT_NAMES } from './report-choices.ts';
import { type ListedRow, reportColumns } from './report-columns.tsx';
import { ReportToolbar } from './report-toolbar.tsx';
import { queryOf, useReport } from './use-report.ts';

const FORMATS = [
  ['pdf', 'PDF'],
  ['xlsx', 'Spreadsheet'],
  ['csv', 'CSV'],
] as const;
const NO_EXTRA: readonly string[] = [];

/** The reports on the ledger, one at a time, each as it was last run. */
export default function ReportPage() {
  const { report: name } = useParams();
  const report = REPORTS.find((key) => key === name);
  const company = useCompany();
  const { search } = useLocation();
  const [asOf] = useAsOf();
  if (!report) return <Navigate to="../trial-balance" relative="path" replace />;
  if (company.entryCount === 0 || asOf === null)
    return <Empty title="No entries yet">Import a ledger on the Imports tab to see reports on it.</Empty>;
  const remembered = rememberedChoices(company.id, report);
  if (chosenIn(report, new URLSearchParams(search)) === '' && remembered !== '' && !new URLSearchParams(search).has('reset')) {
    const next = new URLSearchParams(search);
    for (const [key, value] of new URLSearchParams(remembered)) next.append(key, value);
    return <Navigate to={`?${next.toString()}`} replace />;
  }
  return <OpenReport key={report} report={report} asOf={asOf} />;
}

function OpenReport({ report, asOf }: { readonly report: ReportKey; readonly asOf: string }) {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const choices = readChoices(report, search, asOf);
  const filter = readFilter(search);
  const query = queryOf(report, choices, filter);
  const data = useReport(company.id, report, query);
  const address = useDrillDownAddress();
  useMonthKeys();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => document.querySelector<HTMLElement>('[data-tab-stop]'));
  const chosen = chosenIn(report, search);
  useEffect(() => rememberChoices(company.id, report, chosen), [company.id, report, chosen]);
  const first = data.data?.pages[0];
  return (
    <>
      <div className="no-print mb-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
        <nav aria-label="Reports" className="flex flex-wrap gap-4">
          {REPORTS.map((key) => (
            <NavLink key={key} to={`../${key}`} relative="path" className={({ isActive }) => (isActive ? 'font-semibold' : 'link')}>
              {REPORT_NAMES[key]}
            </NavLink>
          ))}
        </nav>
        <span className="flex-1" />
        <button type="button" className="link flex items-center gap-1" onClick={() => window.print()}>
          <Printer size={14} aria-hidden="true" /> Print
        </button>
        {FORMATS.map(([format, words]) => (
          <a
            key={format}
            className="link flex items-center gap-1"
            href={`/api/companies/${company.id}/reports/${report}/export.${format}${query}`}
            download
          >
            <Download size={14} aria-hidden="true" /> {words}
          </a>
        ))}
      </div>
      <div className="no-print mb-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
        <ReportToolbar
          report={report}
          choices={choices}
          filter={filter}
          asOf={asOf}
          set={(key, value) =>
            setSearch((before) => {
              before.set(key, value);
              if (value === CHOICES[report][key] && key !== 'range') before.delete(key);
              if (chosenIn(report, before) === '') before.set('reset', '');
            })
          }
          setFilter={(next) =>
            setSearch((before) => {
              for (const key of [...before.keys()]) if (isFilterParameter(key)) before.delete(key);
              for (const [key, value] of filterParameters(next)) before.append(key, value);
            })
          }
        />
      </div>
      {first ? <Head report={first} /> : null}
      <div className="flex min-h-0 flex-1 pb-3">
        {data.isError ? (
          <Failure error={data.error} retry={() => void data.refetch()} />
        ) : !first ? (
          <Loading what={REPORT_NAMES[report].toLowerCase()} />
        ) : first.count === 0 ? (
          <NothingFound report={report} />
        ) : (
          <ReportRows
            pages={data.data!.pages}
            more={data.hasNextPage && !data.isFetchingNextPage ? () => void data.fetchNextPage() : undefined}
            address={address}
          />
        )}
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
    </>
  );
}

/** What the figures are of, and what a reader has to know about them. */
function Head({ report }: { readonly report: ReportDto }) {
  const { words, notes, sides } = report;
  const isEven = sides === null || sides.debits === sides.credits;
  return (
    <div className="mb-1.5 text-[13px] text-ink-soft">
      <span className="font-semibold text-ink">{report.title}</span>, {words.join('; ')}.{' '}
      {sides ? (
        <strong className={isEven ? 'text-pine' : 'text-brick'}>{isEven ? 'Debits equal credits.' : 'Debits do not equal credits.'}</strong>
      ) : null}
      {notes.map(({ text, isWarning }) => (
        <span key={text} className={isWarning ? 'font-semibold text-brick' : ''}>
          {' '}
          {text}
        </span>
      ))}
    </div>
  );
}

function ReportRows({
  pages,
  more,
  address,
}: {
  readonly pages: readonly ReportDto[];
  readonly more: (() => void) | undefined;
  readonly address: ReturnType<typeof useDrillDownAddress>;
}) {
  const { exponent } = useCompany();
  const head = pages[0]!;
  const chosen = useListColumns(`report.${head.key}`, NO_EXTRA);
  const [sort, setSort] = useState<ListSort>({ by: '', descending: false });
  const rows = useMemo(() => pages.flatMap((page) => page.rows).map((row, at): ListedRow => ({ ...row, at })), [pages]);
  const isFlat = rows.every(({ kind }) => kind !== 'section');
  // a list that is sorted here has all of its rows
  useEffect(() => {
    if (isFlat && more) more();
  }, [isFlat, more]);
  const totalAt = isFlat ? rows.findIndex(({ kind }) => kind === 'total') : -1;
  const total = rows[totalAt];
  const columns = useMemo(() => reportColumns(head, { exponent, isSorted: isFlat, total }), [head, exponent, isFlat, total]);
  const listed = totalAt === -1 ? rows : rows.slice(0, totalAt);
  const below = totalAt === -1 ? [] : rows.slice(totalAt + 1);
  const opener = useOpener(address, head.key === 'aging');
  return (
    <List
      label={head.title}
      rows={listed}
      rowKey={({ at }) => at}
      columns={columns}
      chosen={chosen}
      sort={{ now: sort, set: setSort, isOfServer: sort.by === '' || !isFlat }}
      open={{ words: (row) => rowWords(row, head, exponent), act: opener }}
      kindOf={({ kind }) => kind}
      isMarked={({ link }) => link?.to === 'entry' && link.entry === address.state.entry}
      foot={(shown) =>
        below.map((row) => (
          <tr key={row.at} className="font-normal">
            {shown.map(({ key, cell, isAmount }) => (
              <td key={key} className={isAmount ? 'figure' : 'px-3!'}>
                {cell(row)}
              </td>
            ))}
          </tr>
        ))
      }
      more={more}
    />
  );
}

/** What a row opens: its entry or account beside the report, or a list of what makes it. */
function useOpener(address: ReturnType<typeof useDrillDownAddress>, isAging: boolean): (row: ListedRow) => (() => void) | null {
  const company = useCompany();
  const navigate = useNavigate();
  const [search, setSearch] = useSearch();
  const drafts = search.get('drafts') === 'yes';
  const openParty = (party: string) =>
    setSearch((before) => {
      before.set('party', party);
      before.set('detail', 'yes');
    });
  const openEntries = (filter: FilterDto) =>
    void navigate(`/c/${company.id}/ledger/entries?${new URLSearchParams(filterParameters(filter)).toString()}`);
  return ({ link }) => {
    switch (link?.to) {
      case 'entry':
        return () => address.openEntry(link.entry);
      case 'account':
        return () =>
          address.openAccount({
            account: link.account,
            from: link.from,
            to: link.until,
            filter: readFilter(search),
            opening: false,
            drafts,
          });
      case 'detail':
        return () =>
          void navigate(
            `/c/${company.id}/ledger/reports/account-detail?${new URLSearchParams([['accounts', link.account], ['range', search.get('range') ?? ''], ...filterParameters(readFilter(search))]).toString()}`,
          );
      case 'party':
        return isAging ? () => openParty(link.party) : () => openEntries({ party: [link.party] });
      case 'journal':
        return () => openEntries({ source: [link.journal] });
      case undefined:
        return null;
    }
  };
}

/** A row in full for who cannot see it. */
function rowWords({ cells }: ReportRowDto, { columns, unit }: ReportDto, exponent: number): string {
  return columns
    .flatMap((column, at) => {
      const text = reportCellText(cells[at]!, column, { unit, exponent });
      return text === '' || text === '–' ? [] : [column.kind === 'text' || column.kind === 'date' ? text : `${column.heading} ${text}`];
    })
    .join(', ');
}

function NothingFound({ report }: { readonly report: ReportKey }) {
  const words: Readonly<Record<ReportKey, string>> = {
    'trial-balance': 'No account has a balance or movement in these months under these filters.',
    'account-detail':
      'No chosen account has an entry in these months. Choose other months, or show accounts without movement under Filters.',
    journals: 'No entry was posted in these months under these filters.',
    activity: 'No line of these months names a customer or vendor.',
    aging: 'Nothing was open on this day. Choose another day.',
  };
  return <p className="flex-1 border border-hairline bg-sheet p-4 text-ink-soft">{words[report]}</p>;
}
