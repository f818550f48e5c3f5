import { ACCOUNT_CLASS_KEYS, ACCOUNT_CLASSES, accountListText, type AccountSelection, parseAccountList } from '@wise-margin/core';
import { useState } from 'react';

import { Check, Field } from './field.tsx';
import { TextInput } from './text-input.tsx';

/** Accounts by classes and by numbers, by group, less exceptions. */
export function SelectionField({
  selection,
  choose,
}: {
  readonly selection: AccountSelection;
  readonly choose: (selection: AccountSelection) => void;
}) {
  const [refusal, setRefusal] = useState<string | null>(null);
  const take = (text: string, of: 'own' | 'except'): void => {
    const parsed = parseAccountList(text);
    if (!parsed.ok) return setRefusal(`"${parsed.part}" is not an account or a range. Write 4000-4999, 6100.`);
    setRefusal(null);
    const { ranges: _ranges, accounts: _accounts, except: _except, ...rest } = selection;
    const except = of === 'except' ? parsed.list : selection.except;
    const own = of === 'own' ? parsed.list : pick(selection);
    choose({ ...rest, ...own, ...(except && Object.keys(except).length > 0 ? { except } : {}) });
  };
  const classes = selection.classes ?? [];
  return (
    <fieldset className="mt-2 border-t border-hairline pt-1 text-[13px]">
      <legend className="text-ink-soft">Accounts</legend>
      <details>
        <summary className="cursor-pointer">
          {classes.length === 0
            ? 'By class: none'
            : `By class: ${classes.map((key) => ACCOUNT_CLASSES[key].name.toLowerCase()).join(', ')}`}
        </summary>
        <div className="grid grid-cols-2 gap-x-2">
          {ACCOUNT_CLASS_KEYS.map((key) => (
            <Check
              key={key}
              label={ACCOUNT_CLASSES[key].name}
              checked={classes.includes(key)}
              choose={(on) => {
                const { classes: _classes, ...rest } = selection;
                const next = on ? [...classes, key] : classes.filter((each) => each !== key);
                choose(next.length === 0 ? rest : { ...rest, classes: next });
              }}
            />
          ))}
        </div>
      </details>
      <Field label="By number or range" hint={refusal ?? undefined}>
        <TextInput value={accountListText(selection)} commit={(text) => take(text, 'own')} placeholder="4000-4999, 6100" />
      </Field>
      <Field label="Excluding">
        <TextInput value={accountListText(selection.except ?? {})} commit={(text) => take(text, 'except')} placeholder="4810, 4820" />
      </Field>
    </fieldset>
  );
}

const pick = ({ ranges, accounts }: AccountSelection): AccountSelection => ({
  ...(ranges ? { ranges } : {}),
  ...(accounts ? { accounts } : {}),
});
