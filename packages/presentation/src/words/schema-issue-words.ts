import type { z } from 'zod';

/** What a check of a request found, before it has words. */
type SchemaIssue = z.core.$ZodRawIssue;

const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'nothing',
};
const FORMATS: Readonly<Record<string, string>> = {
  date: 'a date. Enter it such as 2026-10-31.',
  datetime: 'a moment. Enter it such as 2026-10-31T08:00:00Z.',
  email: 'an email address. Enter one such as name@company.com.',
  url: 'an address on the web. Enter one such as https://example.com.',
};
const LONGEST_SHOWN = 60;
const MOST_CHOICES = 12;

/**
 * What is wrong with a field of a request, and what to do, where its schema has no words of its own: names the value,
 * the limit or the choices. The field is named by whoever shows it.
 * @returns undefined for an issue this has no words for
 */
export function schemaIssueWords(issue: SchemaIssue): string | undefined {
  const { input } = issue;
  switch (issue.code) {
    case 'invalid_type': {
      const kind = KINDS[issue.expected] ?? 'a value';
      return input === undefined ? `This is missing. Give ${kind}.` : `${shown(input)} is not ${kind}.`;
    }
    case 'invalid_value':
      return `${shown(input)} is not a choice here. Use ${choices(issue.values)}.`;
    case 'invalid_union':
      return issue.discriminator === undefined || issue.options === undefined
        ? `${shown(input)} is not what is expected here.`
        : `${shown((input as Readonly<Record<string, unknown>>)[issue.discriminator])} is not a choice here. Use ${choices(issue.options as readonly unknown[])}.`;
    case 'invalid_format':
      return `${shown(input)} is not ${FORMATS[issue.format] ?? 'of the form expected here.'}`;
    case 'too_big':
      return tooBig(issue.origin, Number(issue.maximum), input);
    case 'too_small':
      return tooSmall(issue.origin, Number(issue.minimum), input);
    case 'not_multiple_of':
      return `${shown(input)} is not a multiple of ${count(issue.divisor)}.`;
    case 'unrecognized_keys':
      return `There is no field ${issue.keys.join(', ')} here. Remove it.`;
    default:
      return undefined;
  }
}

const count = (value: number): string => value.toLocaleString('en-US', { maximumFractionDigits: 10 });

function tooBig(origin: string, most: number, input: unknown): string {
  if (typeof input === 'string')
    return `This has ${count(input.length)} characters, more than the ${count(most)} that are allowed. Shorten it.`;
  if (Array.isArray(input)) return `These are ${count(input.length)}, more than the ${count(most)} that are allowed. Send fewer.`;
  return origin === 'number' || origin === 'int'
    ? `${shown(input)} is more than ${count(most)}, the largest allowed.`
    : 'This is too large.';
}

function tooSmall(origin: string, least: number, input: unknown): string {
  if (typeof input === 'string') return least === 1 ? 'This is empty. Enter a text.' : `Enter at least ${count(least)} characters.`;
  if (Array.isArray(input)) return least === 1 ? 'This is empty. Give at least one.' : `Give at least ${count(least)}.`;
  return origin === 'number' || origin === 'int'
    ? `${shown(input)} is less than ${count(least)}, the smallest allowed.`
    : 'This is too small.';
}

/** A value as a message names it; one that is long or has parts is not repeated. */
function shown(value: unknown): string {
  if (value === '') return 'An empty text';
  // a text was turned into a number before it was looked at
  if (Number.isNaN(value)) return 'What was entered';
  if (typeof value === 'string' && value.length <= LONGEST_SHOWN) return value;
  if (typeof value === 'number' || typeof value === 'boolean' || value === null) return String(value);
  return 'This';
}

function choices(values: readonly unknown[]): string {
  const names = values.map(String);
  if (names.length > MOST_CHOICES)
    return `one of ${names.slice(0, MOST_CHOICES).join(', ')} and ${count(names.length - MOST_CHOICES)} more`;
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} or ${names.at(-1)!}`;
}
