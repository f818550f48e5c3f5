import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import type { ReactNode } from 'react';

const WIDTHS = { small: 'w-[min(560px,94vw)]', medium: 'w-[min(640px,94vw)]', large: 'w-[min(768px,94vw)]', full: 'w-[min(1160px,96vw)]' };

/**
 * A dialog over the dimmed page, under its title. Its top stays where it is, so that no field moves away under the pointer
 * when something arrives below it.
 * @param isTall of one height from the beginning, so that the buttons at its end stay in place too
 * @param close when Escape is pressed or the page beside it is clicked
 */
export function DialogFrame({
  title,
  width,
  isTall = false,
  close,
  children,
}: {
  readonly title: ReactNode;
  readonly width: keyof typeof WIDTHS;
  readonly isTall?: boolean;
  readonly close: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Dialog open onClose={close} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink/20" />
      <div className="fixed inset-0 flex items-start justify-center p-4 pt-[8vh] short:pt-2">
        <DialogPanel
          className={`flex max-h-full flex-col overflow-y-auto border border-hairline bg-sheet p-5 text-[14px] shadow-lg ${WIDTHS[width]} ${isTall ? 'h-[704px]' : ''}`}
        >
          <DialogTitle className="font-serif text-xl font-semibold">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
