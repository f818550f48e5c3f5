import type { MailListDto, PackListDto, ScheduleChange, ScheduleDto, ViewListDto } from '@wise-margin/contract';
import { Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { useMailLists } from '../data/use-mail.ts';
import { usePacks } from '../data/use-packs.ts';
import { useSchedules } from '../data/use-schedules.ts';
import { useViews } from '../data/use-views.ts';
import { zonedMomentWords } from '../ui/date-words.ts';
import { DeleteQuestion } from '../ui/delete-question.tsx';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { thisYear } from '../ui/today.ts';
import { addressesOf } from './mail-dialog.tsx';
import { ScheduleSentence } from './schedule-sentence.tsx';

const RUN_WORDS = { running: 'Running', done: 'Mailed', skipped: 'Skipped', failed: 'Failed' } as const;
const newSchedule = (): ScheduleChange => ({
  name: 'Monthly review',
  what: { kind: 'pack', pack: 'monthly-review' },
  of: 'monthBefore',
  day: { kind: 'businessDay', number: 4 },
  minutes: 450,
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  condition: { kind: 'always' },
  to: [],
  lists: [],
  subject: '{name}, {month}',
  text: 'The {name} of {company} for {month} is attached.\n\nOpen it in Wise Margin: {link}',
  formats: ['pdf'],
  isHeld: false,
});

/** Packs, views and watch reports that are mailed by themselves: each a sentence that is its form, with its next runs. */
export default function SchedulesPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const packs = usePacks(company.id, asOf);
  const views = useViews(company.id);
  const lists = useMailLists(company.id);
  const schedules = useSchedules(company.id);
  const [isAdding, setAdding] = useState(false);
  const list = schedules.data?.schedules ?? [];
  const choices = packs.data && views.data && lists.data ? { packs: packs.data, views: views.data, lists: lists.data } : null;
  return (
    <Page
      title="Schedules"
      words="Packs, views and watch reports that are mailed by themselves"
      actions={
        <>
          <Link className="button" to={`/c/${company.id}/packs/outbox`}>
            Outbox
          </Link>
          <button type="button" className="button" disabled={isAdding} onClick={() => setAdding(true)}>
            <Plus size={15} aria-hidden="true" /> New schedule
          </button>
        </>
      }
    >
      {schedules.isError ? <Failure error={schedules.error} retry={() => void schedules.refetch()} /> : null}
      {packs.isError ? <Failure error={packs.error} retry={() => void packs.refetch()} /> : null}
      {views.isError ? <Failure error={views.error} retry={() => void views.refetch()} /> : null}
      {lists.isError ? <Failure error={lists.error} retry={() => void lists.refetch()} /> : null}
      {schedules.isPending || packs.isPending || views.isPending || lists.isPending ? <Loading what="the schedules" /> : null}
      {schedules.data && choices ? (
        <div className="mt-2 min-h-0 flex-1 overflow-y-auto pb-4" tabIndex={0} role="region" aria-label="Schedules">
          {isAdding ? <Schedule key="new" schedule={null} choices={choices} schedules={schedules} done={() => setAdding(false)} /> : null}
          {list.length === 0 && !isAdding ? (
            <Empty
              title="No schedules yet"
              action={
                <button type="button" className="button" onClick={() => setAdding(true)}>
                  New schedule
                </button>
              }
            >
              A schedule mails a pack or a view on a day of every month, such as on the fourth business day at 7:30 AM, or watches the
              ledger and mails when it has something to say.
            </Empty>
          ) : null}
          {list.map((schedule) => (
            <Schedule
              key={`${schedule.id} ${JSON.stringify({ ...schedule, next: 0, runs: 0 })}`}
              schedule={schedule}
              choices={choices}
              schedules={schedules}
              done={() => undefined}
            />
          ))}
          <Holidays schedules={schedules} />
        </div>
      ) : null}
    </Page>
  );
}

type Schedules = ReturnType<typeof useSchedules>;
/** What a schedule can send, and the lists of people it can send it to. */
type Choices = { readonly packs: PackListDto; readonly views: ViewListDto; readonly lists: readonly MailListDto[] };

function Schedule({
  schedule,
  choices,
  schedules: { save, runNow, remove },
  done,
}: {
  readonly schedule: ScheduleDto | null;
  readonly choices: Choices;
  readonly schedules: Schedules;
  readonly done: () => void;
}) {
  const company = useCompany();
  const [draft, setDraft] = useState<ScheduleChange>(() => (schedule === null ? newSchedule() : changeOf(schedule)));
  const [to, setTo] = useState(draft.to.join(', '));
  const [isRemoving, setRemoving] = useState(false);
  const name = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (schedule === null) name.current?.focus();
  }, [schedule]);
  const change = { ...draft, to: addressesOf(to) };
  const isChanged = schedule === null || JSON.stringify(change) !== JSON.stringify(changeOf(schedule));
  const [last] = schedule?.runs ?? [];
  const isOwn = save.variables?.id === (schedule?.id ?? null);
  return (
    <section aria-label={draft.name} className="mb-3 max-w-5xl border border-hairline bg-sheet px-4 py-3 text-[15px]">
      <input
        ref={name}
        aria-label="Name of the schedule"
        className="min-h-7 w-full bg-transparent font-serif text-[17px] font-semibold"
        value={draft.name}
        onChange={({ target }) => setDraft({ ...draft, name: target.value })}
      />
      <ScheduleSentence schedule={draft} {...choices} to={to} setTo={setTo} set={setDraft} />
      {save.isError && isOwn ? <Failure error={save.error} /> : null}
      {runNow.isError && runNow.variables === schedule?.id ? <Failure error={runNow.error} /> : null}
      {remove.isError && remove.variables === schedule?.id ? <Failure error={remove.error} /> : null}
      {schedule === null ? null : (
        <p className="text-[13px] text-ink-soft">
          {schedule.isHeld ? 'On hold.' : `Next: ${schedule.next.map((at) => zonedMomentWords(at, schedule.zone)).join('; ') || 'never'}.`}
        </p>
      )}
      {schedule && last ? (
        <p className={`text-[13px] ${last.state === 'failed' ? 'text-brick' : 'text-ink-soft'}`}>
          Last run {zonedMomentWords(last.due, schedule.zone)}: {RUN_WORDS[last.state]}
          {last.note === '' ? '' : `, ${last.note}`}{' '}
          {last.issue === null || schedule.what.kind !== 'pack' ? null : (
            <Link className="link" to={`/c/${company.id}/packs/${schedule.what.pack}/${last.issue}`}>
              Open
            </Link>
          )}
        </p>
      ) : null}
      <div className="mt-2 flex flex-wrap gap-2">
        {isChanged ? (
          <button
            type="button"
            className="button button-primary"
            disabled={save.isPending}
            onClick={() => save.mutate({ id: schedule?.id ?? null, change }, { onSuccess: done })}
          >
            {schedule === null ? 'Create schedule' : 'Save'}
          </button>
        ) : null}
        {schedule === null ? (
          <button type="button" className="button" onClick={done}>
            Cancel
          </button>
        ) : (
          <>
            <button type="button" className="button" disabled={isChanged || runNow.isPending} onClick={() => runNow.mutate(schedule.id)}>
              {runNow.isPending && runNow.variables === schedule.id ? 'Running…' : 'Run now'}
            </button>
            <button
              type="button"
              className="button"
              disabled={isChanged}
              onClick={() => save.mutate({ id: schedule.id, change: { ...change, isHeld: !schedule.isHeld } })}
            >
              {schedule.isHeld ? 'Resume' : 'Hold'}
            </button>
            <button type="button" className="button" aria-expanded={isRemoving} onClick={() => setRemoving(!isRemoving)}>
              Delete
            </button>
          </>
        )}
      </div>
      {schedule !== null && isRemoving ? (
        <div className="mt-2">
          <DeleteQuestion
            label="Delete the schedule"
            action="Delete schedule"
            isPending={remove.isPending}
            act={() => remove.mutate(schedule.id)}
            cancel={() => setRemoving(false)}
          >
            {schedule.name} will mail nothing more. What it mailed stays in the outbox.
          </DeleteQuestion>
        </div>
      ) : null}
    </section>
  );
}

function changeOf({ id: _id, whatName: _name, next: _next, runs: _runs, ...change }: ScheduleDto): ScheduleChange {
  return change;
}

function Holidays({ schedules: { data, importHolidays } }: { readonly schedules: Schedules }) {
  const holidays = data?.holidays ?? [];
  const year = thisYear();
  const soon = holidays.filter(({ date }) => date.startsWith(String(year)));
  return (
    <section aria-label="Holidays" className="max-w-5xl text-[14px]">
      <h2 className="font-serif text-[17px] font-semibold">Holidays</h2>
      <p className="text-ink-soft">
        {holidays.length === 0
          ? 'Business days are Monday to Friday. Import a calendar file (.ics) to leave holidays out.'
          : `${holidays.length} days from a calendar file; ${soon.length} in ${year}${soon.length === 0 ? '' : `: ${soon.map(({ name }) => name).join(', ')}`}.`}
      </p>
      <label className="button mt-1 inline-block cursor-pointer focus-within:outline-2">
        Import holidays
        <input
          type="file"
          accept=".ics,text/calendar"
          className="sr-only"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) importHolidays.mutate(file);
            target.value = '';
          }}
        />
      </label>
      {importHolidays.isError ? <Failure error={importHolidays.error} /> : null}
    </section>
  );
}
