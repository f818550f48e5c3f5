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
      className="ml-3 w-[min(360px,35vw)] shrink-0 overflow-y-auto border border-hairline bg-sheet p-4 text-[13px] narrow:fixed narrow:inset-x-0 narrow:bottom-12 narrow:z-40 narrow:ml-0 narrow:h-[45dvh] narrow:w-full narrow:border-t-2 narrow:border-t-copper"
      tabIndex={0}
    >
      <h2 className="font-serif text-[19px] leading-6 font-semibold">{title}</h2>
      {words ? <p className="mt-1 text-ink-soft">{words}</p> : null}
      {children}
    </aside>
  );
}
