import { describe, expect, it } from 'vitest';

import { filterQuerySchema, newBudgetSchema, newCompanySchema, statementQuerySchema } from './index.ts';

describe('requests', () => {
  it('a filter is values by dimension, and anything else is refused with how it is written', () => {
    expect(filterQuerySchema.parse({ department: ['Tours', ''] })).toEqual({ department: ['Tours', ''] });
    expect(filterQuerySchema.parse(undefined)).toEqual({});
    for (const bad of ['nonsense', '{"department":["Tours"]}', 5])
      expect(filterQuerySchema.safeParse(bad).error!.issues[0]!.message).toContain('filter.department=Tours');
  });
  it('percentages come with or without their sign, as text', () => {
    const read = (change: string) => newBudgetSchema.safeParse({ name: 'n', year: 2027, from: 2026, change });
    expect(['3', '3%', '3%', '-1.25', '+2'].map((text) => read(text).data?.change)).toEqual(['3', '3', '3', '-1.25', '+2']);
    for (const bad of ['', 'x', '1e3', '3,5', '99999']) expect(read(bad).success).toBe(false);
  });
  it('a company needs a name, a currency and a month', () => {
    expect(newCompanySchema.parse({ name: ' Shop ', currency: 'usd', startMonth: '4' })).toEqual({
      name: 'Shop',
      currency: 'USD',
      startMonth: 4,
      hasAdjustmentPeriod: false,
    });
    expect(newCompanySchema.safeParse({ name: '', currency: 'dollar', startMonth: 0 }).error!.issues.map(({ path }) => path[0])).toEqual([
      'name',
      'currency',
      'startMonth',
    ]);
  });
  it('a statement is asked for by month', () => {
    expect(statementQuerySchema.parse({ asOf: '2026-10' })).toMatchObject({ asOf: '2026-10', filter: {} });
    expect(statementQuerySchema.safeParse({ asOf: 'October' }).success).toBe(false);
  });
});
