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
          <button type="button" className="link" title="Its months over the year, to give to other lines" onClick={copyShape}>
            Copy the shape of {account}
          </button>
        )}
        {shape === null || (shape === account && figures === null) ? null : (
          <button
            type="button"
            className="link"
            title="The year of each selected line stays and is spread over its months as there; held months stay"
            onClick={giveShape}
          >
            Give the shape of {shape}
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
            {figures.count.toLocaleString('en-US')} figures, sum <Amount value={figures.sum} exponent={exponent} />, average{' '}
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
                  aria-label="Change every selected figure"
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
                  title="What is typed is the total of the selected months of each row, in the shape chosen above; held months stay"
                  onClick={() => {
                    if (text.trim() === '') return;
                    total(text.trim());
                    setText('');
                  }}
                >
                  Take as total
                </button>
              </form>
              <button type="button" className="link" title="The first month of each row into the others (Ctrl+Enter)" onClick={fill}>
                Fill right
              </button>
              <button type="button" className="link" title="The year of each row in the shape chosen above" onClick={spread}>
                Spread again
              </button>
              {shapes}
            </>
          )}
        </>
      ) : shares > 0 ? (
        <span>
          A figure typed here is shared among {shares} accounts{slices ? ` and their values of ${slices}` : ''}, in proportion to what they
          hold.
        </span>
      ) : (
        <span>
          Type over a figure; +5%, *1.1, /12, 12k and 1.2m are understood. Shift with arrows selects.
          {slices ? ` A figure is shared among the values of ${slices} in proportion.` : ''}
        </span>
      )}
      {figures ? null : shapes}
    </div>
  );
}
