/** A formula over lines, parsed; `line` holds a line's key. */
export type Expression =
  | { readonly kind: 'number'; readonly value: number }
  | { readonly kind: 'line'; readonly key: string; readonly at: number }
  | { readonly kind: 'negate'; readonly operand: Expression }
  | { readonly kind: 'binary'; readonly operator: '+' | '-' | '*' | '/'; readonly left: Expression; readonly right: Expression }
  | { readonly kind: 'call'; readonly name: 'min' | 'max' | 'abs'; readonly operands: readonly Expression[] };

/** What is wrong in a formula, and where: `at` counts characters from 0. */
export type ExpressionIssue = {
  readonly code: 'tooLong' | 'unexpectedToken' | 'unexpectedEnd' | 'unknownFunction' | 'tooDeep';
  readonly at: number;
  readonly token: string;
};
export type ParsedExpression =
  | { readonly ok: true; readonly expression: Expression }
  | { readonly ok: false; readonly issue: ExpressionIssue };

/** Names a formula may use besides keys: the calendar days and the months of the column's span. */
export const RESERVED_NAMES: readonly string[] = ['days', 'months'];

const MOST_CHARACTERS = 2000;
const MOST_DEPTH = 50;
const FUNCTIONS = ['min', 'max', 'abs'] as const;
const MOST_IN_NUMBER = 20;
const TOKEN = /\s*(?:(\d+(?:\.\d+)?)|([a-z_][a-z0-9_.]*)|([-+*/(),]))/giy;
type Token = { readonly text: string; readonly at: number; readonly kind: 'number' | 'name' | 'sign' };

class ExpressionFault extends Error {
  constructor(readonly issue: ExpressionIssue) {
    super(issue.code);
  }
}

function tokenize(source: string): Token[] {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < source.length && source.slice(TOKEN.lastIndex).trim() !== '') {
    const from = TOKEN.lastIndex;
    const match = TOKEN.exec(source);
    if (!match) {
      const at = from + (source.slice(from).length - source.slice(from).trimStart().length);
      throw new ExpressionFault({ code: 'unexpectedToken', at, token: source[at]! });
    }
    const text = match[1] ?? match[2] ?? match[3]!;
    tokens.push({ text, at: TOKEN.lastIndex - text.length, kind: match[1] ? 'number' : match[2] ? 'name' : 'sign' });
  }
  return tokens;
}

/**
 * Parses a line formula: keys, numbers, `+ - * / ( )`, `min`, `max`, `abs`. Nothing is executed.
 * A fault names its token and place.
 * @example parseExpression('gross_profit / revenue')
 */
export function parseExpression(source: string): ParsedExpression {
  if (source.length > MOST_CHARACTERS) {
    return { ok: false, issue: { code: 'tooLong', at: MOST_CHARACTERS, token: source.slice(MOST_CHARACTERS, MOST_CHARACTERS + 10) } };
  }
  try {
    const tokens = tokenize(source);
    let next = 0;
    const fault = (code: ExpressionIssue['code'], token: Token | undefined): never => {
      throw new ExpressionFault({ code, at: token?.at ?? source.length, token: token?.text ?? '' });
    };
    const take = (text: string): boolean => (tokens[next]?.text === text ? ((next += 1), true) : false);
    const expect = (text: string): void => {
      if (!take(text)) fault(tokens[next] ? 'unexpectedToken' : 'unexpectedEnd', tokens[next]);
    };
    const chain = (signs: readonly string[], operand: (depth: number) => Expression, depth: number): Expression => {
      let left = operand(depth);
      while (signs.includes(tokens[next]?.text ?? '')) {
        const operator = tokens[next]!.text as '+';
        next += 1;
        left = { kind: 'binary', operator, left, right: operand(depth) };
      }
      return left;
    };
    const sum = (depth: number): Expression => chain(['+', '-'], product, depth);
    const product = (depth: number): Expression => chain(['*', '/'], factor, depth);
    const factor = (depth: number): Expression => {
      const token = tokens[next];
      if (depth > MOST_DEPTH) fault('tooDeep', token);
      if (!token) return fault('unexpectedEnd', undefined);
      next += 1;
      if (token.kind === 'number') {
        if (token.text.length > MOST_IN_NUMBER)
          return fault('unexpectedToken', { ...token, text: `${token.text.slice(0, MOST_IN_NUMBER)}…` });
        return { kind: 'number', value: Number(token.text) };
      }
      if (token.text === '-') return { kind: 'negate', operand: factor(depth + 1) };
      if (token.text === '(') {
        const inner = sum(depth + 1);
        expect(')');
        return inner;
      }
      if (token.kind !== 'name') return fault('unexpectedToken', token);
      if (!take('(')) return { kind: 'line', key: token.text, at: token.at };
      const name = FUNCTIONS.find((each) => each === token.text);
      if (!name) return fault('unknownFunction', token);
      const operands = [sum(depth + 1)];
      while (take(',')) operands.push(sum(depth + 1));
      expect(')');
      return { kind: 'call', name, operands };
    };
    const expression = sum(0);
    if (tokens[next]) fault('unexpectedToken', tokens[next]);
    return { ok: true, expression };
  } catch (error) {
    if (error instanceof ExpressionFault) return { ok: false, issue: error.issue };
    throw error;
  }
}

/** The keys of the lines a formula reads, each once, in order of first use. */
export function linesRead(expression: Expression): string[] {
  const keys = new Set<string>();
  const walk = (node: Expression): void => {
    if (node.kind === 'line') keys.add(node.key);
    else if (node.kind === 'negate') walk(node.operand);
    else if (node.kind === 'binary') [node.left, node.right].forEach(walk);
    else if (node.kind === 'call') node.operands.forEach(walk);
  };
  walk(expression);
  return [...keys];
}
