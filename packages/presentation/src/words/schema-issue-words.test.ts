import { describe, expect, it } from 'vitest';
import { z } from 'zod';

import { schemaIssueWords } from './schema-issue-words.ts';

/** The words for the first thing that is wrong with a value. */
const wordsFor = (schema: z.ZodType, value: unknown): string | undefined =>
  schema.safeParse(value, { error: schemaIssueWords }).error?.issues[0]?.message;

describe('words for a field that cannot be taken', () => {
  it.each<readonly [string, z.ZodType, unknown, string]>([
    ['a missing text', z.string(), undefined, 'This is missing. Give a text.'],
    ['a missing flag', z.boolean(), undefined, 'This is missing. Give true or false.'],
    ['a number for a text', z.string(), 12, '12 is not a text.'],
    ['a text for a number', z.number(), 'twelve', 'twelve is not a number.'],
    ['a text read as a number', z.coerce.number(), 'a month', 'What was entered is not a number.'],
    ['a part of one', z.number().int(), 0.5, '0.5 is not a whole number.'],
    ['nothing for a list', z.array(z.string()), null, 'null is not a list.'],
    ['a list for an object', z.object({}), [1], 'This is not an object.'],
    ['no such choice', z.enum(['pdf', 'docx', 'xlsx']), 'ods', 'ods is not a choice here. Use pdf, docx or xlsx.'],
    ['the only choice', z.literal('all'), '', 'An empty text is not a choice here. Use all.'],
    [
      'no such kind',
      z.discriminatedUnion('kind', [z.object({ kind: z.literal('month') }), z.object({ kind: z.literal('fixed') })]),
      { kind: 'week' },
      'week is not a choice here. Use month or fixed.',
    ],
    ['none of several', z.union([z.string(), z.null()]), 3, '3 is not what is expected here.'],
    ['a day there is not', z.iso.date(), '2026-02-30', '2026-02-30 is not a date. Enter it such as 2026-10-31.'],
    ['an address', z.email(), 'joe', 'joe is not an email address. Enter one such as name@company.com.'],
    ['another form', z.string().regex(/^\d{4}-\d\d$/), 'Oct', 'Oct is not of the form expected here.'],
    ['a long text', z.string().max(80), 'x'.repeat(1200), 'This has 1,200 characters, more than the 80 that are allowed. Shorten it.'],
    ['a long list', z.array(z.number()).max(2), [1, 2, 3], 'These are 3, more than the 2 that are allowed. Send fewer.'],
    ['a large number', z.number().max(9), 10.5, '10.5 is more than 9, the largest allowed.'],
    ['an empty text', z.string().min(1), '', 'This is empty. Enter a text.'],
    ['a short text', z.string().min(8), 'key', 'Enter at least 8 characters.'],
    ['an empty list', z.array(z.string()).min(1), [], 'This is empty. Give at least one.'],
    ['a small number', z.number().min(1), 0, '0 is less than 1, the smallest allowed.'],
    ['half a step', z.number().multipleOf(100), 150, '150 is not a multiple of 100.'],
    ['an unknown field', z.strictObject({}), { monht: 1 }, 'There is no field monht here. Remove it.'],
  ])('%s', (_, schema, value, words) => expect(wordsFor(schema, value)).toBe(words));

  it('of many choices name the first twelve and say how many more there are', () => {
    const names = Array.from({ length: 30 }, (_, at) => `view-${at}`);
    expect(wordsFor(z.enum(names), 'x')).toBe(`x is not a choice here. Use one of ${names.slice(0, 12).join(', ')} and 18 more.`);
  });
  it('do not repeat a long value', () => expect(wordsFor(z.number(), 'y'.repeat(400))).toBe('This is not a number.'));
  it('give way to words of the schema’s own', () => expect(wordsFor(z.string().min(1, 'Enter a name'), '')).toBe('Enter a name'));
});
