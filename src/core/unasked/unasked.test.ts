import fc from 'fast-check';
import { isStale } from '../course/stale';
import { describe, expect, it } from 'vitest';
import { addDays, localDate, minuteOfDay, startOfDay, weekday } from '../calendar/zone';
import { docOf } from '../messages/doc';
import { docText } from '../messages/docText';
import { gainAgainstClass } from '../gradebook/gain';
import { DAY_MS, HOUR_MS, type Instant } from '../units';
import { dryRun, type Past } from './dryRun';
import { canJudge, needsEvents } from './fresh';
import { DEFAULT_GUARDS, isQuiet } from './guards';
import { lookAt, NEW_RULE, type Look } from './lookAt';
import { materialDays, materialOf, medianMinutes, minutesOn } from './material';
import { onDue, onGrades, stepHolds, weeklyTimes, type Grading, type Hold } from './occasions';
import type { LiveRule, When } from './rule';
import { RULE_STARTERS, usualNumbers } from './starters';
import { ruleSentence } from './words';

const ZONE = 'Europe/Lisbon';
const TERM = { zone: ZONE, start: '2026-09-28', weeks: 15, breaks: [] };
const START = startOfDay(TERM.start, ZONE);
const rule = (when: When, over: Partial<LiveRule> = {}): LiveRule => ({
  id: 1,
  since: START,
  when,
  where: { measure: 'this:percent', is: '<', value: 60 },
  about: 'low score',
  then: {
    do: 'message',
    approve: false,
    withPlan: false,
    offersTalk: false,
    subject: 'A word',
    doc: docOf('Hello'),
  },
  ...over,
});
const GRADED: When = { on: 'graded', which: { any: true } };

describe('occasions', () => {
  it('are of the assignments that are meant, and keep their key', () => {
    const works = new Map([
      [1, { id: 1, kind: 'quiz' as const, due: null }],
      [2, { id: 2, kind: 'exam' as const, due: null }],
    ]);
    const gradings = [1, 2, 3].map((work) => ({ student: 7, work, at: START }));
    const keys = (when: When) => onGrades(rule(when), works, gradings).map((o) => o.key);
    expect(keys(GRADED)).toEqual(['graded 1', 'graded 2']);
    expect(keys({ on: 'graded', which: { kind: 'exam' } })).toEqual(['graded 2']);
    expect(keys({ on: 'graded', which: { work: 1 } })).toEqual(['graded 1']);
    expect(keys({ on: 'holds', days: 0 })).toEqual([]);
    const due = { student: 7, work: 1, due: START + 48 * HOUR_MS };
    expect(onDue(rule({ on: 'due', which: { any: true }, hours: 48 }), works, [due])).toEqual([
      { student: 7, key: 'due 1', work: 1, at: START },
    ]);
  });

  it('each week come once, at the hour by the clock, over the changes of the clock', () => {
    const when: When = { on: 'weekly', weekday: 7, minute: 90 };
    const all: Instant[] = [];
    for (let from = START; from < START + 40 * 7 * DAY_MS; from += 5 * DAY_MS)
      all.push(...weeklyTimes({ when }, { from, to: from + 5 * DAY_MS }, ZONE));
    expect(all).toHaveLength(40);
    for (const [i, at] of all.entries()) {
      expect(weekday(localDate(at, ZONE))).toBe(7);
      // 28 March 2027 has no half past one: it is two o’clock.
      expect(minuteOfDay(at, ZONE)).toBe(localDate(at, ZONE) === '2027-03-28' ? 120 : 90);
      if (i > 0) expect(localDate(at, ZONE)).toBe(addDays(localDate(all[i - 1]!, ZONE), 7));
    }
  });

  it('of what holds come once each time that it does, and not where it held before', () => {
    const verdict = fc.constantFrom(true, false, null);
    fc.assert(
      fc.property(
        fc.array(verdict, { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 0, max: 5 }),
        (verdicts, days) => {
          let holds: ReadonlyMap<number, Hold> = new Map();
          const fired: number[] = [];
          for (const [i, v] of verdicts.entries()) {
            const day = addDays(TERM.start, i);
            const step = stepHolds(rule({ on: 'holds', days }), holds, new Map([[7, v]]), {
              day,
              first: i === 0,
              at: startOfDay(day, ZONE),
            });
            holds = step.holds;
            if (step.occasions.length > 0) fired.push(i);
          }
          // By hand: runs of days that are not false, begun by a true one, the first day’s left out.
          const expected: number[] = [];
          let since: number | null = null;
          let spent = false;
          for (const [i, v] of verdicts.entries()) {
            if (v === false) since = null;
            if (v !== true) continue;
            if (since == null) {
              since = i;
              spent = i === 0;
            }
            if (!spent && i - since >= days) {
              expected.push(i);
              spent = true;
            }
          }
          expect(fired).toEqual(expected);
        },
      ),
    );
  });
});

describe('stale data', () => {
  const noon = startOfDay('2026-10-28', ZONE) + 12 * HOUR_MS;
  it('are those of which nothing came for a day and a half', () => {
    expect(isStale(null, noon)).toBe(true);
    expect(isStale(noon - 36 * HOUR_MS, noon)).toBe(false);
    expect(isStale(noon - 36 * HOUR_MS - 1, noon)).toBe(true);
  });
  it('let a day wait until something of the next has come, or noon', () => {
    const midnight = startOfDay('2026-10-28', ZONE);
    expect(canJudge(midnight - HOUR_MS, midnight + HOUR_MS, ZONE)).toBe('wait');
    expect(canJudge(midnight + 1, midnight + HOUR_MS, ZONE)).toBe('yes');
    expect(canJudge(midnight - HOUR_MS, noon, ZONE)).toBe('yes');
    expect(canJudge(noon - 3 * DAY_MS, noon, ZONE)).toBe('stale');
  });
  it('do not keep a rule on grades alone', () => {
    const asks = (key: string) => {
      const { when, where } = RULE_STARTERS[key]!.make(usualNumbers(key));
      return needsEvents(when, where);
    };
    expect(Object.keys(RULE_STARTERS).filter(asks)).toEqual([
      'reminder',
      'hard work',
      'not seen',
      'due soon',
      'back again',
    ]);
  });
});

describe('time on its material', () => {
  const covers = new Map([
    ['1', ['tides']],
    ['2', ['tides', 'lights']],
    ['3', ['lights']],
    ['4', ['tides']],
  ]);
  const day = (text: string) => startOfDay(text, ZONE) + 20 * HOUR_MS;
  const works = [
    { id: 1, kind: 'quiz' as const, due: day('2026-10-20') },
    { id: 9, kind: 'quiz' as const, due: day('2026-10-13') },
    { id: 8, kind: 'exam' as const, due: day('2026-10-18') },
  ];
  const own = {
    count: 3,
    activity: Int32Array.from([2, 2, 3]),
    day: Int32Array.from(['2026-10-13', '2026-10-14', '2026-10-15'].map((d) => Date.parse(d) / DAY_MS)),
    seconds: Float64Array.from([600, 1200, 600]),
    inClassSeconds: new Float64Array(3),
    views: new Int32Array(3),
    contributions: new Int32Array(3),
  };

  it('is on what shares an outcome, from the day after the last of its kind to the hand-in', () => {
    expect([...materialOf(1, covers)]).toEqual([2, 4]);
    const now = day('2026-10-28');
    const days = materialDays(works[0]!, works, day('2026-10-17'), now, ZONE);
    expect(days).toEqual({ from: '2026-10-14', to: '2026-10-17' });
    expect(minutesOn(own, materialOf(1, covers), days)).toBe(20);
    // Without one before it: two weeks. Not handed in: to when it was due.
    expect(materialDays(works[1]!, works, null, now, ZONE)).toEqual({ from: '2026-09-29', to: '2026-10-13' });
    expect(minutesOn(undefined, materialOf(1, covers), days)).toBe(0);
  });
  it('is held against nothing in a class of four, or where half did nothing', () => {
    expect(medianMinutes([10, 20, 30, 40])).toBeNull();
    expect(medianMinutes([10, 20, 30, 40, 50])).toBe(30);
    expect(medianMinutes([0, 0, 0, 40, 50])).toBeNull();
  });
});

describe('a gain against the class', () => {
  const works = (...percents: number[]) =>
    percents.map((percent, i) => ({ activity: `w${i}`, at: i * DAY_MS, percent }));
  it('takes off what everybody gained', () => {
    const own = works(50, 60, 80, 80, 83);
    expect(gainAgainstClass(own, new Map())).toBe(0);
    // By hand: (80 - 70 + 80 - 70 + 83 - 75) / 3 - (50 - 60 + 60 - 60) / 2 = 28 / 3 + 5.
    const medians = new Map(
      [70, 60].flatMap((m, i) =>
        i === 0
          ? [
              ['w2', m],
              ['w3', m],
            ]
          : [
              ['w0', m],
              ['w1', m],
            ],
      ) as [string, number][],
    );
    medians.set('w4', 75);
    expect(gainAgainstClass(own, medians)).toBeCloseTo(28 / 3 + 5, 10);
  });
  it('is not known under five', () => {
    expect(gainAgainstClass(works(1, 2, 3, 4), new Map())).toBeNull();
  });
});

describe('the starters', () => {
  const about = { works: [], sections: [], groups: [], outcomes: [], audiences: [] };
  it.each(Object.entries(RULE_STARTERS))(
    '%s has a sentence with its numbers, and a text without minutes',
    (key, starter) => {
      const numbers = usualNumbers(key);
      for (const n of starter.numbers) {
        expect(starter.sentence).toContain(`{${n.key}}`);
        expect(n.usual).toBeGreaterThanOrEqual(n.least);
        expect(n.usual).toBeLessThanOrEqual(n.most);
      }
      const parts = starter.make(numbers);
      expect(`${parts.then.subject} ${docText(parts.then.doc)}`).not.toMatch(/minute|hour of|lazy|effort/i);
      expect(ruleSentence(parts, about)).toMatch(/^[A-Z0-9].*\.$/);
    },
  );
});

/** A class of three whose grades and days off are drawn. */
const drawn = fc.record({
  gradings: fc.array(
    fc.record({
      student: fc.integer({ min: 1, max: 3 }),
      work: fc.integer({ min: 1, max: 12 }),
      at: fc.integer({ min: 0, max: 70 * 24 * 60 }).map((m) => START + m * 60_000),
      percent: fc.integer({ min: 0, max: 100 }),
    }),
    { maxLength: 60 },
  ),
  guards: fc.record({
    coolDownDays: fc.integer({ min: 1, max: 14 }),
    mostAWeek: fc.integer({ min: 1, max: 3 }),
    quietFrom: fc.integer({ min: 0, max: 1439 }),
    quietTo: fc.integer({ min: 0, max: 1439 }),
  }),
  gone: fc.array(fc.integer({ min: 1, max: 3 }), { maxLength: 1 }),
});

describe('a dry run', () => {
  it('writes once an occasion, never within a guard, never to who may not be written to', async () => {
    await fc.assert(
      fc.asyncProperty(drawn, async ({ gradings, guards, gone }) => {
        const found = await dryRun(rule(GRADED), guards, pastOf(gradings, gone));
        const keys = found.map((w) => `${w.student} ${w.key}`);
        expect(new Set(keys).size).toBe(keys.length);
        const went = found.filter((w) => w.held == null);
        for (const w of went) {
          expect(isQuiet(w.goes, guards, ZONE)).toBe(false);
          expect(gone).not.toContain(w.student);
          const own = went.filter((o) => o.student === w.student && o !== w);
          for (const o of own)
            expect(Math.abs(o.goes - w.goes)).toBeGreaterThanOrEqual(guards.coolDownDays * DAY_MS);
        }
      }),
    );
  });

  it('is what happens run forward, whatever instants it is looked at in between', async () => {
    await fc.assert(
      fc.asyncProperty(
        drawn,
        fc.array(fc.integer({ min: 0, max: 70 * 24 * 60 }), { maxLength: 12 }),
        async ({ gradings, gone }, more) => {
          const past = pastOf(gradings, gone);
          const dry = await dryRun(rule(GRADED), DEFAULT_GUARDS, past);
          // Forward, with looks of its own in between, remembering only what a table would.
          const instants = [...past.passes, ...more.map((m) => START + m * 60_000)].sort((a, b) => a - b);
          let from = START;
          const seen = new Set<string>();
          const forward: string[] = [];
          for (const at of instants) {
            const found = await lookAt(rule(GRADED), NEW_RULE, await past.lookOf(from, at));
            from = at;
            for (const o of found.occasions) {
              const key = `${o.student} ${o.key}`;
              if (!seen.has(key)) forward.push(`${key} ${o.at}`);
              seen.add(key);
            }
          }
          expect(forward.sort()).toEqual(dry.map((w) => `${w.student} ${w.key} ${w.at}`).sort());
        },
      ),
    );
  });
});

function pastOf(all: readonly (Grading & { readonly percent: number })[], gone: readonly number[]): Past {
  // Of several grades of one assignment the first is its occasion.
  const first = new Map<string, (typeof all)[number]>();
  for (const g of [...all].sort((a, b) => a.at - b.at)) {
    const key = `${g.student} ${g.work}`;
    if (!first.has(key)) first.set(key, g);
  }
  const gradings = [...first.values()];
  const percentOf = (student: number, work: number | null) =>
    first.get(`${student} ${work}`)?.percent ?? null;
  return {
    course: 1,
    term: TERM,
    passes: [...new Set(gradings.map((g) => g.at))].sort((a, b) => a - b),
    lookOf: (from, at): Promise<Look> =>
      Promise.resolve({
        from,
        at,
        zone: ZONE,
        dataUntil: at,
        students: [1, 2, 3],
        works: Array.from({ length: 12 }, (_, i) => ({ id: i + 1, kind: 'quiz', due: null })),
        gradings: gradings.filter((g) => g.at > from && g.at <= at),
        planMoments: [],
        dues: () => Promise.resolve([]),
        cells: (_, of) => Promise.resolve(of.map((o) => percentOf(o.student, o.work))),
      }),
    readerOf: (student) => ({ active: !gone.includes(student), pausedUntil: null, written: [] }),
    workOf: () => ({ excused: false, handedIn: true }),
  };
}
