import { Plus, X } from 'lucide-react';

/** Adds one more of what a sentence lists, and takes one away. */
export const Add = ({ label, act }: { readonly label: string; readonly act: () => void }) => (
  <button type="button" className="link inline-flex items-center gap-0.5 text-[13px]" onClick={act}>
    <Plus size={13} aria-hidden="true" /> {label}
  </button>
);
export const Remove = ({ label, act }: { readonly label: string; readonly act: () => void }) => (
  <button
    type="button"
    aria-label={`Remove ${label}`}
    className="inline-flex h-6 w-6 items-center justify-center align-middle text-ink-soft hover:text-ink"
    onClick={act}
  >
    <X size={13} aria-hidden="true" />
  </button>
);
