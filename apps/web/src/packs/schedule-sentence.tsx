import { PACK_FORMATS, type PackListDto, type ScheduleChange } from '@wise-margin/contract';
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
const FORMAT_NAMES = { pdf: 'PDF', docx: 'DOCX', xlsx: 'XLSX', html: 'HTML' } as const;
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
  to,
  setTo,
  set,
}: {
  readonly schedule: ScheduleChange;
  readonly packs: PackListDto;
  /** the addresses as they are typed */
  readonly to: string;
  readonly setTo: (to: string) => void;
  readonly set: (schedule: ScheduleChange) => void;
}) {
  const { day, condition } = schedule;
  return (
    <div className="leading-9">
      On the{' '}
      <Pick
        label="Day"
        value={`${day.kind} ${day.number}`}
        options={[...BUSINESS_DAYS, ...DAYS]}
        set={(key) => {
          const [kind, number] = key.split(' ');
          set({ ...schedule, day: { kind: kind as typeof day.kind, number: Number(number) } });
        }}
      />{' '}
      of every month at{' '}
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
      , issue{' '}
      <Pick
        label="Pack"
        value={schedule.pack}
        options={packs.map(({ key, name }) => [key, name] as const)}
        set={(pack) => set({ ...schedule, pack })}
      />{' '}
      for{' '}
      <Pick
        label="Month"
        value={schedule.of}
        options={[
          ['monthBefore', 'the month before'],
          ['month', 'that month'],
        ]}
        set={(of) => set({ ...schedule, of: of as ScheduleChange['of'] })}
      />{' '}
      and mail{' '}
      <span role="group" aria-label="Attach" className="inline-flex gap-2">
        {PACK_FORMATS.map((format) => (
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
      ,{' '}
      <Pick
        label="Only if"
        value={condition.kind}
        options={[
          ['always', 'always'],
          ['monthClosed', 'only if the month is closed'],
          ['findings', 'only if findings are past their limits'],
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

function LinePick({ view, value, set }: { readonly view: string; readonly value: string; readonly set: (line: string) => void }) {
  const company = useCompany();
  const grid = useStatement(company.id, view, plainChoices(company.lastPosted ?? company.periods[0]!.key)).data;
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
