import { type DisplayQuery, displayQueryText } from '@wise-margin/contract';
import type { Display } from '@wise-margin/core';
import { useId } from 'react';

import { Choice } from '../ui/choice.tsx';

const SAMPLE = { parentheses: '(1,234)', minus: '−1,234', red: '(1,234) in red' } as const;
const DECIMALS = [
  ['auto', 'Default for the unit'],
  ['0', '0'],
  ['1', '1'],
  ['2', '2'],
  ['3', '3'],
] as const;

/** How the statement is written: every control shows what holds, whether the view or the person chose it. */
export function DisplayPanel({
  display,
  hasSides,
  logo,
  choose,
}: {
  readonly display: Display;
  /** whether the lines tell where a second side begins */
  readonly hasSides: boolean;
  readonly logo: string | null;
  readonly choose: (name: keyof DisplayQuery, value: string) => void;
}) {
  return (
    <div className="flex flex-col gap-2">
      <Choice
        label="Negatives"
        value={display.negatives}
        options={(['parentheses', 'minus', 'red'] as const).map((key) => [key, SAMPLE[key]] as const)}
        choose={(value) => choose('negatives', value)}
      />
      {display.unit === 'cents' ? null : (
        <Choice
          label="Decimals"
          value={displayQueryText(display.decimals)}
          options={DECIMALS}
          choose={(value) => choose('decimals', value)}
        />
      )}
      {hasSides ? (
        <Choice
          label="Form"
          value={display.form}
          options={[
            ['report', 'Report form (one column)'],
            ['account', 'Account form (two sides)'],
          ]}
          choose={(value) => choose('form', value)}
        />
      ) : null}
      <Tick
        label="Hide zero lines"
        checked={display.zeroLines === 'hide'}
        choose={(on) => choose('zero', on === 'yes' ? 'hide' : 'show')}
      />
      <Tick label="Currency sign on first lines and totals" checked={display.currencySign} choose={(on) => choose('sign', on)} />
      <Tick label="Account numbers" checked={display.accountNumbers} choose={(on) => choose('numbers', on)} />
      <Tick label="Percent-of-base columns" checked={display.shares} choose={(on) => choose('shares', on)} />
      <Tick label="Adjust rounding so totals add up" checked={display.foots} choose={(on) => choose('foots', on)}>
        Rounding differences are spread over the lines of a total. Percentages stay exact.
      </Tick>
      {logo === null ? null : <Tick label="Logo" checked={display.logo} choose={(on) => choose('logo', on)} />}
    </div>
  );
}

function Tick({
  label,
  checked,
  choose,
  children,
}: {
  readonly label: string;
  readonly checked: boolean;
  readonly choose: (value: 'yes' | 'no') => void;
  readonly children?: string;
}) {
  const id = useId();
  return (
    <div className="flex items-start gap-2">
      <input
        id={id}
        type="checkbox"
        className="mt-[3px] accent-copper"
        checked={checked}
        aria-describedby={children ? `${id}-words` : undefined}
        onChange={(event) => choose(event.target.checked ? 'yes' : 'no')}
      />
      <div>
        <label htmlFor={id}>{label}</label>
        {children ? (
          <p id={`${id}-words`} className="text-[12px] text-ink-soft">
            {children}
          </p>
        ) : null}
      </div>
    </div>
  );
}
