import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quantile } from '../statistics/quantile';
import { effortGroup, effortRelation, type EffortPoint } from './effort';

const point = (id: number, minutes: number, progress: number | null, whole = true): EffortPoint => ({
  id,
  minutes,
  progress,
  whole,
});

/** The definition, word by word: the quartiles of the nearest third, at least 15. */
function nearest(points: readonly EffortPoint[], p: EffortPoint): [number, number] {
  const known = points.filter((o) => o.progress != null);
  const size = Math.max(15, Math.ceil(known.length / 3));
  const byDistance = [...known].sort(
    (a, b) => Math.abs(a.minutes - p.minutes) - Math.abs(b.minutes - p.minutes),
  );
  const near = byDistance.slice(0, size).map((o) => o.progress!);
  return [quantile(near, 0.25)!, quantile(near, 0.75)!];
}

describe('effort against progress', () => {
  it('is the quartiles of those nearest in time, whatever the order of the input', () => {
    // No two distances are the same, so that who is nearest is beyond doubt.
    const any = fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 100 })), {
      minLength: 15,
      maxLength: 40,
      selector: ([m]) => m,
    });
    fc.assert(
      fc.property(any, fc.array(fc.nat()), (list, order) => {
        const points = list.map(([m, progress], i) => point(i, 2 ** m, progress));
        const { places } = effortRelation(points);
        for (const p of points) {
          const { low, high } = places.get(p.id)!;
          expect([low, high]).toEqual(nearest(points, p));
        }
        const shuffled = points
          .map((p, i) => ({ p, key: order[i] ?? 0 }))
          .sort((a, b) => a.key - b.key)
          .map(({ p }) => p);
        expect(new Map(effortRelation(shuffled).places)).toEqual(places);
      }),
    );
  });
  it('finds who works as long as half the class and lies more than 5 points under the others', () => {
    // 31 students, progress 70 to 80, and two who lie low: one with much time, one with little.
    const others = Array.from({ length: 29 }, (_, i) => point(i, 100 + i, 70 + (i % 11)));
    const points = [
      ...others,
      point(50, 125, 40),
      point(51, 20, 40),
      point(52, 120, 99),
      point(53, 500, null),
    ];
    const { medianMinutes, places } = effortRelation(points);
    const groupOf = (p: EffortPoint) => effortGroup(p, medianMinutes, places.get(p.id));
    expect(points.slice(29).map(groupOf)).toEqual([
      'much time, little progress',
      'little time, little progress',
      'above',
      null,
    ]);
    const { low } = places.get(50)!;
    const at = (progress: number) => effortGroup(point(50, 125, progress), medianMinutes, places.get(50));
    expect([at(low - 5), at(low - 5.01)]).toEqual([null, 'much time, little progress']);
  });
  it('takes the lowest third of a small class', () => {
    const points = [50, 60, 70].map((progress, i) => point(i, 100, progress));
    const { medianMinutes, places } = effortRelation(points);
    expect(points.map((p) => effortGroup(p, medianMinutes, places.get(p.id)))).toEqual([
      'much time, little progress',
      null,
      'above',
    ]);
    expect(effortRelation([]).places.size).toBe(0);
  });
  it('takes the median time of those who were there all the days', () => {
    expect(effortRelation([point(1, 10, 50), point(2, 30, 50), point(3, 0, 50, false)]).medianMinutes).toBe(
      20,
    );
  });
});
