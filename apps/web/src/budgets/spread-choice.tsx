import { parseAccountList, SPREADS, type Spread, type SpreadKind } from '@wise-margin/core';
import { useState } from 'react';
import { Choice } from '../ui/choice.tsx';

const OWN = { shares: 'average shares of three years', line: 'as other accounts', weights: 'by weights of its own' } as const;
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
    if (next === 'shares') choose({ by: 'shares', years: [year - 3, year - 2, year - 1] });
    else if (next === 'line') choose({ by: 'line', accounts: typed.trim() });
    else if (next === 'weights') choose({ by: 'weights', weights: weightsOf(typed) ?? new Array<number>(12).fill(1) });
    else choose(next);
  };
  const fault =
    key === 'line' && (text.trim() === '' || !parseAccountList(text).ok)
      ? 'Write accounts such as 4010'
      : key === 'weights' && weightsOf(text) === null
        ? 'Write twelve numbers'
        : null;
  return (
    <span className="flex items-center gap-1.5">
      <Choice
        label="A year typed spreads"
        value={key}
        options={[...Object.entries(SPREADS).map(([kind, { words }]) => [kind, words] as const), ...Object.entries(OWN)]}
        choose={(next) => take(next as SpreadKey, '')}
      />
      {key === 'line' || key === 'weights' ? (
        <input
          aria-label={key === 'line' ? 'Accounts whose shape it takes' : 'Twelve weights'}
          aria-invalid={fault !== null}
          className="field w-32 py-0.5 text-[13px]"
          placeholder={key === 'line' ? '4010' : '1 1 2 2 …'}
          value={text}
          onChange={(event) => take(key, event.target.value)}
        />
      ) : null}
      {fault ? <span className="text-brick">{fault}</span> : null}
    </span>
  );
}

function weightsOf(text: string): number[] | null {
  const weights = text
    .trim()
    .split(/[\s;]+/)
    .map(Number);
  return weights.length === 12 && weights.every((weight) => Number.isFinite(weight) && weight >= 0) ? weights : null;
}
