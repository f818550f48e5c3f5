import { DAYS_OF, type DaysBase, LOAN_FORMS } from '@wise-margin/core';
import { Plus, Trash2 } from 'lucide-react';

import { CheckField, SelectField, TextField } from '../../ui/labeled-field.tsx';
import { NEW_PURCHASE, type RuleDraft } from './rule-draft.ts';

type Props = {
  readonly draft: RuleDraft;
  readonly months: readonly string[];
  readonly set: (part: Partial<RuleDraft>) => void;
};

/** The fields of the chosen rule, in the order of its sentence. */
export function RuleFields({ draft, months, set }: Props) {
  const monthOptions = months.map((month, at) => [String(at), month] as const);
  switch (draft.kind) {
    case 'daysOf':
      return (
        <>
          <div className="mt-2 grid grid-cols-2 items-end gap-x-2">
            <SelectField
              label="Days of"
              value={draft.of}
              options={(Object.keys(DAYS_OF) as DaysBase[]).map((of) => [of, DAYS_OF[of].words] as const)}
              set={(of) => set({ of })}
            />
            <SelectField
              label="Number of days"
              value={draft.days}
              options={[
                ['history', 'same as prior year'],
                ['same', 'same every month'],
                ['months', 'by month'],
              ]}
              set={(days) => set({ days })}
            />
          </div>
          {draft.days === 'same' ? <TextField label="Days" value={draft.sameDays} set={(sameDays) => set({ sameDays })} /> : null}
          {draft.days === 'months' ? (
            <TwelveFields label="Days" months={months} texts={draft.monthDays} set={(monthDays) => set({ monthDays })} />
          ) : null}
        </>
      );
    case 'levelOfLastYear':
    case 'movementOfLastYear':
      return <TextField label="Changed by percent" short="%" value={draft.change} set={(change) => set({ change })} />;
    case 'movements':
      return <TwelveFields label="Net change" months={months} texts={draft.movements} set={(movements) => set({ movements })} />;
    case 'purchases':
      return <Purchases draft={draft} months={months} set={set} />;
    case 'loan':
      return (
        <div className="mt-2 grid grid-cols-2 items-end gap-x-2 gap-y-1">
          <div className="col-span-2">
            <SelectField
              label="Repayment"
              value={draft.form}
              options={(Object.keys(LOAN_FORMS) as RuleDraft['form'][]).map((form) => [form, LOAN_FORMS[form]] as const)}
              set={(form) => set({ form })}
            />
          </div>
          <TextField label="Annual rate" short="%" value={draft.rate} set={(rate) => set({ rate })} />
          <TextField label="Remaining payments" value={draft.payments} set={(payments) => set({ payments })} />
          <SelectField
            label="New borrowing in"
            value={String(draft.drawnIn)}
            options={[['-1', 'None'], ...monthOptions]}
            set={(month) => set({ drawnIn: Number(month) })}
          />
          {draft.drawnIn < 0 ? null : <TextField label="Amount borrowed" value={draft.drawn} set={(drawn) => set({ drawn })} />}
        </div>
      );
    case 'tax':
      return (
        <fieldset className="mt-2">
          <legend className="text-ink-soft">Paid at end of</legend>
          <div className="grid grid-cols-6 gap-x-1">
            {months.map((month, index) => (
              <CheckField
                key={month}
                label={month}
                checked={draft.paidIn.includes(index)}
                set={(on) =>
                  set({ paidIn: on ? [...draft.paidIn, index].sort((a, b) => a - b) : draft.paidIn.filter((each) => each !== index) })
                }
              />
            ))}
          </div>
        </fieldset>
      );
    case 'depreciation':
    case 'stays':
    case 'rest':
      return null;
  }
}

/** One field for each month of the year. */
function TwelveFields({
  label,
  months,
  texts,
  set,
}: {
  readonly label: string;
  readonly months: readonly string[];
  readonly texts: readonly string[];
  readonly set: (texts: readonly string[]) => void;
}) {
  return (
    <div className="mt-2 grid grid-cols-3 gap-x-2 gap-y-1">
      {months.map((month, index) => (
        <TextField
          key={month}
          label={`${label}, ${month}`}
          value={texts[index]!}
          set={(text) => set(texts.map((each, at) => (at === index ? text : each)))}
        />
      ))}
    </div>
  );
}

function Purchases({ draft, months, set }: Props) {
  const change = (index: number, part: Partial<RuleDraft['purchases'][number]>) =>
    set({ purchases: draft.purchases.map((item, at) => (at === index ? { ...item, ...part } : item)) });
  return (
    <div className="mt-2">
      {draft.purchases.map((item, index) => (
        <fieldset key={index} className="mb-2 border-b border-hairline pb-2">
          <legend className="text-ink-soft">Purchase {index + 1}</legend>
          <TextField label={`Description, purchase ${index + 1}`} value={item.name} set={(name) => change(index, { name })} />
          <div className="mt-1 flex items-end gap-2">
            <TextField label={`Amount, purchase ${index + 1}`} value={item.amount} set={(amount) => change(index, { amount })} />
            <SelectField
              label={`Paid in, purchase ${index + 1}`}
              value={String(item.month)}
              options={months.map((month, at) => [String(at), month] as const)}
              set={(month) => change(index, { month: Number(month) })}
            />
            <button
              type="button"
              aria-label={`Remove purchase ${index + 1}`}
              className="flex min-h-8 min-w-6 items-center justify-center text-ink-soft hover:text-ink"
              onClick={() => set({ purchases: draft.purchases.filter((_, at) => at !== index) })}
            >
              <Trash2 size={14} aria-hidden="true" />
            </button>
          </div>
        </fieldset>
      ))}
      <button type="button" className="link flex items-center gap-1" onClick={() => set({ purchases: [...draft.purchases, NEW_PURCHASE] })}>
        <Plus size={13} aria-hidden="true" /> Purchase
      </button>
    </div>
  );
}
