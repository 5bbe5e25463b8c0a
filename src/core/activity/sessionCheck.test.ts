import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MINUTE_MS } from '../units';
import { EVENT_KINDS } from '../course/kinds';
import { checkStudent, piecesAllowed, type CheckEvent } from './sessionCheck';

const START = Date.parse('2026-11-25T10:00:00Z');
const UNTIL = START + 60 * MINUTE_MS;
/** An event that lasts so many minutes; by itself one that lasts long enough for none to be short of time. */
const event = (
  minute: number,
  kind: CheckEvent['kind'],
  activity: number | null = null,
  minutes = 25,
): CheckEvent => ({ at: START + minute * MINUTE_MS, kind, activity, dwell: minutes * MINUTE_MS });
const isAssignment = (a: number) => a < 10;
const over = { from: START, until: UNTIL, running: false };
const runs = { ...over, running: true };
const check = (...events: CheckEvent[]) => checkStudent(events, over, isAssignment);
const now = (...events: CheckEvent[]) => checkStudent(events, runs, isAssignment).state;

describe('a session check', () => {
  it('tells the states apart', () => {
    expect(check().state).toBe('nothing opened');
    expect(check(event(1, 'login')).state).toBe('nothing opened');
    expect(check(event(1, 'view', 1)).state).toBe('reading');
    expect(check(event(1, 'view', 1), event(26, 'practise', 2)).state).toBe('working');
    expect(check(event(1, 'view', 11), event(5, 'attempt', 1), event(20, 'submit', 1)).state).toBe('done');
    expect(check(event(1, 'submit', 1), event(26, 'attempt', 2)).state).toBe('working');
    expect(check(event(1, 'view', 1, 10)).state).toBe('little time');
  });

  it('finds a page and two films reading, not lost', () => {
    expect(
      check(event(0, 'view', 11, 10), event(10, 'watch', 12, 10), event(20, 'watch', 13, 10)).state,
    ).toBe('reading');
  });

  it('calls stuck whoever had three assignments open for two minutes each and did nothing in them', () => {
    const three = [event(0, 'view', 1, 8), event(8, 'view', 2, 8), event(16, 'view', 3, 8)];
    expect(check(...three).state).toBe('stuck');
    expect(check(...three, event(24, 'practise', 1, 1)).state).toBe('working');
    expect(check(three[0]!, three[1]!, event(16, 'view', 3, 1.9)).state).not.toBe('stuck');
    expect(check(three[0]!, three[1]!, event(16, 'view', 11, 8)).state).toBe('reading');
  });

  it('calls stopped whoever did nothing for 15 minutes, of a period that runs only', () => {
    const early = [event(0, 'practise', 1, 25), event(25, 'view', 1, 19)];
    expect(now(...early)).toBe('stopped');
    expect(check(...early).state).toBe('working');
    expect(now(...early, event(46, 'view', 1, 14))).toBe('working');
    // Done comes before it, and so does nothing.
    expect(now(event(0, 'submit', 1))).toBe('done');
    expect(now(event(0, 'login'))).toBe('nothing opened');
  });

  it('cuts every dwell at both ends of the period', () => {
    const found = check(event(-10, 'view', 1, 15), event(50, 'view', 2, 25));
    expect(found.pieces.map((p) => [p.activity, p.minutes, p.views])).toEqual([
      [2, 10, 1],
      // Begun before: its time counts, the event does not.
      [1, 5, 0],
    ]);
    expect(found.minutes).toBe(15);
  });

  it('never counts more than the period, and its pieces never more than the total', () => {
    const anyEvent = fc.record({
      minute: fc.integer({ min: -30, max: 70 }),
      kind: fc.constantFrom(...EVENT_KINDS),
      activity: fc.option(fc.integer({ min: 1, max: 20 })),
    });
    fc.assert(
      fc.property(fc.array(anyEvent, { maxLength: 30 }), (list) => {
        const sorted = [...list].sort((a, b) => a.minute - b.minute);
        // A dwell ends with the next event, as those of sessions do.
        const events = sorted.map((e, i) =>
          event(e.minute, e.kind, e.activity, Math.min(30, (sorted[i + 1]?.minute ?? 100) - e.minute)),
        );
        const found = check(...events);
        expect(found.minutes).toBeLessThanOrEqual(60 + 1e-9);
        const sum = found.pieces.reduce((s, p) => s + p.minutes, 0);
        expect(sum).toBeLessThanOrEqual(found.minutes + 1e-9);
      }),
    );
  });

  it('allows an activity every fifteen minutes (common practice), or as they usually take', () => {
    expect([piecesAllowed(60, []), piecesAllowed(60, [40]), piecesAllowed(60, [10, 20])]).toEqual([4, 1, 4]);
    expect(piecesAllowed(10, [40])).toBe(1);
  });
});
