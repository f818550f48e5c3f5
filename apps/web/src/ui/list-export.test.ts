import { expect, it } from 'vitest';

import type { ListColumn } from './list.tsx';
import { listCsv } from './list-export.tsx';

type Row = { readonly name: string; readonly amount: number | null };
const columns: readonly ListColumn<Row>[] = [
  { key: 'name', name: 'Name', value: ({ name }) => name, cell: ({ name }) => name },
  { key: 'bar', name: 'Bar', cell: () => null },
  {
    key: 'amount',
    name: 'Amount, USD',
    isAmount: true,
    value: ({ amount }) => amount,
    file: ({ amount }) => (amount === null ? null : amount / 100),
    cell: () => null,
  },
];

it('a list is written whole: quoted where it has to be, harmless to spreadsheets, figures as numbers', () => {
  const rows = [
    { name: 'Kelp, "Keel"', amount: 12_345 },
    { name: '=1+1', amount: -5 },
    { name: '', amount: null },
  ];
  expect(listCsv(columns, rows)).toBe('Name,"Amount, USD"\r\n"Kelp, ""Keel""",123.45\r\n\'=1+1,-0.05\r\n,\r\n');
  expect(listCsv(columns, [])).toBe('Name,"Amount, USD"\r\n');
});
