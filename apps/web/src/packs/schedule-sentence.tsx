import type { MailListDto, PackListDto, ScheduleChange, ScheduledWork, ScheduleFormat, ViewListDto, Watch } from '@wise-margin/contract';
import { type ReactNode, useId } from 'react';

import { useCompany } from '../data/company.ts';
import { plainChoices } from '../data/statement-choices.ts';
import { useStatement } from '../data/use-statement.ts';
import { linesWithFigures } from './figure-picker.tsx';

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth'];
const BUSINESS_DAYS = [
  ...ORDINALS.map((name, at) => [`businessDay ${at + 1}`, `${name} business day`] as const),
  ['businessDay -1', 'last business day'] as const,
  ['businessDay -2', 'second to last business day'] as const,
];
const ordinal = (day: number): string => `${day}${['th', 'st', 'nd', 'rd'][day % 10 > 3 || Math.floor(day / 10) === 1 ? 0 : day % 10]}`;
const DAYS = Array.from({ length: 31 }, (_, at) => [`dayOfMonth ${at + 1}`, at === 30 ? '31st (or last day)' : ordinal(at + 1)] as const);
const FORMAT_NAMES = { pdf: 'PDF', docx: 'DOCX', xlsx: 'XLSX', html: 'HTML', csv: 'CSV' } as const;
/** Formats that a kind of work is written in; a watch report always has its table as CSV. */
const FORMATS: Readonly<Record<ScheduledWork['kind'], readonly ScheduleFormat[]>> = {
  pack: ['pdf', 'docx', 'xlsx', 'html'],
  view: ['pdf', 'docx', 'xlsx', 'csv'],
  watch: [],
};
const WATCHES: readonly (readonly [Watch['kind'], string])[] = [
  ['postings', 'postings to accounts'],
  ['tieOuts', 'tie-outs that fail'],
  ['drafts', 'draft entries'],
];
const EVERY = 'everyBusinessDay';
const dayKey = (day: ScheduleChange['day']): string => (day.kind === EVERY ? EVERY : `${day.kind} ${day.number}`);
const workKey = (what: ScheduledWork): string =>
  what.kind === 'pack' ? `pack ${what.pack}` : what.kind === 'view' ? `view ${what.view}` : `watch ${what.watch.kind}`;
function workOf(key: string): ScheduledWork {
  const at = key.indexOf(' ');
  const [kind, value] = [key.slice(0, at), key.slice(at + 1)];
  if (kind === 'pack') return { kind, pack: value };
  if (kind === 'view') return { kind, view: value };
  return { kind: 'watch', watch: value === 'postings' ? { kind: value, accounts: '' } : { kind: value as 'tieOuts' | 'drafts' } };
}
/** Zones by their names; the browser’s own first. */
const zones = (): string[] => {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return [own, ...Intl.supportedValuesOf('timeZone').filter((zone) => zone !== own)];
};
const timeText = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** A schedule as a sentence whose parts are its fields. */
export function ScheduleSentence({
  schedule,
  packs,
  views,
  lists,
  to,
  setTo,
  set,
}: {
  readonly schedule: ScheduleChange;
  readonly packs: PackListDto;
  readonly views: ViewListDto;
  readonly lists: readonly MailListDto[];
  /** the addresses as they are typed */
  readonly to: string;
  readonly setTo: (to: string) => void;
  readonly set: (schedule: ScheduleChange) => void;
}) {
  const { day, condition, what } = schedule;
  const formats = FORMATS[what.kind];
  // of postings it tells what came since the last time
  const isPostings = what.kind === 'watch' && what.watch.kind === 'postings';
  return (
    <div className="leading-9">
      On {day.kind === EVERY ? '' : 'the '}
      <Pick
        label="Day"
        value={dayKey(day)}
        options={[[EVERY, 'every business day'], ...BUSINESS_DAYS, ...DAYS]}
        set={(key) => {
          const [kind, number] = key.split(' ');
          set({
            ...schedule,
            day: kind === EVERY ? { kind } : { kind: kind as 'businessDay' | 'dayOfMonth', number: Number(number) },
          });
        }}
      />{' '}
      {day.kind === EVERY ? '' : 'of every month '}at{' '}
      <input
        type="time"
        aria-label="Time"
        className="sentence-field"
        value={timeText(schedule.minutes)}
        onChange={({ target: { value } }) => {
          const [hours, minutes] = value.split(':').map(Number);
          if (hours !== undefined && minutes !== undefined) set({ ...schedule, minutes: hours * 60 + minutes });
        }}
      />{' '}
      <Pick
        label="Time zone"
        value={schedule.zone}
        options={zones().map((zone) => [zone, zone.replaceAll('_', ' ')] as const)}
        set={(zone) => set({ ...schedule, zone })}
      />
      , {what.kind === 'pack' ? 'issue' : what.kind === 'view' ? 'prepare' : 'watch'}{' '}
      <select
        aria-label="What"
        className="sentence-field max-w-72"
        value={workKey(what)}
        onChange={({ target }) => {
          const next = workOf(target.value);
          set({ ...schedule, what: next, formats: next.kind === what.kind ? schedule.formats : FORMATS[next.kind].slice(0, 1) });
        }}
      >
        <WorkOptions label="Packs" options={packs.map(({ key, name }) => [`pack ${key}`, name])} />
        <WorkOptions label="Views" options={views.map(({ key, name }) => [`view ${key}`, name])} />
        <WorkOptions label="Watch reports" options={WATCHES.map(([kind, words]) => [`watch ${kind}`, words])} />
      </select>{' '}
      {what.kind === 'watch' && what.watch.kind === 'postings' ? (
        <input
          aria-label="Watched accounts"
          className="sentence-field w-44"
          placeholder="1990, 6900-6999"
          value={what.watch.accounts}
          onChange={({ target: { value } }) => set({ ...schedule, what: { kind: 'watch', watch: { kind: 'postings', accounts: value } } })}
        />
      ) : null}
      {isPostings ? ',' : 'for '}
      {isPostings ? null : (
        <Pick
          label="Month"
          value={schedule.of}
          options={[
            ['monthBefore', 'the month before'],
            ['month', 'that month'],
          ]}
          set={(of) => set({ ...schedule, of: of as ScheduleChange['of'] })}
        />
      )}{' '}
      and mail {what.kind === 'watch' ? 'what it finds' : null}
      <span role="group" aria-label="Attach" className="inline-flex gap-2">
        {formats.map((format) => (
          <label key={format} className="inline-flex items-center gap-1">
            <input
              type="checkbox"
              className="accent-copper"
              checked={schedule.formats.includes(format)}
              onChange={({ target: { checked } }) =>
                set({ ...schedule, formats: checked ? [...schedule.formats, format] : schedule.formats.filter((each) => each !== format) })
              }
            />
            {FORMAT_NAMES[format]}
          </label>
        ))}
      </span>{' '}
      to{' '}
      <input
        aria-label="To"
        className="sentence-field w-96 max-w-full"
        placeholder="name@company.com, name@company.com"
        value={to}
        onChange={({ target: { value } }) => setTo(value)}
      />
      {lists.length === 0 ? null : (
        <span role="group" aria-label="Lists" className="ml-2 inline-flex gap-2">
          {lists.map(({ name, addresses }) => (
            <label key={name} className="inline-flex items-center gap-1">
              <input
                type="checkbox"
                className="accent-copper"
                checked={schedule.lists.includes(name)}
                onChange={({ target: { checked } }) =>
                  set({ ...schedule, lists: checked ? [...schedule.lists, name] : schedule.lists.filter((each) => each !== name) })
                }
              />
              {name} ({addresses.length})
            </label>
          ))}
        </span>
      )}
      ,{' '}
      <Pick
        label="Only if"
        value={condition.kind}
        options={[
          ['always', 'always'],
          ['monthClosed', 'only if the month is closed'],
          ['findings', 'only if findings exceed their thresholds'],
          ['activity', 'only if a line has activity'],
        ]}
        set={(kind) =>
          set({
            ...schedule,
            condition:
              kind === 'activity' ? { kind, view: 'income', line: 'revenue' } : { kind: kind as 'always' | 'monthClosed' | 'findings' },
          })
        }
      />
      {condition.kind === 'activity' ? (
        <>
          {' '}
          <LinePick view={condition.view} value={condition.line} set={(line) => set({ ...schedule, condition: { ...condition, line } })} />
        </>
      ) : null}
      .
    </div>
  );
}

function WorkOptions({ label, options }: { readonly label: string; readonly options: readonly (readonly [string, string])[] }) {
  return (
    <optgroup label={label}>
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </optgroup>
  );
}

function LinePick({ view, value, set }: { readonly view: string; readonly value: string; readonly set: (line: string) => void }) {
  const company = useCompany();
  const grid = useStatement(company.id, view, plainChoices(company.lastActual ?? company.periods[0]!.key)).data;
  const lines = grid ? linesWithFigures(grid).map(({ key, name }) => [key, name] as const) : [];
  return <Pick label="Line" value={value} options={lines.some(([key]) => key === value) ? lines : [...lines, [value, value]]} set={set} />;
}

function Pick({
  label,
  value,
  options,
  set,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [string, ReactNode])[];
  readonly set: (value: string) => void;
}) {
  const id = useId();
  return (
    <select id={id} aria-label={label} className="sentence-field max-w-72" value={value} onChange={({ target }) => set(target.value)}>
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}
