import type { Line } from '@wise-margin/core';
import { Field, Select } from './field.tsx';

/** How a line looks and what it is held against. */
export function LineLook({
  line,
  keys,
  change,
}: {
  readonly line: Line;
  readonly keys: readonly string[];
  readonly change: (line: Line) => void;
}) {
  return (
    <div className="grid grid-cols-2 gap-x-2">
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
      <Field label="Rule">
        <Select
          value={line.rule ?? ''}
          options={[
            ['', 'None'],
            ['single', 'Above'],
            ['double', 'Double below'],
          ]}
          choose={(rule) => {
            const { rule: _rule, ...plain } = line;
            change((rule === '' ? plain : { ...plain, rule }) as Line);
          }}
        />
      </Field>
      <Field label="Better when">
        <Select
          value={line.polarity ?? ''}
          options={[
            ['', 'As its accounts'],
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
      <Field label="Shares are of">
        <Select
          value={line.percentOf ?? ''}
          options={[['', 'The column’s base'], ...keys.map((key) => [key, key] as const)]}
          choose={(percentOf) => {
            const { percentOf: _percentOf, ...plain } = line;
            change((percentOf === '' ? plain : { ...plain, percentOf }) as Line);
          }}
        />
      </Field>
    </div>
  );
}
