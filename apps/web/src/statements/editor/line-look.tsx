import type { Line, LineRule, RuleWeight } from '@wise-margin/core';

import { Field, Select } from './field.tsx';

const WEIGHTS: readonly (readonly [RuleWeight | '', string])[] = [
  ['', 'None'],
  ['single', 'Single'],
  ['double', 'Double'],
];

/** A line with another rule above or below; without any it has none. */
function withRule(line: Line, side: keyof LineRule, weight: RuleWeight | ''): Line {
  const { rule: before = {}, ...plain } = line;
  const { [side]: _side, ...other } = before;
  const rule = weight === '' ? other : { ...other, [side]: weight };
  return (Object.keys(rule).length === 0 ? plain : { ...plain, rule }) as Line;
}

/** How a line looks and what its percentages are of. */
export function LineLook({
  line,
  choices,
  change,
}: {
  readonly line: Line;
  readonly choices: readonly (readonly [key: string, name: string])[];
  readonly change: (line: Line) => void;
}) {
  return (
    <div className="grid grid-cols-2 gap-x-2">
      <Field label="Rule above">
        <Select value={line.rule?.above ?? ''} options={WEIGHTS} choose={(weight) => change(withRule(line, 'above', weight))} />
      </Field>
      <Field label="Rule below">
        <Select value={line.rule?.below ?? ''} options={WEIGHTS} choose={(weight) => change(withRule(line, 'below', weight))} />
      </Field>
      <Field label="Emphasis">
        <Select
          value={line.emphasis ?? ''}
          options={[
            ['', 'Plain'],
            ['bold', 'Bold'],
            ['italic', 'Italic'],
          ]}
          choose={(emphasis) => {
            const { emphasis: _emphasis, ...plain } = line;
            change((emphasis === '' ? plain : { ...plain, emphasis }) as Line);
          }}
        />
      </Field>
      <Field label="Favorable when">
        <Select
          value={line.polarity ?? ''}
          options={[
            ['', 'By account class'],
            ['higherIsBetter', 'Higher'],
            ['lowerIsBetter', 'Lower'],
            ['neutral', 'Neither'],
          ]}
          choose={(polarity) => {
            const { polarity: _polarity, ...plain } = line;
            change((polarity === '' ? plain : { ...plain, polarity }) as Line);
          }}
        />
      </Field>
      <div className="col-span-2">
        <Field label="Percent of">
          <Select
            value={line.percentOf ?? ''}
            options={[
              ['', 'Default for the column'],
              ...choices,
              ...(line.percentOf !== undefined && !choices.some(([key]) => key === line.percentOf)
                ? [[line.percentOf, 'A line that was removed'] as const]
                : []),
            ]}
            choose={(percentOf) => {
              const { percentOf: _percentOf, ...plain } = line;
              change((percentOf === '' ? plain : { ...plain, percentOf }) as Line);
            }}
          />
        </Field>
      </div>
    </div>
  );
}
