import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { type DrivenSegment, priceVolume } from './price-volume.ts';

const segment = (
  key: string,
  [base, baseVolume]: readonly [number, number | null],
  [compared, comparedVolume]: readonly [number, number | null],
): DrivenSegment => ({
  key,
  base,
  baseVolume,
  compared,
  comparedVolume,
});
const partsOf = (segments: readonly DrivenSegment[]) =>
  Object.fromEntries((priceVolume(segments)?.parts ?? []).map(({ kind, amount }) => [kind, amount]));

describe('price and volume', () => {
  // Horngren, Datar, Rajan: Webb Company, 12,000 jackets budgeted at 120, 10,000 sold at 125 (dollars), from memory
  it('of one product are its flexible-budget and sales-volume variances', () => {
    const result = priceVolume([segment('', [1_440_000, 12_000], [1_250_000, 10_000])])!;
    expect(result).toMatchObject({ base: 1_440_000, flexible: 1_200_000, compared: 1_250_000 });
    expect(result.parts).toEqual([
      { kind: 'quantity', amount: -240_000 },
      { kind: 'price', amount: 50_000 },
    ]);
  });
  // the same source: materials 2 yards a jacket at 30, 22,200 bought at 28; labor 0.8 hours at 20, 9,000 hours at 22
  it.each([
    ['materials', 720_000, 24_000, 621_600, 22_200, { quantity: -120_000, efficiency: 66_000, price: -44_400 }],
    ['labor', 192_000, 9600, 198_000, 9000, { quantity: -32_000, efficiency: 20_000, price: 18_000 }],
  ])('of %s with an input of its own are volume, efficiency and rate', (_, base, baseInput, compared, comparedInput, parts) =>
    expect(partsOf([{ ...segment('', [base, 12_000], [compared, 10_000]), baseInput, comparedInput }])).toEqual(parts),
  );
  // sales mix and quantity after the same source's chapter on them, with figures of our own: 60% at 10, 40% at 20
  it('of several products have a mix: fewer of the dear ones', () => {
    const segments = [segment('plain', [6000, 600], [7700, 770]), segment('dear', [8000, 400], [6600, 330])];
    // 1,100 units in the old mix would be 15,400; at old prices they are 14,300
    expect(partsOf(segments)).toEqual({ quantity: 1400, mix: -1100, price: 0 });
  });
  it.each([
    ['a new product', segment('new', [0, 0], [500, 5])],
    ['one without a base volume', segment('new', [300, null], [500, 5])],
    ['one that stopped', segment('old', [500, 5], [0, 0])],
    ['an amount without units', segment('old', [500, 5], [40, null])],
  ])('leave %s apart, since it has no price on one side', (_, apart) => {
    const { parts, segments } = priceVolume([segment('a', [1000, 10], [1100, 11]), apart])!;
    expect(parts).toEqual([
      { kind: 'quantity', amount: 100 },
      { kind: 'price', amount: 0 },
      { kind: 'unmatched', amount: apart.compared - apart.base },
    ]);
    expect(segments[1]).toMatchObject({ isMatched: false, volumeEffect: 0, priceEffect: 0 });
  });
  it('are none without a volume on both sides', () => {
    expect(priceVolume([])).toBeNull();
    expect(priceVolume([segment('', [100, 0], [100, 5])])).toBeNull();
    expect(priceVolume([segment('', [100, null], [100, 5])])).toBeNull();
    // less than a millionth of a unit is none
    expect(priceVolume([segment('', [100, 1e-9], [100, 5])])).toBeNull();
    // a thousandth of a unit before, thirty million times as many now
    expect(priceVolume([segment('', [295_767_158, 0.001], [0, 30_453_681])])).toBeNull();
  });
  it('round half away from zero, on either side of it', () => {
    expect(partsOf([segment('', [1, 2], [0, 1])])).toEqual({ quantity: 0, price: -1 });
    expect(partsOf([segment('', [-1, 2], [0, 1])])).toEqual({ quantity: 0, price: 1 });
  });
});

const amount = fc.integer({ min: -1_000_000_000, max: 1_000_000_000 });
const volume = fc.oneof(fc.constant(null), fc.constant(0), fc.double({ min: 0.001, max: 1e6, noNaN: true }));
it('parts and segments add up to the difference, whatever the volumes', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ base: amount, compared: amount, baseVolume: volume, comparedVolume: volume, baseInput: volume, comparedInput: volume }),
        { maxLength: 8 },
      ),
      (drawn) => {
        const segments = drawn.map((each, at) => ({ key: String(at), ...each }));
        const result = priceVolume(segments);
        if (result === null) return;
        const total = segments.reduce((sum, { base, compared }) => sum + compared - base, 0);
        expect(result.parts.reduce((sum, part) => sum + part.amount, 0)).toBe(total);
        expect(result.compared - result.base).toBe(total);
        const volumes = result.parts
          .filter(({ kind }) => kind === 'quantity' || kind === 'mix')
          .reduce((sum, part) => sum + part.amount, 0);
        expect(volumes).toBe(result.flexible - result.base);
        for (const { isMatched, volumeEffect, priceEffect, base, compared } of result.segments)
          if (isMatched) expect(volumeEffect + priceEffect).toBe(compared - base);
      },
    ),
  ));
