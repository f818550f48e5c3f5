import { useCompany } from '../../data/company.ts';
import { CheckField } from '../../ui/labeled-field.tsx';
import { SentenceChoice, SentenceText } from '../../ui/sentence-field.tsx';
import type { BasisDraft } from './basis-draft.ts';
import { Add, Remove } from './list-buttons.tsx';
import type { SentenceProps } from './sentence-props.ts';

/** `: guests, times 42.50 from Apr, then 44 from Sep`. */
export function DriverSentence(props: SentenceProps) {
  const { draft, set } = props;
  const { statistics } = useCompany();
  return (
    <>
      :{' '}
      <SentenceChoice
        label="Driver"
        value={draft.series}
        options={[...new Set([...statistics, ...(draft.series === '' ? [] : [draft.series]), ''])].map(
          (series) => [series, series.replaceAll('_', ' ') || 'entered values'] as const,
        )}
        set={(series) => set({ series })}
      />
      {draft.series === '' ? (
        <>
          {' '}
          of <SentenceText label="What is counted" empty="what" value={draft.driverName} set={(driverName) => set({ driverName })} />,{' '}
          <SentenceText
            label="Numbers of the twelve months"
            empty="120 140 150 …"
            value={draft.numbers}
            set={(numbers) => set({ numbers })}
          />
        </>
      ) : null}
      , times <Steps label="Rate" empty="rate" {...props} />
    </>
  );
}

/** ` of 5,000 a month from Apr, then 5,400 from Sep, in every month`. */
export function FixedSentence(props: SentenceProps) {
  const { draft, months, set } = props;
  const inSome = draft.inSomeMonths;
  return (
    <>
      {' '}
      a month, <Steps label="Amount a month" empty="amount" {...props} />,{' '}
      <SentenceChoice
        label="In which months"
        value={inSome ? 'some' : 'all'}
        options={[
          ['all', 'in every month'],
          ['some', 'only in these months'],
        ]}
        set={(which) => set({ inSomeMonths: which === 'some' })}
      />
      {inSome ? (
        <span className="my-1 grid grid-cols-6 gap-x-1">
          {months.map((month, index) => (
            <CheckField
              key={month}
              label={month}
              checked={draft.onlyMonths.includes(index)}
              set={(on) =>
                set({
                  onlyMonths: on ? [...draft.onlyMonths, index].sort((a, b) => a - b) : draft.onlyMonths.filter((each) => each !== index),
                })
              }
            />
          ))}
        </span>
      ) : null}
    </>
  );
}

/** Amounts or rates, each holding from a month on: `5,000 from Apr, then 5,400 from Sep`. */
function Steps({ label, empty, draft, months, set }: SentenceProps & { readonly label: string; readonly empty: string }) {
  const { steps } = draft;
  const change = (index: number, part: Partial<BasisDraft['steps'][number]>) =>
    set({ steps: steps.map((step, at) => (at === index ? { ...step, ...part } : step)) });
  const last = steps.at(-1);
  const named = (words: string, index: number) => (index === 0 ? words : `${words}, step ${index + 1}`);
  return (
    <>
      {steps.map(({ from, value }, index) => (
        <span key={index}>
          {index === 0 ? '' : ', then '}
          <SentenceText label={named(label, index)} empty={empty} value={value} set={(text) => change(index, { value: text })} /> from{' '}
          <SentenceChoice
            label={named('From', index)}
            value={String(from)}
            options={months.map((month, at) => [String(at), month] as const)}
            set={(text) => change(index, { from: Number(text) })}
          />
          {steps.length > 1 ? (
            <Remove label={`step ${index + 1}`} act={() => set({ steps: steps.filter((_, at) => at !== index) })} />
          ) : null}
        </span>
      ))}{' '}
      <Add label="Step" act={() => set({ steps: [...steps, { from: Math.min(11, (last?.from ?? 0) + 1), value: last?.value ?? '' }] })} />
    </>
  );
}
