import { bridgeSteps, figureText } from '@wise-margin/presentation';

import { BRICK, HAIRLINE, INK, PINE, SOFT, STONE } from '../../formats/pdf-type.ts';
import type { Surface } from '../../formats/surface.ts';
import type { BridgeChart } from '../content/content.ts';

const ROW = 18;
const NAMES = 160;
const FIGURES = 84;
const NAME_LETTERS = 34;
const THIN = 0.6;

/** The height a bridge takes. */
export const bridgeHeight = (bridge: BridgeChart): number => (stepsOf(bridge).length + 2) * ROW + 16;

const stepsOf = ({ explanation, by }: BridgeChart) =>
  bridgeSteps(
    explanation.layouts.find((layout) => layout.by === by)!,
    explanation.base,
  );

/** From the base, step by step, to the figure compared with it: what helps in green with F, what hurts in red with U. */
export function drawBridge(
  surface: Surface,
  bridge: BridgeChart,
  { x, y, width }: { readonly x: number; readonly y: number; readonly width: number },
): void {
  const { base, compared, headings, favor, variance } = bridge.explanation;
  const steps = stepsOf(bridge);
  const ends = [base, compared, ...steps.flatMap(({ from, amount }) => [from, from + amount])];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  // a bridge of small steps between large totals starts near them, and says so
  const isCut = low > 0 && high - low < low / 2;
  const start = isCut ? low - (high - low) * 0.6 : Math.min(0, low);
  const end = Math.max(isCut ? high : Math.max(0, high), start + 1);
  const [left, right] = [x + NAMES, x + width - FIGURES];
  const at = (value: number): number => left + ((value - start) / (end - start)) * (right - left);
  const zero = at(isCut ? start : 0);
  const money = (value: number): string => figureText({ kind: 'amount', value }, { exponent: bridge.exponent, unit: 'dollars' });
  const isGood = (amount: number): boolean | null => (favor === null ? null : amount > 0 === variance > 0 ? favor === 'F' : favor === 'U');
  const edge = x + width - 14;
  surface.tagged({ role: 'Figure', alt: bridge.alt }, () => {
    surface.line([zero, y], [zero, y + (steps.length + 2) * ROW], { weight: THIN, color: HAIRLINE });
    const total = (
      row: number,
      { name, value, fill }: { readonly name: string; readonly value: number; readonly fill: string | null },
    ): void => {
      const style = { font: 'sansBold', size: 9, color: INK } as const;
      surface.text(name, { x, y: y + row * ROW + 12 }, style);
      const [from, to] = [Math.min(zero, at(value)), Math.max(zero, at(value))];
      surface.rect(
        { x: from, y: y + row * ROW + 3, width: Math.max(1, to - from), height: ROW - 6 },
        { fill, stroke: fill === null ? INK : null, weight: THIN },
      );
      surface.text(money(value), { x: edge, y: y + row * ROW + 12, align: 'right' }, style);
    };
    total(0, { name: headings.base, value: base, fill: bridge.isBudget ? null : STONE });
    steps.forEach(({ name, amount, from }, index) => {
      const row = index + 1;
      const good = isGood(amount);
      const color = good === null ? SOFT : good ? PINE : BRICK;
      const shown = name.length > NAME_LETTERS ? `${name.slice(0, NAME_LETTERS - 1)}…` : name;
      surface.text(shown, { x: x + 8, y: y + row * ROW + 12 }, { font: 'sans', size: 9, color: INK });
      surface.line([at(from), y + row * ROW - 3], [at(from), y + row * ROW + 3], { weight: THIN, color: SOFT });
      const [begin, stop] = [at(Math.min(from, from + amount)), at(Math.max(from, from + amount))];
      surface.rect(
        { x: begin, y: y + row * ROW + 3, width: Math.max(1, stop - begin), height: ROW - 6 },
        { fill: color, stroke: null, weight: 0 },
      );
      const style = { font: 'sans', size: 9, color } as const;
      surface.text(`${amount > 0 ? '+' : ''}${money(amount)}`, { x: edge, y: y + row * ROW + 12, align: 'right' }, style);
      if (good !== null) surface.text(good ? 'F' : 'U', { x: edge + 5, y: y + row * ROW + 12 }, style);
    });
    total(steps.length + 1, { name: headings.compared, value: compared, fill: INK });
    const words = `${bridge.unit}.${isCut ? ` Bars start at ${money(start)}, not at zero.` : ''}`;
    surface.text(words, { x, y: y + (steps.length + 2) * ROW + 9 }, { font: 'sans', size: 7.5, color: SOFT });
  });
}
