import type { BankMappingDto } from '@wise-margin/contract';

import { Choice } from '../ui/choice.tsx';

const NONE = '-1';
type Column = 'date' | 'text' | 'reference' | 'party' | 'balance' | 'amount' | 'moneyIn' | 'moneyOut';
const NAMES: Readonly<Record<Column, string>> = {
  date: 'Date',
  text: 'Description',
  reference: 'Reference',
  party: 'Payer or payee',
  balance: 'Balance',
  amount: 'Amount',
  moneyIn: 'Money in',
  moneyOut: 'Money out',
};

/** Which column of a bank's CSV file is what, and how its dates and amounts are written. */
export function MappingFields({
  columns,
  mapping,
  change,
}: {
  readonly columns: readonly string[];
  readonly mapping: BankMappingDto;
  readonly change: (part: Partial<BankMappingDto>) => void;
}) {
  const isOneColumn = mapping.amount !== null;
  const shown: readonly Column[] = [
    'date',
    'text',
    ...(isOneColumn ? (['amount'] as const) : (['moneyIn', 'moneyOut'] as const)),
    'balance',
    'reference',
    'party',
  ];
  const own = columns.map((name, at): readonly [string, string] => [String(at), name]);
  return (
    <fieldset className="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-[13px]">
      <legend className="sr-only">Columns of the file</legend>
      {shown.map((name) => (
        <Choice
          key={name}
          label={NAMES[name]}
          value={String(mapping[name] ?? NONE)}
          options={name === 'date' || name === 'text' ? own : [[NONE, 'None'], ...own]}
          choose={(value) => change({ [name]: value === NONE ? null : Number(value) })}
        />
      ))}
      <Choice
        label="Amounts in"
        value={isOneColumn ? 'one' : 'two'}
        options={[
          ['one', 'One column'],
          ['two', 'Two columns'],
        ]}
        choose={(value) =>
          change(
            value === 'one'
              ? { amount: mapping.moneyOut ?? 0, moneyIn: null, moneyOut: null }
              : { amount: null, moneyIn: mapping.amount ?? 0, moneyOut: mapping.amount ?? 0 },
          )
        }
      />
      <Choice
        label="Dates"
        value={mapping.dateOrder}
        options={[
          ['mdy', 'Month, day, year'],
          ['dmy', 'Day, month, year'],
          ['ymd', 'Year, month, day'],
        ]}
        choose={(value) => change({ dateOrder: value as BankMappingDto['dateOrder'] })}
      />
      <Choice
        label="Decimal separator"
        value={mapping.decimal}
        options={[
          ['.', 'Period'],
          [',', 'Comma'],
        ]}
        choose={(value) => change({ decimal: value as BankMappingDto['decimal'] })}
      />
      {isOneColumn ? (
        <Choice
          label="A minus is"
          value={mapping.isReversed ? 'in' : 'out'}
          options={[
            ['out', 'Money out'],
            ['in', 'Money in'],
          ]}
          choose={(value) => change({ isReversed: value === 'in' })}
        />
      ) : null}
    </fieldset>
  );
}
