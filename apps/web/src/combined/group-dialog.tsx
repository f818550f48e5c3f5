import type { CompanyGroupChange, CompanyGroupDto } from '@wise-margin/contract';
import { useState } from 'react';

import { useCompanies, useCompany } from '../data/company.ts';
import { useCompanyGroups } from '../data/use-combined.ts';
import { DeleteQuestion } from '../ui/delete-question.tsx';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { CheckField, SelectField, TextField } from '../ui/labeled-field.tsx';
import { Failure, Loading } from '../ui/states.tsx';

/** Account numbers as people type them: with commas, semicolons or spaces between. */
const numbersOf = (typed: string): string[] => typed.split(/[\s,;]+/).filter((number) => number !== '');

/** Which companies are looked at together, in what currency, and which accounts between them are left out. */
export function GroupDialog({
  group,
  close,
}: {
  /** null for a new one */
  readonly group: CompanyGroupDto | null;
  /** with the group that was saved, or null when it was deleted */
  readonly close: (saved?: number | null) => void;
}) {
  const company = useCompany();
  const companies = useCompanies();
  const { create, change, remove } = useCompanyGroups();
  const [name, setName] = useState(group?.name ?? '');
  const [currency, setCurrency] = useState(group?.currency ?? company.currency);
  const [lead, setLead] = useState(String(group?.lead ?? company.id));
  const [chosen, setChosen] = useState<ReadonlyMap<number, string>>(
    new Map(group ? group.members.map((member) => [member.company, member.intercompany.join(', ')]) : [[company.id, '']]),
  );
  const list = companies.data ?? [];
  const members = list.filter(({ id }) => chosen.has(id));
  // whichever is first, where the leading company was taken out
  const leading = members.some(({ id }) => String(id) === lead) ? lead : String(members[0]?.id ?? '');
  const [isRemoving, setRemoving] = useState(false);
  const isPending = create.isPending || change.isPending;
  const failure = create.error ?? change.error ?? remove.error;
  const content = (): CompanyGroupChange => ({
    name,
    currency: currency.trim().toUpperCase(),
    lead: Number(leading),
    members: members.map(({ id }) => ({ company: id, intercompany: numbersOf(chosen.get(id)!) })),
  });
  const save = () => {
    const after = { onSuccess: (saved: CompanyGroupDto) => close(saved.id) };
    if (group) change.mutate({ ...content(), id: group.id, version: group.version }, after);
    else create.mutate(content(), after);
  };
  return (
    <DialogFrame title={group ? `Companies of ${group.name}` : 'New company group'} width="medium" close={() => close()}>
      <form
        className="mt-2 flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <div className="flex gap-3">
          <TextField label="Name" value={name} set={setName} />
          <TextField label="Currency of the combined figures" value={currency} set={setCurrency} />
        </div>
        <fieldset>
          <legend className="text-ink-soft">Companies, and their intercompany accounts</legend>
          {companies.isError ? <Failure error={companies.error} retry={() => void companies.refetch()} /> : null}
          {companies.isPending ? <Loading what="the companies" /> : null}
          <ul className="mt-1 flex max-h-[45dvh] flex-col gap-1.5 overflow-y-auto">
            {list.map(({ id, name: of }) => (
              <li key={id} className="flex items-center gap-3">
                <span className="w-64 shrink-0">
                  <CheckField
                    label={of}
                    checked={chosen.has(id)}
                    set={(on) => {
                      const next = new Map(chosen);
                      if (on) next.set(id, '');
                      else next.delete(id);
                      setChosen(next);
                    }}
                  />
                </span>
                <input
                  className="field min-w-0 flex-1 py-0.5 text-[13px]"
                  aria-label={`Intercompany accounts of ${of}`}
                  placeholder="Account numbers to leave out, such as 1310, 2310"
                  disabled={!chosen.has(id)}
                  value={chosen.get(id) ?? ''}
                  onChange={(event) => setChosen(new Map(chosen).set(id, event.target.value))}
                />
              </li>
            ))}
          </ul>
        </fieldset>
        <div className="w-64">
          <SelectField
            label="Fiscal year and views of"
            value={leading}
            options={members.map(({ id, name: of }) => [String(id), of])}
            set={setLead}
          />
        </div>
        {failure ? <Failure error={failure} /> : null}
        {group && isRemoving ? (
          <DeleteQuestion
            label="Delete the group"
            action="Delete group"
            isPending={remove.isPending}
            act={() => remove.mutate(group.id, { onSuccess: () => close(null) })}
            cancel={() => setRemoving(false)}
          >
            {group.name} and its intercompany accounts will be deleted. The companies stay as they are.
          </DeleteQuestion>
        ) : null}
        <div className="mt-1 flex items-center gap-3">
          {group ? (
            <button type="button" className="link text-brick" aria-expanded={isRemoving} onClick={() => setRemoving(!isRemoving)}>
              Delete
            </button>
          ) : null}
          <span className="flex-1" />
          <button type="button" className="button" onClick={() => close()}>
            Cancel
          </button>
          <button type="submit" className="button button-primary" disabled={isPending || name.trim() === '' || members.length < 2}>
            {members.length < 2 ? 'Choose at least two companies' : `Save ${members.length} companies`}
          </button>
        </div>
      </form>
    </DialogFrame>
  );
}
