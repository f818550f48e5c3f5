import type { PackDto } from '@wise-margin/contract';

import { useCompany } from '../data/company.ts';
import type { PackEditor } from './use-pack-editor.ts';

/** Asked on the way to another page or month, which would lose unsaved sections. */
export function LeaveQuestion({ stay, leave }: { readonly stay: () => void; readonly leave: () => void }) {
  return (
    <div
      role="alertdialog"
      aria-label="Unsaved changes"
      className="my-2 flex flex-wrap items-center gap-3 border-l-2 border-brick bg-sheet px-3 py-2 text-[14px]"
    >
      <span>The sections of this pack have unsaved changes.</span>
      <button type="button" className="button button-primary" onClick={stay}>
        Keep editing
      </button>
      <button type="button" className="link" onClick={leave}>
        Discard changes
      </button>
    </div>
  );
}

/** The sections changed: who should have the change. */
export function SaveNotice({ editor, saved }: { readonly editor: PackEditor; readonly saved: PackDto }) {
  const company = useCompany();
  const { saving } = editor;
  const others = saved.changedBy.filter((name) => name !== company.name);
  return (
    <div className="my-1 border-l-2 border-copper bg-sheet px-3 py-1.5 text-[14px]">
      <div className="flex flex-wrap items-center gap-3">
        <span className="font-semibold">Unsaved changes</span>
        <button type="button" className="button button-primary" disabled={saving.isPending} onClick={() => editor.save('company')}>
          Save for {company.name}
        </button>
        <button type="button" className="button" disabled={saving.isPending} onClick={() => editor.save('all')}>
          Save for all companies
        </button>
        <button type="button" className="link" onClick={() => editor.setDesign(saved)}>
          Discard changes
        </button>
        {others.length > 0 ? (
          <span className="text-[13px] text-ink-soft">
            {others.join(', ')} {others.length === 1 ? 'keeps its' : 'keep their'} own version.
          </span>
        ) : null}
      </div>
      {saving.isError ? (
        <p role="alert" className="mt-1 text-brick">
          {saving.error.message}
        </p>
      ) : null}
    </div>
  );
}

/** Which of the reports that are issued together is looked at. */
export function SliceChoice({
  slices,
  value,
  choose,
}: {
  readonly slices: readonly string[];
  readonly value: string;
  readonly choose: (slice: string) => void;
}) {
  return (
    <label className="mt-1 flex items-center gap-2 text-[13px]">
      <span className="text-ink-soft">Report for</span>
      <select className="field py-0.5" value={value} onChange={(event) => choose(event.target.value)}>
        {slices.map((slice) => (
          <option key={slice} value={slice}>
            {slice}
          </option>
        ))}
      </select>
      <span className="text-ink-soft">{slices.length} reports are issued together.</span>
    </label>
  );
}
