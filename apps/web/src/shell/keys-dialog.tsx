import { DialogFrame } from '../ui/dialog-frame.tsx';

const KEYS: readonly (readonly [string, string])[] = [
  ['/, Ctrl K', 'Search'],
  [', .', 'Previous month, next month'],
  ['c', 'Switch to the previous company'],
  ['Arrows', 'Move between amounts'],
  ['Enter', 'Open the drill-down of an amount; in a budget, accept the amount and move down'],
  ['Esc', 'Go back one step in the drill-down; in a budget, cancel the change'],
  ['Tab', 'In a budget: accept the amount and move right'],
  ['0 to 9 + − * /', 'In a budget: replace the amount, such as 12k, 1.2m, +5%, *1.1, /12'],
  ['F2', 'In a budget: edit the amount'],
  ['Shift with arrows', 'In a budget: select several amounts'],
  ['Ctrl Enter', 'In a budget: fill the selected months with the first one'],
  ['Delete', 'In a budget: clear the selected amounts'],
  ['Ctrl C, Ctrl V', 'In a budget: copy to and paste from a spreadsheet'],
  ['Ctrl Z, Ctrl Y', 'In a budget: undo, redo'],
  ['?', 'Keyboard shortcuts (this list)'],
];

export function KeysDialog({ close }: { readonly close: () => void }) {
  return (
    <DialogFrame title="Keyboard shortcuts" width="small" close={close}>
      <dl className="mt-3 grid grid-cols-[130px_1fr] gap-y-1.5">
        {KEYS.map(([key, words]) => (
          <div key={key} className="contents">
            <dt className="font-semibold">{key}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="button mt-4 self-start" onClick={close}>
        Close
      </button>
    </DialogFrame>
  );
}
