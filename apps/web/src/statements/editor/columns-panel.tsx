import {
  addBlock,
  addColumn,
  changeBlock,
  changeColumn,
  duplicateBlock,
  moveBlock,
  moveColumn,
  readyColumns,
  removeBlock,
  removeColumn,
  type Block,
  type Column,
  type ColumnPlace,
  type ColumnSet,
  type LineSet,
  type Repeat,
  spanDefinitionWords,
} from '@wise-margin/core';
import type { BudgetDto, CompanyDto } from '@wise-margin/contract';
import { Copy, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useCompany } from '../../shell/company.ts';
import { dimensionName } from '../filters-panel.tsx';
import { ColumnForm } from './column-form.tsx';
import { COLUMN_KINDS } from './column-kinds.ts';
import { Check, Field, Select } from './field.tsx';
import { SortableItem, SortableList } from './sortable-list.tsx';
import { TextInput } from './text-input.tsx';

const NEW_COLUMN: Column = { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'month' } };
const NEW_BLOCK: Block = { key: 'block', heading: '{span}', span: { kind: 'month' }, columns: [] };
const REPEATS: readonly (readonly [string, string])[] = [
  ['', 'Stands once'],
  ['months:year', 'Repeats over the months of the year'],
  ['months', 'Repeats over the last months'],
  ['quarters', 'Repeats over the last quarters'],
  ['years', 'Repeats over the last years'],
  ['chosen:months', 'Chosen months'],
  ['chosen:quarters', 'Chosen quarters'],
  ['chosen:years', 'Chosen years'],
];

function repeatText({ repeat }: Block): string {
  if (!repeat) return '';
  if (repeat.over === 'dimension') return `dimension:${repeat.dimension}`;
  if ('chosen' in repeat) return `chosen:${repeat.over}`;
  return 'within' in repeat ? 'months:year' : repeat.over;
}
function repeatOf(text: string, before: Repeat | undefined, latest: string): Repeat | null {
  if (text === '') return null;
  if (text === 'months:year') return { over: 'months', within: { kind: 'fullYear' } };
  if (text.startsWith('dimension:')) return { over: 'dimension', dimension: text.slice('dimension:'.length) };
  if (text.startsWith('chosen:')) {
    const over = text.slice('chosen:'.length) as 'months' | 'quarters' | 'years';
    return { over, chosen: before && 'chosen' in before ? before.chosen : [latest] };
  }
  const last = before && 'last' in before ? before.last : text === 'months' ? 12 : text === 'quarters' ? 4 : 5;
  return { over: text as 'months' | 'quarters' | 'years', last };
}

/** The blocks and columns of a view, each dragged, added, duplicated, hidden and removed; the chosen column's form beneath it. */
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
  const newBlock = () => change((set) => addBlock(set, NEW_BLOCK).set);
  return (
    <div>
      {columnSet.blocks.length === 0 ? (
        <p className="py-3 text-[14px] text-ink-soft">No columns yet. A block holds columns under one heading; begin with one.</p>
      ) : null}
      <SortableList keys={columnSet.blocks.map(({ key }) => key)} move={(key, to) => change((set) => moveBlock(set, key, to))}>
        <ul>
          {columnSet.blocks.map((block) => (
            <SortableItem
              key={block.key}
              id={block.key}
              label={`block ${block.heading || block.key}`}
              className="mb-2 border border-hairline bg-sheet p-1.5"
            >
              <section aria-label={`Block ${block.key}`}>
                <BlockHead block={block} company={company} change={change} />
                <SortableList
                  keys={block.columns.map(({ key }) => key)}
                  move={(column, to) => change((set) => moveColumn(set, { block: block.key, column }, to))}
                >
                  <ul className="mt-1">
                    {block.columns.map((column) => {
                      const isChosen = chosen?.block === block.key && chosen.column === column.key;
                      const place = { block: block.key, column: column.key };
                      return (
                        <SortableItem
                          key={column.key}
                          id={column.key}
                          label={`column ${column.heading || column.key}`}
                          className="border-t border-hairline"
                        >
                          <div className="flex items-center gap-1">
                            <button
                              type="button"
                              aria-expanded={isChosen}
                              onClick={() => setChosen(isChosen ? null : place)}
                              className={`min-h-6 min-w-0 flex-1 truncate py-0.5 text-left text-[13px] ${isChosen ? 'font-semibold' : ''} ${column.hidden ? 'text-ink-soft italic' : ''}`}
                            >
                              {column.heading || column.key}{' '}
                              <span className="text-[12px] text-ink-soft">
                                {column.kind === 'amount'
                                  ? spanDefinitionWords(column.span, nameOf)
                                  : COLUMN_KINDS.find(([kind]) => kind === column.kind)![1].toLowerCase()}
                              </span>
                            </button>
                            <IconButton
                              label={`Duplicate column ${column.heading || column.key}`}
                              icon={<Copy size={13} aria-hidden="true" />}
                              act={() => change((set) => addColumn(set, block.key, column, column.key).set)}
                            />
                            <IconButton
                              label={`Remove column ${column.heading || column.key}`}
                              icon={<Trash2 size={13} aria-hidden="true" />}
                              act={() => change((set) => removeColumn(set, place))}
                            />
                          </div>
                          {isChosen ? (
                            <div className="mb-2 border-l-2 border-copper pl-2">
                              <ColumnForm
                                column={column}
                                block={block.key}
                                columnSet={columnSet}
                                lineSet={lineSet}
                                budgets={budgets}
                                change={(next) => change((set) => changeColumn(set, place, () => next))}
                              />
                            </div>
                          ) : null}
                        </SortableItem>
                      );
                    })}
                  </ul>
                </SortableList>
                <button
                  type="button"
                  className="link mt-1 flex items-center gap-1 text-[13px]"
                  onClick={() => {
                    const made = addColumn(columnSet, block.key, NEW_COLUMN);
                    change((set) => addColumn(set, block.key, NEW_COLUMN).set);
                    setChosen({ block: block.key, column: made.key });
                  }}
                >
                  <Plus size={13} aria-hidden="true" /> Column
                </button>
                <ReadyColumns
                  block={block}
                  lineSet={lineSet}
                  add={(column) => {
                    const made = addColumn(columnSet, block.key, column);
                    change((set) => addColumn(set, block.key, column).set);
                    setChosen({ block: block.key, column: made.key });
                  }}
                />
              </section>
            </SortableItem>
          ))}
        </ul>
      </SortableList>
      <button type="button" className="button mt-1" onClick={newBlock}>
        <Plus size={14} aria-hidden="true" /> Block
      </button>
    </div>
  );
}

/** Columns made ready from the block's amounts, added by choosing one. */
function ReadyColumns({
  block,
  lineSet,
  add,
}: {
  readonly block: Block;
  readonly lineSet: LineSet;
  readonly add: (column: Column) => void;
}) {
  const ready = readyColumns(block, lineSet);
  if (ready.length === 0) return null;
  return (
    <select
      className="field mt-1 min-h-7 w-full py-0 text-[13px]"
      aria-label={`Ready column for block ${block.heading || block.key}`}
      value=""
      onChange={(event) => {
        const chosen = ready[Number(event.target.value)];
        if (chosen) add(chosen.column);
      }}
    >
      <option value="">Add a ready column</option>
      {ready.map(({ words }, index) => (
        <option key={words} value={index}>
          {words}
        </option>
      ))}
    </select>
  );
}

function BlockHead({
  block,
  company,
  change,
}: {
  readonly block: Block;
  readonly company: CompanyDto;
  readonly change: (next: (set: ColumnSet) => ColumnSet) => void;
}) {
  const set = (next: (own: Block) => Block) => change((own) => changeBlock(own, block.key, next));
  const { repeat } = block;
  const setRepeat = (text: string) =>
    set((own) => {
      const made = repeatOf(text, own.repeat, company.lastPosted ?? company.periods[0]!.key);
      const { repeat: _repeat, total: _total, ...plain } = own;
      return made ? { ...own, repeat: made } : plain;
    });
  return (
    <div>
      <div className="flex items-center gap-1">
        <TextInput
          value={block.heading}
          label={`Heading of block ${block.key}`}
          className="font-serif font-semibold"
          commit={(heading) => set((own) => ({ ...own, heading }))}
        />
        <IconButton
          label={`Duplicate block ${block.heading || block.key}`}
          icon={<Copy size={13} aria-hidden="true" />}
          act={() => change((own) => duplicateBlock(own, block.key).set)}
        />
        <IconButton
          label={`Remove block ${block.heading || block.key}`}
          icon={<Trash2 size={13} aria-hidden="true" />}
          act={() => change((own) => removeBlock(own, block.key))}
        />
      </div>
      <div className="flex items-end gap-2">
        <div className="flex-1">
          <Field label="How often it stands">
            <Select
              value={repeatText(block)}
              options={[
                ...REPEATS,
                ...[...company.dimensions.map(({ name }) => name), ...company.furtherDimensions].map(
                  (name) => [`dimension:${name}`, `Repeats over each ${dimensionName(name).toLowerCase()}`] as const,
                ),
              ]}
              choose={setRepeat}
            />
          </Field>
        </div>
        {repeat && 'last' in repeat ? (
          <div className="w-16">
            <Field label="How many">
              <TextInput
                value={String(repeat.last)}
                commit={(text) => {
                  const last = Number(text);
                  if (Number.isInteger(last) && last > 0) set((own) => ({ ...own, repeat: { ...repeat, last: Math.min(last, 400) } }));
                }}
              />
            </Field>
          </div>
        ) : null}
      </div>
      {repeat && 'chosen' in repeat ? (
        <ChosenParts
          repeat={repeat}
          periods={company.periods}
          choose={(chosen) => set((own) => ({ ...own, repeat: { ...repeat, chosen } }))}
        />
      ) : null}
      <div className="flex gap-4">
        {repeat ? (
          <Check
            label="With a total block"
            checked={block.total !== undefined}
            choose={(on) =>
              set((own) => {
                const { total: _total, ...plain } = own;
                return on ? { ...own, total: { heading: 'Total, {span}' } } : plain;
              })
            }
          />
        ) : null}
        <Check label="Hidden" checked={block.hidden ?? false} choose={(hidden) => set((own) => ({ ...own, hidden }))} />
      </div>
    </div>
  );
}

type ChosenRepeat = Extract<Repeat, { readonly chosen: readonly string[] }>;
const PARTS = { months: 1, quarters: 3, years: 12 } as const;

/** The months, quarters or years a block stands for: a list in which one is clicked, and the last of a range with Shift. */
function ChosenParts({
  repeat,
  periods,
  choose,
}: {
  readonly repeat: ChosenRepeat;
  readonly periods: CompanyDto['periods'];
  readonly choose: (chosen: readonly string[]) => void;
}) {
  const size = PARTS[repeat.over];
  const partOf = (index: number) => Math.floor(index / size);
  const held = new Set(repeat.chosen.map((key) => partOf(periods.findIndex((period) => period.key === key))));
  // a part is named by its first month and stands for all of its months
  const parts = periods.flatMap((period, index) => (index % size === 0 ? [{ ...period, part: partOf(index) }] : []));
  const nameOf = ({ name, year, number }: (typeof parts)[number]) =>
    repeat.over === 'months' ? name : repeat.over === 'years' ? `FY${year}` : `Q${Math.ceil(number / size)} FY${year}`;
  return (
    <Field label={`Chosen ${repeat.over}`} hint="Shift and a click takes a range, Ctrl and a click a single one.">
      <select
        multiple
        size={6}
        className="field w-full text-[13px]"
        aria-label={`Chosen ${repeat.over}`}
        value={parts.filter(({ part }) => held.has(part)).map(({ key }) => key)}
        onChange={(event) => {
          const chosen = [...event.target.selectedOptions].map(({ value }) => value);
          if (chosen.length > 0) choose(chosen);
        }}
      >
        {parts.map((part) => (
          <option key={part.key} value={part.key}>
            {nameOf(part)}
          </option>
        ))}
      </select>
    </Field>
  );
}

export function IconButton({ label, icon, act }: { readonly label: string; readonly icon: React.ReactNode; readonly act: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={act}
      className="flex min-h-6 min-w-6 shrink-0 items-center justify-center text-ink-soft hover:text-ink"
    >
      {icon}
    </button>
  );
}
