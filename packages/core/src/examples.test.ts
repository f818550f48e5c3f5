import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import { describe, expect, it } from 'vitest';

/** Every `@example call(...) // value` of the core's doc blocks whose value can be read, run. */
const source = fileURLToPath(new URL('.', import.meta.url));
const files = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter(
  (name) => name.endsWith('.ts') && !name.endsWith('.test.ts'),
);
const names = Object.assign({}, ...(await Promise.all(files.map((name) => import(join(source, name)))))) as Record<string, unknown>;
const examples = files.flatMap((name) =>
  [...readFileSync(join(source, name), 'utf8').matchAll(/@example (.+?\)(?:\.\w+)?) \/\/ (.+)$/gm)].flatMap(([, call, expected]) => {
    const value = expected!
      .replace(/ \(.*\)$/, '')
      .replace(/^('[^']*').*/, '$1')
      .replace(/:.*(?<!\}|\]|')$/, '');
    return /^(['[{\d-]|true|false|null)/.test(value) && !/ in [A-Z]/.test(value) ? [{ name, call: call!, value }] : [];
  }),
);

describe('examples in the documentation are true', () => {
  it('finds them', () => expect(examples.length).toBeGreaterThan(8));
  it.each(examples)('$name: $call', ({ call, value }) => {
    // the project's own doc comments, in a test; nothing a person types comes here
    const run = new Function(...Object.keys(names), `return [${call}, (${value})];`) as (...parts: unknown[]) => [unknown, unknown];
    const [given, expected] = run(...Object.values(names));
    expect(given).toEqual(expected);
  });
});
