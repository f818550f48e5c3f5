import { BASIS_KINDS, type BasisKind, formatAmount, minor, SPREAD_KINDS, SPREADS } from '@wise-margin/core';

import { useCompany } from '../../data/company.ts';
import { SentenceChoice, SentenceText } from '../../ui/sentence-field.tsx';
import { PaySentence } from './pay-sentence.tsx';
import type { SentenceProps } from './sentence-props.ts';
import { DriverSentence, FixedSentence } from './step-sentences.tsx';

/** The words a sentence begins with; what follows them is of its kind. */
const BEGINNINGS: Readonly<Record<BasisKind, string>> = {
  sameMonths: 'Same months',
  yearTotal: 'Annual total',
  averageYears: 'Average of the same months',
  latestMonths: 'Latest months',
  trend: 'Linear trend',
  percentOf: 'Percentage',
  driverRate: 'Driver',
  fixedMonths: 'Fixed amount',
  payroll: 'Payroll',
  typedTotal: 'Annual amount',
  typed: 'Manual entry',
};
const READS_HISTORY: readonly BasisKind[] = ['sameMonths', 'yearTotal', 'averageYears', 'latestMonths', 'trend', 'payroll'];
const ROUNDINGS = ['0', '1', '10', '100', '1000'] as const;

/** How a line's year is derived, as a sentence whose underlined parts are its fields. */
export function BasisSentence(props: SentenceProps) {
  const { draft, set } = props;
  return (
    <>
      <p className="text-[14px] leading-7">
        <SentenceChoice
          label="Basis of the year"
          value={draft.kind}
          options={BASIS_KINDS.map((kind) => [kind, BEGINNINGS[kind]] as const)}
          set={(kind) => set({ kind })}
        />
        <Method {...props} />.
      </p>
      {draft.kind === 'typed' || draft.kind === 'typedTotal' ? null : <Limits {...props} />}
    </>
  );
}

function Method(props: SentenceProps) {
  const { draft, set } = props;
  const changed = (
    <>
      , changed by <SentenceText label="Changed by percent" value={draft.change} set={(change) => set({ change })} /> %
    </>
  );
  const yearsBefore = (
    <>
      <SentenceText label="Years before" value={draft.years} set={(years) => set({ years })} />{' '}
      {draft.years.trim() === '1' ? 'year' : 'years'} before
    </>
  );
  switch (draft.kind) {
    case 'sameMonths':
      return (
        <>
          {' '}
          of <YearOf label="Year" {...props} />
          {changed} and by{' '}
          <SentenceText
            label="By amount a month"
            value={draft.changeAmount}
            empty="no amount"
            set={(changeAmount) => set({ changeAmount })}
          />{' '}
          a month
        </>
      );
    case 'yearTotal':
      return (
        <>
          : <YearOf label="Total of" {...props} />
          {changed}, spread <Shape {...props} />
        </>
      );
    case 'averageYears':
      return (
        <>
          {' '}
          of the {yearsBefore}
          {changed}
        </>
      );
    case 'latestMonths':
      return (
        <>
          : <SentenceText label="Latest months" value={draft.count} set={(count) => set({ count })} />, annualized
          {changed}
        </>
      );
    case 'trend':
      return (
        <>
          {' '}
          through{' '}
          <SentenceChoice
            label="Line through"
            value={draft.of}
            options={[
              ['years', 'the totals'],
              ['months', 'the months'],
            ]}
            set={(of) => set({ of })}
          />{' '}
          of the {yearsBefore},{' '}
          <SentenceChoice
            label="Shape of the line"
            value={draft.seasonal ? 'season' : 'plain'}
            options={[
              ['season', 'with average seasonality'],
              ['plain', 'without seasonality'],
            ]}
            set={(shape) => set({ seasonal: shape === 'season' })}
          />
        </>
      );
    case 'percentOf':
      return (
        <>
          : <SentenceText label="Percent" value={draft.percent} set={(percent) => set({ percent })} /> % of{' '}
          <SentenceText label="Of accounts" empty="accounts" value={draft.accounts} set={(accounts) => set({ accounts })} />,{' '}
          <SentenceChoice
            label="Percentage of"
            value={draft.baseOf}
            options={[
              ['own', 'own department'],
              ['sharedByHistory', 'whole company, allocated by history'],
              ['sharedByWeights', 'whole company, allocated by weights'],
              ['each', 'whole company for each line'],
            ]}
            set={(baseOf) => set({ baseOf })}
          />
          {draft.baseOf === 'sharedByWeights' ? (
            <>
              {': '}
              <SentenceText
                label="Weights of the lines"
                empty="Shop 1; Tours 3"
                value={draft.sharingWeights}
                set={(sharingWeights) => set({ sharingWeights })}
              />
            </>
          ) : null}
        </>
      );
    case 'driverRate':
      return <DriverSentence {...props} />;
    case 'fixedMonths':
      return <FixedSentence {...props} />;
    case 'payroll':
      return <PaySentence {...props} />;
    case 'typedTotal':
      return (
        <>
          {' '}
          : <SentenceText label="Total of the year" empty="amount" value={draft.total} set={(total) => set({ total })} /> for the year,
          spread <Shape {...props} />
        </>
      );
    case 'typed':
      return <>: months are zero until you enter them</>;
  }
}

/** A year with history. */
const YearOf = ({ label, draft, years, set }: SentenceProps & { readonly label: string }) => {
  const offered = [...new Set([...years, Number(draft.year)])].sort((a, b) => a - b);
  return (
    <SentenceChoice
      label={label}
      value={draft.year}
      options={offered.map((year) => [String(year), `FY${year}`] as const)}
      set={(year) => set({ year })}
    />
  );
};

/** The shape a total takes over the months, and what it needs besides. */
function Shape({ draft, set }: SentenceProps) {
  return (
    <>
      <SentenceChoice
        label="Spread"
        value={draft.spread}
        options={[
          ...SPREAD_KINDS.map((kind) => [kind, SPREADS[kind].words] as const),
          ['shares', 'with average seasonality'],
          ['line', 'in the pattern of other accounts'],
          ['weights', 'by custom weights'],
        ]}
        set={(spread) => set({ spread })}
      />
      {draft.spread === 'shares' ? (
        <>
          {' '}
          of the <SentenceText label="Years of seasonality" value={draft.spreadYears} set={(spreadYears) => set({ spreadYears })} /> prior
          years
        </>
      ) : null}
      {draft.spread === 'line' ? (
        <>
          {': '}
          <SentenceText label="Pattern of accounts" empty="accounts" value={draft.spreadLine} set={(spreadLine) => set({ spreadLine })} />
        </>
      ) : null}
      {draft.spread === 'weights' ? (
        <>
          {': '}
          <SentenceText label="Twelve weights" empty="1 1 2 2 …" value={draft.weights} set={(weights) => set({ weights })} />
        </>
      ) : null}
    </>
  );
}

/** What every sentence may add: its first month, rounding, limits, and how history is read. */
function Limits({ draft, months, excluded, set }: SentenceProps) {
  const { exponent } = useCompany();
  return (
    <p className="text-[13px] leading-6 text-ink-soft">
      From{' '}
      <SentenceChoice
        label="From month on"
        value={String(draft.fromMonth)}
        options={months.map((month, index) => [String(index), month] as const)}
        set={(from) => set({ fromMonth: Number(from) })}
      />{' '}
      on,{' '}
      <SentenceChoice
        label="Rounded to"
        value={draft.roundTo}
        options={[...new Set([...ROUNDINGS, draft.roundTo])].map((step) => [step, step === '0' ? 'not rounded' : `rounded to ${step}`])}
        set={(roundTo) => set({ roundTo })}
      />
      , minimum <SentenceText label="Minimum per month" empty="none" value={draft.least} set={(least) => set({ least })} /> and maximum{' '}
      <SentenceText label="Maximum per month" empty="none" value={draft.most} set={(most) => set({ most })} /> per month.
      {READS_HISTORY.includes(draft.kind) && (draft.kind !== 'payroll' || draft.currentStaffYear !== '') ? (
        <>
          {' '}
          Months without actuals:{' '}
          <SentenceChoice
            label="Months without actuals"
            value={draft.projected ? 'budget' : 'nothing'}
            options={[
              ['nothing', 'treat as zero'],
              ['budget', 'use the approved budget'],
            ]}
            set={(how) => set({ projected: how === 'budget' })}
          />
          ; nonrecurring items{' '}
          <SentenceChoice
            label="Nonrecurring items"
            value={draft.includeNonrecurring ? 'in' : 'out'}
            options={[
              ['out', 'excluded'],
              ['in', 'included'],
            ]}
            set={(how) => set({ includeNonrecurring: how === 'in' })}
          />
          {excluded === 0 ? null : (
            <>
              : <span className="font-semibold text-ink">{formatAmount(minor(excluded), { exponent, unit: 'dollars' })}</span>
            </>
          )}
          .
        </>
      ) : null}
    </p>
  );
}
