import fc from 'fast-check';
import { TheilSenRegression } from 'ml-regression-theil-sen';
import { describe, expect, it } from 'vitest';
import { rows, truth } from '../../../tests/support/reference';
import { mannKendall, olsSlope, theilSenSlope, type Point } from './trend';

interface TrendTruth {
  ols: { row: string; Estimate: number }[];
  theilSenSlope: number;
  mannKendall: { S: number; varS: number; p: number };
  tauB: number | null;
  tauBPAsymptoticContinuity: number | null;
}

const points = (file: string): Point[] =>
  rows(file)
    .map(([x, y]) => ({ x: x!, y: y! }))
    .sort((a, b) => a.x - b.x);

describe.each([
  ['trend-nile', 'nile.csv', 'R datasets::Nile'],
  ['trend-sen1968', 'sen1968.csv', 'Sen 1968, JASA 63:1379'],
  ['trend-hollanderwolfe', 'tuna9.csv', 'Hollander & Wolfe 1973, p. 185'],
  ['trend-grades8', 'grades8.csv', 'made by hand: ties and a missing week'],
  ['trend-flat', 'grades-flat.csv', 'made by hand: constant'],
])('%s, as R 4.2.2 computes it (%s: %s)', (id, file) => {
  const expected = truth<TrendTruth>(id);
  const series = points(file);
  it('has the least-squares slope of lm', () => {
    expect(olsSlope(series)).toBeCloseTo(expected.ols[1]!.Estimate, 9);
  });
  it('has the median of pairwise slopes', () => {
    expect(theilSenSlope(series)).toBeCloseTo(expected.theilSenSlope, 12);
  });
  it('has S, its variance with tie correction, and p with continuity correction', () => {
    const test = mannKendall(series);
    expect(test.s).toBe(expected.mannKendall.S);
    expect(test.varS).toBeCloseTo(expected.mannKendall.varS, 9);
    expect(test.p! / expected.mannKendall.p).toBeCloseTo(1, 10);
  });
  it('has tau-b of cor.test', () => {
    const { tauB } = mannKendall(series);
    if (expected.tauB == null) expect(tauB).toBeNull();
    else expect(tauB).toBeCloseTo(expected.tauB, 12);
  });
});

const series = fc.array(
  fc.record({ x: fc.integer({ min: 0, max: 100 }), y: fc.integer({ min: 0, max: 100 }) }),
  {
    maxLength: 25,
  },
);

describe('where there is not enough', () => {
  it('says null', () => {
    expect(olsSlope([])).toBeNull();
    expect(theilSenSlope([{ x: 1, y: 2 }])).toBeNull();
    expect(
      theilSenSlope([
        { x: 1, y: 2 },
        { x: 1, y: 3 },
      ]),
    ).toBeNull();
    expect(mannKendall([{ x: 1, y: 1 }])).toEqual({ s: 0, varS: 0, tauB: null, p: null });
  });
});

describe('properties', () => {
  it('Theil-Sen agrees with another implementation', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 500 }), { minLength: 3, maxLength: 20 }), (xs) => {
        // Its median of an even number of slopes is another one; an odd number leaves no choice.
        fc.pre(((xs.length * (xs.length - 1)) / 2) % 2 === 1);
        const ys = xs.map((x, i) => ((x * 37 + i * 11) % 101) - 50);
        const other = new TheilSenRegression(xs, ys);
        const own = theilSenSlope(xs.map((x, i) => ({ x, y: ys[i]! })))!;
        expect(own).toBeCloseTo(other.slope, 9);
      }),
    );
  });
  it('the order of the input changes nothing', () => {
    fc.assert(
      fc.property(series, fc.infiniteStream(fc.nat()), (list, stream) => {
        const shuffled = list
          .map((p) => ({ p, key: stream.next().value }))
          .sort((a, b) => a.key - b.key)
          .map((e) => e.p);
        expect(mannKendall(shuffled)).toEqual(mannKendall(list));
        expect(theilSenSlope(shuffled)).toEqual(theilSenSlope(list));
      }),
    );
  });
  it('turning the series round turns S and the slope', () => {
    fc.assert(
      fc.property(series, (list) => {
        const turned = list.map((p) => ({ x: p.x, y: -p.y }));
        expect(mannKendall(turned).s + 0).toBe(-mannKendall(list).s + 0);
        const slope = theilSenSlope(list);
        if (slope != null) expect(theilSenSlope(turned)).toBeCloseTo(-slope, 9);
      }),
    );
  });
  it('p lies in 0 to 1 and tau in -1 to 1', () => {
    fc.assert(
      fc.property(series, (list) => {
        const { p, tauB } = mannKendall(list);
        if (p != null) expect(p >= 0 && p <= 1).toBe(true);
        if (tauB != null) expect(Math.abs(tauB)).toBeLessThanOrEqual(1 + 1e-12);
      }),
    );
  });
});
