import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DAY_MS } from '../units';
import type { Score } from '../course/gradebook';
import { dueFor, isClosed, isDue, isLate, isMissing, workStatus } from './status';

const at = (text: string) => Date.parse(text);
const score = (more: Partial<Score>): Score => ({
  activity: 'w1',
  submitted: null,
  returned: null,
  points: null,
  excused: false,
  due: null,
  ...more,
});
const WORK = { due: at('2026-10-05T22:00:00Z'), closes: at('2026-10-12T22:00:00Z'), graded: true };

describe('whether a work can still be handed in', () => {
  it('ends the instant it closes, not when it is due', () => {
    expect(isClosed(WORK, undefined, WORK.due)).toBe(false);
    expect(isClosed(WORK, undefined, WORK.closes - 1)).toBe(false);
    expect(isClosed(WORK, undefined, WORK.closes)).toBe(true);
    expect(isClosed({ closes: null }, undefined, Infinity)).toBe(false);
  });
  it('goes on for whom more was granted, until that has passed', () => {
    const granted = score({ due: WORK.closes + 2 * DAY_MS });
    expect(isClosed(WORK, granted, WORK.closes + DAY_MS)).toBe(false);
    expect(isClosed(WORK, granted, WORK.closes + 2 * DAY_MS)).toBe(true);
    // An earlier due instant of one's own takes nothing away.
    expect(isClosed(WORK, score({ due: WORK.due - DAY_MS }), WORK.due)).toBe(false);
  });
});

describe('one status at a time', () => {
  const instants = fc.integer({ min: -20, max: 20 }).map((d) => WORK.due + d * DAY_MS);
  const maybe = fc.option(instants, { nil: null });
  const scores = fc
    .record({
      submitted: maybe,
      returned: maybe,
      due: maybe,
      points: fc.option(fc.integer({ min: 0, max: 20 }), { nil: null }),
      excused: fc.boolean(),
    })
    .map((s) => score(s));

  it('whatever happened: missing only when due, late only when handed in, and never both', () => {
    fc.assert(
      fc.property(scores, instants, (s, now) => {
        const [missing, late] = [isMissing(WORK, s, now), isLate(WORK, s, now)];
        expect(missing && late).toBe(false);
        if (missing) {
          expect(isDue(WORK, s, now)).toBe(true);
          expect(s.excused).toBe(false);
          expect(workStatus(WORK, s, now)).toBe('missing');
        }
        if (late) expect(s.submitted! > dueFor(WORK, s)!).toBe(true);
        if (workStatus(WORK, s, now) === 'not yet due') expect(isDue(WORK, s, now)).toBe(false);
      }),
    );
  });

  it('and time alone turns it only from not yet due to missing', () => {
    fc.assert(
      fc.property(instants, instants, (one, other) => {
        const [before, after] = one < other ? [one, other] : [other, one];
        const statuses = [before, after].map((now) => workStatus(WORK, undefined, now));
        expect(['not yet due', 'missing']).toContain(statuses[0]);
        if (statuses[0] === 'missing') expect(statuses[1]).toBe('missing');
      }),
    );
  });
});
