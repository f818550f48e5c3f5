import { SPAN_KINDS, type SpanDefinition, type SpanKind } from '@wise-margin/core';

import { useCompany } from '../../data/company.ts';
import { Field, Select } from './field.tsx';

const SPAN_WORDS: Readonly<Record<SpanKind, string>> = {
  month: 'Month',
  quarter: 'Quarter',
  quarterToDate: 'Quarter to date',
  yearToDate: 'Year to date',
  fullYear: 'Full year',
  trailingTwelve: 'Rolling twelve months',
  restOfYear: 'Rest of the year',
  fromBeginning: 'Since the first month',
};
const SHIFTS = [
  ['0', 'None'],
  ['months:-1', '1 month earlier'],
  ['quarters:-1', '1 quarter earlier'],
  ['years:-1', '1 year earlier'],
  ['years:-2', '2 years earlier'],
  ['years:-3', '3 years earlier'],
  ['months:1', '1 month later'],
  ['years:1', '1 year later'],
] as const;
const shiftText = ({ shift }: SpanDefinition): string => {
  const [unit, count] = Object.entries(shift ?? {}).find(([, each]) => each !== 0) ?? ['', 0];
  return unit === '' ? '0' : `${unit}:${count}`;
};

/** An offset that is not among the usual ones, in words: `-5 months`. */
const shiftWords = (text: string): string => {
  const [unit, count] = text.split(':');
  return `${count} ${unit}`;
};

/** The months a column covers: how long, how far from the as-of month, and whether it is pinned. */
export function SpanField({ span, choose }: { readonly span: SpanDefinition; readonly choose: (span: SpanDefinition) => void }) {
  const company = useCompany();
  const text = shiftText(span);
  const options: (readonly [string, string])[] = SHIFTS.some(([key]) => key === text) ? [...SHIFTS] : [...SHIFTS, [text, shiftWords(text)]];
  const withShift = (value: string): SpanDefinition => {
    const { shift: _shift, ...rest } = span;
    const [unit, count] = value.split(':');
    return value === '0' ? rest : { ...rest, shift: { [unit!]: Number(count) } };
  };
  const withPin = (key: string): SpanDefinition => {
    const { pinnedTo: _pinned, ...rest } = span;
    return key === '' ? rest : { ...rest, pinnedTo: key };
  };
  return (
    <div className="grid grid-cols-2 gap-x-2">
      <Field label="Period">
        <Select
          value={span.kind}
          options={SPAN_KINDS.map((kind) => [kind, SPAN_WORDS[kind]] as const)}
          choose={(kind) => choose({ ...span, kind })}
        />
      </Field>
      <Field label="Offset">
        <Select value={text} options={options} choose={(value) => choose(withShift(value))} />
      </Field>
      <div className="col-span-2">
        <Field label="As-of month">
          <Select
            value={span.pinnedTo ?? ''}
            options={[['', 'Follows the as-of month'], ...company.periods.map(({ key, name }) => [key, `Fixed: ${name}`] as const)]}
            choose={(key) => choose(withPin(key))}
          />
        </Field>
      </div>
    </div>
  );
}
