import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';

const KEYS: readonly (readonly [string, string])[] = [
  [', .', 'Month before, month after'],
  ['Arrows', 'Move through figures'],
  ['Enter', 'Open the trail of a figure; in a budget, take the figure and go down'],
  ['Esc', 'One step back in the trail; leave a figure as it was'],
  ['Tab', 'In a budget: take the figure and go right'],
  ['0 to 9 + − * /', 'In a budget: type over the figure: 12k, 1.2m, +5%, *1.1, /12'],
  ['F2', 'In a budget: change the figure as it stands'],
  ['Shift with arrows', 'In a budget: select several figures'],
  ['Ctrl Enter', 'In a budget: the first month selected into the others'],
  ['Delete', 'In a budget: the figures selected become nothing'],
  ['Ctrl C, Ctrl V', 'In a budget: rows to and from a spreadsheet'],
  ['Ctrl Z, Ctrl Y', 'In a budget: take the last change back, make it again'],
  ['?', 'These keys'],
];

export function KeysDialog({ open, close }: { readonly open: boolean; readonly close: () => void }) {
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-ink/30" />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="w-full max-w-lg border border-hairline bg-sheet p-5">
          <DialogTitle className="font-serif text-xl font-semibold">Keys</DialogTitle>
          <dl className="mt-3 grid grid-cols-[130px_1fr] gap-y-1.5">
            {KEYS.map(([key, words]) => (
              <div key={key} className="contents">
                <dt className="font-semibold">{key}</dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
          <button type="button" className="button mt-4" onClick={close}>
            Close
          </button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
