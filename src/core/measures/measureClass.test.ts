import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { effortGroup, effortRelation } from '../activity/effort';
import { crossings } from '../flags/crossings';
import { DEFAULT_INDICATORS } from '../flags/indicators';
import { addDays } from '../calendar/zone';
import { classMastery } from '../outcomes/evidence';
import { finish } from '../steps';
import type { ClassRecord, StudentRecord } from '../course/record';
import { measureClass } from './measureClass';
import { MEASURES } from './registry';
import { subjectsAt } from './subjects';
import { weeklyPicture } from './weeks';

const due = (date: string) => Date.parse(`${date}T22:00:00Z`);
const WORKS = ['2026-10-04', '2026-10-11', '2026-10-18', '2026-10-25'].map((date, i) => ({
  id: `w${i}`,
  due: due(date),
}));

function student(id: number, percent: number, over: Partial<StudentRecord> = {}): StudentRecord {
  return {
    id,
    joined: '2026-09-28',
    days: Array.from({ length: 10 }, (_, i) => ({
      date: addDays('2026-09-28', i * 3),
      seconds: 1200 * id,
      inClassSeconds: 600,
    })),
    scores: new Map(
      WORKS.map((w) => [
        w.id,
        {
          activity: w.id,
          points: percent,
          excused: false,
          submitted: w.due - 1000,
          returned: w.due + 86_400_000,
        },
      ]),
    ),
    ...over,
  };
}

const record = (students: StudentRecord[]): ClassRecord => ({
  term: { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] },
  book: {
    policy: { missing: 'zero' },
    zone: 'Europe/Lisbon',
    categories: [{ id: 'c', weight: 1, dropLowest: 0 }],
    activities: WORKS.map((w) => ({ ...w, category: 'c', points: 100 })),
  },
  works: WORKS,
  students,
});
const WINDOWS = { recent: 14, effort: 28 };
const ASOF = Date.parse('2026-10-28T12:00:00Z');

describe('measures of a class', () => {
  const measured = finish(
    measureClass(record([student(1, 60), student(2, 70), student(3, 80)]), WINDOWS, ASOF),
  );
  it('hold each student against the same class', () => {
    expect([1, 2, 3].map((id) => measured.get(id)!.standing.standing)).toEqual([60, 70, 80]);
    expect([1, 2, 3].map((id) => measured.get(id)!.standingRank)).toEqual([1 / 6, 0.5, 5 / 6]);
    // The window of 14 days holds the days 16, 19, 22 and 25 October: four of 20 minutes each.
    expect(measured.get(1)!.recentTime).toEqual({ minutes: 80, classMedian: 160, whole: true });
  });
  it('hold nobody against days before they joined, and the class not against newcomers', () => {
    const joining = (joined: string) => student(9, 0, { joined, days: [] });
    const times = (joined: string) => {
      const all = [student(1, 60), student(2, 70), student(3, 80), joining(joined)];
      return finish(measureClass(record(all), WINDOWS, ASOF)).get(9)!.recentTime;
    };
    // The window of 14 days begins on 15 October.
    expect(times('2026-10-16')).toEqual({ minutes: 0, classMedian: 160, whole: false });
    expect(times('2026-10-15')).toEqual({ minutes: 0, classMedian: 120, whole: true });
    // In the first days of a term nobody was there for longer than the term.
    const early = finish(measureClass(record([student(1, 60)]), WINDOWS, Date.parse('2026-10-05T12:00:00Z')));
    expect(early.get(1)!.recentTime.whole).toBe(true);
  });
  it('see nothing of what came after', () => {
    const early = finish(
      measureClass(record([student(1, 60)]), WINDOWS, Date.parse('2026-10-05T12:00:00Z')),
    ).get(1)!;
    expect(early.completion).toMatchObject({ done: 1, expected: 1 });
    expect(early.standing.standing).toBeNull();
    expect(early.rhythm.lastSeen).toBe('2026-10-04');
  });
  it('do not hold against a late joiner what was due before', () => {
    const late = student(9, 0, { joined: '2026-10-19', days: [], scores: new Map() });
    const m = finish(measureClass(record([student(1, 60), late]), WINDOWS, ASOF)).get(9)!;
    expect(m.completion).toMatchObject({ done: 0, expected: 1, missing: ['w3'] });
    expect(m.standing.standing).toBe(0);
    expect(m.rhythm.silence).toBe(9);
  });
});

describe('students as measures see them', () => {
  it('are held against their own past, and against the class in any days', () => {
    const class3 = record([student(1, 60), student(2, 70), student(3, 80)]);
    const measured = finish(measureClass(class3, WINDOWS, ASOF));
    const [first] = subjectsAt(class3, measured, WINDOWS, ASOF);
    expect(MEASURES.missing.value(first!)).toBe(0);
    // Three weeks before one work had been returned; a week before that none.
    expect([21, 28].map((days) => first!.past!(days)?.standing.standing)).toEqual([60, null]);
    // The seven days to 28 October hold the 22nd and the 25th: 40 minutes, where half the class had 80.
    expect(first!.time!(7)).toEqual({ minutes: 40, classMedian: 80, whole: true });
    expect(MEASURES.timeToClass.value(first!, { days: 7 })).toBe(50);
  });
});

describe('effort without progress', () => {
  it('is one rule in Rounds, by its flag, and in Activity, by its group', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 30, max: 100 })), {
          minLength: 3,
          maxLength: 30,
        }),
        (list) => {
          const all = list.map(([minutes, percent], i) =>
            student(i, percent, { days: [{ date: '2026-10-20', seconds: minutes * 60, inClassSeconds: 0 }] }),
          );
          const settings = {
            ...DEFAULT_INDICATORS,
            lowTime: { ...DEFAULT_INDICATORS.lowTime, leastMedianMinutes: 0 },
          };
          const measured = finish(measureClass(record(all), WINDOWS, ASOF));
          const flagged = crossings(subjectsAt(record(all), measured, WINDOWS, ASOF), settings);
          const points = all.map(({ id }, i) => ({
            id,
            minutes: list[i]![0],
            progress: measured.get(id)!.standing.standing,
            whole: true,
          }));
          const { medianMinutes, places } = effortRelation(points);
          for (const p of points) {
            const inGroup = effortGroup(p, medianMinutes, places.get(p.id)) === 'much time, little progress';
            const hasFlag = flagged.get(p.id)!.some((f) => f.kind === 'effort without progress');
            // A class that did nothing at all has no median to hold anybody against.
            if (medianMinutes > 0) expect(hasFlag).toBe(inGroup);
          }
        },
      ),
    );
  });
});

describe('weekly picture', () => {
  const picture = finish(weeklyPicture(record([student(1, 60), student(2, 70), student(3, 80)]), ASOF));
  it('has a row for each student and week up to now', () => {
    expect(picture.students).toHaveLength(15);
    const second = picture.students.find((w) => w.student === 2 && w.week === 2)!;
    expect(second).toMatchObject({
      days: 2,
      seconds: 4800,
      inClassSeconds: 1200,
      done: 2,
      expected: 2,
      standing: 70,
    });
  });
  it('has the class beside it, without a band while few have a standing', () => {
    expect(picture.course[0]).toMatchObject({ week: 1, medianSeconds: 7200, standing: null });
    expect(picture.course[4]!.standing).toEqual({ low: 65, median: 70, high: 75 });
  });
});

describe('what is computed of a class', () => {
  const classOf = (n: number) => record(Array.from({ length: n }, (_, i) => student(i + 1, 50 + i)));
  const count = (steps: Iterable<void>) => [...steps].length;
  it('can be left after every student, so that nobody waits for a large class', () => {
    for (const n of [0, 1, 7]) {
      expect(count(measureClass(classOf(n), WINDOWS, ASOF))).toBe(2 * n);
      const weeks = finish(weeklyPicture(classOf(n), ASOF)).course.length;
      expect(count(weeklyPicture(classOf(n), ASOF))).toBe(weeks * n);
      expect(
        count(
          classMastery(
            classOf(n),
            [{ id: 'o' }, { id: 'p' }],
            new Map([['w0', ['o']]]),
            { answers: new Map(), outside: new Map() },
            ASOF,
          ),
        ),
      ).toBe(2 * n);
    }
  });
});
