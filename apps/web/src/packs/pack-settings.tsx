import type { PackDto } from '@wise-margin/contract';
import { shippedPack } from '@wise-margin/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { usePackChanges } from '../data/use-packs.ts';
import { dimensionName } from '../filters/index.ts';
import { DeleteQuestion } from '../ui/delete-question.tsx';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { SelectField, TextField } from '../ui/labeled-field.tsx';

/** Name and description of a pack, whether there is one for each department, and its removal. */
export function PackSettings({
  design,
  scope,
  isChanged,
  set,
}: {
  readonly design: PackDto;
  readonly scope: PackDto['scope'];
  /** has changes that are not saved */
  readonly isChanged: boolean;
  readonly set: (design: PackDto) => void;
}) {
  const company = useCompany();
  const dimensions = company.dimensions.map(({ name }) => [name, `Each ${dimensionName(name).toLowerCase()}`] as const);
  const own =
    design.splitBy === null || dimensions.some(([name]) => name === design.splitBy)
      ? []
      : [[design.splitBy, `Each ${design.splitBy}`] as const];
  return (
    <FloatingPanel label="Settings" atRight>
      <div className="flex flex-col gap-2">
        <TextField label="Name" value={design.name} set={(name) => set({ ...design, name })} />
        <TextField label="Description" value={design.note} set={(note) => set({ ...design, note })} />
        <SelectField
          label="One pack for"
          value={design.splitBy ?? ''}
          options={[['', 'The company'], ...dimensions, ...own]}
          set={(splitBy) => set({ ...design, splitBy: splitBy === '' ? null : splitBy })}
        />
        {scope === 'builtIn' ? (
          <p className="text-ink-soft">Built-in pack. A change is saved for one company or for all.</p>
        ) : (
          <Removal pack={design} scope={scope} isChanged={isChanged} />
        )}
      </div>
    </FloatingPanel>
  );
}

/** Takes a pack back to the one it came from, or deletes it, after asking once. */
function Removal({ pack, scope, isChanged }: { readonly pack: PackDto; readonly scope: 'company' | 'all'; readonly isChanged: boolean }) {
  const company = useCompany();
  const navigate = useNavigate();
  const { remove } = usePackChanges(company.id);
  const [isAsking, setAsking] = useState(false);
  const goesBack = shippedPack(pack.key) !== null;
  const action = goesBack ? 'Delete changes' : 'Delete pack';
  const words = scope === 'all' ? 'for every company that has not changed its own' : `for ${company.name}`;
  return (
    <div>
      {isAsking ? (
        <DeleteQuestion
          label={action}
          action={action}
          isPending={remove.isPending}
          act={() => remove.mutate(pack.key, { onSuccess: () => void navigate(`/c/${company.id}/packs`) })}
          cancel={() => setAsking(false)}
        >
          {goesBack ? 'The changes of this pack' : 'This pack'} will be deleted {words}. Issued packs stay.
        </DeleteQuestion>
      ) : (
        <button
          type="button"
          className="link"
          disabled={isChanged}
          title={isChanged ? 'Save or discard your changes first' : ''}
          onClick={() => setAsking(true)}
        >
          {action}
        </button>
      )}
      {remove.isError ? (
        <p role="alert" className="text-brick">
          {remove.error.message}
        </p>
      ) : null}
    </div>
  );
}
