import { parseAccountList, type Spread, type SpreadKind, SPREADS } from '@wise-margin/core';
import { useState } from 'react';

import { Choice } from '../ui/choice.tsx';

const OWN = { shares: 'Average seasonality', line: 'Pattern of other accounts', weights: 'Custom weights' } as const;
const FIELDS = {
  shares: { label: 'Years of seasonality', placeholder: '3' },
  line: { label: 'Accounts whose pattern to use', placeholder: '4010' },
  weights: { label: 'Twelve weights', placeholder: '1 1 2 2 …' },
} as const;
type SpreadKey = SpreadKind | keyof typeof OWN;

/** The shape a typed year takes over its months. */
export function SpreadChoice({
  spread,
  choose,
  year,
}: {
  readonly spread: Spread;
  readonly choose: (spread: Spread) => void;
  readonly year: number;
}) {
  const key: SpreadKey = typeof spread === 'string' ? spread : spread.by;
  const [text, setText] = useState('');
  const take = (next: SpreadKey, typed: string): void => {
    setText(typed);
    if (next === 'shares') {
      const many = yearsOf(typed) ?? 3;
      choose({ by: 'shares', years: Array.from({ length: many }, (_, back) => year - many + back) });
    } else if (next === 'line') choose({ by: 'line', accounts: typed.trim() });
    else if (next === 'weights') choose({ by: 'weights', weights: weightsOf(typed) ?? new Array<number>(12).fill(1) });
    else choose(next);
  };
  const fault =
    key === 'line' && (text.trim() === '' || !parseAccountList(text).ok)
      ? 'Enter accounts such as 4010'
      : key === 'weights' && weightsOf(text) === null
        ? 'Enter twelve numbers'
        : key === 'shares' && yearsOf(text) === null
          ? 'Enter a number of years from 1 to 10'
          : null;
  return (
    <span className="flex items-center gap-1.5">
      <Choice
        label="Spread annual amounts"
        value={key}
        options={[...Object.entries(SPREADS).map(([kind, { name }]) => [kind, name] as const), ...Object.entries(OWN)]}
        choose={(next) => take(next as SpreadKey, next === 'shares' ? '3' : '')}
      />
      {key === 'line' || key === 'weights' || key === 'shares' ? (
        <input
          aria-label={FIELDS[key].label}
          aria-invalid={fault !== null}
          className={`field py-0.5 text-[13px] ${key === 'shares' ? 'w-14' : 'w-32'}`}
          placeholder={FIELDS[key].placeholder}
          value={text}
          onChange={(event) => take(key, event.target.value)}
        />
      ) : null}
      {fault ? <span className="text-brick">{fault}</span> : null}
    </span>
  );
}

/** A whole number of years from 1 to 10; null when the text is none. */
function yearsOf(text: string): number | null {
  const years = Number(text);
  return Number.isInteger(years) && years >= 1 && years <= 10 ? years : null;
}

function weightsOf(text: string): number[] | null {
  const weights = text
    .trim()
    .split(/[\s;]+/)
    .map(Number);
  return weights.length === 12 && weights.every((weight) => Number.isFinite(weight) && weight >= 0) ? weights : null;
}
