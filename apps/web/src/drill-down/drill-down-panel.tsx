import { X } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';

/** The side panel that leads from a figure to its entries: crumbs above, the proof below. */
export function DrillDownPanel({
  crumbs,
  title,
  close,
  children,
  foot,
}: {
  readonly crumbs: ReactNode;
  readonly title: ReactNode;
  readonly close: () => void;
  readonly children: ReactNode;
  readonly foot?: ReactNode;
}) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <aside
      aria-label="Drill-down"
      className="ml-3 flex w-[min(440px,34vw)] shrink-0 flex-col border border-hairline bg-sheet narrow:fixed narrow:inset-x-0 narrow:bottom-12 narrow:z-40 narrow:ml-0 narrow:h-[45dvh] narrow:w-full narrow:border-t-2 narrow:border-t-copper narrow:shadow-lg"
    >
      <div className="flex items-start gap-2 px-4 pt-3">
        <nav aria-label="Drill-down steps" className="min-w-0 flex-1 text-[13px] text-ink-soft">
          {crumbs}
        </nav>
        <button
          type="button"
          aria-label="Close"
          title="Close (Esc steps back)"
          onClick={close}
          className="p-1 text-ink-soft hover:text-ink"
        >
          <X size={16} />
        </button>
      </div>
      <h2 ref={heading} tabIndex={-1} className="px-4 font-serif text-[19px] leading-6 font-semibold outline-none">
        {title}
      </h2>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-2" tabIndex={0} role="region" aria-label="What makes up the amount">
        {children}
      </div>
      {foot ? <div className="flex justify-between gap-4 border-t border-hairline px-4 py-2 text-[13px]">{foot}</div> : null}
    </aside>
  );
}

/** The proof at the end of each step: what is listed, and how far it is from the figure. */
export function Proof({ listed, difference, isZero }: { readonly listed: string; readonly difference: string; readonly isZero: boolean }) {
  return (
    <>
      <span>{listed}</span>
      <span className={isZero ? 'text-pine' : 'font-semibold text-brick'}>
        {isZero ? 'Adds up to the amount' : `Difference from the amount ${difference}`}
      </span>
    </>
  );
}
