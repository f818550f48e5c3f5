import { describe, expect, it } from 'vitest';

import { ratesOfText } from './rates-text.ts';

describe('a pasted table of rates', () => {
  it('is read with tabs, commas or semicolons, with or without headings and empty rows', () => {
    const expected = new Map([
      ['2026-09', { average: 1.08, closing: 1.1 }],
      ['2026-10', { average: 1.09, closing: 1.115 }],
    ]);
    for (const separator of ['\t', ', ', ';'])
      expect(
        ratesOfText(
          ['Month', 'Average', 'Closing'].join(separator) +
            `\r\n2026-09${separator}1.08${separator}1.1\n\n2026-10${separator}1.09${separator}1.115\n`,
        ),
      ).toEqual({ rates: expected, issues: [] });
    expect(ratesOfText('')).toEqual({ rates: new Map(), issues: [] });
  });

  it('names the row, the field and the value of each fault', () => {
    const { rates, issues } = ratesOfText(
      ['2026-13\t1\t1', '2026-01\t0\t1', '2026-02\t1.2\t-1', '2026-03\t1', '2026-04\t1\t1', '2026-04\t2\t2', '2026-05\t1e3\t1'].join('\n'),
    );
    expect([...rates.keys()]).toEqual(['2026-04']);
    expect(issues).toEqual([
      { row: 1, field: 'month', value: '2026-13', code: 'month' },
      { row: 2, field: 'average', value: '0', code: 'rate' },
      { row: 3, field: 'closing', value: '-1', code: 'rate' },
      { row: 4, field: 'closing', value: '2026-03\t1', code: 'columns' },
      { row: 6, field: 'month', value: '2026-04', code: 'repeated' },
      { row: 7, field: 'average', value: '1e3', code: 'rate' },
    ]);
  });
});
