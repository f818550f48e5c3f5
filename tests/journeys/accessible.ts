import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

import { expect, type Locator, type Page } from '@playwright/test';
import type { AxeResults, Spec } from 'axe-core';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
// axe measures each element against all around it: tables of thousands of figures took a third of its time
const ROWS_DRAWN_ALIKE = 'tbody tr:nth-child(n+8)';

type Axe = {
  readonly configure: (spec: Spec) => void;
  readonly run: (context: object, options: object) => Promise<AxeResults>;
};

/** @throws when `violationsOn` finds any */
export async function expectAccessible(page: Page, within?: Locator): Promise<void> {
  expect(await violationsOn(page, within)).toEqual([]);
}

/**
 * Every violation of WCAG A and AA, or of best practice, that axe can find; rows of a long table past the first seven are drawn alike and left out.
 * @param within the dialog, panel or form that has opened on a page; what lies around it is looked at by the test of that page
 */
export async function violationsOn(page: Page, within?: Locator): Promise<string[]> {
  await within?.evaluate((part) => part.setAttribute('data-looked-at', ''));
  if (await page.evaluate(() => !('axe' in window))) await page.evaluate(axeSource);
  const violations = await page.evaluate(violationsIn, {
    include: within ? ['[data-looked-at]'] : [':root'],
    // buttons without a name that pass the focus on at once, to the panel after them or out of it
    exclude: ['[data-headlessui-focus-guard]'],
    alike: ROWS_DRAWN_ALIKE,
    tags: TAGS,
  });
  await within?.evaluate((part) => part.removeAttribute('data-looked-at'));
  return violations;
}

/**
 * Runs in the page. The contrast of a text follows from its color, its size and the backgrounds it lies on: of texts that
 * have all of them in common the first is measured, which spares half the time of a page with hundreds of figures.
 */
async function violationsIn({
  include,
  exclude,
  alike,
  tags,
}: {
  readonly include: readonly string[];
  readonly exclude: readonly string[];
  /** rows that axe does not walk through at all: to leave them out of its report alone saves little */
  readonly alike: string;
  readonly tags: readonly string[];
}): Promise<string[]> {
  const { axe } = window as unknown as { axe: Axe };
  const TRANSPARENT = 'rgba(0, 0, 0, 0) none 1 ';
  const excluded = [...exclude, alike].map((each) => `${each}, ${each} *`).join();
  const grounds = new Map<Element, string>();
  const measured = new Set<string>();
  for (const element of document.querySelectorAll('body, body *')) {
    const style = getComputedStyle(element);
    const under = grounds.get(element.parentElement!) ?? '';
    // what is placed freely may lie on something else than what it is in
    const placed = style.position === 'absolute' || style.position === 'fixed' ? style.position : '';
    const own = [style.backgroundColor, style.backgroundImage, style.opacity, placed].join(' ');
    const ground = own === TRANSPARENT ? under : `${under}|${own}`;
    grounds.set(element, ground);
    const text = [ground, style.color, style.fontSize, style.fontWeight, style.textShadow].join(' ');
    if (element.matches(excluded) || !element.closest(include.join())) continue;
    const hasText = [...element.childNodes].some(({ nodeType, nodeValue }) => nodeType === Node.TEXT_NODE && nodeValue!.trim() !== '');
    if (!hasText && !element.matches('input, select, textarea')) continue;
    if (measured.has(text)) element.setAttribute('data-measured-elsewhere', '');
    measured.add(text);
  }
  // what axe asks a document for to walk through it, without the rows
  const isWalked = (node: Node): boolean => !(node instanceof Element && node.matches(alike));
  const bodies = [...document.querySelectorAll('tbody')];
  const tables = [...document.querySelectorAll('table')];
  for (const body of bodies)
    Object.defineProperty(body, 'childNodes', { value: [...body.childNodes].filter(isWalked), configurable: true });
  for (const table of tables) Object.defineProperty(table, 'rows', { value: [...table.rows].filter(isWalked), configurable: true });
  document.createTreeWalker = (from: Node, kinds?: number) =>
    Document.prototype.createTreeWalker.call(document, from, kinds, (node) =>
      isWalked(node) ? NodeFilter.FILTER_ACCEPT : NodeFilter.FILTER_REJECT,
    );
  // elements are written out below, where they violate something, not each one that was looked at; a rule that fails itself (`debug`) fails the test
  axe.configure({ noHtml: true, rules: [{ id: 'color-contrast', selector: ':not([data-measured-elsewhere])' }] });
  const { violations } = await axe
    .run({ include, exclude }, { runOnly: { type: 'tag', values: tags }, resultTypes: ['violations'], elementRef: true, debug: true })
    .catch(({ message }: Error) => {
      // what axe throws holds the whole page and cannot leave it
      throw new Error(message);
    });
  for (const body of bodies) Reflect.deleteProperty(body, 'childNodes');
  for (const table of tables) Reflect.deleteProperty(table, 'rows');
  Reflect.deleteProperty(document, 'createTreeWalker');
  for (const element of document.querySelectorAll('[data-measured-elsewhere]')) element.removeAttribute('data-measured-elsewhere');
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .slice(0, 3)
        .map(({ element }) => element!.outerHTML.slice(0, 160))
        .join(' | ')}`,
  );
}
