import { describe, expect, it } from 'vitest';

import type { Column } from './column-set.ts';
import type { Line } from './line-set.ts';
import { actual, block, run, sales, sold } from './small-books.ts';

describe('faults are reported and the rest still shows', () => {
  const broken: Line = { kind: 'formula', key: 'broken', name: 'Broken', expression: 'sales +', result: 'amount' };
  const reads: Line = { kind: 'formula', key: 'reads', name: 'Reads', expression: 'broken * 2', result: 'amount' };
  it('in lines', () => {
    const { issues, value } = run({ postings: [sold(10)], lines: [sales, broken, reads], blocks: [block([actual])] });
    expect(issues).toMatchObject([{ of: 'line', line: 'broken', code: 'formula' }]);
    expect(['sales', 'broken', 'reads'].map((key) => value(key, 'b.actual'))).toEqual([10, 'faultyLine', 'fromNotMeaningful']);
  });
  it('accounts of another company, which leave the line without them', () => {
    const { issues, value } = run({
      postings: [sold(10)],
      lines: [
        sales,
        { kind: 'accounts', key: 'strange', name: 'Strange', selection: { accounts: ['77000'], classes: ['revenue'] }, sign: 'credit' },
      ],
      blocks: [block([actual])],
    });
    expect(issues).toMatchObject([{ of: 'line', line: 'strange', code: 'absentAccounts', token: '77000' }]);
    expect(['sales', 'strange'].map((key) => value(key, 'b.actual'))).toEqual([10, 10]);
  });
  it('in columns, circles among them', () => {
    const { issues, value } = run({
      postings: [sold(10)],
      lines: [sales],
      blocks: [
        block([
          actual,
          { kind: 'difference', key: 'gone', heading: '', compared: 'actual', base: 'deleted' },
          { kind: 'formula', key: 'x', heading: '', expression: 'y', result: 'amount' },
          { kind: 'formula', key: 'y', heading: '', expression: 'x', result: 'amount' },
        ]),
      ],
    });
    expect(issues.map(({ code, token }) => `${code} ${token}`)).toEqual(['unknownColumn deleted', 'circular x']);
    expect(['actual', 'gone', 'x'].map((key) => value('sales', `b.${key}`))).toEqual([10, 'faultyColumn', 'fromNotMeaningful']);
  });
  it('a repeat past the most columns leaves its oldest parts out and says how many', () => {
    const { plan, issues } = run({
      postings: [],
      lines: [sales],
      blocks: [
        block(
          Array.from({ length: 20 }, (_, index) => ({ ...actual, key: `a${index}` }) as Column),
          { repeat: { over: 'months', last: 20 } },
        ),
      ],
    });
    expect(plan.columns).toHaveLength(240);
    expect(issues).toMatchObject([{ code: 'oldestLeftOut', token: '8 months' }]);
  });
});
