import type { LineTrendDto } from '@wise-margin/contract';
import { displayStep } from '@wise-margin/core';
import { figureText } from '@wise-margin/presentation';

import { COPPER, HAIRLINE, INK, SOFT, STONE } from '../../formats/pdf-type.ts';
import type { Surface } from '../../formats/surface.ts';
import type { MonthChart } from '../content/content.ts';
import { measureText } from '../content/statement-sections.ts';

export type Box = { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
const MONTHS = 12;
const LABEL = { font: 'sans', size: 6.5, color: INK } as const;
const SMALL = { font: 'sans', size: 7, color: SOFT } as const;
const THIN = 0.6;
type Unit = 'dollars' | 'thousands' | 'millions';

/** Twelve months of a line: actual solid, budget outlined, prior year grey; the as-of month marked. */
export function drawMonthChart(
  surface: Surface,
  chart: MonthChart,
  { box, withFigures }: { readonly box: Box; readonly withFigures: boolean },
): void {
  const { trend, asOf } = chart;
  const unit = unitOf(chart);
  surface.tagged({ role: 'Figure', alt: chart.alt }, () => {
    const head = { font: 'sansBold', size: 9, color: INK } as const;
    surface.text(trend.line.name, { x: box.x, y: box.y + 9 }, head);
    const after = box.x + surface.widthOf(trend.line.name, head) + 5;
    surface.text(unitWords(chart, withFigures ? 'dollars' : unit), { x: after, y: box.y + 9 }, SMALL);
    const top = box.y + (withFigures ? drawFigures(surface, chart, box) : 16);
    drawBars(
      surface,
      { trend, asOf, unit, exponent: chart.exponent, hasLabels: !withFigures },
      { ...box, y: top, height: box.y + box.height - top },
    );
  });
}

/** The month's actual large, budget and prior year beneath it. @returns the height they take */
function drawFigures(surface: Surface, { trend, asOf, exponent }: MonthChart, { x, y }: Box): number {
  const at = trend.months.findIndex(({ period }) => period === asOf);
  const text = (values: LineTrendDto['actual']): string =>
    measureText(trend, { value: values[at] ?? null, books: { currency: { exponent } } }) || 'none';
  surface.text(text(trend.actual), { x, y: y + 28 }, { font: 'sansBold', size: 15, color: INK });
  drawSwatch(surface, 'budget', { x, y: y + 34 });
  const budget = text(trend.budget);
  surface.text(budget, { x: x + 9, y: y + 40 }, SMALL);
  const next = x + 20 + surface.widthOf(budget, SMALL);
  drawSwatch(surface, 'prior', { x: next, y: y + 34 });
  surface.text(text(trend.prior), { x: next + 9, y: y + 40 }, SMALL);
  return 46;
}

/** The mark of a scenario, six points wide. */
export function drawSwatch(surface: Surface, scenario: 'actual' | 'budget' | 'prior', { x, y }: Pick<Box, 'x' | 'y'>): void {
  const fill = scenario === 'actual' ? INK : scenario === 'prior' ? STONE : null;
  surface.rect({ x, y, width: 6, height: 6 }, { fill, stroke: scenario === 'prior' ? STONE : INK, weight: THIN });
}

type Bars = {
  readonly trend: LineTrendDto;
  readonly asOf: string;
  readonly unit: Unit;
  readonly exponent: number;
  readonly hasLabels: boolean;
};
function drawBars(surface: Surface, { trend, asOf, unit, exponent, hasLabels }: Bars, { x, y, width, height }: Box): void {
  const values = [...trend.actual, ...trend.budget, ...trend.prior].filter((value) => value !== null);
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values)];
  const letters = 12;
  const label = hasLabels ? 9 : 2;
  const room = height - letters - label - (low < 0 && hasLabels ? label : 0);
  const scale = high - low === 0 ? 0 : room / (high - low);
  const zero = y + label + high * scale;
  const step = width / MONTHS;
  const bar = (
    value: number | null | undefined,
    { from, wide, fill, stroke }: { from: number; wide: number; fill: string | null; stroke: string | null },
  ): void => {
    if (value === null || value === undefined || value === 0) return;
    const tall = Math.max(0.5, Math.abs(value) * scale);
    surface.rect({ x: from, y: value > 0 ? zero - tall : zero, width: wide, height: tall }, { fill, stroke, weight: THIN });
  };
  surface.line([x, zero], [x + width, zero], { weight: THIN, color: HAIRLINE });
  trend.months.forEach(({ period, name }, at) => {
    const left = x + at * step;
    bar(trend.prior[at], { from: left + step * 0.06, wide: step * 0.22, fill: STONE, stroke: null });
    bar(trend.budget[at], { from: left + step * 0.28, wide: step * 0.6, fill: null, stroke: INK });
    bar(trend.actual[at], { from: left + step * 0.38, wide: step * 0.4, fill: INK, stroke: null });
    const value = trend.actual[at];
    if (hasLabels && value !== null && value !== undefined) {
      const top = Math.max(value, trend.budget[at] ?? 0, 0);
      const text = labelText(trend.kind, { value, exponent, unit });
      const above =
        value < 0 && (trend.budget[at] ?? 0) <= 0 ? zero - Math.min(value, trend.budget[at] ?? 0) * scale + 7 : zero - top * scale - 2;
      surface.text(text, { x: left + step * 0.58, y: above, align: 'center' }, LABEL);
    }
    const isAsOf = period === asOf;
    surface.text(
      name.slice(0, 1),
      { x: left + step * 0.58, y: y + height - 3, align: 'center' },
      isAsOf ? { ...SMALL, font: 'sansBold', color: COPPER } : SMALL,
    );
    if (isAsOf)
      surface.rect({ x: left + step * 0.2, y: y + height - 1, width: step * 0.76, height: 1 }, { fill: COPPER, stroke: null, weight: 0 });
  });
}

/** The unit in which the labels of a year stay short. */
function unitOf({ trend, exponent }: MonthChart): Unit {
  if (trend.kind !== 'amount') return 'dollars';
  const most = Math.max(0, ...[...trend.actual, ...trend.budget, ...trend.prior].map((value) => Math.abs(value ?? 0)));
  const whole = most / 10 ** exponent;
  return whole >= 100_000_000 ? 'millions' : whole >= 10_000 ? 'thousands' : 'dollars';
}

const KIND_WORDS: Readonly<Record<LineTrendDto['kind'], string>> = {
  amount: '',
  quantity: '',
  percent: '%',
  points: 'points',
  times: 'times',
  days: 'days',
};
function unitWords({ trend, unit }: MonthChart, shown: Unit): string {
  if (trend.kind !== 'amount') return KIND_WORDS[trend.kind];
  return shown === 'dollars' ? unit : `${unit}, ${shown}`;
}

/** A figure over a bar: amounts in the chart's unit, ratios without a unit of their own. */
function labelText(
  kind: LineTrendDto['kind'],
  { value, exponent, unit }: { readonly value: number; readonly exponent: number; readonly unit: Unit },
): string {
  if (kind === 'amount') {
    const isNothing = Math.abs(value) * 2 < displayStep({ exponent, unit });
    return isNothing ? '' : figureText({ kind: 'amount', value }, { exponent, unit, decimals: 0 });
  }
  if (kind === 'quantity') return figureText({ kind, value }, { exponent, unit });
  if (kind === 'percent') return figureText({ kind: 'ratio', unit: 'percent', value }, { exponent, unit });
  return value.toFixed(1);
}
