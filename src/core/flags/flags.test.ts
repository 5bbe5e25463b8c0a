import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar/zone';
import { crossings, type Crossing } from './crossings';
import { stepFlags, type OpenFlag } from './flags';
import { INDICATOR_NUMBERS } from './numbers';
import { INDICATOR_SENTENCES } from './sentences';
import { staleDays } from '../course/stale';
import type { ClassRecord } from '../course/record';
import { limitsOf, settingsFor } from './apart';
import {
  DEFAULT_INDICATORS,
  FLAG_KINDS,
  FLAGS_OF_EVENTS,
  LIMITED_KINDS,
  type IndicatorSettings,
} from './indicators';
import type { StudentMeasures } from '../measures/studentMeasures';
import { compareFlags, comparePriority, type Queued } from './priority';
import { reasonOf } from './reasons';
import { isAnswered, returnsOn, type Mark } from '../acts/rounds';

/** Somebody with whom nothing is the matter. */
const calm: StudentMeasures = {
  activityKnown: true,
  rhythm: {
    activeDays: 30,
    lastSeen: '2026-11-24',
    daysSince: 1,
    silence: 1,
    usualGap: 2,
    longestGap: 4,
    lastGap: 2,
    silenceQuantile: 0.2,
    weekdaySpread: 0.8,
  },
  recentTime: { minutes: 200, classMedian: 200, whole: true },
  effortTime: { minutes: 390, classMedian: 400, whole: true },
  completion: { done: 14, expected: 14, missing: [], pace: 0, undated: 1 },
  effortBand: { low: 70, high: 85, mark: 65 },
  standing: { standing: 78, lowestPossible: 40, highestPossible: 90 },
  gradedWorks: 12,
  standingBefore: 77,
  standingRank: 0.5,
  gain: 4.2,
  trend: { n: 12, perWeek: 0.1, relativePerWeek: 0.1, test: { s: 2, varS: 200, tauB: 0.1, p: 0.9 } },
};
const silent = (silence: number, silenceQuantile: number | null) => ({
  ...calm,
  rhythm: { ...calm.rhythm, silence, silenceQuantile },
});
/** What one student crosses, whose class is known by its medians alone. */
const crossed = (m: StudentMeasures, settings: IndicatorSettings) =>
  crossings(
    [
      {
        id: 1,
        measured: m,
        time: (days) => (days === settings.effort.windowDays ? m.effortTime : m.recentTime),
      },
    ],
    settings,
  ).get(1)!;
const found = (m: StudentMeasures, settings: IndicatorSettings = DEFAULT_INDICATORS) =>
  crossed(m, settings).map((c) => `${c.kind}: ${c.level}`);

describe('the sentences', () => {
  it('hold every number of the indicators once', () => {
    const named = INDICATOR_SENTENCES.flatMap((i) => i.sentence.match(/\{[\w.]+\}/g) ?? []);
    expect(named.map((n) => n.slice(1, -1)).sort()).toEqual(Object.keys(INDICATOR_NUMBERS).sort());
    expect(INDICATOR_SENTENCES.map((i) => i.kind)).toEqual([...FLAG_KINDS]);
  });
});

describe('limits for a part of the class', () => {
  const apart = [
    { part: 's1' as const, kind: 'not seen' as const, watch: 2, act: 20 },
    { part: 'm7' as const, kind: 'not seen' as const, watch: 3, act: 4 },
  ];
  const settings = { ...DEFAULT_INDICATORS, apart };
  const of = (parts: ('s1' | 's2' | 'm7')[], silence: number) =>
    crossings([{ id: 1, parts, measured: silent(silence, 1), time: () => calm.recentTime }], settings)
      .get(1)!
      .map((c) => c.level);

  it('hold for whoever is in it, the first in the list before the others', () => {
    expect(of([], 4)).toEqual([]);
    expect(of(['s2'], 8)).toEqual(['act']);
    expect(of(['s1'], 8)).toEqual(['watch']);
    expect(of(['m7'], 4)).toEqual(['act']);
    expect(of(['m7', 's1'], 4)).toEqual(['watch']);
  });
  it('leave every other number alone, and are those of the course where they say the same', () => {
    const own = settingsFor(settings, ['s1']);
    expect(own).toEqual({
      ...settings,
      notSeen: { ...settings.notSeen, watchDays: 2, actDays: 20 },
    });
    for (const kind of LIMITED_KINDS) {
      const same = { ...settings, apart: [{ part: 's1' as const, kind, ...limitsOf(settings, kind) }] };
      expect(limitsOf(settingsFor(same, ['s1']), kind)).toEqual(limitsOf(settings, kind));
      const other = { ...settings, apart: [{ part: 's1' as const, kind, watch: 41, act: 42 }] };
      expect(limitsOf(settingsFor(other, ['s1']), kind)).toMatchObject({ watch: 41, act: 42 });
    }
  });
});

describe('indicators', () => {
  it('leave alone whom nothing is the matter with', () => expect(found(calm)).toEqual([]));

  it('not seen: long by the limit and by the student’s own rhythm', () => {
    expect(found(silent(4, 1))).toEqual([]);
    expect(found(silent(5, 0.9))).toEqual(['not seen: watch']);
    expect(found(silent(8, 1))).toEqual(['not seen: act']);
    expect(found(silent(8, 0.89))).toEqual([]);
    expect(found(silent(8, null))).toEqual(['not seen: act']);
    expect(found({ ...silent(8, null), activityKnown: false })).toEqual([]);
  });
  it('behind: by the number missing', () => {
    const behind = (n: number) => ({
      ...calm,
      completion: { ...calm.completion, missing: Array<string>(n).fill('w') },
    });
    expect([1, 2, 3].map((n) => found(behind(n)))).toEqual([[], ['behind: watch'], ['behind: act']]);
  });
  it('low standing: not before enough is graded', () => {
    const low = (standing: number, gradedWorks = 3) => ({
      ...calm,
      gradedWorks,
      standing: { ...calm.standing, standing },
    });
    expect([60, 59.9, 50, 49.9].map((s) => found(low(s)))).toEqual([
      [],
      ['low standing: watch'],
      ['low standing: watch'],
      ['low standing: act'],
    ]);
    expect(found(low(10, 2))).toEqual([]);
  });
  it('slipping: against the class, and only where the test finds a trend', () => {
    const slipping = (relativePerWeek: number, p: number) => ({
      ...calm,
      trend: { ...calm.trend!, relativePerWeek, test: { ...calm.trend!.test, p } },
    });
    expect(found(slipping(-2, 0.1))).toEqual(['slipping: watch']);
    expect(found(slipping(-4, 0.01))).toEqual(['slipping: act']);
    expect(found(slipping(-9, 0.11))).toEqual([]);
    expect(found(slipping(2, 0.01))).toEqual([]);
    expect(found({ ...calm, trend: null })).toEqual([]);
  });
  it('low time: against a class that was there itself', () => {
    const time = (minutes: number, classMedian = 100, whole = true) => ({
      ...calm,
      recentTime: { minutes, classMedian, whole },
    });
    expect([41, 40, 20].map((m) => found(time(m)))).toEqual([[], ['low time: watch'], ['low time: act']]);
    expect(found(time(0, 29))).toEqual([]);
    // Who came in the middle of the window has had less of it.
    expect(found(time(0, 100, false))).toEqual([]);
  });
  it('effort without progress: time at the median, standing under the mark of those with as much', () => {
    const effort = (minutes: number, standing: number, mark = 65) => ({
      ...calm,
      effortTime: { minutes, classMedian: 400, whole: true },
      effortBand: { low: mark + 5, high: 80, mark },
      standing: { ...calm.standing, standing },
    });
    expect(found(effort(400, 64))).toEqual(['effort without progress: watch']);
    expect(found(effort(399, 64))).toEqual([]);
    expect(found(effort(400, 65))).toEqual([]);
    expect(found(effort(400, 45))).toEqual(['low standing: act', 'effort without progress: act']);
    expect(found({ ...effort(400, 64), gradedWorks: 2 })).toEqual([]);
  });
});

describe('reasons', () => {
  const title = (id: string) => `Work ${id}`;
  it('say the numbers', () => {
    const m = { ...silent(9, 1), rhythm: { ...silent(9, 1).rhythm, longestGap: 5 } };
    expect(reasonOf(crossed(m, DEFAULT_INDICATORS)[0]!.detail, title)).toEqual({
      head: 'No login for 9 teaching days.',
      rest: 'Usually every 2 days; longest before this, 5.',
    });
    expect(reasonOf({ kind: 'behind', missing: ['1', '2', '3', '4'], expected: 14 }, title)).toEqual({
      head: '4 of 14 assignments missing.',
      rest: 'Work 1, Work 2, Work 3 and 1 more.',
    });
  });
  it.each([
    [49.6, 50, '49.6'],
    [49.96, 50, '49.9'],
    [64.99, 65, '64.9'],
    [49.4, 50, '49'],
    [62.4, 62.5, '62'],
  ])('never contradict the rule: %d under %d reads as %s', (standing, limit, shown) => {
    const reason = reasonOf({ kind: 'low standing', standing, limit, highestPossible: null }, title);
    expect(reason).toEqual({ head: `Standing ${shown} %, under ${limit} %.`, rest: '' });
  });
  it('exist for every kind, with a head and a rest', () => {
    const details = [
      { kind: 'not seen', silence: 1, usualGap: null, longestGap: null, never: true },
      { kind: 'behind', missing: ['1'], expected: 1 },
      { kind: 'low standing', standing: 40, limit: 50, highestPossible: 70 },
      { kind: 'slipping', perWeek: -3, relativePerWeek: -2, works: 5, p: 0.04, standing: null, before: null },
      { kind: 'low time', minutes: 3, classMedian: 90, days: 14 },
      { kind: 'effort without progress', minutes: 3, classMedian: 2, days: 28, standing: 40 },
    ] as const;
    expect(details.map((d) => d.kind).sort()).toEqual([...FLAG_KINDS].sort());
    for (const detail of details) {
      const { head, rest } = reasonOf(detail, title);
      // No sentence is cut in two.
      expect(head).toMatch(/\.$/);
      expect(`${head} ${rest}`).toMatch(/\d.*\S{3}/);
      expect(`${head} ${rest}`).not.toMatch(/NaN|null|undefined/);
    }
  });
});

describe('flags', () => {
  const crossing = (over: Partial<Crossing> = {}): Crossing => ({
    kind: 'behind',
    level: 'watch',
    detail: { kind: 'behind', missing: ['1', '2'], expected: 5 },
    ...over,
  });
  const days = (n: number) => addDays('2026-11-01', n);
  /** Runs a flag through days on which the threshold is crossed or not. */
  const run = (crossed: readonly boolean[]) => {
    let open: OpenFlag[] = [];
    const closed: string[] = [];
    crossed.forEach((on, i) => {
      const step = stepFlags(open, on ? [crossing()] : [], days(i), true);
      open = step.open;
      closed.push(...step.closed.map((f) => `${f.openedOn} to ${f.closedOn}`));
    });
    return { open, closed };
  };
  it('open when crossed and close on the second day back inside', () => {
    expect(run([true]).open[0]).toMatchObject({ openedOn: days(0), insideSince: null });
    expect(run([true, false]).open[0]).toMatchObject({ openedOn: days(0), insideSince: days(1) });
    expect(run([true, false, false])).toEqual({ open: [], closed: [`${days(0)} to ${days(2)}`] });
  });
  it('do not flap', () => {
    const { open, closed } = run([true, false, true, false, true]);
    expect(closed).toEqual([]);
    expect(open[0]).toMatchObject({ openedOn: days(0), insideSince: null });
  });
  it('do not count one day twice', () => {
    const once = stepFlags(run([true]).open, [], days(1), true).open;
    expect(stepFlags(once, [], days(1), false)).toEqual({ open: once, closed: [] });
  });
  it('close on the same day however often it was evaluated before it was over', () => {
    const seen = fc.array(fc.boolean(), { maxLength: 4 });
    const day = fc.record({ seen, end: fc.boolean() });
    fc.assert(
      fc.property(fc.array(day, { minLength: 1, maxLength: 20 }), (drawn) => {
        // What is seen of a flag in the middle of a day is taken up again at its end.
        let open: OpenFlag[] = [];
        const closed: string[] = [];
        drawn.forEach(({ seen, end }, i) => {
          // A flag that opens for a part of a day is there from then on, however the day ends.
          for (const on of seen.filter((s) => !s || end)) {
            const step = stepFlags(open, on ? [crossing()] : [], days(i), false);
            open = [...step.open, ...step.closed];
          }
          const step = stepFlags(open, end ? [crossing()] : [], days(i), true);
          open = step.open;
          closed.push(...step.closed.map((f) => `${f.openedOn} to ${f.closedOn}`));
        });
        const once = run(drawn.map((d) => d.end));
        expect(closed).toEqual(once.closed);
        expect(open.map(({ openedOn, insideSince }) => ({ openedOn, insideSince }))).toEqual(
          once.open.map(({ openedOn, insideSince }) => ({ openedOn, insideSince })),
        );
      }),
    );
  });
  it('keep their day when the level changes', () => {
    const step = stepFlags(run([true]).open, [crossing({ level: 'act' })], days(1), true);
    expect(step.open[0]).toMatchObject({ level: 'act', openedOn: days(0) });
  });
  it('every flag that opened is open or closed in the end', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { maxLength: 40 }), (crossed) => {
        const { open, closed } = run(crossed);
        expect(open.length).toBeLessThanOrEqual(1);
        if (crossed.at(-1)) expect(open).toHaveLength(1);
        if (!crossed.includes(true)) expect([open, closed]).toEqual([[], []]);
      }),
    );
  });
});

describe('order of the queue', () => {
  const queued = (
    name: string,
    act: number,
    watch: number,
    silence = 0,
    standing: number | null = 70,
  ): Queued => ({
    name,
    flags: [
      ...FLAG_KINDS.slice(0, act).map((kind) => ({ kind, level: 'act' as const })),
      ...FLAG_KINDS.slice(act, act + watch).map((kind) => ({ kind, level: 'watch' as const })),
    ],
    silence,
    standing,
  });
  it('is by act, watch, silence, standing and name', () => {
    const sorted = [
      queued('F', 0, 2),
      queued('E', 1, 0, 3, 60),
      queued('D', 1, 0, 3, 50),
      queued('C', 1, 0, 9),
      queued('B', 1, 1),
      queued('A', 2, 0),
      queued('G', 0, 2, 0, null),
    ].sort(comparePriority);
    expect(sorted.map((q) => q.name).join('')).toBe('ABCDEFG');
  });
  it('reads act before watch within one student', () => {
    const flags = [
      { kind: 'not seen', level: 'watch' },
      { kind: 'low time', level: 'act' },
      { kind: 'behind', level: 'act' },
    ] as const;
    expect([...flags].sort(compareFlags).map((f) => f.kind)).toEqual(['behind', 'low time', 'not seen']);
  });
});

describe('answers in Rounds', () => {
  const mark = (over: Partial<Mark> = {}): Mark => ({
    action: 'seen',
    on: '2026-11-20',
    until: null,
    covered: [{ kind: 'behind', level: 'watch' }],
    ...over,
  });
  const behind = (level: 'watch' | 'act') => [{ kind: 'behind' as const, level }];
  it('hold for a week, or until the chosen day', () => {
    expect(isAnswered(mark(), behind('watch'), '2026-11-26')).toBe(true);
    expect(isAnswered(mark(), behind('watch'), '2026-11-27')).toBe(false);
    const off = mark({ action: 'put off', until: '2026-12-10' });
    expect([returnsOn(off), isAnswered(off, behind('watch'), '2026-12-09')]).toEqual(['2026-12-10', true]);
    expect(isAnswered(off, behind('watch'), '2026-12-10')).toBe(false);
  });
  it('end when something new comes, or rises', () => {
    expect(isAnswered(mark(), behind('act'), '2026-11-21')).toBe(false);
    expect(isAnswered(mark(), [...behind('watch'), { kind: 'not seen', level: 'watch' }], '2026-11-21')).toBe(
      false,
    );
    expect(isAnswered(mark({ covered: behind('act') }), behind('watch'), '2026-11-21')).toBe(true);
    expect(isAnswered(null, behind('watch'), '2026-11-21')).toBe(false);
  });
});

describe('stale data', () => {
  const on = (day: number) => `2026-10-${day}`;
  const crossing = {
    kind: 'not seen' as const,
    level: 'act' as const,
    detail: { kind: 'behind' as const, missing: [], expected: 1 },
  };
  it('open nothing, close nothing, and leave other kinds alone', () => {
    const unknown = FLAGS_OF_EVENTS;
    expect(stepFlags([], [crossing], on(10), true, unknown).open).toEqual([]);
    const { open } = stepFlags([], [crossing, { ...crossing, kind: 'behind' }], on(10), true);
    const later = stepFlags(open, [], on(11), true, unknown);
    expect(later.open.find((f) => f.kind === 'not seen')).toEqual(open[0]);
    const last = stepFlags(later.open, [], on(12), true, unknown);
    expect(last.open.map((f) => f.kind)).toEqual(['not seen']);
    expect(last.closed.map((f) => f.kind)).toEqual(['behind']);
    // Known again, it takes its two days inside as any other.
    const known = stepFlags(last.open, [], on(13), true);
    expect(known.closed).toEqual([]);
    expect(stepFlags(known.open, [], on(14), true).closed.map((f) => f.kind)).toEqual(['not seen']);
  });

  it('are those of a class with nothing recorded on a day and the day before', () => {
    const student = (...dates: string[]) => ({
      id: dates.length,
      joined: on(1),
      days: dates.map((date) => ({ date, seconds: 60, inClassSeconds: 0 })),
      scores: new Map(),
    });
    const students = [student(on(10), on(14)), student(on(11))];
    const stale = staleDays({ students } as unknown as ClassRecord);
    expect([10, 11, 12, 13, 14, 15, 16].map((d) => stale(on(d)))).toEqual([
      false,
      false,
      false,
      true,
      false,
      false,
      true,
    ]);
    expect(staleDays({ students: [] } as unknown as ClassRecord)(on(10))).toBe(true);
  });
});
