import { describe, expect, it } from 'vitest';
import { usualMinutes } from './usualMinutes';
import type { WorkDays } from './workDays';

const days = (...rows: readonly [activity: number, seconds: number][]): WorkDays => ({
  count: rows.length,
  activity: Int32Array.from(rows.map((r) => r[0])),
  day: new Int32Array(rows.length),
  seconds: Float64Array.from(rows.map((r) => r[1])),
  inClassSeconds: new Float64Array(rows.length),
  views: new Int32Array(rows.length),
  contributions: new Int32Array(rows.length),
});
const kindOf = (id: number) => ({ 1: 'quiz', 2: 'quiz', 3: 'page' })[id];

describe('what an activity of a kind usually takes', () => {
  it('is the median over students and activities, days added up', () => {
    const all = [days([1, 300], [1, 300], [3, 120]), days([1, 1200], [2, 1800], [4, 9999])];
    expect(usualMinutes(all, kindOf)).toEqual(new Map(Object.entries({ quiz: 20, page: 2 })));
  });
  it('leaves out who spent no time', () => {
    expect(usualMinutes([days([1, 0]), days([1, 60])], kindOf).get('quiz')).toBe(1);
    expect(usualMinutes([], kindOf).size).toBe(0);
  });
});
