import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';

import { CHARACTER, PADDING } from './column-widths.ts';

const LEAST = 4;
const MOST = 40;
const within = (width: number): number => Math.max(LEAST, Math.min(MOST, Math.round(width)));

/**
 * The right edge of a column's heading: dragged, or moved with the left and right arrows, it sets the column's width in
 * characters. Up and down go to the edge of the column before and after. Escape ends a drag without a change.
 */
export function ColumnEdge({
  heading,
  width,
  resize,
}: {
  readonly heading: string;
  /** in characters; null where the column fits its amounts */
  readonly width: number | null;
  readonly resize: (width: number) => void;
}) {
  const [drag, setDrag] = useState<{ readonly from: number; readonly start: number; readonly width: number } | null>(null);
  const edge = useRef<HTMLDivElement>(null);
  const measured = (): number => within(((edge.current?.parentElement?.offsetWidth ?? 0) - PADDING) / CHARACTER);
  const press = (event: PointerEvent<HTMLDivElement>): void => {
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    event.currentTarget.focus();
    const start = width ?? measured();
    setDrag({ from: event.clientX, start, width: start });
  };
  const key = (event: KeyboardEvent<HTMLDivElement>): void => {
    if (event.key === 'Escape' && drag) return setDrag(null);
    const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (step !== 0) {
      event.preventDefault();
      return resize(within((width ?? measured()) + step));
    }
    const beside = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
    if (beside === 0) return;
    event.preventDefault();
    const edges = [...(event.currentTarget.closest('tr')?.querySelectorAll<HTMLElement>('[role="separator"]') ?? [])];
    edges[edges.indexOf(event.currentTarget) + beside]?.focus();
  };
  return (
    <div
      ref={edge}
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${heading}`}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      aria-valuenow={drag?.width ?? width ?? LEAST}
      aria-valuetext={width === null && !drag ? 'Fits the amounts' : `${drag?.width ?? width} characters`}
      title="Drag to resize, or press the left and right arrows"
      tabIndex={-1}
      data-row="0"
      onPointerDown={press}
      onPointerMove={(event) => drag && setDrag({ ...drag, width: within(drag.start + (event.clientX - drag.from) / CHARACTER) })}
      onPointerUp={() => {
        if (drag && drag.width !== drag.start) resize(drag.width);
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={key}
      className="absolute top-0 right-0 bottom-0 w-2 cursor-col-resize touch-none border-r-2 border-transparent hover:border-copper focus:border-copper"
    >
      {drag ? (
        // the new edge, beneath the pointer
        <span
          aria-hidden="true"
          className="pointer-events-none absolute top-0 z-30 h-[60vh] border-r-2 border-copper"
          style={{ left: 6 + (drag.width - drag.start) * CHARACTER }}
        />
      ) : null}
    </div>
  );
}
