import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BudgetDto } from '@wise-margin/contract';
import { type AccountClass, type WhatIf, withoutPercentSign, type YearCompared } from '@wise-margin/core';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';

import { sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { SelectField, TextField } from '../ui/labeled-field.tsx';
import { SidePanel } from './side-panel.tsx';
import type { WorksheetSession } from './worksheet/worksheet-session.ts';

const SCALES: readonly (readonly [AccountClass, string])[] = [
  ['revenue', 'Revenue'],
  ['costOfSales', 'Cost of sales'],
  ['operatingExpenses', 'Operating expenses'],
];
const PERCENT = /^[+-]?\d{1,4}(\.\d{1,6})?$/;
const plain = withoutPercentSign;

/** Scales on revenue, on costs and on one driver, seen against the budget without changing it. */
export function WhatIfPanel({ session, budget }: { readonly session: WorksheetSession; readonly budget: BudgetDto }) {
  const company = useCompany();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [texts, setTexts] = useState<Readonly<Partial<Record<AccountClass, string>>>>({});
  const [drivers, setDrivers] = useState<readonly string[]>([]);
  const [driver, setDriver] = useState('');
  const [driverText, setDriverText] = useState('');
  const [name, setName] = useState('');
  const [rows, setRows] = useState<readonly YearCompared[]>([]);
  const wrong = [...Object.values(texts), driverText].find((text) => plain(text) !== '' && !PERCENT.test(plain(text)));
  const tried: WhatIf = {
    byClass: Object.fromEntries(Object.entries(texts).flatMap(([key, text]) => (plain(text) === '' ? [] : [[key, plain(text)]]))),
    ...(driver !== '' && plain(driverText) !== '' ? { driver: { name: driver, percent: plain(driverText) } } : {}),
  };
  const asked = wrong === undefined ? JSON.stringify(tried) : null;
  useEffect(() => {
    void session.ask('drivers', null).then(setDrivers);
  }, [session]);
  useEffect(() => {
    if (asked === null) return;
    let isLatest = true;
    void session.ask('whatIf', JSON.parse(asked) as WhatIf).then((answer) => {
      if (isLatest) setRows(answer);
    });
    return () => {
      isLatest = false;
    };
  }, [asked, session]);
  const save = useMutation({
    mutationFn: () => sendJson<BudgetDto>('POST', `/companies/${company.id}/budgets/${budget.id}/what-ifs`, { name, tried }),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ['budgets'] });
      void navigate(`/c/${company.id}/budgets/${made.id}`);
    },
  });
  const isTried = Object.keys(tried.byClass).length > 0 || tried.driver !== undefined;
  return (
    <SidePanel title="What-if" words="Scenario only: the budget does not change. Dependent lines are recalculated.">
      <div className="mt-2 grid grid-cols-3 gap-x-2 gap-y-1">
        {SCALES.map(([key, label]) => (
          <TextField key={key} label={label} short="%" value={texts[key] ?? ''} set={(text) => setTexts({ ...texts, [key]: text })} />
        ))}
      </div>
      {drivers.length > 0 ? (
        <div className="mt-1 grid grid-cols-2 gap-x-2">
          <SelectField
            label="Driver"
            value={driver}
            options={[['', 'None'], ...drivers.map((each) => [each, each] as const)]}
            set={setDriver}
          />
          <TextField label="Changed by" short="%" value={driverText} set={setDriverText} />
        </div>
      ) : null}
      {wrong === undefined ? null : (
        <p role="alert" className="mt-1 text-brick">
          “{wrong}” is not a percentage. Enter one such as -10 or 2.5.
        </p>
      )}
      <table className="ledger-table mt-3 w-full" aria-label="Budget and scenario">
        <thead>
          <tr>
            {['Year', 'Budget', 'Scenario', 'Change'].map((heading) => (
              <th key={heading} scope="col" className={`border-b border-ink ${heading === 'Year' ? '' : 'text-right!'}`}>
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, name: line, before, after, difference }) => (
            <tr key={key}>
              <th scope="row" className="max-w-28 truncate font-normal!" title={line}>
                {line}
              </th>
              {[before, after, difference].map((amount, index) => (
                <td key={index} className="figure">
                  <Amount value={amount} exponent={company.exponent} unit="dollars" />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="mt-3 flex items-end gap-2 border-t border-hairline pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <TextField label="Save as another version named" value={name} set={setName} />
        <button type="submit" className="button" disabled={!isTried || wrong !== undefined || name.trim() === '' || save.isPending}>
          Save
        </button>
      </form>
      {save.isError ? (
        <p role="alert" className="mt-1 text-brick">
          {save.error.message}
        </p>
      ) : null}
    </SidePanel>
  );
}
