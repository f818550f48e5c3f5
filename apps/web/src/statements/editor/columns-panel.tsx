import type { BudgetDto } from '@wise-margin/contract';
import {
  addBlock,
  addColumn,
  type Block,
  changeBlock,
  changeColumn,
  type Column,
  type ColumnPlace,
  type ColumnSet,
  lineAndColumnCount,
  type LineSet,
  moveBlock,
  moveColumn,
  type ReadyColumn,
  removeBlockAndUses,
  removeColumnAndUses,
  spanDefinitionWords,
  usesOfBlock,
  usesOfColumn,
} from '@wise-margin/core';
import { Copy, Plus, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';

import { useCompany } from '../../data/company.ts';
import { SortableItem, SortableList } from '../../ui/sortable-list.tsx';
import { useReturnFocus } from '../../ui/use-return-focus.ts';
import { BlockHead, blockName, totalHeading } from './block-head.tsx';
import { ReadyColumns } from './block-parts.tsx';
import { ColumnForm } from './column-form.tsx';
import { COLUMN_KINDS, withFollowingName } from './column-kinds.ts';
import { IconButton } from './icon-button.tsx';
import { RemovalPrompt } from './removal-prompt.tsx';
import { textAsName } from './tokens.ts';
import { useIdentities } from './use-identities.ts';

const NEW_COLUMN: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'month' } };
const NEW_BLOCK: Block = { key: 'block', heading: '{span}', span: { kind: 'month' }, columns: [NEW_COLUMN] };
type Removing = { readonly block: string; readonly column: string | null };
const columnName = ({ heading, key }: Column): string => textAsName(heading) || key;

/** The blocks and columns of a view, each dragged, added, duplicated, hidden and removed; the form of the chosen column beneath it. */
export function ColumnsPanel({
  columnSet,
  lineSet,
  budgets,
  change,
}: {
  readonly columnSet: ColumnSet;
  readonly lineSet: LineSet;
  readonly budgets: readonly BudgetDto[];
  readonly change: (next: (set: ColumnSet) => ColumnSet) => void;
}) {
  const company = useCompany();
  const nameOf = (key: string) => company.periods.find((period) => period.key === key)?.name ?? key;
  const [chosen, setChosen] = useState<ColumnPlace | null>(null);
  const [removing, setRemoving] = useState<Removing | null>(null);
  const identities = useIdentities();
  const addButton = useRef<HTMLButtonElement>(null);
  useReturnFocus(removing !== null, () => addButton.current);
  const add = (block: string, column: Column): void => {
    // beside the chosen column, or at the end of the block
    const after = chosen?.block === block ? chosen.column : undefined;
    const made = addColumn(columnSet, { block, after }, column);
    change((set) => addColumn(set, { block, after }, column).set);
    identities.add(`${block}.${made.key}`);
    setChosen({ block, column: made.key });
  };
  const addReady = (block: Block, { column, needsTotal }: ReadyColumn): void => {
    if (needsTotal && !block.total)
      change((set) => changeBlock(set, block.key, (own) => ({ ...own, total: { heading: totalHeading(own) } })));
    add(block.key, column);
  };
  const replace = (place: ColumnPlace, before: Column, next: Column): void => {
    const edit = (set: ColumnSet) =>
      withFollowingName(
        changeColumn(set, place, () => next),
        place,
        { before, after: next },
      );
    change((set) => edit(set).set);
    const { column } = edit(columnSet);
    identities.rename(`${place.block}.${place.column}`, `${place.block}.${column}`);
    setChosen({ ...place, column });
  };
  const without = (set: ColumnSet, { block, column }: Removing): ColumnSet =>
    column === null ? removeBlockAndUses(set, block) : removeColumnAndUses(set, { block, column });
  const remove = (which: Removing): void => {
    const { block, column } = which;
    const uses = column === null ? usesOfBlock(columnSet, block) : usesOfColumn(columnSet, { block, column });
    if (uses.length > 0) return setRemoving(which);
    change((set) => without(set, which));
    addButton.current?.focus();
  };
  const prompt = (which: Removing, name: string) => (
    <RemovalPrompt
      name={name}
      uses={
        which.column === null ? usesOfBlock(columnSet, which.block) : usesOfColumn(columnSet, { block: which.block, column: which.column })
      }
      removed={lineAndColumnCount({ lineSet, columnSet }) - lineAndColumnCount({ lineSet, columnSet: without(columnSet, which) })}
      removeAll={() => {
        change((set) => without(set, which));
        setRemoving(null);
      }}
      hide={() => {
        const { block, column } = which;
        change((set) =>
          column === null
            ? changeBlock(set, block, (own) => ({ ...own, hidden: true }))
            : changeColumn(set, { block, column }, (own) => ({ ...own, hidden: true })),
        );
        setRemoving(null);
      }}
      cancel={() => setRemoving(null)}
    />
  );
  return (
    <div>
      {columnSet.blocks.length === 0 ? (
        <p className="py-3 text-[14px] text-ink-soft">No columns yet. Add a block, which groups columns under one heading.</p>
      ) : null}
      <SortableList keys={columnSet.blocks.map(({ key }) => key)} move={(key, to) => change((set) => moveBlock(set, key, to))}>
        <ul>
          {columnSet.blocks.map((block) => (
            <SortableItem
              key={block.key}
              id={block.key}
              label={`block ${blockName(block)}`}
              className="mb-2 border border-hairline bg-sheet p-1.5"
            >
              <section aria-label={`Block ${blockName(block)}`}>
                <BlockHead block={block} company={company} change={change} remove={() => remove({ block: block.key, column: null })} />
                {removing?.block === block.key && removing.column === null ? prompt(removing, `Block ${blockName(block)}`) : null}
                <SortableList
                  keys={block.columns.map(({ key }) => key)}
                  move={(column, to) => change((set) => moveColumn(set, { block: block.key, column }, to))}
                >
                  <ul className="mt-2">
                    {block.columns.map((column) => {
                      const isChosen = chosen?.block === block.key && chosen.column === column.key;
                      const place = { block: block.key, column: column.key };
                      const name = columnName(column);
                      return (
                        <SortableItem
                          key={identities.of(`${block.key}.${column.key}`)}
                          id={column.key}
                          label={`column ${name}`}
                          className="border-t border-hairline"
                        >
                          <div className="flex items-center gap-1">
                            <button
                              type="button"
                              aria-expanded={isChosen}
                              onClick={() => setChosen(isChosen ? null : place)}
                              className={`min-h-6 min-w-0 flex-1 truncate py-0.5 text-left text-[13px] ${isChosen ? 'font-semibold' : ''} ${column.hidden ? 'text-ink-soft italic' : ''}`}
                            >
                              {name}{' '}
                              <span className="text-[12px] text-ink-soft">
                                {column.kind === 'amount'
                                  ? spanDefinitionWords(column.span, nameOf)
                                  : COLUMN_KINDS.find(([kind]) => kind === column.kind)![1].toLowerCase()}
                              </span>
                            </button>
                            <IconButton
                              label={`Duplicate column ${name}`}
                              icon={<Copy size={13} aria-hidden="true" />}
                              act={() => change((set) => addColumn(set, { block: block.key, after: column.key }, column).set)}
                            />
                            <IconButton
                              label={`Remove column ${name}`}
                              icon={<Trash2 size={13} aria-hidden="true" />}
                              act={() => remove(place)}
                            />
                          </div>
                          {removing?.block === block.key && removing.column === column.key ? prompt(removing, name) : null}
                          {isChosen ? (
                            <div className="mb-2 border-l-2 border-copper pl-2">
                              <ColumnForm
                                column={column}
                                block={block.key}
                                columnSet={columnSet}
                                lineSet={lineSet}
                                budgets={budgets}
                                change={(next) => replace(place, column, next)}
                              />
                            </div>
                          ) : null}
                        </SortableItem>
                      );
                    })}
                  </ul>
                </SortableList>
                <button type="button" className="link mt-1 flex items-center gap-1 text-[13px]" onClick={() => add(block.key, NEW_COLUMN)}>
                  <Plus size={13} aria-hidden="true" /> Add column
                </button>
                <ReadyColumns block={block} lineSet={lineSet} add={(ready) => addReady(block, ready)} />
              </section>
            </SortableItem>
          ))}
        </ul>
      </SortableList>
      <button type="button" ref={addButton} className="button mt-1" onClick={() => change((set) => addBlock(set, NEW_BLOCK).set)}>
        <Plus size={14} aria-hidden="true" /> Add block
      </button>
    </div>
  );
}
