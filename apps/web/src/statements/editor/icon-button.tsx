import type { ReactNode } from 'react';

/** A button of one icon, named for its hover and for screen readers. */
export function IconButton({ label, icon, act }: { readonly label: string; readonly icon: ReactNode; readonly act: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={act}
      className="flex min-h-6 min-w-6 shrink-0 items-center justify-center text-ink-soft hover:text-ink"
    >
      {icon}
    </button>
  );
}
