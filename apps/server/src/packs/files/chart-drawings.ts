import type { PageMark } from '@wise-margin/contract';

import { PageRecorder } from '../../formats/page-recorder.ts';
import { marksSvg } from '../../formats/page-svg.ts';
import type { ContentBlock } from '../content/content.ts';
import { bridgeHeight, drawBridge } from '../pages/bridge-chart.ts';
import { drawMonthChart } from '../pages/month-chart.ts';

const WIDTHS = { month: 260, measure: 170, bridge: 540 };
const HEIGHTS = { month: 128, measure: 112 };
/** A chart of its own: a drawing with its size in points and what it shows in words. */
export type ChartDrawing = {
  readonly marks: readonly PageMark[];
  readonly svg: string;
  readonly width: number;
  readonly height: number;
  readonly alt: string;
};

/** The charts of a block, each as a drawing, the same that the pages show. */
export function chartDrawings(block: Extract<ContentBlock, { readonly kind: 'charts' | 'bridge' }>): ChartDrawing[] {
  if (block.kind === 'bridge') {
    const size = { width: WIDTHS.bridge, height: bridgeHeight(block.bridge) };
    return [
      drawing({ ...size, alt: block.bridge.alt }, (recorder) => drawBridge(recorder, block.bridge, { x: 0, y: 0, width: size.width })),
    ];
  }
  const { charts, withFigures } = block;
  const kind = withFigures ? 'measure' : 'month';
  return charts.map((chart) => {
    const box = { x: 0, y: 0, width: WIDTHS[kind], height: HEIGHTS[kind] };
    return drawing({ ...box, alt: chart.alt }, (recorder) => drawMonthChart(recorder, chart, { box, withFigures }));
  });
}

function drawing(size: Omit<ChartDrawing, 'svg' | 'marks'>, draw: (recorder: PageRecorder) => void): ChartDrawing {
  const recorder = new PageRecorder();
  recorder.addPage(size.width, size.height);
  draw(recorder);
  const marks = recorder.pages[0]!.marks.map(({ mark }) => mark);
  return { ...size, marks, svg: marksSvg(marks, size) };
}
