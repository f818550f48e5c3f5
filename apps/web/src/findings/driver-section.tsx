import type { LineDriverDto, PriceVolumeDto, VarianceExplanationDto } from '@wise-margin/contract';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { useSetLineDriver } from '../data/use-findings.ts';
import { Choice } from '../ui/choice.tsx';
import { Amount } from '../ui/figure.tsx';
import { Bridge } from './bridge.tsx';
import type { Layout } from './parts-table.tsx';
import { Section } from './section.tsx';

type DriverOf = NonNullable<VarianceExplanationDto['driver']>;
const units = (volume: number | null): string => volume?.toLocaleString('en-US', { maximumFractionDigits: 2 }) ?? 'none';
const named = (name: string): string => name.replaceAll('_', ' ');

/** A difference by volume, mix and price, where the line goes by a statistic; and which statistic that is. */
export function DriverSection({
  explanation,
  isAgainstBudget,
}: {
  readonly explanation: VarianceExplanationDto;
  readonly isAgainstBudget: boolean;
}) {
  const { driver, line } = explanation;
  const [isChanging, setChanging] = useState(false);
  const [isBridge, setBridge] = useState(false);
  if (driver === null || driver.series.length === 0) return null;
  const { chosen, split, missing } = driver;
  return (
    <Section title="Price and volume">
      {chosen === null || isChanging ? (
        <DriverForm key={line.key} line={line.key} driver={driver} done={() => setChanging(false)} />
      ) : (
        <p className="text-[13px]">
          By {named(chosen.series)}
          {chosen.planned === '' ? '' : `, planned as ${named(chosen.planned)}`}
          {chosen.input === '' ? '' : `; ${named(chosen.input)} used for it`}.{' '}
          <button type="button" className="link" onClick={() => setChanging(true)}>
            Change
          </button>
        </p>
      )}
      {chosen !== null && missing !== '' ? <p className="text-[13px] text-brick">{missing}</p> : null}
      {split ? (
        <>
          <button type="button" className="link text-[13px]" aria-pressed={isBridge} onClick={() => setBridge(!isBridge)}>
            {isBridge ? 'Show as a table' : 'Show as a bridge'}
          </button>
          {isBridge ? (
            <Bridge
              explanation={explanation}
              layout={layoutOf(split)}
              comparison={isAgainstBudget ? 'budget' : 'priorYear'}
              addressOf={() => null}
              openEntry={() => undefined}
            />
          ) : (
            <Split split={split} headings={explanation.headings} isAgainstBudget={isAgainstBudget} />
          )}
        </>
      ) : null}
    </Section>
  );
}

/** Volume, mix and price as steps of a bridge. */
const layoutOf = ({ parts, compared, base }: PriceVolumeDto): Layout => ({
  by: 'price-volume',
  name: 'Price and volume',
  parts: parts.map(({ kind, name, amount }) => ({ key: kind, name, amount, compared: amount, base: 0, entry: null })),
  shown: parts.length,
  rest: { count: 0, amount: 0 },
  total: compared - base,
});

function DriverForm({ line, driver, done }: { readonly line: string; readonly driver: DriverOf; readonly done: () => void }) {
  const company = useCompany();
  const set = useSetLineDriver(company.id);
  const [choice, setChoice] = useState<LineDriverDto>(driver.chosen ?? { series: '', planned: '', input: '', plannedInput: '' });
  const choose = (value: LineDriverDto | null) => set.mutate({ line, driver: value }, { onSuccess: done });
  return (
    <form
      className="flex flex-wrap items-center gap-3 py-1 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        choose(choice);
      }}
    >
      <Choice
        label="Volume"
        value={choice.series}
        options={[['', 'Choose a statistic'], ...driver.series.map((name): [string, string] => [name, named(name)])]}
        choose={(series) => setChoice({ ...choice, series })}
      />
      <Choice
        label="Budget quantity"
        value={choice.planned}
        options={[['', 'Not planned'], ...driver.planned.map((name): [string, string] => [name, named(name)])]}
        choose={(planned) => setChoice({ ...choice, planned })}
      />
      <Choice
        label="Actual quantity"
        value={choice.input}
        options={[['', 'Not kept'], ...driver.series.map((name): [string, string] => [name, named(name)])]}
        choose={(input) => setChoice({ ...choice, input })}
      />
      {choice.input === '' ? null : (
        <Choice
          label="Planned use"
          value={choice.plannedInput}
          options={[['', 'Not planned'], ...driver.planned.map((name): [string, string] => [name, named(name)])]}
          choose={(plannedInput) => setChoice({ ...choice, plannedInput })}
        />
      )}
      <button type="submit" className="button min-h-7 py-0.5 text-[13px]" disabled={choice.series === '' || set.isPending}>
        Split by volume
      </button>
      {driver.chosen ? (
        <button type="button" className="link" onClick={() => choose(null)}>
          Without a driver
        </button>
      ) : null}
      {set.isError ? (
        <span role="alert" className="text-brick">
          {set.error.message}
        </span>
      ) : null}
    </form>
  );
}

function Split({
  split: { parts, base, flexible, compared, baseVolume, comparedVolume, segments },
  headings,
  isAgainstBudget,
}: {
  readonly split: PriceVolumeDto;
  readonly headings: VarianceExplanationDto['headings'];
  readonly isAgainstBudget: boolean;
}) {
  const { exponent } = useCompany();
  const effects = parts.filter(({ kind }) => kind === 'quantity' || kind === 'mix');
  const rest = parts.filter(({ kind }) => kind !== 'quantity' && kind !== 'mix');
  /** @param volume of a total; left out for a step between two */
  const row = (name: string, value: number, volume?: number) => (
    <tr key={name} className={volume === undefined ? '' : 'font-semibold'}>
      <th scope="row" className={volume === undefined ? 'pl-4! font-normal!' : ''}>
        {name}
      </th>
      <td className="figure">{volume === undefined ? '' : units(volume)}</td>
      <td className="figure">
        <Amount value={value} exponent={exponent} />
      </td>
    </tr>
  );
  return (
    <>
      <table className="ledger-table w-full text-[13px]" aria-label="Price and volume">
        <thead>
          <tr className="text-[12.5px]">
            <th scope="col" />
            <th scope="col" className="w-24 text-right!">
              Volume
            </th>
            <th scope="col" className="w-28 text-right!">
              Amount
            </th>
          </tr>
        </thead>
        <tbody>
          {row(headings.base, base, baseVolume)}
          {effects.map(({ name, amount }) => row(name, amount))}
          {row(isAgainstBudget ? 'Flexible budget' : `${headings.base} at the new volume`, flexible, comparedVolume)}
          {rest.map(({ name, amount }) => row(name, amount))}
          {row(headings.compared, compared, comparedVolume)}
        </tbody>
      </table>
      {segments.length > 1 ? (
        <table className="ledger-table mt-2 w-full text-[13px]" aria-label="By segment">
          <thead>
            <tr className="text-[12.5px]">
              <th scope="col" />
              <th scope="col" className="text-right!">
                {headings.base}
              </th>
              <th scope="col" className="text-right!">
                {headings.compared}
              </th>
              <th scope="col" className="text-right!">
                By volume
              </th>
              <th scope="col" className="text-right!">
                By price
              </th>
            </tr>
          </thead>
          <tbody>
            {segments.map((each) => (
              <tr key={each.name}>
                <th scope="row" className="font-normal!">
                  {each.name || 'None'}
                </th>
                <td className="figure">{units(each.baseVolume)}</td>
                <td className="figure">{units(each.comparedVolume)}</td>
                {each.isMatched ? (
                  <>
                    <td className="figure">
                      <Amount value={each.volumeEffect} exponent={exponent} />
                    </td>
                    <td className="figure">
                      <Amount value={each.priceEffect} exponent={exponent} />
                    </td>
                  </>
                ) : (
                  <td className="figure" colSpan={2}>
                    <Amount value={each.difference} exponent={exponent} /> without a volume to compare
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </>
  );
}
