import { type BudgetStateDto, filterParameters, type FindingDto, type SearchDto, type SearchHitDto } from '@wise-margin/contract';
import {
  longPeriodName,
  MATCH,
  matchNames,
  minor,
  type NameMatch,
  periodAt,
  readSearch,
  type SearchText,
  toDecimalText,
} from '@wise-margin/core';
import { dayWords, PLACES, STATE_WORDS, VIEW_SYNONYMS } from '@wise-margin/presentation';

import type { BudgetStore } from '../budget-store/index.ts';
import { type Books, type BooksCache, PARTY } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { FindingList } from '../findings/index.ts';
import type { PackStore } from '../packs/index.ts';
import type { ViewStore } from '../statements/index.ts';
import type { EntryIndex, FoundEntry } from './entry-index.ts';

const MOST_OF_A_KIND = 5;
const MOST_ENTRIES = 8;

type Parts = {
  readonly booksCache: BooksCache;
  readonly views: ViewStore;
  readonly packStore: PackStore;
  readonly budgetStore: BudgetStore;
  readonly findingList: FindingList;
  readonly entryIndex: EntryIndex;
  readonly actor: Actor;
};
/** Hits of one kind, and how well the best of them answers. */
type Group = { readonly hits: readonly SearchHitDto[]; readonly best: number };

/** One search over everything a company has: months, views, accounts, budgets, packs, findings, customers and vendors, entries, pages. */
export class SearchService {
  readonly #parts: Parts;
  readonly #findings = new WeakMap<Books, Map<string, Promise<readonly FindingDto[]>>>();

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * What a text can mean, the likeliest first. An empty text finds nothing, and makes the next search quick: findings are
   * computed and the index of entries is brought up to date.
   */
  async search(companyId: number, { q, asOf }: { readonly q: string; readonly asOf?: string | undefined }): Promise<SearchDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const asked = readSearch(q, { calendar: books.calendar, exponent: books.currency.exponent, last: books.lastActual });
    const pending = await this.#parts.entryIndex.pending();
    const findings = await this.#findingsOf(books, asOf);
    if (asked.text === '') return { hits: [], moreEntries: null, pending };
    const groups = [
      monthGroup(books, asked),
      nameGroup(await this.#viewNames(books), asked),
      nameGroup(accountNames(books), asked),
      nameGroup(await this.#budgetNames(books), asked),
      nameGroup(await this.#packNames(books), asked),
      findingGroup(books, findings, asked),
      nameGroup(partyNames(books), asked),
      await this.#entryGroup(books, asked),
      nameGroup(placeNames, asked),
    ];
    // kinds in the order above, those with the very thing first
    const ordered = [...groups.filter(({ best }) => best === MATCH.exact), ...groups.filter(({ best }) => best !== MATCH.exact)];
    const entries = groups.at(-2)!.hits.length;
    return {
      hits: ordered.flatMap(({ hits }) => hits),
      moreEntries: entries < MOST_ENTRIES ? null : entriesAddress(books, asked),
      pending,
    };
  }

  /** Findings of the month in view against the budget; none before anything is posted. */
  #findingsOf(books: Books, asked: string | undefined): Promise<readonly FindingDto[]> {
    if (books.lastActual === null) return Promise.resolve([]);
    const isKnown = asked !== undefined && books.calendar.periods.some(({ key }) => key === asked);
    const asOf = isKnown ? asked : periodAt(books.calendar, books.lastActual).key;
    const held = this.#findings.get(books) ?? new Map<string, Promise<readonly FindingDto[]>>();
    this.#findings.set(books, held);
    const running =
      held.get(asOf) ??
      this.#parts.findingList.list(books.id, { view: 'income', asOf, comparison: 'budget' }).then(({ findings }) => findings);
    held.set(asOf, running);
    running.catch(() => held.delete(asOf));
    return running;
  }

  async #viewNames(books: Books): Promise<Named[]> {
    const views = await this.#parts.views.list(books.id, this.#parts.actor);
    return views.map(({ key, name, folder, note }) => ({
      names: [name, ...(VIEW_SYNONYMS[key] ?? [])],
      hit: { kind: 'view', key, name, detail: note || folder, amount: null, link: `statements/${key}` },
    }));
  }

  async #budgetNames(books: Books): Promise<Named[]> {
    const budgets = await this.#parts.budgetStore.list(books.id);
    return budgets.map(({ id, name, year, state }) => ({
      names: [name, `FY${year}`, String(year), 'Budget'],
      hit: {
        kind: 'budget',
        key: String(id),
        name,
        detail: `FY${year}, ${STATE_WORDS[state as BudgetStateDto]}`,
        amount: null,
        link: `budgets/${id}`,
      },
    }));
  }

  async #packNames(books: Books): Promise<Named[]> {
    const packs = await this.#parts.packStore.list(books.id);
    return packs.map(({ key, name, note }) => ({
      names: [name, 'Review pack'],
      hit: { kind: 'pack', key, name, detail: note, amount: null, link: `packs/${key}` },
    }));
  }

  async #entryGroup(books: Books, asked: SearchText): Promise<Group> {
    const { entryIndex } = this.#parts;
    const byText = await entryIndex.find(books.id, asked.words, MOST_ENTRIES);
    const byAmount = asked.amount === null ? [] : await entryIndex.ofAmount(books.id, asked.amount, MOST_ENTRIES);
    const seen = new Set<number>();
    const found = [...byAmount, ...byText].filter(({ id }) => !seen.has(id) && seen.add(id)).slice(0, MOST_ENTRIES);
    const isExact = found.some(({ number, document }) => [number, document].some((text) => text.toLowerCase() === asked.words.join(' ')));
    return { hits: found.map(entryHit), best: isExact ? MATCH.exact : MATCH.words };
  }
}

/** A hit with the names it answers to. */
type Named = { readonly names: readonly string[]; readonly hit: SearchHitDto };

const bestOf = (matches: readonly NameMatch[]): number => matches[0]?.score ?? MATCH.within;

function nameGroup(named: readonly Named[], { words }: SearchText): Group {
  const matches = matchNames(
    words,
    named.map(({ names }) => names),
    MOST_OF_A_KIND,
  );
  return { hits: matches.map(({ at }) => named[at]!.hit), best: bestOf(matches) };
}

function monthGroup(books: Books, { month }: SearchText): Group {
  if (month === null) return { hits: [], best: MATCH.within };
  const { key } = periodAt(books.calendar, month);
  const name = longPeriodName(books.calendar, month);
  const hit: SearchHitDto = { kind: 'month', key, name, detail: 'Set the as-of month', amount: null, link: key };
  return { hits: [hit], best: MATCH.exact };
}

const accountNames = ({ chart }: Books): Named[] =>
  chart.accounts.map(({ number, name, active }) => ({
    names: [number, name, `${number} ${name}`],
    hit: {
      kind: 'account',
      key: number,
      name: `${number} ${name}`,
      detail: active ? '' : 'Inactive',
      amount: null,
      link: `ledger/reports/account-detail?accounts=${encodeURIComponent(number)}`,
    },
  }));

const partyNames = ({ parties }: Books): Named[] =>
  parties.map((name) => ({
    names: [name],
    hit: {
      kind: 'party',
      key: name,
      name,
      detail: '',
      amount: null,
      link: `ledger/entries?${new URLSearchParams(filterParameters({ [PARTY]: [name] })).toString()}`,
    },
  }));

const placeNames: readonly Named[] = PLACES.map(({ kind, name, path, synonyms }) => ({
  names: [name, ...synonyms],
  hit: { kind, key: name, name, detail: '', amount: null, link: path },
}));

/** Findings whose line has the name, or whose variance shows as the amount. */
function findingGroup(books: Books, findings: readonly FindingDto[], { words, amount }: SearchText): Group {
  const matches = matchNames(
    words,
    findings.map(({ name }) => [name]),
    MOST_OF_A_KIND,
  );
  const isOfAmount = (value: number): boolean => amount !== null && Math.abs(value) >= amount.least && Math.abs(value) <= amount.most;
  const ofAmount = findings.flatMap(({ spans }, at) => (spans.some(({ variance }) => isOfAmount(variance)) ? [at] : []));
  const found = [...new Set([...ofAmount, ...matches.map(({ at }) => at)])].slice(0, MOST_OF_A_KIND);
  return {
    hits: found.map((at): SearchHitDto => {
      const { name, line, month, monthName, spans } = findings[at]!;
      const { span, variance } = spans.find((each) => isOfAmount(each.variance)) ?? spans[0]!;
      return {
        kind: 'finding',
        key: `${line} ${month} ${span}`,
        name,
        detail: `${monthName}${span === 'month' ? '' : ', year to date'}, against budget`,
        amount: variance,
        link: `findings/variances?${new URLSearchParams({ asOf: month, line, month, span }).toString()}`,
      };
    }),
    // an amount that only a finding has is what was looked for
    best: ofAmount.length > 0 ? MATCH.exact : MATCH.words,
  };
}

function entryHit({ id, number, date, state, amount, party, document, memo }: FoundEntry): SearchHitDto {
  const detail = [dayWords(date), party, document, memo, state === 'draft' ? 'draft' : ''].filter(Boolean).join(', ');
  return { kind: 'entry', key: String(id), name: number, detail, amount, link: `ledger/entries?entry=${id}` };
}

/** The list of entries with what was searched for: the amounts of a search for amounts, else its words. */
function entriesAddress({ currency: { exponent } }: Books, { text, amount }: SearchText): string {
  if (amount === null) return `ledger/entries?${new URLSearchParams({ find: text }).toString()}`;
  const bound = (value: number) => toDecimalText(minor(value), exponent);
  return `ledger/entries?${new URLSearchParams({ least: bound(amount.least), ...(amount.most === Infinity ? {} : { most: bound(amount.most) }) }).toString()}`;
}
