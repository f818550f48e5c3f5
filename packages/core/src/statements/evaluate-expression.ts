import { LARGEST_MINOR, minor } from '../money/minor.ts';
import { roundHalfAway } from '../money/round.ts';
import { blank, type Cell, notMeaningful, type RatioUnit } from './cell.ts';
import type { Expression } from './expression.ts';

type Operand =
  /** money in minor units, or a plain number */
  | { readonly kind: 'value'; readonly value: number; readonly isAmount: boolean }
  | { readonly kind: 'blank' }
  | { readonly kind: 'none'; readonly reason: 'divisionByZero' | 'bothZero' | 'fromNotMeaningful' };
type Value = Operand & { readonly kind: 'value' };
const plain = (value: number): Value => ({ kind: 'value', value, isAmount: false });
const money = (value: number): Value => ({ kind: 'value', value, isAmount: true });

function operandOf(cell: Cell): Operand {
  if (cell.kind === 'blank') return { kind: 'blank' };
  if (cell.kind === 'notMeaningful') return { kind: 'none', reason: 'fromNotMeaningful' };
  return cell.kind === 'amount' ? money(cell.unrounded ?? cell.value) : plain(cell.value);
}

/** A part that is not meaningful makes the whole so; blanks count as zero beside at least one value. */
function combine(operands: readonly Operand[], compute: (values: readonly Value[]) => Operand): Operand {
  const none = operands.find((operand) => operand.kind === 'none');
  if (none) return none;
  if (operands.every((operand) => operand.kind === 'blank')) return { kind: 'blank' };
  return compute(operands.map((operand) => (operand.kind === 'value' ? operand : plain(0))));
}

/** Computes with amounts in minor units beside plain numbers, which stand for whole units of the currency where they meet an amount. */
class Walker {
  readonly #cellOf: (key: string) => Cell;
  readonly #scale: number;

  constructor(cellOf: (key: string) => Cell, scale: number) {
    this.#cellOf = cellOf;
    this.#scale = scale;
  }

  walk(node: Expression): Operand {
    switch (node.kind) {
      case 'number':
        return plain(node.value);
      case 'line':
        return operandOf(this.#cellOf(node.key));
      case 'negate':
        return combine([this.walk(node.operand)], ([a]) => ({ ...a!, value: -a!.value }));
      case 'call':
        return combine(
          node.operands.map((each) => this.walk(each)),
          (values) => {
            if (node.name === 'abs') return { ...values[0]!, value: Math.abs(values[0]!.value) };
            const choose = node.name === 'min' ? Math.min : Math.max;
            return this.#alike(values, (all) => choose(...all));
          },
        );
      case 'binary':
        return combine([this.walk(node.left), this.walk(node.right)], ([a, b]) => this.#binary(node.operator, a!, b!));
    }
  }

  #binary(operator: '+' | '-' | '*' | '/', a: Value, b: Value): Operand {
    if (operator === '+') return this.#alike([a, b], ([left, right]) => left! + right!);
    if (operator === '-') return this.#alike([a, b], ([left, right]) => left! - right!);
    if (operator === '*') return { kind: 'value', value: a.value * b.value, isAmount: a.isAmount || b.isAmount };
    if (b.value === 0) return { kind: 'none', reason: a.value === 0 ? 'bothZero' : 'divisionByZero' };
    if (b.isAmount) return plain((a.isAmount ? a.value : a.value * this.#scale) / b.value);
    return { kind: 'value', value: a.value / b.value, isAmount: a.isAmount };
  }

  /** Values in minor units when any of them is an amount. */
  #alike(values: readonly Value[], compute: (all: readonly number[]) => number): Value {
    if (!values.some(({ isAmount }) => isAmount)) return plain(compute(values.map(({ value }) => value)));
    return money(compute(values.map(({ value, isAmount }) => (isAmount ? value : value * this.#scale))));
  }
}

/**
 * A formula within one column. Amounts are minor units, rounded half away from zero where a product
 * or quotient is no whole number; ratios are fractions. A plain number that meets an amount, or is to be
 * one, stands for whole units of the currency: `revenue + 100` adds 100.00. Division by zero is not
 * meaningful; zero by zero is blank.
 * @param exponent decimals of the currency
 */
export function evaluateExpression(
  expression: Expression,
  {
    result,
    exponent,
    cellOf,
  }: { readonly result: 'amount' | RatioUnit; readonly exponent: number; readonly cellOf: (key: string) => Cell },
): Cell {
  const scale = 10 ** exponent;
  const operand = new Walker(cellOf, scale).walk(expression);
  if (operand.kind === 'blank') return blank('fromBlank');
  if (operand.kind === 'none') return operand.reason === 'bothZero' ? blank('bothZero') : notMeaningful(operand.reason);
  if (result !== 'amount') {
    const ratio = operand.isAmount ? operand.value / scale : operand.value;
    return { kind: 'ratio', value: ratio === 0 ? 0 : ratio, unit: result };
  }
  const value = operand.isAmount ? operand.value : operand.value * scale;
  if (Math.abs(value) > LARGEST_MINOR) return notMeaningful('outOfRange');
  return { kind: 'amount', value: minor(roundHalfAway(value)) };
}
