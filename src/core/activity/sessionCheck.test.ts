import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MINUTE_MS } from '../units';
import { EVENT_KINDS } from '../course/kinds';
import { checkStudent, piecesAllowed, type CheckEvent } from './sessionCheck';

const START = Date.parse('2026-11-25T10:00:00Z');
const UNTIL = START + 60 * MINUTE_MS;
const event = (minute: number, kind: CheckEvent['kind'], activity: number | null = null): CheckEvent => ({
  at: START + minute * MINUTE_MS,
  kind,
  activity,
  duration: null,
});
const isWork = (a: number) => a < 10;
const check = (...events: CheckEvent[]) => checkStudent(events, UNTIL, 30, isWork);

describe('a session check', () => {
  it('tells the four apart', () => {
    expect(check().state).toBe('nothing opened');
    expect(check(event(1, 'login')).state).toBe('nothing opened');
    expect(check(event(1, 'view', 1), event(5, 'view', 2)).state).toBe('lost or stuck');
    expect(check(event(1, 'view', 1)).state).toBe('working');
    expect(check(event(1, 'view', 1), event(5, 'practise', 2)).state).toBe('working');
    expect(check(event(1, 'view', 11), event(5, 'attempt', 1), event(20, 'submit', 1)).state).toBe('done');
    expect(check(event(1, 'submit', 1), event(20, 'attempt', 2)).state).toBe('working');
  });

  it('gives each piece its minutes up to the next event, the last up to a usual piece', () => {
    const found = check(event(0, 'login'), event(2, 'view', 1), event(12, 'practise', 2));
    expect(found.pieces.map((p) => [p.activity, p.minutes, p.advance])).toEqual([
      [2, 15, 'worked on'],
      [1, 10, 'opened'],
    ]);
    expect(found.minutes).toBe(27);
  });

  it('counts nothing over a gap longer than the limit, and never more than a stated duration', () => {
    expect(
      check(event(0, 'view', 1), event(45, 'view', 2)).pieces.find((p) => p.activity === 1)!.minutes,
    ).toBe(0);
    const watched = checkStudent(
      [{ ...event(0, 'watch', 12), duration: 90 }, event(10, 'view', 1)],
      UNTIL,
      30,
      isWork,
    );
    expect(watched.pieces.find((p) => p.activity === 12)!.minutes).toBe(1.5);
  });

  it('never counts more than the period, and its pieces never more than the total', () => {
    const anyEvent = fc.record({
      minute: fc.integer({ min: 0, max: 60 }),
      kind: fc.constantFrom(...EVENT_KINDS),
      activity: fc.option(fc.integer({ min: 1, max: 20 })),
    });
    fc.assert(
      fc.property(fc.array(anyEvent, { maxLength: 30 }), (list) => {
        const events = list.map((e) => event(e.minute, e.kind, e.activity)).sort((a, b) => a.at - b.at);
        const found = checkStudent(events, UNTIL, 30, isWork);
        expect(found.minutes).toBeLessThanOrEqual(60 + 1e-9);
        const sum = found.pieces.reduce((s, p) => s + p.minutes, 0);
        expect(sum).toBeLessThanOrEqual(found.minutes + 1e-9);
      }),
    );
  });

  it('allows a piece every fifteen minutes (common practice), or as the activity says', () => {
    expect([piecesAllowed(60, null), piecesAllowed(60, 40), piecesAllowed(10, null)]).toEqual([4, 1, 1]);
  });
});
