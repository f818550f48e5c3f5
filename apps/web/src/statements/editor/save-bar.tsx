import type { ViewDto } from '@wise-margin/contract';
import { useState } from 'react';

export type SaveAs = { readonly name: string; readonly shelf: string; readonly shared: boolean };

/** Save over the view, or under a name of its own. A refusal stays until the next try; the draft is kept. */
export function SaveBar({
  view,
  isChanged,
  isSaving,
  refusal,
  save,
  saveAs,
}: {
  readonly view: ViewDto | null;
  readonly isChanged: boolean;
  readonly isSaving: boolean;
  readonly refusal: string | null;
  readonly save: () => void;
  readonly saveAs: (as: SaveAs) => void;
}) {
  const [isNaming, setNaming] = useState(false);
  const [name, setName] = useState(view && !view.isShipped ? `${view.name}, copy` : (view?.name ?? ''));
  const [shelf, setShelf] = useState('My views');
  const [shared, setShared] = useState(false);
  const canSave = view !== null && !view.isShipped;
  return (
    <div className="flex flex-wrap items-center gap-2">
      {refusal ? (
        <p role="alert" className="w-full text-[13px] text-brick">
          {refusal}
        </p>
      ) : null}
      <span className="text-[13px] text-ink-soft">{isSaving ? 'Saving' : isChanged ? 'Changed, not saved' : 'As saved'}</span>
      {canSave ? (
        <button type="button" className="button button-primary" disabled={!isChanged || isSaving} onClick={save}>
          Save
        </button>
      ) : null}
      <button type="button" className="button" onClick={() => setNaming(!isNaming)} aria-expanded={isNaming}>
        Save as
      </button>
      {isNaming ? (
        <form
          aria-label="Save as"
          className="flex w-full flex-wrap items-end gap-2 border border-hairline bg-sheet p-2"
          onSubmit={(event) => {
            event.preventDefault();
            saveAs({ name, shelf, shared });
          }}
        >
          <label className="text-[13px]">
            <span className="block text-ink-soft">Name of the view</span>
            <input className="field w-60" value={name} onChange={(event) => setName(event.target.value)} />
          </label>
          <label className="text-[13px]">
            <span className="block text-ink-soft">Shelf</span>
            <input className="field w-40" value={shelf} onChange={(event) => setShelf(event.target.value)} />
          </label>
          <label className="flex items-center gap-1.5 py-1.5 text-[13px]">
            <input type="checkbox" className="accent-copper" checked={shared} onChange={(event) => setShared(event.target.checked)} />
            Share with colleagues
          </label>
          <button type="submit" className="button button-primary" disabled={isSaving}>
            Save the view
          </button>
        </form>
      ) : null}
    </div>
  );
}
