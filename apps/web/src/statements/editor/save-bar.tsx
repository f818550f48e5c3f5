import type { Scope, ViewDto } from '@wise-margin/contract';
import { useState } from 'react';

import { useCompany } from '../../data/company.ts';
import { Choice } from '../../ui/choice.tsx';
import { DeleteQuestion } from '../../ui/delete-question.tsx';
import { inRow } from '../../ui/in-row.ts';

export type SaveAs = { readonly name: string; readonly folder: string; readonly shared: boolean; readonly scope: Scope };
type Form = 'saveAs' | 'describe' | 'remove' | null;

/** Save the view or a copy of it, rename it, share it, or delete it. A refusal stays until the next try; the draft is kept. */
export function SaveBar({
  view,
  newName,
  isChanged,
  isSaving,
  refusal,
  save,
  saveAs,
  describe,
  remove,
}: {
  readonly view: ViewDto | null;
  /** the name proposed for a new view */
  readonly newName: string;
  readonly isChanged: boolean;
  readonly isSaving: boolean;
  readonly refusal: string | null;
  readonly save: (scope: Scope) => void;
  readonly saveAs: (as: SaveAs) => void;
  readonly describe: (as: SaveAs) => void;
  readonly remove: () => void;
}) {
  const [form, setForm] = useState<Form>(null);
  const isOwn = view !== null && !view.isShipped;
  const company = useCompany();
  const [chosenScope, setScope] = useState<Scope | null>(null);
  const scope = chosenScope ?? view?.scope ?? 'company';
  const isForAll = isOwn && (view.scope === 'all' || view.isOwnVersion);
  const others = isOwn ? view.changedBy.filter((name) => name !== company.name) : [];
  const users = isOwn ? [...new Set([...view.usedBy.lines, ...view.usedBy.columns])] : [];
  const toggle = (which: Form) => setForm(form === which ? null : which);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {refusal ? (
        <p role="alert" className="w-full text-[13px] text-brick">
          {refusal}
        </p>
      ) : null}
      <span className="text-[13px] text-ink-soft">
        {isSaving ? 'Saving…' : isChanged ? 'Unsaved changes' : view === null ? 'Not saved yet' : 'Saved'}
      </span>
      {isOwn ? (
        <button
          type="button"
          className="button button-primary"
          disabled={(!isChanged && scope === view.scope) || isSaving}
          onClick={() => save(scope)}
        >
          Save
        </button>
      ) : null}
      {isForAll ? (
        <span className="text-[13px]">
          <Choice
            label="for"
            value={scope}
            options={[
              ['all', 'All companies'],
              ['company', `${company.name} only`],
            ]}
            choose={(value) => setScope(value as Scope)}
          />
        </span>
      ) : null}
      {others.length > 0 ? (
        <span className="text-[13px] text-ink-soft">
          {inRow(others)} {others.length === 1 ? 'has its own version and keeps it' : 'have their own versions and keep them'}.
        </span>
      ) : null}
      <button type="button" className="button" onClick={() => toggle('saveAs')} aria-expanded={form === 'saveAs'}>
        Save as
      </button>
      {isOwn ? (
        <>
          <button type="button" className="button" onClick={() => toggle('describe')} aria-expanded={form === 'describe'}>
            Name and folder
          </button>
          <button type="button" className="link text-[13px]" onClick={() => toggle('remove')} aria-expanded={form === 'remove'}>
            Delete
          </button>
        </>
      ) : null}
      {form === 'saveAs' ? (
        <NameForm
          label="Save as"
          start={{
            // two views of one name cannot be told apart
            name: view === null ? newName : `${view.name}, copy`,
            folder: 'My views',
            shared: false,
            scope: 'company',
          }}
          action="Save view"
          isBusy={isSaving}
          submit={saveAs}
        />
      ) : null}
      {form === 'describe' && isOwn ? (
        <NameForm
          label="Name and folder"
          start={{ name: view.name, folder: view.folder, shared: view.shared, scope: view.scope }}
          action="Apply"
          isBusy={isSaving}
          submit={(as) => {
            describe(as);
            setForm(null);
          }}
        />
      ) : null}
      {form === 'remove' && isOwn ? (
        <DeleteQuestion label="Delete the view" action="Delete view" act={remove} cancel={() => setForm(null)}>
          {view.isOwnVersion
            ? `${company.name} goes back to the version for all companies.`
            : `${view.name} will be deleted${view.scope === 'all' ? ' for all companies' : ''}${view.shared ? ' for everyone it is shared with' : ''}.`}
          {users.length === 0 || view.isOwnVersion
            ? ''
            : ` ${inRow(users)} ${users.length === 1 ? 'keeps' : 'keep'} the ${takenWords(view)} it has now.`}
        </DeleteQuestion>
      ) : null}
    </div>
  );
}

/** What other views take from a view. */
const takenWords = ({ usedBy }: ViewDto): string =>
  [...(usedBy.lines.length > 0 ? ['lines'] : []), ...(usedBy.columns.length > 0 ? ['columns'] : [])].join(' and ');

function NameForm({
  label,
  start,
  action,
  isBusy,
  submit,
}: {
  readonly label: string;
  readonly start: SaveAs;
  readonly action: string;
  readonly isBusy: boolean;
  readonly submit: (as: SaveAs) => void;
}) {
  const [as, setAs] = useState(start);
  return (
    <form
      aria-label={label}
      className="flex w-full flex-wrap items-end gap-2 border border-hairline bg-sheet p-2"
      onSubmit={(event) => {
        event.preventDefault();
        submit(as);
      }}
    >
      <label className="text-[13px]">
        <span className="block text-ink-soft">Name</span>
        <input className="field w-60" value={as.name} onChange={(event) => setAs({ ...as, name: event.target.value })} />
      </label>
      <label className="text-[13px]">
        <span className="block text-ink-soft">Folder</span>
        <input className="field w-40" value={as.folder} onChange={(event) => setAs({ ...as, folder: event.target.value })} />
      </label>
      <label className="flex items-center gap-1.5 py-1.5 text-[13px]">
        <input
          type="checkbox"
          className="accent-copper"
          checked={as.shared}
          onChange={(event) => setAs({ ...as, shared: event.target.checked })}
        />
        Share with colleagues
      </label>
      <label className="text-[13px]">
        <span className="block text-ink-soft">For</span>
        <select className="field" value={as.scope} onChange={(event) => setAs({ ...as, scope: event.target.value as Scope })}>
          <option value="company">This company</option>
          <option value="all">All companies</option>
        </select>
      </label>
      <button type="submit" className="button button-primary" disabled={isBusy}>
        {action}
      </button>
    </form>
  );
}
