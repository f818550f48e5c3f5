import { type ReactNode, useEffect } from 'react';

/** A station's page: serif title, words beside it, actions at its right. */
export function Page({
  title,
  words,
  actions,
  children,
}: {
  readonly title: string;
  readonly words?: ReactNode;
  readonly actions?: ReactNode;
  readonly children: ReactNode;
}) {
  useEffect(() => {
    document.title = `${title} · Wise Margin`;
  }, [title]);
  return (
    <div className="flex min-h-0 flex-1 flex-col px-5 pt-3 short:pt-1 narrow:px-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 short:flex-nowrap">
        <h1 className="font-serif text-[25px] leading-8 font-semibold short:text-[18px] short:leading-6 narrow:text-[19px] narrow:leading-6 short:shrink-0">
          {title}
        </h1>
        {words ? (
          <p className="min-w-0 flex-1 truncate text-ink-soft narrow:basis-full short:hidden">{words}</p>
        ) : (
          <span className="flex-1" />
        )}
        {actions ? <div className="flex flex-wrap items-center gap-2 short:flex-nowrap short:overflow-x-auto">{actions}</div> : null}
      </div>
      {children}
    </div>
  );
}
