import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { toDecimalText } from '../money/format-amount.ts';
import { minor } from '../money/minor.ts';
import { editsOfChanges, fileEffect, type FilePlace, readBudgetFile } from './budget-file.ts';
import { booksOf, head, line, SOUTH } from './small-budget.ts';
import { BudgetWorksheet } from './worksheet.ts';

const TYPED = { kind: 'typed' } as const;
const place: FilePlace = { books: booksOf({}), head, values: new Map([['department', ['North', 'South', '']]]) };
const worksheetOf = () =>
  new BudgetWorksheet({ books: place.books, head, lines: [line(1, '4000', TYPED, -500), line(2, '6000', TYPED, 100, SOUTH)] });
const HEADER = ['account', 'period', 'amount', 'department'];
const read = (...rows: string[][]) => readBudgetFile([HEADER, ...rows], place);

describe('a budget file', () => {
  it('changes what differs and leaves what is the same', () => {
    const { figures, issues } = read(
      ['4000', '2027-01', '5.00', 'North'],
      ['4000', '2027-02', '7', 'North'],
      ['6000', '2027-12', '-2.5', ''],
    );
    const effect = fileEffect(worksheetOf(), place, figures);
    expect([issues, effect.issues, effect.same]).toEqual([[], [], 1]);
    expect(effect.changes).toEqual([
      { account: '4000', dimensions: { department: 'North' }, month: 1, from: 500, to: 700 },
      { account: '6000', dimensions: {}, month: 11, from: 0, to: -250 },
    ]);
  });
  it.each([
    [['4000', '2027-13', '1', 'North'], 'period', 'outsideYear'],
    [['4000', '2026-01', '1', 'North'], 'period', 'outsideYear'],
    [['4000', 'April', '1', 'North'], 'period', 'periodLayout'],
    [['4000', '2027-01', '1'], '', 'cellCount'],
    [['', '2027-01', '1', 'North'], 'account', 'required'],
    [['4001', '2027-01', '1', 'North'], 'account', 'unknownAccount'],
    [['1000', '2027-01', '1', 'North'], 'account', 'notBudgeted'],
    [['4000', '2027-01', '1', 'north'], 'department', 'unknownValue'],
    [['4000', '2027-01', '1,000', 'North'], 'amount', 'amount'],
    [['4000', '2027-01', '99999999999999', 'North'], 'amount', 'amount'],
  ])('refuses %j', (row, column, code) => {
    const { figures, issues } = read(row);
    const effect = fileEffect(worksheetOf(), place, figures);
    expect([...issues, ...effect.issues]).toMatchObject([{ row: 2, column, code }]);
    expect(effect.changes).toEqual([]);
  });
  it('names what is near, tells repeats, and columns that are missing or strange', () => {
    const { figures } = read(['4000', '2027-01', '1', 'Nroth'], ['4000', '2027-02', '1', 'North'], ['4000', '2027-02', '2', 'North']);
    const { issues, changes } = fileEffect(worksheetOf(), place, figures);
    expect(issues).toMatchObject([
      { row: 2, code: 'unknownValue', near: ['North'] },
      { row: 4, code: 'repeated' },
    ]);
    expect(changes).toHaveLength(1);
    expect(readBudgetFile([['account', 'amount', 'amount', 'colour']], place).issues.map(({ code, column }) => [code, column])).toEqual([
      ['missingColumn', 'period'],
      ['missingColumn', 'department'],
      ['repeatedColumn', 'amount'],
      ['unknownColumn', 'colour'],
    ]);
    expect(readBudgetFile([], place).issues).toMatchObject([{ code: 'emptyFile' }]);
  });
  it('its changes made leave nothing to change', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.tuple(
            fc.constantFrom('4000', '5000', '6000'),
            fc.nat(11),
            fc.constantFrom('North', 'South', ''),
            fc.integer({ min: -1e12, max: 1e12 }),
          ),
          {
            selector: ([account, month, department]) => `${account} ${month} ${department}`,
          },
        ),
        (rows) => {
          const { figures } = read(
            ...rows.map(([account, month, department, amount]) => [
              account,
              `2027-${String(month + 1).padStart(2, '0')}`,
              toDecimalText(minor(amount), 2),
              department,
            ]),
          );
          const worksheet = worksheetOf();
          const { changes } = fileEffect(worksheet, place, figures);
          for (const { edits, filter } of editsOfChanges(head, changes, (amount) => toDecimalText(amount, 2)))
            expect(worksheet.apply(edits, filter).refusals).toEqual([]);
          expect(fileEffect(worksheet, place, figures)).toMatchObject({ changes: [], same: rows.length, issues: [] });
        },
      ),
      { numRuns: 50 },
    ));
});
