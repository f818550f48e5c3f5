import { describe, expect, it } from 'vitest';

import { CASH_FLOW_PARTS } from '../../cash-flow/cash-flow-part.ts';
import { RATIOS } from '../../ratio/catalog.ts';
import { walkLines } from '../edit-lines.ts';
import { SHIPPED_VIEWS } from './views.ts';

/** A name of the code within a text: lower case followed by upper case, or an underscore. */
const CODE_NAME = /[a-z][A-Z]|\w_\w/;

describe('what a built-in view shows', () => {
  it.each(SHIPPED_VIEWS.map((view) => [view.key, view] as const))(
    '%s has words, not names of the code',
    (_, { name, note, folder, lineSet, columnSet }) => {
      const lines: string[] = [];
      walkLines(lineSet.lines, (line) => void lines.push('name' in line ? line.name : ''));
      const columns = columnSet.blocks.flatMap(({ heading, columns: own }) => [heading, ...own.map((column) => column.heading)]);
      for (const text of [name, note, folder, ...lines, ...columns]) expect(text).not.toMatch(CODE_NAME);
    },
  );

  it('ratios and parts of the cash flow statement too', () => {
    for (const words of Object.values(CASH_FLOW_PARTS)) expect(words).not.toMatch(CODE_NAME);
    for (const { name, words } of RATIOS) expect(`${name} ${words}`).not.toMatch(CODE_NAME);
    expect(CASH_FLOW_PARTS.noncashExchange).toBe('acquired in exchange');
  });
});
