import { minor } from '@wise-margin/core';
import { type DemoStatement, statementCamt, statementCsv, statementOfx } from '@wise-margin/demo';
import fc from 'fast-check';
import { expect, it } from 'vitest';

import { proposeMapping, readBankRows } from '../apps/server/src/reconciliation/bank-files/read-bank-csv.ts';
import { readCamt } from '../apps/server/src/reconciliation/bank-files/read-camt.ts';
import { readOfx } from '../apps/server/src/reconciliation/bank-files/read-ofx.ts';

const day = fc.integer({ min: 1, max: 31 }).map((number) => `2026-10-${String(number).padStart(2, '0')}`);
// what a bank writes: capitals, figures and signs, nothing that ends a line or a cell
const text = fc.stringMatching(/^[A-Z0-9][A-Z0-9 &'.#/-]{0,58}[A-Z0-9]$/).map((each) => each.replace(/ {2,}/g, ' '));
const line = fc.record({
  date: day,
  amount: fc.integer({ min: -99_999_999, max: 99_999_999 }).filter((amount) => amount !== 0),
  text,
  check: fc.oneof(fc.constant(''), fc.stringMatching(/^[1-9]\d{3}$/)),
  party: fc.constant(''),
});
const statement: fc.Arbitrary<DemoStatement> = fc.record({
  from: fc.constant('2026-10-01'),
  to: fc.constant('2026-10-31'),
  opening: fc.integer({ min: -9_999_999, max: 9_999_999 }),
  lines: fc
    .array(line, { minLength: 1, maxLength: 20 })
    .map((lines) => [...lines].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0))),
});
/** A statement as each reader should have it. */
const expected = ({ opening, lines }: DemoStatement) => ({
  opening,
  closing: lines.reduce((sum, { amount }) => sum + amount, opening),
  lines: lines.map(({ date, amount, text: words, check }) => [date, amount, words, check]),
});
const found = ({ opening, closing, lines }: ReturnType<typeof readOfx>) => ({
  opening,
  closing,
  lines: lines.map(({ date, amount, text: words, reference }) => [date, amount, words, reference]),
});
/** Cells of a file whose texts hold no line breaks. */
const cellsOf = (csv: string): string[][] =>
  csv.split('\n').map((row) => [...row.matchAll(/("([^"]*)"|[^,]*)(,|$)/g)].map(([, cell, quoted]) => quoted ?? cell!));

it('any statement is read back from OFX 1 and 2 as it was written', () =>
  fc.assert(
    fc.property(statement, fc.constantFrom(1 as const, 2 as const), (of, version) => {
      expect(found(readOfx(statementOfx(of, version), 2))).toEqual(expected(of));
    }),
  ));
it('any statement is read back from camt.053 as it was written', () =>
  fc.assert(
    fc.property(statement, (of) => {
      expect(found(readCamt(statementCamt(of), 2))).toEqual(expected(of));
    }),
  ));
it('any statement is read back from CSV, oldest or newest line first', () =>
  fc.assert(
    fc.property(statement, fc.boolean(), (of, isNewestFirst) => {
      const [bank, empty, headings, ...rows] = cellsOf(statementCsv(of).trimEnd());
      // a file of one day has no order to be told by
      const turned = isNewestFirst && of.lines[0]!.date !== of.lines.at(-1)!.date ? [...rows].reverse() : rows;
      const file = [bank!, empty!, headings!, ...turned];
      const read = readBankRows(file, { mapping: { ...proposeMapping(file)!, dateOrder: 'mdy' }, exponent: 2 });
      expect(found(read)).toEqual({ ...expected(of), opening: minor(of.opening) });
    }),
  ));
