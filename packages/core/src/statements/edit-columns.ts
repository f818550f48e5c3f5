import type { Block, Column, ColumnSet } from './column-set.ts';
import { renameInExpression } from './rename-in-expression.ts';

/** A place among the columns: a block, and in it a column. */
export type ColumnPlace = { readonly block: string; readonly column: string };

/** The place of a laid-out column by its key, in a part of a repeat too: `months.2026-10.actual`. Null where it is none of the set. */
export function columnPlaceOf({ blocks }: ColumnSet, key: string): ColumnPlace | null {
  for (const { key: block, columns } of blocks) {
    if (!key.startsWith(`${block}.`)) continue;
    const column = columns.find((each) => key.endsWith(`.${each.key}`));
    if (column) return { block, column: column.key };
  }
  return null;
}

/** `base`, or with the first number after it that is free: `actual`, `actual_2`. */
export function freeKey(taken: Iterable<string>, base: string): string {
  const keys = new Set(taken);
  if (!keys.has(base)) return base;
  for (let number = 2; ; number += 1) if (!keys.has(`${base}_${number}`)) return `${base}_${number}`;
}

const withBlocks = (set: ColumnSet, blocks: readonly Block[]): ColumnSet => ({ ...set, blocks });
const changed = (set: ColumnSet, key: string, change: (block: Block) => Block): ColumnSet =>
  withBlocks(
    set,
    set.blocks.map((block) => (block.key === key ? change(block) : block)),
  );
function inserted<Item>(items: readonly Item[], at: number, item: Item): Item[] {
  return [...items.slice(0, at), item, ...items.slice(at)];
}
function moved<Item>(items: readonly Item[], from: number, to: number): Item[] {
  const rest = items.filter((_, index) => index !== from);
  return inserted(rest, Math.max(0, Math.min(to, rest.length)), items[from]!);
}

/** Adds a block after another one, or at the end; its key is made free. @returns the set and the block's key */
export function addBlock(set: ColumnSet, block: Block, after?: string): { readonly set: ColumnSet; readonly key: string } {
  const key = freeKey(
    set.blocks.map((each) => each.key),
    block.key,
  );
  const at = after === undefined ? set.blocks.length : set.blocks.findIndex((each) => each.key === after) + 1;
  return { set: withBlocks(set, inserted(set.blocks, at, { ...block, key })), key };
}

/** A block again, beside itself. References within it stay within the copy. */
export function duplicateBlock(set: ColumnSet, key: string): { readonly set: ColumnSet; readonly key: string } {
  const block = set.blocks.find((each) => each.key === key);
  return block ? addBlock(set, block, key) : { set, key };
}

export function changeBlock(set: ColumnSet, key: string, change: (block: Block) => Block): ColumnSet {
  return changed(set, key, (block) => ({ ...change(block), key }));
}

export function removeBlock(set: ColumnSet, key: string): ColumnSet {
  return withBlocks(
    set,
    set.blocks.filter((block) => block.key !== key),
  );
}

/** Moves a block to a position, counted from 0 without it. */
export function moveBlock(set: ColumnSet, key: string, to: number): ColumnSet {
  const from = set.blocks.findIndex((block) => block.key === key);
  return from < 0 ? set : withBlocks(set, moved(set.blocks, from, to));
}

/** Adds a column at the end of a block, or after one of it; its key is made free within the block. */
export function addColumn(
  set: ColumnSet,
  { block, after }: { readonly block: string; readonly after?: string | undefined },
  column: Column,
): { readonly set: ColumnSet; readonly key: string } {
  const own = set.blocks.find((each) => each.key === block);
  const key = freeKey(own?.columns.map((each) => each.key) ?? [], column.key);
  const next = changed(set, block, (each) => {
    const found = each.columns.findIndex((other) => other.key === after);
    const at = found < 0 ? each.columns.length : found + 1;
    return { ...each, columns: inserted(each.columns, at, { ...column, key }) };
  });
  return { set: next, key };
}

/** Replaces a column; its key stays, so that what refers to it still does. */
export function changeColumn(set: ColumnSet, { block, column }: ColumnPlace, change: (column: Column) => Column): ColumnSet {
  return changed(set, block, (own) => ({
    ...own,
    columns: own.columns.map((each) => (each.key === column ? { ...change(each), key: column } : each)),
  }));
}

/** What refers to the column refers to nothing then, which is an issue. */
export function removeColumn(set: ColumnSet, { block, column }: ColumnPlace): ColumnSet {
  return changed(set, block, (own) => ({ ...own, columns: own.columns.filter((each) => each.key !== column) }));
}

/** Moves a column within its block, counted from 0 without it. */
export function moveColumn(set: ColumnSet, { block, column }: ColumnPlace, to: number): ColumnSet {
  return changed(set, block, (own) => {
    const from = own.columns.findIndex((each) => each.key === column);
    return from < 0 ? own : { ...own, columns: moved(own.columns, from, to) };
  });
}

/** Gives a column another key, and so everywhere it is referred to. Keys in use are refused by returning the set as it is. */
export function renameColumn(set: ColumnSet, { block, column }: ColumnPlace, key: string): ColumnSet {
  const own = set.blocks.find((each) => each.key === block);
  if (!own || own.columns.some((each) => each.key === key)) return set;
  // from outside its block a column is named with it, and in the total of a repeat with that too
  const outer = [block, `${block}.total`].map((place) => [`${place}.${column}`, `${place}.${key}`] as const);
  const rename = (text: string, inside: boolean): string =>
    outer.find(([from]) => from === text)?.[1] ?? (inside && text === column ? key : text);
  const follow = (each: Column, inside: boolean): Column => {
    switch (each.kind) {
      case 'difference':
      case 'percentDifference':
        return { ...each, compared: rename(each.compared, inside), base: rename(each.base, inside) };
      case 'share': {
        const { baseColumn } = each;
        return { ...each, of: rename(each.of, inside), ...(baseColumn === undefined ? {} : { baseColumn: rename(baseColumn, inside) }) };
      }
      case 'runningTotal':
        return { ...each, of: rename(each.of, inside) };
      case 'formula': {
        const outside = outer.reduce((text, [from, to]) => renameInExpression(text, from, to), each.expression);
        return { ...each, expression: inside ? renameInExpression(outside, column, key) : outside };
      }
      case 'amount':
      case 'benchmark':
        return each;
    }
  };
  return withBlocks(
    set,
    set.blocks.map((each) => ({
      ...each,
      columns: each.columns.map((other) => {
        const followed = follow(other, each.key === block);
        return each.key === block && other.key === column ? { ...followed, key } : followed;
      }),
    })),
  );
}
