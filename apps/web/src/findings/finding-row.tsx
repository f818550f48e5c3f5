import type { FindingDto } from '@wise-margin/contract';
import type { Comparison, FindingSpan } from '@wise-margin/core';
import { capitalized, figureText, findingStatusWords, monthsInRowWords } from '@wise-margin/presentation';

import { useCompany } from '../data/company.ts';
import { placeOf, useExplanation } from '../data/use-findings.ts';
import { Amount, favorColor } from '../ui/figure.tsx';
import { LiveText } from './live-text.tsx';

const BAR = 70;
/** Sentences are drafted for the findings that are read first; of the others when they are opened. */
const DRAFTED = 30;

export const spanName = (span: FindingSpan): string => (span === 'month' ? 'Month' : 'Year to date');
const percentWords = (percent: number | null): string =>
  percent === null
    ? 'n/m'
    : figureText({ kind: 'ratio', value: percent, unit: 'percent' }, { exponent: 0, unit: 'dollars', withUnit: true });

/** A finding in the list: its line, the variance with its bar, what explains it, and where it stands. */
export function FindingRow({
  finding,
  comparison,
  view,
  row,
  largest,
  isChosen,
  choose,
}: {
  readonly finding: FindingDto;
  readonly comparison: Comparison;
  readonly view: string;
  readonly row: number;
  readonly largest: number;
  readonly isChosen: boolean;
  readonly choose: () => void;
}) {
  const company = useCompany();
  const explanation = useExplanation(company.id, row < DRAFTED ? placeOf(finding, comparison, view) : null);
  const { name, favor, spans, monthName, isEarlier, status, owner, monthsInRow, notReversed, questions } = finding;
  const main = spans[0]!;
  const sentence = explanation.data?.causes[0]?.sentence ?? explanation.data?.proposal;
  const words = [
    status === 'open' ? (isEarlier ? 'Still open' : '') : findingStatusWords(status),
    owner,
    monthsInRowWords(monthsInRow),
    notReversed ? 'explained as timing, not reversed' : '',
    questions > 0 ? `${questions} ${questions === 1 ? 'question' : 'questions'} without an answer` : '',
  ].filter((text) => text !== '');
  return (
    <li>
      <button
        type="button"
        tabIndex={-1}
        data-row={row}
        data-column={0}
        aria-pressed={isChosen}
        onClick={choose}
        className={`grid w-full grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-b border-l-[3px] border-b-hairline px-3 py-1.5 text-left hover:bg-wash ${isChosen ? 'border-l-copper bg-wash' : 'border-l-transparent'}`}
      >
        <span className="truncate font-semibold">
          {name}
          <span className="font-normal text-ink-soft"> {main.span === 'yearToDate' ? 'year to date' : monthName}</span>
        </span>
        <span className={`flex items-center justify-end gap-2 text-[14px] tabular-nums ${favorColor(favor)}`}>
          <VarianceBar value={main.unexplained} largest={largest} />
          <span className="w-[74px] text-right font-semibold">
            <Amount value={main.variance} exponent={company.exponent} unit="dollars" />
          </span>
          <span className="w-3 text-[11px]">{favor ?? ''}</span>
          <span className="w-[58px] text-right text-[13px] text-ink-soft">{percentWords(main.percent)}</span>
        </span>
        <span className="col-span-2 line-clamp-2 text-[13px] text-ink-soft">
          {words.length > 0 ? <span className="font-semibold text-ink">{capitalized(words.join(', '))}. </span> : null}
          {sentence ? (
            <LiveText text={sentence} />
          ) : row < DRAFTED && explanation.isPending ? (
            'Looking for the cause…'
          ) : row < DRAFTED ? (
            ''
          ) : (
            'Open it to see why.'
          )}
        </span>
      </button>
    </li>
  );
}

/** The variance as a bar from a zero line in the middle. */
function VarianceBar({ value, largest }: { readonly value: number; readonly largest: number }) {
  const length = largest === 0 ? 0 : Math.max(1, (Math.abs(value) / largest) * (BAR / 2));
  return (
    <svg width={BAR} height="12" aria-hidden="true" className="shrink-0 narrow:hidden">
      <line x1={BAR / 2} x2={BAR / 2} y1="0" y2="12" className="stroke-ink-soft" />
      <rect x={value < 0 ? BAR / 2 - length : BAR / 2} y="2" width={length} height="8" fill="currentColor" />
    </svg>
  );
}
