import type { selectionFigures } from '@wise-margin/core';
import { useState } from 'react';

import { Amount } from '../../ui/figure.tsx';

/** What is selected comes to, and what can be done with it at once. */
export function SelectionBar({
  figures,
  exponent,
  locked,
  shares,
  slices,
  change,
  total,
  fill,
  spread,
  account,
  shape,
  copyShape,
  giveShape,
}: {
  /** null while a single figure is selected */
  readonly figures: ReturnType<typeof selectionFigures>;
  readonly exponent: number;
  readonly locked: boolean;
  /** how many accounts share a figure typed here; 0 when it is for one alone */
  readonly shares: number;
  /** dimensions among whose values it is shared as well; null when one slice is looked at */
  readonly slices: string | null;
  readonly change: (text: string) => void;
  readonly total: (text: string) => void;
  readonly fill: () => void;
  readonly spread: () => void;
  /** that is looked at; null on a total */
  readonly account: string | null;
  /** the account whose shape over the months was copied; null for none */
  readonly shape: string | null;
  readonly copyShape: () => void;
  readonly giveShape: () => void;
}) {
  const [text, setText] = useState('');
  const shapes =
    locked || account === null ? null : (
      <>
        {shape === account ? null : (
          <button type="button" className="link" title="Copies this line’s monthly pattern" onClick={copyShape}>
            Copy pattern of {account}
          </button>
        )}
        {shape === null || (shape === account && figures === null) ? null : (
          <button
            type="button"
            className="link"
            title="Keeps each selected line’s annual total and spreads it in this pattern. Manual overrides stay."
            onClick={giveShape}
          >
            Paste pattern of {shape}
          </button>
        )}
      </>
    );
  return (
    <div
      role="status"
      aria-label="Selection"
      className="flex min-h-9 flex-wrap items-center gap-x-4 gap-y-1 pt-1 text-[13px] text-ink-soft"
    >
      {figures ? (
        <>
          <span>
            {figures.count.toLocaleString('en-US')} amounts, sum <Amount value={figures.sum} exponent={exponent} />, average{' '}
            <Amount value={figures.average} exponent={exponent} />
          </span>
          {locked ? null : (
            <>
              <form
                className="flex items-center gap-1"
                onSubmit={(event) => {
                  event.preventDefault();
                  if (text.trim() === '') return;
                  change(text.trim());
                  setText('');
                }}
              >
                <input
                  aria-label="Change all selected amounts"
                  className="field w-20 py-0 text-[13px]"
                  placeholder="+5%"
                  value={text}
                  onChange={(event) => setText(event.target.value)}
                />
                <button type="submit" className="link">
                  Change all
                </button>
                <button
                  type="button"
                  className="link ml-2"
                  title="Sets the total of the selected months in each row, spread as chosen above. Manual overrides stay."
                  onClick={() => {
                    if (text.trim() === '') return;
                    total(text.trim());
                    setText('');
                  }}
                >
                  Set as total
                </button>
              </form>
              <button
                type="button"
                className="link"
                title="Copies the first selected month of each row to the others (Ctrl+Enter)"
                onClick={fill}
              >
                Fill right
              </button>
              <button type="button" className="link" title="Spreads each row’s annual total as chosen above" onClick={spread}>
                Re-spread
              </button>
              {shapes}
            </>
          )}
        </>
      ) : shares > 0 ? (
        <span>
          An amount entered here is allocated to {shares} accounts{slices ? ` and their ${slices}s` : ''}, in proportion to their current
          amounts.
        </span>
      ) : (
        <span>
          Enter an amount or a change such as +5%, *1.1, /12, 12k or 1.2m. Shift and arrow keys select a range.
          {slices ? ` Amounts are allocated to each ${slices} in proportion.` : ''}
        </span>
      )}
      {figures ? null : shapes}
    </div>
  );
}
