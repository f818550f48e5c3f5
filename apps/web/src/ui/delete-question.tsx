import type { ReactNode } from 'react';

/** Asks once before something is deleted, where it stands: what will go, and what stays. */
export function DeleteQuestion({
  label,
  action,
  isPending = false,
  act,
  cancel,
  children,
}: {
  /** what the question is about, such as `Delete the schedule` */
  readonly label: string;
  /** the words of the button, such as `Delete schedule` */
  readonly action: string;
  readonly isPending?: boolean;
  readonly act: () => void;
  readonly cancel: () => void;
  readonly children: ReactNode;
}) {
  return (
    <div
      role="alertdialog"
      aria-label={label}
      className="flex w-full flex-wrap items-center gap-x-3 gap-y-1 border border-hairline bg-sheet p-2 text-[14px]"
    >
      <span>{children}</span>
      <button type="button" className="button" disabled={isPending} onClick={act}>
        {action}
      </button>
      <button type="button" className="link" onClick={cancel}>
        Cancel
      </button>
    </div>
  );
}
