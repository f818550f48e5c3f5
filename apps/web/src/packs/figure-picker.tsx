import type { GridDto } from '@wise-margin/contract';
import type { TextFigure } from '@wise-margin/core';
import { figureText } from '@wise-margin/presentation';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { withShares } from '../data/statement-choices.ts';
import { useStatement } from '../data/use-statement.ts';
import { useViews } from '../data/use-views.ts';
import { CheckField, SelectField } from '../ui/labeled-field.tsx';

export type Picked =
  | { readonly kind: 'figure'; readonly figure: TextFigure }
  | { readonly kind: 'table'; readonly view: string; readonly lines: readonly string[] };

/** A choice of a view, a line and a column: the figure where they meet; or of some lines as a table. */
export function FigurePicker({
  month,
  of,
  insert,
  cancel,
}: {
  readonly month: string;
  readonly of: 'figure' | 'table';
  readonly insert: (picked: Picked) => void;
  readonly cancel: () => void;
}) {
  const company = useCompany();
  const views = useViews(company.id);
  const [view, setView] = useState('income');
  const [line, setLine] = useState('');
  const [column, setColumn] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const statement = useStatement(company.id, view, withShares(month));
  const grid = statement.data?.view.key === view ? statement.data : undefined;
  const lines = grid ? linesWithFigures(grid) : [];
  const lineKey = lines.find(({ key }) => key === line)?.key ?? lines.find(({ key }) => key === 'revenue')?.key ?? lines[0]?.key ?? '';
  const columnKey = grid?.columns.find(({ key }) => key === column)?.key ?? grid?.columns[0]?.key ?? '';
  const cell = grid?.cells[grid.lines.findIndex(({ key }) => key === lineKey)]?.[grid.columns.findIndex(({ key }) => key === columnKey)];
  const shown = cell && grid ? figureText(cell, { exponent: company.exponent, unit: grid.display.unit, withUnit: true }) || 'none' : '';
  return (
    <div className="flex flex-wrap items-end gap-2 border-b border-hairline bg-wash px-2 py-1.5 text-[13px]">
      <SelectField
        label="Statement"
        value={view}
        options={(views.data ?? []).map(({ key, name }) => [key, name] as const)}
        set={(key) => {
          setView(key);
          setLine('');
          setColumn('');
          setChosen([]);
        }}
      />
      {of === 'figure' ? (
        <SelectField label="Line" value={lineKey} options={lines.map(({ key, name }) => [key, name] as const)} set={setLine} />
      ) : (
        <fieldset className="max-h-32 min-w-52 overflow-y-auto border border-hairline bg-sheet px-2">
          <legend className="text-ink-soft">Lines</legend>
          {lines.map(({ key, name }) => (
            <CheckField
              key={key}
              label={name}
              checked={chosen.includes(key)}
              set={(on) => setChosen(on ? [...chosen, key] : chosen.filter((each) => each !== key))}
            />
          ))}
        </fieldset>
      )}
      {of === 'figure' ? (
        <SelectField
          label="Column"
          value={columnKey}
          options={(grid?.columns ?? []).map(({ key, words, heading }) => [key, words || heading] as const)}
          set={setColumn}
        />
      ) : null}
      <button
        type="button"
        className="button"
        disabled={of === 'figure' ? lineKey === '' || columnKey === '' : chosen.length === 0}
        onClick={() =>
          insert(
            of === 'figure'
              ? { kind: 'figure', figure: { view, line: lineKey, column: columnKey } }
              : { kind: 'table', view, lines: chosen },
          )
        }
      >
        {of === 'figure' ? `Insert ${shown}` : 'Insert table'}
      </button>
      <button type="button" className="link" onClick={cancel}>
        Cancel
      </button>
    </div>
  );
}

/** Lines that a person can name: no headings, no accounts of one company. */
export const linesWithFigures = ({ lines }: GridDto): GridDto['lines'] =>
  lines.filter(({ kind }) => kind !== 'section' && kind !== 'spacer' && kind !== 'account' && kind !== 'slice');
