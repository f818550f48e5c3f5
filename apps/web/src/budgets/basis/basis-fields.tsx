import { SPREADS, SPREAD_KINDS } from '@wise-margin/core';
import { Plus, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { useCompany } from '../../shell/company.ts';
import { CheckField, SelectField, TextField } from '../../ui/labeled-field.tsx';
import { NEW_POSITION, type BasisDraft } from './basis-draft.ts';

type Props = {
  readonly draft: BasisDraft;
  readonly months: readonly string[];
  readonly years: readonly number[];
  readonly set: (part: Partial<BasisDraft>) => void;
};

/** The fields of the chosen kind, in the order of its sentence. */
export function BasisFields({ draft, months, years, set }: Props) {
  const { statistics } = useCompany();
  const change = <TextField label="Changed by percent" short="%" value={draft.change} set={(value) => set({ change: value })} />;
  switch (draft.kind) {
    case 'sameMonths':
      return (
        <Row>
          <SelectField
            label="Year"
            value={draft.year}
            options={years.map((year) => [String(year), `FY${year}`] as const)}
            set={(year) => set({ year })}
          />
          {change}
          <TextField
            label="By amount a month"
            value={draft.changeAmount}
            placeholder="none"
            set={(changeAmount) => set({ changeAmount })}
          />
        </Row>
      );
    case 'yearTotal':
      return (
        <Row>
          <SelectField
            label="Total of"
            value={draft.year}
            options={years.map((year) => [String(year), `FY${year}`] as const)}
            set={(year) => set({ year })}
          />
          {change}
          <SpreadFields draft={draft} set={set} />
        </Row>
      );
    case 'averageYears':
      return (
        <Row>
          <TextField label="Years before" value={draft.years} set={(value) => set({ years: value })} />
          {change}
        </Row>
      );
    case 'latestMonths':
      return (
        <Row>
          <TextField label="Latest months" value={draft.count} set={(count) => set({ count })} />
          {change}
        </Row>
      );
    case 'trend':
      return (
        <Row>
          <SelectField
            label="Line through"
            value={draft.of}
            options={[
              ['years', 'the years'],
              ['months', 'the months'],
            ]}
            set={(of) => set({ of: of as BasisDraft['of'] })}
          />
          <TextField label="Years before" value={draft.years} set={(value) => set({ years: value })} />
          <div className="col-span-2">
            <CheckField label="In the shape of an average year" checked={draft.seasonal} set={(seasonal) => set({ seasonal })} />
          </div>
        </Row>
      );
    case 'percentOf':
      return (
        <Row>
          <TextField label="Percent" short="%" value={draft.percent} set={(percent) => set({ percent })} />
          <TextField label="Of accounts" placeholder="4000-4199" value={draft.accounts} set={(accounts) => set({ accounts })} />
          <div className="col-span-2">
            <CheckField label="Of every department together" checked={draft.everywhere} set={(everywhere) => set({ everywhere })} />
          </div>
        </Row>
      );
    case 'driverRate':
      return (
        <>
          <Row>
            <SelectField
              label="Driver"
              value={draft.series}
              options={[...statistics.map((series) => [series, series] as const), ['', 'Typed numbers'] as const]}
              set={(series) => set({ series })}
            />
          </Row>
          {draft.series === '' ? (
            <TextField label="What is counted" value={draft.driverName} set={(driverName) => set({ driverName })} />
          ) : null}
          {draft.series === '' ? (
            <TextField
              label="Numbers of the twelve months"
              placeholder="120 140 150 …"
              value={draft.numbers}
              set={(numbers) => set({ numbers })}
            />
          ) : null}
          <Steps label="Rate" draft={draft} months={months} set={set} />
        </>
      );
    case 'fixedMonths':
      return (
        <>
          <Steps label="Amount a month" draft={draft} months={months} set={set} />
          <fieldset className="mt-2">
            <legend className="text-ink-soft">Only in these months (none chosen: in all)</legend>
            <div className="grid grid-cols-6 gap-x-1">
              {months.map((month, index) => (
                <CheckField
                  key={month}
                  label={month}
                  checked={draft.onlyMonths.includes(index)}
                  set={(on) =>
                    set({
                      onlyMonths: on
                        ? [...draft.onlyMonths, index].sort((a, b) => a - b)
                        : draft.onlyMonths.filter((each) => each !== index),
                    })
                  }
                />
              ))}
            </div>
          </fieldset>
        </>
      );
    case 'payroll':
      return <Positions draft={draft} months={months} set={set} />;
    case 'typedTotal':
      return (
        <Row>
          <TextField label="Total of the year" value={draft.total} set={(total) => set({ total })} />
          <SpreadFields draft={draft} set={set} />
        </Row>
      );
    case 'typed':
      return <p className="mt-2 text-ink-soft">Months not held go to zero; type them in the grid.</p>;
  }
}

/** The shape over the months, and what it needs besides. */
function SpreadFields({ draft, set }: Pick<Props, 'draft' | 'set'>) {
  return (
    <>
      <SelectField
        label="Spread"
        value={draft.spread}
        options={[
          ...SPREAD_KINDS.map((kind) => [kind, SPREADS[kind].words] as const),
          ['shares', 'average shares of years'],
          ['line', 'as other accounts'],
          ['weights', 'by weights of its own'],
        ]}
        set={(spread) => set({ spread })}
      />
      {draft.spread === 'shares' ? (
        <TextField label="Years of shares" value={draft.spreadYears} set={(spreadYears) => set({ spreadYears })} />
      ) : null}
      {draft.spread === 'line' ? (
        <TextField label="In the shape of accounts" placeholder="4010" value={draft.spreadLine} set={(spreadLine) => set({ spreadLine })} />
      ) : null}
      {draft.spread === 'weights' ? (
        <TextField label="Twelve weights" placeholder="1 1 2 2 …" value={draft.weights} set={(weights) => set({ weights })} />
      ) : null}
    </>
  );
}

/** Amounts or rates, each holding from a month on. */
function Steps({ label, draft, months, set }: { readonly label: string } & Omit<Props, 'years'>) {
  const change = (index: number, part: Partial<BasisDraft['steps'][number]>) =>
    set({ steps: draft.steps.map((step, at) => (at === index ? { ...step, ...part } : step)) });
  return (
    <div className="mt-2">
      {draft.steps.map(({ from, value }, index) => (
        <div key={index} className="mb-1 flex items-end gap-2">
          <TextField
            label={index === 0 ? label : `${label}, step ${index + 1}`}
            value={value}
            set={(text) => change(index, { value: text })}
          />
          <SelectField
            label={index === 0 ? 'From' : `From, step ${index + 1}`}
            value={String(from)}
            options={months.map((month, at) => [String(at), month] as const)}
            set={(text) => change(index, { from: Number(text) })}
          />
          {draft.steps.length > 1 ? (
            <Remove label={`step ${index + 1}`} act={() => set({ steps: draft.steps.filter((_, at) => at !== index) })} />
          ) : null}
        </div>
      ))}
      <Add
        label="Step"
        act={() =>
          set({
            steps: [...draft.steps, { from: Math.min(11, (draft.steps.at(-1)?.from ?? 0) + 1), value: draft.steps.at(-1)?.value ?? '' }],
          })
        }
      />
    </div>
  );
}

function Positions({ draft, months, set }: Omit<Props, 'years'>) {
  const change = (index: number, part: Partial<BasisDraft['positions'][number]>) =>
    set({ positions: draft.positions.map((position, at) => (at === index ? { ...position, ...part } : position)) });
  const monthOptions = months.map((month, at) => [String(at), month] as const);
  return (
    <div className="mt-2">
      {draft.positions.map((position, index) => (
        <fieldset key={index} className="mb-2 border-b border-hairline pb-2">
          <legend className="text-ink-soft">Position {index + 1}</legend>
          <Row>
            <TextField label={`Name, position ${index + 1}`} value={position.name} set={(name) => change(index, { name })} />
            <TextField label={`Heads, position ${index + 1}`} value={position.heads} set={(heads) => change(index, { heads })} />
            <TextField label={`Yearly pay, position ${index + 1}`} value={position.pay} set={(pay) => change(index, { pay })} />
            <SelectField
              label={`Starts, position ${index + 1}`}
              value={String(position.start)}
              options={monthOptions}
              set={(start) => change(index, { start: Number(start) })}
            />
            <SelectField
              label={`Raised from, position ${index + 1}`}
              value={String(position.raiseFrom)}
              options={[['-1', 'Not raised'], ...monthOptions]}
              set={(raiseFrom) => change(index, { raiseFrom: Number(raiseFrom) })}
            />
            {position.raiseFrom < 0 ? null : (
              <TextField
                label={`Raise in percent, position ${index + 1}`}
                short="%"
                value={position.raise}
                set={(raise) => change(index, { raise })}
              />
            )}
          </Row>
          {draft.positions.length > 1 ? (
            <Remove label={`position ${index + 1}`} act={() => set({ positions: draft.positions.filter((_, at) => at !== index) })} />
          ) : null}
        </fieldset>
      ))}
      <Add label="Position" act={() => set({ positions: [...draft.positions, NEW_POSITION] })} />
      <TextField label="Costs on top of pay, percent" short="%" value={draft.onCost} set={(onCost) => set({ onCost })} />
    </div>
  );
}

const Row = ({ children }: { readonly children: ReactNode }) => (
  <div className="mt-2 grid grid-cols-2 items-end gap-x-2 gap-y-1">{children}</div>
);

const Add = ({ label, act }: { readonly label: string; readonly act: () => void }) => (
  <button type="button" className="link flex items-center gap-1" onClick={act}>
    <Plus size={13} aria-hidden="true" /> {label}
  </button>
);
const Remove = ({ label, act }: { readonly label: string; readonly act: () => void }) => (
  <button
    type="button"
    aria-label={`Remove ${label}`}
    className="flex min-h-8 min-w-6 items-center justify-center text-ink-soft hover:text-ink"
    onClick={act}
  >
    <Trash2 size={14} aria-hidden="true" />
  </button>
);
