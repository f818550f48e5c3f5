import type { Polarity } from '../chart/account-class.ts';
import { isBalanceAccount, polarityOf, type Chart } from '../chart/account.ts';
import { selectAccounts } from '../chart/selection.ts';
import type { RatioUnit } from './cell.ts';
import { linesRead, parseExpression, type Expression, type ExpressionIssue } from './expression.ts';
import type { Line, LineSet } from './line-set.ts';

/** A row ready to be computed. `sign` turns debit-positive sums into the shown sign. */
export type PlannedLine = {
  readonly index: number;
  readonly key: string;
  readonly name: string;
  readonly kind: 'section' | 'accounts' | 'account' | 'total' | 'formula' | 'spacer';
  readonly depth: number;
  /** index of the line this one opens from or stands in; -1 at the top */
  readonly parent: number;
  readonly sign: 1 | -1;
  /** chart positions summed by the line; empty for formulas, sections and spacers */
  readonly accounts: readonly number[];
  /** whether any of them stands in the balance sheet */
  readonly holdsBalances: boolean;
  readonly expression: Expression | null;
  readonly result: 'amount' | RatioUnit;
  readonly polarity: Polarity;
  readonly emphasis: 'bold' | 'italic' | null;
  readonly rule: 'single' | 'double' | null;
  readonly hidden: boolean;
};

export type LineIssue = {
  readonly line: string;
  readonly code: 'repeatedKey' | 'unknownLine' | 'circular' | 'unknownSection' | 'formula';
  readonly token: string;
  readonly formula?: ExpressionIssue;
};
export type PlannedLines = {
  readonly lines: readonly PlannedLine[];
  readonly order: readonly number[];
  readonly issues: readonly LineIssue[];
};

/** A stable key made of words: `Kayaks to dealers` gives `kayaks_to_dealers`. */
export function keyOfWords(words: string): string {
  return (
    words
      .toLowerCase()
      .normalize('NFKD')
      .replaceAll(/[^a-z0-9]+/g, '_')
      .replaceAll(/^_+|_+$/g, '') || 'line'
  );
}

/**
 * Lays a line set out over a chart: groups become lines, every account line carries its accounts as
 * openable lines, formulas are parsed and put in order of dependency. All faults are listed.
 */
export function planLines(lineSet: LineSet, chart: Chart): PlannedLines {
  const lines: PlannedLine[] = [];
  const issues: LineIssue[] = [];
  const sections = new Map<string, number[]>();
  const keys = new Set<string>();

  const isBalance = chart.accounts.map(isBalanceAccount);
  const add = (line: Omit<PlannedLine, 'index' | 'holdsBalances'>): number => {
    if (keys.has(line.key)) issues.push({ line: line.key, code: 'repeatedKey', token: line.key });
    keys.add(line.key);
    return lines.push({ index: lines.length, ...line, holdsBalances: line.accounts.some((account) => isBalance[account]) }) - 1;
  };
  const common = (line: Line, depth: number, parent: number) => ({
    key: line.key,
    name: line.name,
    depth,
    parent,
    emphasis: line.emphasis ?? null,
    rule: line.rule ?? null,
    hidden: line.hidden ?? false,
    polarity: line.polarity ?? ('neutral' as Polarity),
    expression: null,
    result: 'amount' as const,
    accounts: [] as readonly number[],
    sign: 1 as 1 | -1,
  });
  const addAccounts = (
    line: Line & { kind: 'accounts' | 'groups' },
    accounts: readonly number[],
    place: { depth: number; parent: number; key: string; name: string },
  ) => {
    const sign = line.sign === 'debit' ? 1 : -1;
    const polarities = new Set(accounts.map((index) => polarityOf(chart.accounts[index]!)));
    const polarity = line.polarity ?? (polarities.size === 1 ? [...polarities][0]! : 'neutral');
    const base = { ...common(line, place.depth, place.parent), sign, polarity } as const;
    const own = add({ ...base, key: place.key, name: place.name, kind: 'accounts', accounts });
    for (const index of accounts) {
      const account = chart.accounts[index]!;
      add({
        ...base,
        key: `${place.key}.${account.number}`,
        name: account.name,
        kind: 'account',
        depth: place.depth + 1,
        parent: own,
        accounts: [index],
        polarity: line.polarity ?? polarityOf(account),
        emphasis: null,
        rule: null,
      });
    }
  };
  const walk = (line: Line, depth: number, parent: number, enclosing: readonly string[]): void => {
    switch (line.kind) {
      case 'section': {
        const own = add({ ...common(line, depth, parent), kind: 'section' });
        sections.set(line.key, []);
        for (const child of line.lines) walk(child, depth + 1, own, [...enclosing, line.key]);
        return;
      }
      case 'spacer':
        return void add({ ...common(line, depth, parent), kind: 'spacer' });
      case 'accounts':
      case 'groups': {
        const accounts = selectAccounts(chart, line.selection);
        for (const section of enclosing) sections.get(section)!.push(...accounts);
        if (line.kind === 'accounts') return addAccounts(line, accounts, { depth, parent, key: line.key, name: line.name });
        const groups = new Map<string, number[]>();
        for (const index of accounts) {
          const { group, name } = chart.accounts[index]!;
          const caption = group ?? name;
          groups.set(caption, [...(groups.get(caption) ?? []), index]);
        }
        for (const [name, members] of groups) addAccounts(line, members, { depth, parent, key: `${line.key}.${keyOfWords(name)}`, name });
        return;
      }
      case 'total': {
        const accounts = sections.get(line.of);
        if (!accounts) issues.push({ line: line.key, code: 'unknownSection', token: line.of });
        return void add({ ...common(line, depth, parent), kind: 'total', accounts: accounts ?? [], sign: line.sign === 'debit' ? 1 : -1 });
      }
      case 'formula': {
        const parsed = parseExpression(line.expression);
        if (!parsed.ok) issues.push({ line: line.key, code: 'formula', token: parsed.issue.token, formula: parsed.issue });
        return void add({
          ...common(line, depth, parent),
          kind: 'formula',
          expression: parsed.ok ? parsed.expression : null,
          result: line.result,
        });
      }
    }
  };
  for (const line of lineSet.lines) walk(line, 0, -1, []);
  return { lines, order: formulaOrder(lines, issues), issues };
}

/** Indexes of formula lines, each after those it reads; unknown and circular references are listed. */
function formulaOrder(lines: readonly PlannedLine[], issues: LineIssue[]): number[] {
  const byKey = new Map(lines.map((line) => [line.key, line]));
  const order: number[] = [];
  const state = new Map<number, 'open' | 'done'>();
  const visit = (line: PlannedLine): void => {
    if (!line.expression || state.get(line.index) === 'done') return;
    state.set(line.index, 'open');
    for (const key of linesRead(line.expression)) {
      const read = byKey.get(key);
      if (!read) issues.push({ line: line.key, code: 'unknownLine', token: key });
      else if (state.get(read.index) === 'open') issues.push({ line: line.key, code: 'circular', token: key });
      else visit(read);
    }
    state.set(line.index, 'done');
    order.push(line.index);
  };
  lines.forEach(visit);
  return order;
}
