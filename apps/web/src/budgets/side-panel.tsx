import type { ReactNode } from 'react';

/** What stands beside the month grid, under its title. */
export function SidePanel({
  title,
  words,
  children,
}: {
  readonly title: string;
  readonly words?: ReactNode;
  readonly children?: ReactNode;
}) {
  return (
    <aside
      aria-label={title}
      className="ml-3 w-[360px] shrink-0 overflow-y-auto border border-hairline bg-sheet p-4 text-[13px]"
      tabIndex={0}
    >
      <h2 className="font-serif text-[19px] leading-6 font-semibold">{title}</h2>
      {words ? <p className="mt-1 text-ink-soft">{words}</p> : null}
      {children}
    </aside>
  );
}
