import type { CompanyDto } from '@wise-margin/contract';
import { type Block, changeBlock, type ColumnSet, duplicateBlock, type Repeat } from '@wise-margin/core';
import { Copy, Trash2 } from 'lucide-react';

import { dimensionName } from '../../filters/index.ts';
import { ChosenParts } from './block-parts.tsx';
import { Check, Field, Select } from './field.tsx';
import { FieldText } from './field-text.tsx';
import { IconButton } from './icon-button.tsx';
import { TextInput } from './text-input.tsx';
import { textAsName, type TextField } from './tokens.ts';

const REPEATS: readonly (readonly [string, string])[] = [
  ['', 'None'],
  ['months:year', 'Each month of the year'],
  ['months', 'Latest months'],
  ['quarters', 'Latest quarters'],
  ['years', 'Latest years'],
  ['chosen:months', 'Chosen months'],
  ['chosen:quarters', 'Chosen quarters'],
  ['chosen:years', 'Chosen years'],
];
const MOST_PARTS = 400;

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

/** The heading of a block that repeats over values names the value; that of any other its period. */
const headingFor = ({ heading }: Block, repeat: Repeat | null): string => {
  if (repeat?.over === 'dimension') return heading === '{span}' ? '{value}' : heading;
  return heading === '{value}' ? '{span}' : heading;
};

/** The heading a total starts with: the values it is over, or their period. */
export const totalHeading = ({ repeat }: Block): string => (repeat?.over === 'dimension' ? '{all}' : 'Total, {span}');

/** What a block is called in lists and for screen readers. */
export const blockName = ({ heading, key }: Block): string => textAsName(heading) || key;

/** The heading of a block and what it repeats over. */
export function BlockHead({
  block,
  company,
  change,
  remove,
}: {
  readonly block: Block;
  readonly company: CompanyDto;
  readonly change: (next: (set: ColumnSet) => ColumnSet) => void;
  readonly remove: () => void;
}) {
  const set = (next: (own: Block) => Block) => change((own) => changeBlock(own, block.key, next));
  const { repeat } = block;
  const fields: readonly TextField[] = repeat?.over === 'dimension' ? ['value', 'span'] : ['span'];
  const setRepeat = (text: string) =>
    set((own) => {
      const made = repeatOf(text, own.repeat, company.lastActual ?? company.periods[0]!.key);
      const { repeat: _repeat, total: _total, ...plain } = own;
      const heading = headingFor(own, made);
      return made ? { ...own, heading, repeat: made } : { ...plain, heading };
    });
  return (
    <div>
      <div className="flex items-end gap-1">
        <div className="min-w-0 flex-1">
          <FieldText
            label="Block heading"
            value={block.heading}
            fields={fields}
            className="font-serif font-semibold"
            commit={(heading) => set((own) => ({ ...own, heading }))}
          />
        </div>
        <IconButton
          label={`Duplicate block ${blockName(block)}`}
          icon={<Copy size={13} aria-hidden="true" />}
          act={() => change((own) => duplicateBlock(own, block.key).set)}
        />
        <IconButton label={`Remove block ${blockName(block)}`} icon={<Trash2 size={13} aria-hidden="true" />} act={remove} />
      </div>
      <div className="flex items-end gap-2">
        <div className="flex-1">
          <Field label="Repeat">
            <Select
              value={repeatText(block)}
              options={[
                ...REPEATS,
                ...[...company.dimensions.map(({ name }) => name), ...company.furtherDimensions].map(
                  (name) => [`dimension:${name}`, `Each ${dimensionName(name).toLowerCase()}`] as const,
                ),
              ]}
              choose={setRepeat}
            />
          </Field>
        </div>
        {repeat && 'last' in repeat ? (
          <div className="w-20">
            <Field label="How many">
              <TextInput
                value={String(repeat.last)}
                commit={(text) => {
                  const last = Number(text);
                  if (Number.isInteger(last) && last > 0)
                    set((own) => ({ ...own, repeat: { ...repeat, last: Math.min(last, MOST_PARTS) } }));
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
      <div className="flex flex-wrap gap-x-4">
        {repeat ? (
          <Check
            label="Add a total"
            checked={block.total !== undefined}
            choose={(on) =>
              set((own) => {
                const { total: _total, ...plain } = own;
                return on ? { ...own, total: { heading: totalHeading(own) } } : plain;
              })
            }
          />
        ) : null}
        <Check label="Hidden" checked={block.hidden ?? false} choose={(hidden) => set((own) => ({ ...own, hidden }))} />
      </div>
      {block.total ? (
        <FieldText
          label="Total heading"
          value={block.total.heading}
          fields={repeat?.over === 'dimension' ? ['all', 'span'] : ['span']}
          commit={(heading) => set((own) => ({ ...own, total: { heading } }))}
        />
      ) : null}
    </div>
  );
}
