import { useVirtualizer } from '@tanstack/react-virtual';
import type { PackPageDto } from '@wise-margin/contract';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';

import { PageDrawing } from '../ui/page-drawing.tsx';
import { usePrinting } from '../ui/use-printing.ts';

const GAP = 14;
const MOST_WIDTH = 900;

/** Pages one below the other; only those near the view are drawn. */
export function PageList({
  pages,
  logo,
  label,
  showPage,
  overlay,
  choose,
}: {
  readonly pages: readonly PackPageDto[];
  readonly logo: string | null;
  readonly label: string;
  /** the page to bring into view, from 0; a new object brings it again */
  readonly showPage?: { readonly page: number } | null;
  /** what is drawn over a page, such as an editor in its place; `scale` is pixels to a point */
  readonly overlay?: (page: number, scale: number) => ReactNode;
  /** a section was clicked */
  readonly choose?: (section: string) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(600);
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const measure = (): void => setWidth(Math.min(MOST_WIDTH, Math.max(280, element.clientWidth - 24)));
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, []);
  const isPrinting = usePrinting();
  const heightOf = (index: number): number => (pages[index] ? (width * pages[index].height) / pages[index].width : 0);
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({
    count: pages.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => heightOf(index) + GAP,
    overscan: 1,
  });
  const { measure, scrollToIndex } = virtual;
  useEffect(() => measure(), [measure, width, pages]);
  useEffect(() => {
    if (showPage) scrollToIndex(showPage.page, { align: 'start' });
  }, [showPage, scrollToIndex]);
  // every page on a sheet of its own, as in the PDF
  if (isPrinting)
    return createPortal(
      <div className="printed-pages">
        {pages.map((page, index) => (
          <div key={index} className={page.width > page.height ? 'printed-landscape' : 'printed-portrait'}>
            <PageDrawing page={page} logo={logo} label={`Page ${index + 1} of ${pages.length}`} />
          </div>
        ))}
      </div>,
      document.body,
    );
  return (
    <div ref={scroller} className="min-h-0 min-w-0 flex-1 overflow-y-auto bg-wash p-3" role="region" aria-label={label} tabIndex={0}>
      <div className="relative mx-auto" style={{ height: virtual.getTotalSize(), width }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const page = pages[index]!;
          const scale = width / page.width;
          return (
            <div
              key={index}
              className="absolute left-0 border border-hairline bg-white"
              style={{ top: start, width, height: heightOf(index) }}
            >
              <PageDrawing page={page} logo={logo} label={`Page ${index + 1} of ${pages.length}`} />
              {choose
                ? page.regions.map(({ section, top, bottom }) => (
                    <div
                      key={section}
                      aria-hidden="true"
                      className="absolute right-2 left-2 cursor-pointer border border-transparent hover:border-copper"
                      style={{ top: top * scale - 4, height: Math.max(24, (bottom - top) * scale) }}
                      onClick={() => choose(section)}
                    />
                  ))
                : null}
              {overlay?.(index, scale)}
            </div>
          );
        })}
      </div>
    </div>
  );
}
