import { BASIS_KINDS, formatAmount, minor, SPREADS, SPREAD_KINDS, type BasisKind } from '@wise-margin/core';
import { useCompany } from '../../data/company.ts';
import { SentenceChoice, SentenceText } from '../../ui/sentence-field.tsx';
import type { SentenceProps } from './sentence-props.ts';
import { DriverSentence, FixedSentence } from './step-sentences.tsx';
import { PaySentence } from './pay-sentence.tsx';

/** The words a sentence begins with; what follows them is of its kind. */
const BEGINNINGS: Readonly<Record<BasisKind, string>> = {
  sameMonths: 'Same months',
  yearTotal: 'A year’s total',
  averageYears: 'Average of the same months',
  latestMonths: 'The latest months',
  trend: 'A straight line',
  percentOf: 'A percentage',
  driverRate: 'A driver',
  fixedMonths: 'A fixed amount',
  payroll: 'Pay of people',
  typedTotal: 'A typed total',
  typed: 'Typed by hand',
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
          label="How the year is derived"
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
          , <SentenceText label="Latest months" value={draft.count} set={(count) => set({ count })} /> of them, brought to a year
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
              ['season', 'in the shape of an average year'],
              ['plain', 'without a season'],
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
              ['own', 'each line of its own department'],
              ['sharedByHistory', 'of the whole company, shared by history'],
              ['sharedByWeights', 'of the whole company, shared by weights'],
              ['each', 'of the whole company for each line'],
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
          of <SentenceText label="Total of the year" empty="amount" value={draft.total} set={(total) => set({ total })} /> for the year,
          spread <Shape {...props} />
        </>
      );
    case 'typed':
      return <>: months not held are zero until they are typed in the grid</>;
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
          ['shares', 'in average shares'],
          ['line', 'as other accounts'],
          ['weights', 'by weights of its own'],
        ]}
        set={(spread) => set({ spread })}
      />
      {draft.spread === 'shares' ? (
        <>
          {' '}
          of the <SentenceText label="Years of shares" value={draft.spreadYears} set={(spreadYears) => set({ spreadYears })} /> years before
        </>
      ) : null}
      {draft.spread === 'line' ? (
        <>
          {': '}
          <SentenceText
            label="In the shape of accounts"
            empty="accounts"
            value={draft.spreadLine}
            set={(spreadLine) => set({ spreadLine })}
          />
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
function Limits({ draft, months, leftOut, set }: SentenceProps) {
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
      , at least <SentenceText label="At least a month" empty="anything" value={draft.least} set={(least) => set({ least })} /> and at most{' '}
      <SentenceText label="At most a month" empty="anything" value={draft.most} set={(most) => set({ most })} /> a month.
      {READS_HISTORY.includes(draft.kind) && (draft.kind !== 'payroll' || draft.besidesYear !== '') ? (
        <>
          {' '}
          Months not posted yet{' '}
          <SentenceChoice
            label="Months to come of a year"
            value={draft.projected ? 'budget' : 'nothing'}
            options={[
              ['nothing', 'count as nothing'],
              ['budget', 'count as budgeted'],
            ]}
            set={(how) => set({ projected: how === 'budget' })}
          />
          ; what does not recur{' '}
          <SentenceChoice
            label="One-offs"
            value={draft.withOneOffs ? 'in' : 'out'}
            options={[
              ['out', 'is left out'],
              ['in', 'is kept in'],
            ]}
            set={(how) => set({ withOneOffs: how === 'in' })}
          />
          {leftOut === 0 ? null : (
            <>
              : <span className="font-semibold text-ink">{formatAmount(minor(leftOut), { exponent, unit: 'dollars' })}</span>
            </>
          )}
          .
        </>
      ) : null}
    </p>
  );
}
