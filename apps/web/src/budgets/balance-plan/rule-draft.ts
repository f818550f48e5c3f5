import type { BalanceAccountDto } from '@wise-margin/contract';
import { withoutPercentSign } from '@wise-margin/core';
import {
  type BalanceRule,
  type BalanceRuleKind,
  type DaysBase,
  type LoanForm,
  type Minor,
  parseBudgetEntry,
  toDecimalText,
  ZERO,
} from '@wise-margin/core';

/** A rule while it is typed: every field as text, those of other kinds kept so that nothing is lost by trying one. */
export type RuleDraft = {
  readonly kind: BalanceRuleKind;
  readonly of: DaysBase;
  readonly days: 'history' | 'same' | 'months';
  readonly sameDays: string;
  readonly monthDays: readonly string[];
  readonly change: string;
  readonly movements: readonly string[];
  readonly purchases: readonly PurchaseDraft[];
  readonly form: LoanForm;
  readonly rate: string;
  readonly payments: string;
  /** -1 for nothing drawn */
  readonly drawnIn: number;
  readonly drawn: string;
  readonly paidIn: readonly number[];
};
export type PurchaseDraft = { readonly name: string; readonly month: number; readonly amount: string };
export type RuleDraftResult = { readonly ok: true; readonly rule: BalanceRule } | { readonly ok: false; readonly fault: string };

const MONTHS = Array.from({ length: 12 }, (_, month) => month);
export const NEW_PURCHASE: PurchaseDraft = { name: '', month: 0, amount: '' };

/** The fields of an account's rule as they are typed; days begin with those the plan stands at. */
export function ruleDraftOf({ rule, days }: Pick<BalanceAccountDto, 'rule' | 'days'>, exponent: number): RuleDraft {
  const amount = (value: number): string => (value === 0 ? '' : toDecimalText(value as Minor, exponent).replace(/\.0+$/, ''));
  const planned = MONTHS.map((month) => (days?.months[month] ?? 0).toFixed(1).replace(/\.0$/, ''));
  const usual: RuleDraft = {
    kind: rule.kind,
    of: days?.of ?? 'revenue',
    days: 'same',
    sameDays: (planned.reduce((sum, text) => sum + Number(text), 0) / 12).toFixed(1).replace(/\.0$/, ''),
    monthDays: planned,
    change: '0',
    movements: MONTHS.map(() => ''),
    purchases: [NEW_PURCHASE],
    form: 'level',
    rate: '',
    payments: '',
    drawnIn: -1,
    drawn: '',
    paidIn: [],
  };
  switch (rule.kind) {
    case 'daysOf': {
      if (rule.days === 'history') return { ...usual, of: rule.of, days: 'history' };
      const isSame = new Set(rule.days).size === 1;
      return { ...usual, of: rule.of, days: isSame ? 'same' : 'months', sameDays: rule.days[0]!, monthDays: rule.days };
    }
    case 'levelOfLastYear':
    case 'movementOfLastYear':
      return { ...usual, change: rule.change };
    case 'movements':
      return { ...usual, movements: rule.months.map(amount) };
    case 'purchases':
      return rule.items.length === 0
        ? usual
        : { ...usual, purchases: rule.items.map((item) => ({ ...item, amount: amount(item.amount) })) };
    case 'loan':
      return {
        ...usual,
        form: rule.form,
        rate: rule.ratePercent,
        payments: String(rule.payments),
        drawnIn: rule.drawn?.month ?? -1,
        drawn: rule.drawn ? amount(rule.drawn.amount) : '',
      };
    case 'tax':
      return { ...usual, paidIn: rule.paidIn };
    default:
      return usual;
  }
}

const fault = (words: string): RuleDraftResult => ({ ok: false, fault: words });
const isDays = (text: string): boolean => /^-?\d{1,4}(\.\d{1,2})?$/.test(text.trim());

/** The rule a draft stands for, or the first field that cannot be read, its text and what to write instead. */
export function ruleOf(
  draft: RuleDraft,
  { exponent, months }: { readonly exponent: number; readonly months: readonly string[] },
): RuleDraftResult {
  const { kind } = draft;
  // amounts as in the grid, `12k` among them; a change of what stands there has nothing to change here
  const amountOf = (text: string): Minor | null => {
    const parsed = /[%*/]/.test(text) ? null : parseBudgetEntry(text, ZERO, exponent);
    return parsed?.ok ? parsed.value : null;
  };
  switch (kind) {
    case 'daysOf': {
      if (draft.days === 'history') return { ok: true, rule: { kind, of: draft.of, days: 'history' } };
      const typed = draft.days === 'same' ? MONTHS.map(() => draft.sameDays.trim()) : draft.monthDays.map((text) => text.trim());
      const wrong = typed.findIndex((text) => !isDays(text));
      if (wrong < 0) return { ok: true, rule: { kind, of: draft.of, days: typed } };
      return fault(
        `Days${draft.days === 'same' ? '' : ` of ${months[wrong]}`}: “${typed[wrong]}” is not a number of days. Enter days such as 45 or 32.5.`,
      );
    }
    case 'levelOfLastYear':
    case 'movementOfLastYear': {
      const change = withoutPercentSign(draft.change);
      return /^[+-]?\d{1,4}(\.\d{1,6})?$/.test(change)
        ? { ok: true, rule: { kind, change } }
        : fault(`Changed by percent: “${draft.change}” is not a percentage. Enter one such as 3 or -1.5.`);
    }
    case 'movements': {
      const amounts = draft.movements.map((text) => (text.trim() === '' ? (0 as Minor) : amountOf(text)));
      const wrong = amounts.indexOf(null);
      return wrong < 0
        ? { ok: true, rule: { kind, months: amounts.map((amount) => amount!) } }
        : fault(`${months[wrong]}: “${draft.movements[wrong]}” is not an amount. Enter one such as 1200 or -350.50.`);
    }
    case 'purchases': {
      const items = draft.purchases.filter(({ name, amount }) => name.trim() !== '' || amount.trim() !== '');
      const amounts = items.map(({ amount }) => amountOf(amount));
      const unnamed = items.findIndex(({ name }) => name.trim() === '');
      if (unnamed >= 0) return fault(`Purchase ${unnamed + 1} has no name. Enter a description.`);
      const wrong = amounts.findIndex((amount) => amount === null || amount <= 0);
      return wrong < 0
        ? {
            ok: true,
            rule: { kind, items: items.map(({ name, month }, index) => ({ name: name.trim(), month, amount: amounts[index]! })) },
          }
        : fault(`${items[wrong]!.name}: “${items[wrong]!.amount}” is not an amount above zero. Enter one such as 12000.`);
    }
    case 'loan': {
      const ratePercent = withoutPercentSign(draft.rate);
      if (!/^\d{1,3}(\.\d{1,6})?$/.test(ratePercent))
        return fault(`Rate: “${draft.rate}” is not an annual percentage rate. Enter one such as 5.2.`);
      const payments = Number(draft.payments.trim());
      if (!Number.isInteger(payments) || payments < 1 || payments > 1200)
        return fault(`Remaining payments: “${draft.payments}” is not a number of months from 1 to 1,200.`);
      const terms = { kind, form: draft.form, ratePercent, payments } as const;
      if (draft.drawnIn < 0) return { ok: true, rule: terms };
      const amount = amountOf(draft.drawn);
      return amount !== null && amount > 0
        ? { ok: true, rule: { ...terms, drawn: { month: draft.drawnIn, amount } } }
        : fault(`Amount borrowed: “${draft.drawn}” is not an amount above zero. Enter one such as 250000.`);
    }
    case 'tax':
      return { ok: true, rule: { kind, paidIn: [...draft.paidIn] } };
    default:
      return { ok: true, rule: { kind } };
  }
}
