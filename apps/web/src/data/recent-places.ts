import { type SearchHitDto, searchHitSchema } from '@wise-margin/contract';
import { z } from 'zod';

const MOST = 12;
const keyOf = (company: number): string => `wm.recent.${company}`;
const isSame = (a: SearchHitDto, b: SearchHitDto): boolean => a.kind === b.kind && a.key === b.key;

/** What was opened last in a company, the latest first; kept by the browser. */
export function recentPlaces(company: number): readonly SearchHitDto[] {
  try {
    const held = z.array(searchHitSchema).safeParse(JSON.parse(localStorage.getItem(keyOf(company)) ?? '[]'));
    return held.success ? held.data : [];
  } catch {
    // written by hand, or by another version: there is nothing to go back to
    return [];
  }
}

/** Puts what is opened now before what was opened last. */
export function rememberPlace(company: number, place: SearchHitDto): void {
  const others = recentPlaces(company).filter((each) => !isSame(each, place));
  localStorage.setItem(keyOf(company), JSON.stringify([place, ...others].slice(0, MOST)));
}

/** Hits with those opened lately first; otherwise in their order. */
export function recentFirst(hits: readonly SearchHitDto[], recent: readonly SearchHitDto[]): SearchHitDto[] {
  const isRecent = (hit: SearchHitDto) => recent.some((each) => isSame(each, hit));
  return [...hits.filter(isRecent), ...hits.filter((hit) => !isRecent(hit))];
}
