import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';

/** A button that opens a panel of choices beneath it; Escape closes it. */
export function FloatingPanel({
  label,
  count = 0,
  wide = false,
  atRight = false,
  children,
}: {
  readonly label: string;
  /** how many choices in it are made, shown beside the label */
  readonly count?: number;
  readonly wide?: boolean;
  /** the panel ends where its button ends */
  readonly atRight?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <Popover className="relative shrink-0">
      <PopoverButton className="field flex items-center gap-1 py-0.5 text-[13px]">
        {label}
        {count > 0 ? <span className="font-semibold text-copper">{count}</span> : null}
        <ChevronDown size={13} aria-hidden="true" />
      </PopoverButton>
      <PopoverPanel
        role="dialog"
        anchor={{ to: atRight ? 'bottom end' : 'bottom start', gap: 4, padding: 8 }}
        className={`z-40 ${wide ? 'w-[min(420px,92vw)]' : 'w-[min(300px,92vw)]'} max-h-[70dvh] overflow-y-auto border border-hairline bg-sheet p-3 text-[13px] shadow-lg`}
        aria-label={label}
      >
        {children}
      </PopoverPanel>
    </Popover>
  );
}
