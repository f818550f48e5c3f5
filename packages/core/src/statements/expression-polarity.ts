import { oppositePolarity, type Polarity } from '../chart/account-class.ts';
import type { Expression } from './expression.ts';

/**
 * Whether a formula is better when it is higher, from what it reads: a sum of what is better higher is; less what is better
 * lower too; a ratio goes by its numerator. Neutral where the parts disagree.
 * @param polarityOf the polarity of a line that is read
 * @example with revenue higherIsBetter and costs lowerIsBetter, `revenue - costs` and `(revenue - costs) / guests` are higherIsBetter
 */
export function expressionPolarity(expression: Expression, polarityOf: (key: string) => Polarity): Polarity {
  const of = (part: Expression): Polarity => expressionPolarity(part, polarityOf);
  switch (expression.kind) {
    case 'number':
      return 'neutral';
    case 'line':
      return polarityOf(expression.key);
    case 'negate':
      return oppositePolarity(of(expression.operand));
    case 'call':
      return expression.name === 'abs' ? 'neutral' : expression.operands.map(of).reduce(together);
    case 'binary': {
      const [left, right] = [of(expression.left), of(expression.right)];
      switch (expression.operator) {
        case '+':
          return together(left, right);
        case '-':
          return isNumber(expression.right) ? left : together(left, oppositePolarity(right));
        case '*':
          return left === 'neutral' ? right : right === 'neutral' ? left : 'neutral';
        case '/':
          return left;
      }
    }
  }
}

const isNumber = ({ kind }: Expression): boolean => kind === 'number';
/** Two parts that are added: a part without a polarity leaves it open whether more is better. */
const together = (a: Polarity, b: Polarity): Polarity => (a === b ? a : 'neutral');
