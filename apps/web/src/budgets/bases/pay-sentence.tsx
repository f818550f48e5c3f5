import { SentenceChoice, SentenceText } from '../../ui/sentence-field.tsx';
import { NEW_POSITION, type PositionDraft } from './basis-draft.ts';
import { Add, Remove } from './list-buttons.tsx';
import type { SentenceProps } from './sentence-props.ts';

/** Current staff, then a line for each position, and payroll taxes and benefits. */
export function PaySentence({ draft, months, years, set }: SentenceProps) {
  const { positions, currentStaffYear } = draft;
  const monthOptions = months.map((month, at) => [String(at), month] as const);
  const change = (index: number, part: Partial<PositionDraft>) =>
    set({ positions: positions.map((position, at) => (at === index ? { ...position, ...part } : position)) });
  return (
    <>
      :{' '}
      <SentenceChoice
        label="Current staff"
        value={currentStaffYear}
        options={[['', 'none'], ...years.map((year) => [String(year), `same months of FY${year}`] as const)]}
        set={(year) => set({ currentStaffYear: year })}
      />
      {currentStaffYear === '' ? null : (
        <>
          , changed by{' '}
          <SentenceText
            label="Current pay changed by percent"
            value={draft.currentStaffChange}
            set={(text) => set({ currentStaffChange: text })}
          />{' '}
          %, plus
        </>
      )}
      {positions.map((position, index) => {
        const named = (words: string) => `${words}, position ${index + 1}`;
        return (
          <span key={index} role="group" aria-label={`Position ${index + 1}`} className="my-0.5 block border-l-2 border-hairline pl-2">
            <SentenceText label={named('Headcount')} value={position.heads} set={(heads) => change(index, { heads })} /> ×{' '}
            <SentenceText label={named('Name')} empty="who" value={position.name} set={(name) => change(index, { name })} /> at{' '}
            <SentenceText label={named('Yearly pay')} empty="pay" value={position.pay} set={(pay) => change(index, { pay })} /> a year from{' '}
            <SentenceChoice
              label={named('Starts')}
              value={String(position.start)}
              options={monthOptions}
              set={(start) => change(index, { start: Number(start) })}
            />
            ,{' '}
            <SentenceChoice
              label={named('Raise from')}
              value={String(position.raiseFrom)}
              options={[['-1', 'no raise'], ...monthOptions.map(([at, month]) => [at, `raise in ${month}`] as const)]}
              set={(raiseFrom) => change(index, { raiseFrom: Number(raiseFrom) })}
            />
            {position.raiseFrom < 0 ? null : (
              <>
                {' '}
                by <SentenceText label={named('Raise in percent')} value={position.raise} set={(raise) => change(index, { raise })} /> %
              </>
            )}
            {positions.length > 1 ? (
              <Remove label={`position ${index + 1}`} act={() => set({ positions: positions.filter((_, at) => at !== index) })} />
            ) : null}
          </span>
        );
      })}
      <Add label="Position" act={() => set({ positions: [...positions, NEW_POSITION] })} /> with{' '}
      <SentenceText label="Payroll taxes and benefits, percent" value={draft.onCost} set={(onCost) => set({ onCost })} /> % for payroll
      taxes and benefits
    </>
  );
}
