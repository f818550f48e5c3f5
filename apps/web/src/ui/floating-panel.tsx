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
  /** how many choices in it are made, told beside the label */
  readonly count?: number;
  readonly wide?: boolean;
  /** the panel ends where its button ends */
  readonly atRight?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <Popover className="relative">
      <PopoverButton className="field flex items-center gap-1 py-0.5 text-[13px]">
        {label}
        {count > 0 ? <span className="font-semibold text-copper">{count}</span> : null}
        <ChevronDown size={13} aria-hidden="true" />
      </PopoverButton>
      <PopoverPanel
        className={`absolute top-full ${atRight ? 'right-0' : 'left-0'} z-40 mt-1 ${wide ? 'w-[420px]' : 'w-[300px]'} border border-hairline bg-sheet p-3 text-[13px] shadow-lg`}
        aria-label={label}
      >
        {children}
      </PopoverPanel>
    </Popover>
  );
}
