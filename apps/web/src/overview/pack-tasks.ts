import type { PackListDto } from '@wise-margin/contract';

/** Something left to do: what it is, and where below the company it is done. */
export type Task = { readonly key: string; readonly words: string; readonly to: string };

/** Packs that were begun for the month, and those that were issued for an earlier month and not for this one. */
export const packTasks = (packs: PackListDto, asOf: string): Task[] =>
  packs.flatMap(({ key, name, state, lastIssue }) => {
    const words =
      state === 'inReview'
        ? 'in review'
        : state === 'draft'
          ? 'a draft'
          : state === null && lastIssue !== null && lastIssue.month < asOf
            ? `due, last issued for ${lastIssue.monthName}`
            : '';
    return words === '' ? [] : [{ key: `pack ${key}`, words: `${name} is ${words}`, to: `packs/${key}?asOf=${asOf}` }];
  });
