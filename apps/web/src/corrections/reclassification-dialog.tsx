import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { dimensionName } from '../filters/index.ts';
import { DateField } from '../ui/date-field.tsx';
import { AccountInput } from './account-input.tsx';
import { ChangeDialog } from './change-dialog.tsx';

const STAYS = '(stays)';

/** Lines moved to another account, department or other dimension, or with their entries to another date. */
export function ReclassificationDialog({
  lines,
  close,
  done,
}: {
  readonly lines: readonly number[];
  readonly close: () => void;
  /** after the lines were moved */
  readonly done: () => void;
}) {
  const { id: company, dimensions } = useCompany();
  const [account, setAccount] = useState('');
  const [date, setDate] = useState('');
  const [values, setValues] = useState<Readonly<Record<string, string>>>({});
  const chosen = Object.fromEntries(Object.entries(values).filter(([, value]) => value !== STAYS));
  const number = account.trim().split(/\s/)[0]!;
  const isAny = number !== '' || date !== '' || Object.keys(chosen).length > 0;
  const request = {
    lines,
    ...(number === '' ? {} : { account: number }),
    ...(date === '' ? {} : { date }),
    ...(Object.keys(chosen).length === 0 ? {} : { dimensions: chosen }),
  };
  const words = `${lines.length.toLocaleString('en-US')} ${lines.length === 1 ? 'line' : 'lines'}`;
  return (
    <ChangeDialog
      title={`Reclassify ${words}`}
      path={`/companies/${company}/reclassifications`}
      request={isAny ? request : null}
      fault={null}
      act={`Reclassify ${words}`}
      close={close}
      done={done}
    >
      <div className="mt-2 flex flex-wrap items-end gap-4 text-[13px]">
        <label>
          <span className="block text-ink-soft">To account</span>
          <AccountInput className="field w-40 py-0.5 text-[13px]" placeholder="No change" value={account} set={setAccount} />
        </label>
        {dimensions.map(({ name, values: known }) => (
          <label key={name}>
            <span className="block text-ink-soft">To {dimensionName(name).toLowerCase()}</span>
            <select
              className="field py-0.5 text-[13px]"
              value={values[name] ?? STAYS}
              onChange={(event) => setValues({ ...values, [name]: event.target.value })}
            >
              <option value={STAYS}>No change</option>
              {[...new Set([...known, ''])].map((value) => (
                <option key={value} value={value}>
                  {value || 'None'}
                </option>
              ))}
            </select>
          </label>
        ))}
        <label>
          <span className="block text-ink-soft">To date (moves whole entries)</span>
          <DateField className="field py-0.5 text-[13px]" value={date} set={setDate} />
        </label>
      </div>
    </ChangeDialog>
  );
}
