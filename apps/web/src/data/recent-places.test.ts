import type { SearchHitDto } from '@wise-margin/contract';
import { beforeEach, expect, it, vi } from 'vitest';

import { recentFirst, recentPlaces, rememberPlace } from './recent-places.ts';

const hit = (key: string, kind: SearchHitDto['kind'] = 'view'): SearchHitDto => ({
  kind,
  key,
  name: key,
  detail: '',
  amount: null,
  link: key,
});
const keys = () => recentPlaces(1).map(({ key }) => key);

beforeEach(() => {
  const held = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => held.get(key) ?? null,
    setItem: (key: string, value: string) => void held.set(key, value),
  });
  return () => vi.unstubAllGlobals();
});

it('the latest is first, once, and a company has its own', () => {
  for (const key of ['income', 'balance', 'income']) rememberPlace(1, hit(key));
  rememberPlace(2, hit('cash-flow'));
  expect(keys()).toEqual(['income', 'balance']);
});
it('twelve are kept', () => {
  for (let at = 1; at <= 15; at += 1) rememberPlace(1, hit(`view-${at}`));
  expect([keys().length, keys()[0]]).toEqual([12, 'view-15']);
});
it('what cannot be read is nothing', () => {
  localStorage.setItem('wm.recent.1', '{"not": "a list"');
  expect(keys()).toEqual([]);
  for (const other of ['{"not": "a list"}', '[{"kind": "view"}]', '[null]']) {
    localStorage.setItem('wm.recent.1', other);
    expect(keys()).toEqual([]);
  }
});
it('hits opened lately come first, the others stay in order', () => {
  const hits = [hit('a'), hit('b'), hit('c'), hit('b', 'budget')];
  expect(recentFirst(hits, [hit('c'), hit('b')]).map(({ key, kind }) => `${kind} ${key}`)).toEqual([
    'view b',
    'view c',
    'view a',
    'budget b',
  ]);
});
