import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { localDate, minuteOfDay } from '../calendar/zone';
import { DAY_MS, HOUR_MS, type Instant } from '../units';
import {
  DEFAULT_GUARDS,
  goesAt,
  heldBy,
  isQuiet,
  type Guards,
  type WhoReads,
  type WrittenTo,
} from './guards';

const TERM = { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] };
const at = (text: string): Instant => Date.parse(text);
const nobody: WhoReads = { active: true, pausedUntil: null, written: [] };
const praise = (when: string) => ({ at: at(when), course: 1, about: 'high score' as const });
const wrote = (when: string, over: Partial<WrittenTo> = {}): WrittenTo => ({
  at: at(when),
  course: 1,
  about: 'high score',
  unasked: true,
  ...over,
});

describe('what holds a rule back', () => {
  const held = (when: string, who: Partial<WhoReads>) =>
    heldBy(praise(when), { ...nobody, ...who }, DEFAULT_GUARDS, TERM, null);

  it('is nothing, of somebody who was not written to', () => {
    expect(held('2026-10-28T12:00:00Z', {})).toBeNull();
  });

  it('is the term, the leaving, the pause', () => {
    expect(held('2026-09-27T22:59:00Z', {})).toBe('outside the term');
    expect(held('2026-09-27T23:00:00Z', {})).toBeNull();
    expect(held('2027-01-11T00:00:00Z', {})).toBe('outside the term');
    expect(held('2026-10-28T12:00:00Z', { active: false })).toBe('left the course');
    expect(held('2026-10-28T12:00:00Z', { pausedUntil: at('2026-10-28T12:00:01Z') })).toBe('pause');
    expect(held('2026-10-28T12:00:00Z', { pausedUntil: at('2026-10-28T12:00:00Z') })).toBeNull();
  });

  it('is a message about the same within the cool-down, by hand too and in another course', () => {
    const written = [wrote('2026-10-22T12:00:00Z', { unasked: false, course: 2 })];
    expect(held('2026-10-28T12:00:00Z', { written })).toBe('about the same');
    expect(held('2026-10-29T12:00:00Z', { written })).toBeNull();
  });

  it('is a second one of the course on a local day, and a third in seven days over all courses', () => {
    const other = { about: 'due soon' as const };
    expect(held('2026-10-28T23:30:00Z', { written: [wrote('2026-10-28T08:00:00Z', other)] })).toBe(
      'one a day',
    );
    expect(held('2026-10-29T00:30:00Z', { written: [wrote('2026-10-28T08:00:00Z', other)] })).toBeNull();
    const two = [
      wrote('2026-10-25T08:00:00Z', { ...other, course: 2 }),
      wrote('2026-10-26T08:00:00Z', { about: 'not seen', course: 3 }),
    ];
    expect(held('2026-10-28T12:00:00Z', { written: two })).toBe('enough this week');
    expect(held('2026-11-01T08:00:00Z', { written: two })).toBeNull();
    // What an instructor writes counts for nobody's number.
    expect(held('2026-10-28T12:00:00Z', { written: two.map((m) => ({ ...m, unasked: false })) })).toBeNull();
  });

  it('is the assignment: excused always, handed in where it is asked for', () => {
    const of = (work: { excused: boolean; handedIn: boolean; reminds: boolean }) =>
      heldBy(praise('2026-10-28T12:00:00Z'), nobody, DEFAULT_GUARDS, TERM, work);
    expect(of({ excused: true, handedIn: false, reminds: false })).toBe('excused');
    expect(of({ excused: false, handedIn: true, reminds: true })).toBe('handed in');
    expect(of({ excused: false, handedIn: true, reminds: false })).toBeNull();
  });
});

describe('quiet hours', () => {
  it('end by the clock of the course, on the days when it is changed too', () => {
    const goes = (when: string, guards: Partial<Guards> = {}) =>
      new Date(goesAt(at(when), { ...DEFAULT_GUARDS, ...guards }, 'Europe/Lisbon')).toISOString();
    expect(goes('2026-10-23T21:00:00Z')).toBe('2026-10-24T06:00:00.000Z');
    // Summer time ends on 25 October 2026 at 01:00 UTC, and begins on 28 March 2027 at 01:00 UTC (EU Directive 2000/84/EC).
    expect(goes('2026-10-24T21:00:00Z')).toBe('2026-10-25T07:00:00.000Z');
    expect(goes('2027-03-27T23:00:00Z')).toBe('2027-03-28T06:00:00.000Z');
    // 01:30 does not occur on that day: the first instant after the gap.
    expect(goes('2027-03-27T23:00:00Z', { quietTo: 90 })).toBe('2027-03-28T01:00:00.000Z');
    expect(goes('2026-10-24T12:00:00Z')).toBe('2026-10-24T12:00:00.000Z');
  });

  it('are never written in, whatever the zone, the hours and the instant', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('Europe/Lisbon', 'America/St_Johns', 'Australia/Lord_Howe', 'UTC', 'Asia/Kathmandu'),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: at('2026-01-01T00:00:00Z'), max: at('2027-12-31T00:00:00Z') }),
        (zone, quietFrom, quietTo, when) => {
          const guards = { ...DEFAULT_GUARDS, quietFrom, quietTo };
          const goes = goesAt(when, guards, zone);
          expect(goes).toBeGreaterThanOrEqual(when);
          expect(goes - when).toBeLessThanOrEqual(DAY_MS + HOUR_MS);
          if (!isQuiet(when, guards, zone)) expect(goes).toBe(when);
          // In a gap of the clock the end of the quiet hours falls just after it.
          else if (minuteOfDay(goes, zone) === quietTo) expect(isQuiet(goes, guards, zone)).toBe(false);
          else expect(localDate(goes - 1, zone) <= localDate(goes, zone)).toBe(true);
        },
      ),
    );
  });
});
