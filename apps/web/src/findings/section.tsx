import type { ReactNode } from 'react';

/** A part of the panel under a ruled heading. */
export function Section({
  title,
  actions,
  children,
}: {
  readonly title: string;
  readonly actions?: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <section aria-label={title} className="mt-3">
      <div className="flex items-baseline justify-between gap-3 border-b border-ink-soft pb-0.5 text-[13px]">
        <h3 className="font-semibold">{title}</h3>
        {actions}
      </div>
      {children}
    </section>
  );
}
