import { minor, LARGEST_MINOR } from '../money/minor.ts';
import { roundHalfAway } from '../money/round.ts';
import { blank, notMeaningful, type Cell, type RatioUnit } from './cell.ts';
import type { Expression } from './expression.ts';

type Operand =
  | { readonly kind: 'value'; readonly value: number }
  | { readonly kind: 'blank' }
  | { readonly kind: 'none'; readonly reason: 'divisionByZero' | 'bothZero' | 'fromNotMeaningful' };
const value = (number: number): Operand => ({ kind: 'value', value: number });

function operandOf(cell: Cell): Operand {
  if (cell.kind === 'blank') return { kind: 'blank' };
  if (cell.kind === 'notMeaningful') return { kind: 'none', reason: 'fromNotMeaningful' };
  return value(cell.value);
}

/** A part that is not meaningful makes the whole so; blanks count as zero beside at least one value. */
function combine(operands: readonly Operand[], compute: (values: readonly number[]) => Operand): Operand {
  const none = operands.find((operand) => operand.kind === 'none');
  if (none) return none;
  if (operands.every((operand) => operand.kind === 'blank')) return { kind: 'blank' };
  return compute(operands.map((operand) => (operand.kind === 'value' ? operand.value : 0)));
}

function walk(node: Expression, cellOf: (key: string) => Cell): Operand {
  switch (node.kind) {
    case 'number':
      return value(node.value);
    case 'line':
      return operandOf(cellOf(node.key));
    case 'negate':
      return combine([walk(node.operand, cellOf)], ([a]) => value(-a!));
    case 'call':
      return combine(
        node.operands.map((each) => walk(each, cellOf)),
        (values) => value(node.name === 'abs' ? Math.abs(values[0]!) : Math[node.name](...values)),
      );
    case 'binary': {
      const { operator } = node;
      return combine([walk(node.left, cellOf), walk(node.right, cellOf)], ([a = 0, b = 0]) => {
        if (operator === '+') return value(a + b);
        if (operator === '-') return value(a - b);
        if (operator === '*') return value(a * b);
        if (b === 0) return { kind: 'none', reason: a === 0 ? 'bothZero' : 'divisionByZero' };
        return value(a / b);
      });
    }
  }
}

/**
 * A formula within one column. Amounts are minor units, rounded half away from zero where a product
 * or quotient is no whole number; ratios are fractions. Division by zero is not meaningful;
 * zero by zero is blank.
 */
export function evaluateExpression(expression: Expression, result: 'amount' | RatioUnit, cellOf: (key: string) => Cell): Cell {
  const operand = walk(expression, cellOf);
  if (operand.kind === 'blank') return blank('fromBlank');
  if (operand.kind === 'none') return operand.reason === 'bothZero' ? blank('bothZero') : notMeaningful(operand.reason);
  if (result !== 'amount') return { kind: 'ratio', value: operand.value === 0 ? 0 : operand.value, unit: result };
  if (Math.abs(operand.value) > LARGEST_MINOR) return notMeaningful('outOfRange');
  return { kind: 'amount', value: minor(roundHalfAway(operand.value)) };
}
