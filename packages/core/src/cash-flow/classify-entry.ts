import { apportion } from '../money/apportion.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { CashFlowRole } from './account-role.ts';
import type { CashFlowMovement, CashFlowPart } from './cash-flow-part.ts';

/** A line of an entry as the statement of cash flows sees it; `amount` is debit positive. */
export type CashFlowLine = { readonly role: CashFlowRole; readonly amount: Minor };
type Section = 'investing' | 'financing' | 'operating';

const SECTION: Readonly<Record<CashFlowRole, Section | null>> = {
  cash: null,
  none: null,
  operatingAsset: 'operating',
  operatingLiability: 'operating',
  income: 'operating',
  depreciationExpense: 'operating',
  asset: 'investing',
  accumulatedDepreciation: 'investing',
  investingResult: 'investing',
  financing: 'financing',
  financingResult: 'financing',
  retainedEarnings: 'financing',
};
const sum = (lines: readonly CashFlowLine[]): number => lines.reduce((total, { amount }) => total + amount, 0);
const isResult = ({ role }: CashFlowLine): boolean => role === 'investingResult' || role === 'financingResult';
const isOperatingBalance = ({ role }: CashFlowLine): boolean => role === 'operatingAsset' || role === 'operatingLiability';

/**
 * Splits an entry that touches investing or financing accounts, gains on disposal or depreciation into
 * the parts of an indirect statement of cash flows.
 *
 * Each section (investing with its gains and losses, financing, operating) is netted. Cash belongs to
 * the sections on the other side of it, in proportion; what is left of a section was settled without
 * cash. Net income holds every income line and the changes in operating balances hold every operating
 * balance, so noncash amounts are taken out again: depreciation, gains and losses on disposal, other
 * noncash items, and, as `operatingChange`, purchases on credit. All movements of a balanced entry
 * together with its income and operating lines add up to its change in cash.
 * @returns amounts debit positive; nothing for an entry without cash that stays inside one section
 * @example a sale for 42 of an asset at cost 120 with 90 depreciated: cash 42, depreciation 90, asset -120, gain -12
 * // gives investingIn -42 on the asset and disposal 12 on the gain
 */
export function classifyEntry<Line extends CashFlowLine>(lines: readonly Line[]): CashFlowMovement<Line>[] {
  const bySection = (section: Section) => lines.filter(({ role }) => SECTION[role] === section);
  const parts = { investing: bySection('investing'), financing: bySection('financing'), operating: bySection('operating') };
  if (isOpeningBalance(lines)) return directly(lines);
  const movements: CashFlowMovement<Line>[] = [];
  const add = (part: CashFlowPart, among: readonly Line[], total: number): void => {
    if (total === 0 || among.length === 0) return;
    apportion(minor(total), weightsOf(among)).forEach((amount, index) => {
      if (amount !== 0) movements.push({ line: among[index]!, part, amount });
    });
  };
  // gains and losses stand in net income; their section holds them as part of the proceeds
  for (const line of lines) {
    if (isResult(line)) movements.push({ line, part: 'disposal', amount: minor(-line.amount) });
  }
  const net = { investing: sum(parts.investing), financing: sum(parts.financing), operating: sum(parts.operating) };
  const cash = settledInCash(net, sum(lines.filter(({ role }) => role === 'cash')));
  // an expense credited to an asset account was paid for where the expense was: capitalized cost is an investing payment
  const rest = { investing: net.investing - cash.investing, financing: net.financing - cash.financing };
  const capitalized = capitalizedCost(parts.operating, rest.investing, net.operating - cash.operating);
  cash.investing += capitalized;
  rest.investing -= capitalized;
  const noncash = net.operating - cash.operating + capitalized;

  add(cash.investing > 0 ? 'investingOut' : 'investingIn', carriers(parts.investing, cash.investing), cash.investing);
  add(cash.financing > 0 ? 'financingOut' : 'financingIn', carriers(parts.financing, cash.financing), cash.financing);
  removeNoncash(noncash);
  discloseAcquisitions();
  return movements;

  /** Takes what operating lines hold without cash out of the statement's operating section. */
  function removeNoncash(amount: number): void {
    if (amount === 0) return moveDepreciation();
    const lineSide = parts.operating.filter((line) => Math.sign(line.amount) === Math.sign(amount));
    const among = lineSide.length > 0 ? lineSide : parts.operating;
    const isDepreciation = parts.investing.some(({ role }) => role === 'accumulatedDepreciation') && rest.investing < 0;
    apportion(minor(amount), weightsOf(among)).forEach((part, index) => {
      const line = among[index]!;
      if (part === 0) return;
      if (line.role === 'depreciationExpense' || (isDepreciation && part > 0))
        movements.push({ line, part: 'depreciation', amount: minor(-part) });
      else movements.push({ line, part: isOperatingBalance(line) ? 'operatingChange' : 'otherNoncash', amount: minor(-part) });
    });
  }

  /** Amortization of a prepaid cost: the expense is added back, the change of the balance leaves it out. */
  function moveDepreciation(): void {
    const expense = parts.operating.filter(({ role }) => role === 'depreciationExpense');
    const balances = parts.operating.filter(isOperatingBalance);
    const amortized = sum(expense);
    if (amortized === 0 || amortized !== -sum(balances)) return;
    for (const line of expense) movements.push({ line, part: 'depreciation', amount: minor(-line.amount) });
    for (const line of balances) movements.push({ line, part: 'operatingChange', amount: minor(-line.amount) });
  }

  /** What was acquired without paying cash, by how it was settled. */
  function discloseAcquisitions(): void {
    const acquired = parts.investing.filter(({ role, amount }) => role === 'asset' && amount > 0);
    const givenUp = parts.investing.some(({ role, amount }) => role === 'asset' && amount < 0);
    const unpaid = sum(acquired) - Math.max(cash.investing, 0);
    if (acquired.length === 0 || unpaid <= 0) return;
    const forDebt = Math.max(0, Math.min(unpaid, -rest.financing));
    const onCredit = Math.max(0, Math.min(unpaid - forDebt, -noncash));
    add('noncashDebtOrEquity', acquired, forDebt);
    add('noncashCredit', acquired, onCredit);
    if (givenUp) add('noncashExchange', acquired, unpaid - forDebt - onCredit);
  }
}

const weightsOf = (lines: readonly CashFlowLine[]): number[] => {
  const weights = lines.map(({ amount }) => Math.abs(amount));
  return weights.some((weight) => weight > 0) ? weights : weights.map(() => 1);
};

/** Opening balances carry assets and retained earnings in one entry: every balance stands for itself. */
const isOpeningBalance = (lines: readonly CashFlowLine[]): boolean =>
  lines.some(({ role }) => role === 'retainedEarnings') && lines.some(({ role }) => role === 'asset');

function directly<Line extends CashFlowLine>(lines: readonly Line[]): CashFlowMovement<Line>[] {
  return lines.flatMap((line): CashFlowMovement<Line>[] => {
    const section = SECTION[line.role];
    if (section === null || section === 'operating' || line.amount === 0) return [];
    const flow: CashFlowMovement<Line> = { line, part: `${section}${line.amount > 0 ? 'Out' : 'In'}`, amount: line.amount };
    return isResult(line) ? [{ line, part: 'disposal', amount: minor(-line.amount) }, flow] : [flow];
  });
}

/** How much of each section cash settled: sections on the other side of cash share it in proportion. */
function settledInCash(net: Readonly<Record<Section, number>>, cash: number): Record<Section, number> {
  const settled = { investing: 0, financing: 0, operating: 0 };
  const across = (['investing', 'financing', 'operating'] as const).filter(
    (section) => net[section] !== 0 && net[section] > 0 === cash < 0,
  );
  if (cash === 0 || across.length === 0) return settled;
  apportion(
    minor(-cash),
    across.map((section) => Math.abs(net[section])),
  ).forEach((amount, index) => (settled[across[index]!] = amount));
  return settled;
}

/** Own cost capitalized: an asset debited against an income account. */
function capitalizedCost(operating: readonly CashFlowLine[], investing: number, noncash: number): number {
  if (investing <= 0 || noncash >= 0) return 0;
  const credited = -sum(operating.filter((line) => !isOperatingBalance(line)));
  return Math.max(0, Math.min(investing, -noncash, credited));
}

/** The lines a section's cash shows on: those on its side, cost accounts before their depreciation and results. */
function carriers<Line extends CashFlowLine>(lines: readonly Line[], amount: number): readonly Line[] {
  const onSide = lines.filter((line) => Math.sign(line.amount) === Math.sign(amount));
  const cost = onSide.filter(({ role }) => role === 'asset' || role === 'financing' || role === 'retainedEarnings');
  if (cost.length > 0) return cost;
  return onSide.length > 0 ? onSide : lines;
}
