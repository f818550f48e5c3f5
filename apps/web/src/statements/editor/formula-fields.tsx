import { parseExpression, type RatioUnit } from '@wise-margin/core';

import { ActionSelect } from './action-select.tsx';
import { Field, Select } from './field.tsx';
import { TextInput } from './text-input.tsx';

type Result = 'amount' | RatioUnit;
const FORMATS: readonly (readonly [Result, string])[] = [
  ['amount', 'Amount'],
  ['percent', 'Percent'],
  ['times', 'Ratio'],
  ['days', 'Days'],
];

/** A formula over lines or columns: its text, the names that can be inserted, and the format of what it gives. */
export function FormulaFields({
  formula,
  what,
  example,
  choices,
  change,
}: {
  readonly formula: { readonly expression: string; readonly result: Result };
  /** what it is over: a line or a column */
  readonly what: string;
  /** how one may be written, shown while there is nothing to correct */
  readonly example: string;
  /** what can be inserted, by formula name and name */
  readonly choices: readonly (readonly [key: string, name: string])[];
  readonly change: (part: { readonly expression?: string; readonly result?: Result }) => void;
}) {
  const { expression, result } = formula;
  const parsed = expression.trim() === '' ? null : parseExpression(expression);
  return (
    <>
      <Field
        label="Formula"
        hint={parsed && !parsed.ok ? `Check character ${parsed.issue.at + 1}: "${parsed.issue.token || 'the end'}"` : example}
      >
        <TextInput value={expression} commit={(text) => change({ expression: text })} className="font-mono" />
      </Field>
      <ActionSelect
        label={`Insert a ${what}`}
        prompt={`Insert a ${what}`}
        className="field mt-1 w-full py-0.5 text-[13px]"
        options={choices}
        act={(key) => change({ expression: `${expression} ${key}`.trim() })}
      />
      <Field label="Format">
        <Select value={result} options={FORMATS} choose={(format) => change({ result: format })} />
      </Field>
    </>
  );
}
