import type { GridDto } from '@wise-margin/contract';
import { displayStep, footGrid, longPeriodName, type PeriodIndex, type StatementGrid } from '@wise-margin/core';
import { gridDto } from '@wise-margin/presentation';

import type { Books } from '../companies/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import type { Run } from './run-choices.ts';

/** A view evaluated for a month. */
export type EvaluatedView = Evaluation & {
  readonly books: Books;
  readonly run: Run;
  /** the figures as shown: made to foot where that is asked for, else the exact ones of `grid` */
  readonly shown: StatementGrid;
  /** the statement for the wire */
  readonly dto: () => GridDto;
};

/** Figures as they are shown, with everything that titles and footnotes may name. */
export function evaluatedView(
  evaluation: Evaluation,
  of: {
    readonly books: Books;
    readonly run: Run;
    readonly view: { readonly key: string; readonly name: string; readonly note: string; readonly open: 'all' | undefined };
    readonly asOf: PeriodIndex;
    /** what its budget columns show */
    readonly budgetWords: string;
    /** keys of the lines whose parts are wanted; all when left out */
    readonly parts?: ReadonlySet<string> | undefined;
    /** whether it is in an editor, which itself says what is not filled in yet */
    readonly isDraft?: boolean;
    readonly printed: Date;
  },
): EvaluatedView {
  const { books, run, asOf, budgetWords, parts, isDraft = false } = of;
  const { key, name, note, open } = of.view;
  const { exponent } = books.currency;
  const { display } = run;
  const shown = display.foots ? footGrid(evaluation.grid, displayStep({ exponent, ...display })) : evaluation.grid;
  const dto = (): GridDto =>
    gridDto(shown, {
      budget: budgetWords,
      view: { key, name, note, openAll: open === 'all' },
      issues: isDraft ? evaluation.issues.filter(({ code }) => code !== 'unfinished') : evaluation.issues,
      lastShown: evaluation.lastShown,
      open: parts,
      run,
      fields: {
        company: books.name,
        as_of: longPeriodName(books.calendar, asOf),
        printed_on: of.printed.toLocaleDateString('en-US', { dateStyle: 'medium' }),
        view: name,
        budget: budgetWords,
        currency: books.currency.words,
      },
    });
  return { ...evaluation, books, run, shown, dto };
}
