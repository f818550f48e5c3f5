import { readChoices } from '../data/statement-choices.ts';

type Named = { readonly id: number; readonly name: string };
const UNIT_WORDS = { cents: 'in cents', dollars: 'in dollars', thousands: 'in thousands', millions: 'in millions' } as const;

/** Names one after another, as in a sentence: `Tours and Store`. */
const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/**
 * The choices made the last time in a view, in words after “Continue”: `with Tours, in thousands, in charts`. Empty where there are none.
 * @param address the choices as the address bar had them
 * @param budgets the company's budgets, for the name of the one chosen
 */
export function rememberedWords(address: string, budgets: readonly Named[]): string {
  const search = new URLSearchParams(address);
  const { filter, accounts, budget, drafts, display } = readChoices(search, '');
  const { unit, ...look } = display;
  const ofFilter = Object.entries(filter).map(([dimension, values]) =>
    values.length === 0 ? `every ${dimension}` : listed(values.map((value) => value || `no ${dimension}`)),
  );
  const chosenBudget = budgets.find(({ id }) => id === budget);
  const what = [
    ...ofFilter,
    accounts === undefined || accounts === '' ? '' : accounts === 'all' ? 'all accounts' : `accounts ${accounts}`,
    chosenBudget ? chosenBudget.name : budget === undefined ? '' : 'another budget',
    drafts === 'yes' ? 'draft entries' : '',
    Object.keys(look).length > 0 ? 'your display settings' : '',
  ].filter((words) => words !== '');
  const how = [unit === undefined ? '' : UNIT_WORDS[unit], search.get('show') === 'charts' ? 'in charts' : ''].filter(
    (words) => words !== '',
  );
  const all = [...what, ...how].join(', ');
  return what.length > 0 ? `with ${all}` : all;
}
