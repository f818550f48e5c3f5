import { CASH_FLOW } from '../cash-flow/cash-flow-part.ts';
import { type Chart, isBalanceAccount, polarityOf, signOf } from '../chart/account.ts';
import { type NaturalSign, oppositePolarity, type Polarity } from '../chart/account-class.ts';
import { absentFrom, selectAccounts } from '../chart/selection.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import type { Benchmarks } from './benchmark.ts';
import type { BalanceMeasure } from './column-set.ts';
import { parseExpression } from './expression.ts';
import { expressionPolarity } from './expression-polarity.ts';
import { formulaOrder } from './formula-order.ts';
import type { LineIssue } from './line-issue.ts';
import type { Line, LineSet } from './line-set.ts';
import type { LineSource, PlannedLine } from './planned-line.ts';

export type PlannedLines = {
  readonly lines: readonly PlannedLine[];
  /** formula lines, each after those it reads */
  readonly order: readonly number[];
  readonly issues: readonly LineIssue[];
};
/** The values lines can be broken out by, by dimension. */
export type KnownDimensions = ReadonlyMap<string, readonly string[]>;

/** A stable key made of words: `Kayaks to dealers` gives `kayaks_to_dealers`. */
export function keyOfWords(words: string): string {
  return (
    words
      .toLowerCase()
      .normalize('NFKD')
      .replaceAll(/[^a-z0-9]+/g, '_')
      // runs of other characters are one _ by now
      .replace(/^_/, '')
      .replace(/_$/, '') || 'line'
  );
}

/** The name of one line of `groups`: the caption, or the name with the caption in place of `{group}`. */
function groupLineName(name: string, caption: string): string {
  if (!name.includes('{group}')) return caption;
  // a word keeps its capitals when it is an abbreviation
  const inside = /^[A-Z][a-z]/.test(caption) ? caption[0]!.toLowerCase() + caption.slice(1) : caption;
  return name.replace('{group}', name.startsWith('{group}') ? caption : inside);
}

type Selecting = Line & { readonly kind: 'accounts' | 'groups' | 'breakOut' };
type Place = { readonly depth: number; readonly parent: number; readonly enclosing: readonly string[] };
type Draft = Omit<PlannedLine, 'index' | 'percentOf' | 'ownGroup'>;
/** What a polarity in one sign is in another: an expense that shows negative is better when it is higher. */
const inSign = (polarity: Polarity, own: 1 | -1, shown: 1 | -1): Polarity => (own === shown ? polarity : oppositePolarity(polarity));
const commonPolarity = (polarities: readonly Polarity[]): Polarity =>
  polarities.length > 0 && polarities.every((each) => each === polarities[0]) ? polarities[0]! : 'neutral';
const signOfNatural = (sign: NaturalSign): 1 | -1 => (sign === 'debit' ? 1 : -1);

/**
 * Lays a line set out over a chart: groups become lines, account lines carry their accounts as openable
 * lines and break-outs the values of their dimension, formulas are parsed and put in order of
 * dependency. All faults are listed; a faulty line is laid out too and shows no figure.
 */
export function planLines(lineSet: LineSet, options: LineOptions): PlannedLines {
  return new LinePlanner(options).plan(lineSet);
}
export type LineOptions = {
  readonly chart: Chart;
  readonly dimensions: KnownDimensions;
  /** chart positions of the accounts the statement keeps to; null keeps all */
  readonly onlyAccounts: ReadonlySet<number> | null;
  readonly benchmarks: Benchmarks;
};

class LinePlanner {
  readonly #chart: Chart;
  readonly #dimensions: KnownDimensions;
  readonly #onlyAccounts: ReadonlySet<number> | null;
  readonly #benchmarks: Benchmarks;
  readonly #lines: Draft[] = [];
  readonly #issues: LineIssue[] = [];
  /** what adds up to each section, by index */
  readonly #members = new Map<string, number[]>();
  readonly #enclosing: (readonly string[])[] = [];
  readonly #percentOf: (string | undefined)[] = [];
  readonly #keys = new Set<string>();

  constructor({ chart, dimensions, onlyAccounts, benchmarks }: LineOptions) {
    this.#chart = chart;
    this.#dimensions = dimensions;
    this.#onlyAccounts = onlyAccounts;
    this.#benchmarks = benchmarks;
  }

  plan(lineSet: LineSet): PlannedLines {
    for (const line of lineSet.lines) this.#walk(line, { depth: 0, parent: -1, enclosing: [] });
    const byKey = new Map(this.#lines.map(({ key }, index) => [key, index]));
    const totals = new Map(
      this.#lines.flatMap(({ kind, key }, index) => (kind === 'total' ? [[this.#totalOf.get(key)!, index] as const] : [])),
    );
    const lines = this.#lines.map((line, index): PlannedLine => {
      const wanted = this.#percentOf[index];
      if (wanted !== undefined && !byKey.has(wanted)) this.#issues.push({ line: line.key, code: 'unknownLine', token: wanted });
      const group = this.#enclosing[index]!.findLast((section) => totals.has(section));
      return {
        ...line,
        index,
        benchmark: this.#benchmarks.get(line.key) ?? null,
        percentOf: wanted === undefined ? -1 : (byKey.get(wanted) ?? -1),
        ownGroup: group === undefined ? -1 : totals.get(group)!,
      };
    });
    const { order, issues } = formulaOrder(lines);
    return { lines: this.#withFormulaPolarities(lines, { order, byKey }), order, issues: [...this.#issues, ...issues] };
  }

  /** A formula without a polarity of its own has that of what it is made of. */
  #withFormulaPolarities(
    lines: readonly PlannedLine[],
    { order, byKey }: { readonly order: readonly number[]; readonly byKey: ReadonlyMap<string, number> },
  ): readonly PlannedLine[] {
    const polarities = lines.map(({ polarity }) => polarity);
    for (const index of order) {
      const { key, source } = lines[index]!;
      if (source.kind !== 'expression' || this.#ownPolarity.has(key)) continue;
      polarities[index] = expressionPolarity(source.expression, (name) => polarities[byKey.get(name) ?? -1] ?? 'neutral');
    }
    return lines.map((line, index) => (line.polarity === polarities[index] ? line : { ...line, polarity: polarities[index]! }));
  }

  readonly #ownPolarity = new Set<string>();
  readonly #totalOf = new Map<string, string>();

  #add(line: Line, place: Place, made: Partial<Draft> & { readonly kind: PlannedLine['kind']; readonly source: LineSource }): number {
    const draft: Draft = {
      key: line.key,
      name: line.name,
      depth: place.depth,
      parent: place.parent,
      sign: 1,
      filter: NO_FILTER,
      measure: null,
      yearPart: null,
      holdsBalances: this.#holdsBalances(made.source) || CASH_FLOW in (made.filter ?? NO_FILTER),
      polarity: line.polarity ?? 'neutral',
      emphasis: line.emphasis ?? null,
      rule: line.rule ?? null,
      hidden: line.hidden ?? false,
      order: 'number',
      startsSide: line.startsSide ?? false,
      accountNumbers: ('accountNumbers' in line ? line.accountNumbers : undefined) ?? true,
      benchmark: null,
      ...made,
    };
    if (line.polarity !== undefined) this.#ownPolarity.add(draft.key);
    if (this.#keys.has(draft.key)) this.#issues.push({ line: draft.key, code: 'repeatedKey', token: draft.key });
    this.#keys.add(draft.key);
    this.#enclosing.push(place.enclosing);
    this.#percentOf.push(line.percentOf);
    return this.#lines.push(draft) - 1;
  }

  #holdsBalances(source: LineSource): boolean {
    if (source.kind === 'earnings') return true;
    if (source.kind === 'members') return source.lines.some((index) => this.#lines[index]!.holdsBalances);
    const accounts = source.kind === 'accounts' || source.kind === 'slice' ? source.accounts : [];
    return accounts.some((account) => isBalanceAccount(this.#chart.accounts[account]!));
  }

  #walk(line: Line, place: Place): void {
    switch (line.kind) {
      case 'section': {
        const own = this.#add(line, place, { kind: 'section', source: { kind: 'nothing' } });
        this.#members.set(line.key, []);
        const inside = { depth: place.depth + 1, parent: own, enclosing: [...place.enclosing, line.key] };
        for (const child of line.lines) this.#walk(child, inside);
        return;
      }
      case 'spacer':
        return void this.#add(line, place, { kind: 'spacer', source: { kind: 'nothing' } });
      case 'accounts':
      case 'groups':
      case 'breakOut':
        return this.#addSelecting(line, place);
      case 'earnings': {
        const source = { kind: 'earnings', years: line.years } as const;
        return this.#join(place, this.#add(line, place, { kind: 'earnings', source, sign: -1, measure: line.measure ?? null }));
      }
      case 'total': {
        const members = this.#members.get(line.of);
        if (!members) this.#issues.push({ line: line.key, code: 'unknownSection', token: line.of });
        this.#totalOf.set(line.key, line.of);
        const source: LineSource = members ? { kind: 'members', lines: [...members] } : { kind: 'faulty' };
        const parts = (members ?? []).map((index) => this.#lines[index]!);
        const sign = this.#signOf(
          line,
          parts.map((part) => part.sign),
        );
        const polarity = line.polarity ?? commonPolarity(parts.map((part) => inSign(part.polarity, part.sign, sign)));
        return void this.#add(line, place, { kind: 'total', source, sign, polarity });
      }
      case 'statistic': {
        const source = { kind: 'statistic', series: line.series, over: line.over } as const;
        return void this.#add(line, place, { kind: 'statistic', source, filter: line.filter ?? NO_FILTER });
      }
      case 'formula': {
        if (line.expression.trim() === '') {
          this.#issues.push({ line: line.key, code: 'unfinished', token: line.name });
          return void this.#add(line, place, { kind: 'formula', source: { kind: 'faulty' } });
        }
        const parsed = parseExpression(line.expression);
        if (!parsed.ok) this.#issues.push({ line: line.key, code: 'formula', token: parsed.issue.token, formula: parsed.issue });
        const source: LineSource = parsed.ok
          ? { kind: 'expression', expression: parsed.expression, result: line.result }
          : { kind: 'faulty' };
        return void this.#add(line, place, { kind: 'formula', source });
      }
    }
  }

  /** A line that holds figures of its own counts in every section around it. */
  #join({ enclosing }: Place, index: number): void {
    for (const section of enclosing) this.#members.get(section)!.push(index);
  }

  #addSelecting(line: Selecting, place: Place): void {
    const absent = absentFrom(this.#chart, line.selection);
    if (absent.length > 0) this.#issues.push({ line: line.key, code: 'absentAccounts', token: absent.join(', ') });
    const accounts = selectAccounts(this.#chart, line.selection).filter((index) => this.#onlyAccounts?.has(index) ?? true);
    if (line.order === 'name') accounts.sort((a, b) => this.#account(a).name.localeCompare(this.#account(b).name));
    if (line.kind !== 'groups') return this.#addSum(line, { accounts, named: line }, place);
    const groups = new Map<string, number[]>();
    for (const index of accounts) {
      const { group, name } = this.#account(index);
      const caption = group ?? name;
      groups.set(caption, [...(groups.get(caption) ?? []), index]);
    }
    for (const [name, members] of groups)
      this.#addSum(
        line,
        { accounts: members, named: { key: `${line.key}.${keyOfWords(name)}`, name: groupLineName(line.name, name) } },
        place,
      );
  }

  /** One line for accounts together, and beneath it the lines it opens to. */
  #addSum(
    line: Selecting,
    { accounts, named }: { readonly accounts: readonly number[]; readonly named: { readonly key: string; readonly name: string } },
    place: Place,
  ): void {
    const sign = this.#signOf(
      { ...line, key: named.key },
      accounts.map((index) => signOf(this.#account(index))),
    );
    const polarityHere = (index: number) => inSign(polarityOf(this.#account(index)), signOf(this.#account(index)), sign);
    const common = {
      sign,
      filter: line.filter ?? NO_FILTER,
      measure: line.measure ?? (null as BalanceMeasure | null),
      yearPart: line.yearPart ?? null,
      polarity: line.polarity ?? commonPolarity(accounts.map(polarityHere)),
    };
    const own = this.#add(line, place, {
      ...common,
      key: named.key,
      name: named.name,
      kind: 'accounts',
      source: { kind: 'accounts', accounts },
      order: line.order ?? 'number',
    });
    this.#join(place, own);
    const inside = { depth: place.depth + 1, parent: own, enclosing: place.enclosing };
    const part = { ...common, emphasis: null, rule: null, hidden: line.hidden ?? false, startsSide: false };
    if (line.kind === 'breakOut' && line.by !== 'account') {
      const values = this.#dimensions.get(line.by);
      if (!values) this.#issues.push({ line: named.key, code: 'unknownDimension', token: line.by });
      for (const value of values ?? [])
        this.#add(line, inside, {
          ...part,
          key: `${named.key}.${value === '' ? '-' : value}`,
          name: value === '' ? `No ${line.by}` : value,
          kind: 'slice',
          source: { kind: 'slice', accounts, dimension: line.by, value },
        });
      return;
    }
    for (const index of accounts) {
      const account = this.#account(index);
      this.#add(line, inside, {
        ...part,
        key: `${named.key}.${account.number}`,
        name: account.name,
        kind: 'account',
        source: { kind: 'accounts', accounts: [index] },
        polarity: line.polarity ?? polarityHere(index),
      });
    }
  }

  /** The side a line shows positive on: its own, else that of everything on it; a mixture of both is reported. */
  #signOf({ key, name, sign }: Line & { readonly sign?: NaturalSign }, parts: readonly (1 | -1)[]): 1 | -1 {
    if (sign !== undefined) return signOfNatural(sign);
    const [first = -1] = parts;
    if (parts.some((each) => each !== first)) this.#issues.push({ line: key, code: 'mixedBalances', token: name });
    return first;
  }

  #account(index: number) {
    return this.#chart.accounts[index]!;
  }
}
