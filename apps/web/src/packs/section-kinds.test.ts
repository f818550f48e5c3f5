import { packSectionSchema } from '@wise-margin/contract';
import type { Section } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { moved, newSection, SECTION_KINDS, withCopy } from './section-kinds.ts';

const some = (...kinds: Section['kind'][]): Section[] => {
  const sections: Section[] = [];
  for (const kind of kinds) sections.push(newSection(kind, sections));
  return sections;
};
const ids = (sections: readonly Section[]): string[] => sections.map(({ id }) => id);

describe('sections of a pack', () => {
  it.each(SECTION_KINDS)('a new %s is accepted as it is', (kind) => {
    expect(packSectionSchema.parse(newSection(kind, []))).toEqual(newSection(kind, []));
  });
  it('have ids of their own, however many there are of a kind', () => {
    expect(ids(some('text', 'text', 'aging', 'text'))).toEqual(['text', 'text-2', 'aging', 'text-3']);
  });
  it('are copied right after themselves under another id', () => {
    const copied = withCopy(some('text', 'aging'), 'text');
    expect([ids(copied), copied[1]!.title]).toEqual([['text', 'text-2', 'aging'], 'Text, copy']);
  });
  it('move to a place and lose none', () => {
    const sections = some('cover', 'text', 'aging');
    expect(ids(moved(sections, 'cover', 2))).toEqual(['text', 'aging', 'cover']);
    expect(ids(moved(sections, 'aging', 0))).toEqual(['aging', 'cover', 'text']);
    expect(ids(moved(sections, 'none', 1))).toEqual(ids(sections));
  });
});
