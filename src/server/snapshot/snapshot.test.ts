import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import { runs } from '../../../tests/support/runs';
import { activities, courses, dayRows, sessions } from '@/data/schema';
import { grade } from '../act/grade';
import { checkStatements, receiveStatements } from '../xapi/endpoint';
import { catchUp } from '../xapi/follow';
import { loadDays } from '@/data/queries/days';
import { loadScores } from '@/data/queries/scores';
import { snapshotOf, type Snapshot } from './snapshot';
import { loadWorkDays } from '@/data/queries/workDays';
import { type WorkDays } from '@/core/activity/workDays';

const small = withSmallCourse();
const STUDENTS = ['s1', 's2', 's3', 's4'];
const DAY_S = 86_400;

const courseRow = async () => {
  const [row] = await small.test.db.orm.select().from(courses).where(eq(courses.id, small.course.courseId));
  return row!;
};
const snapshot = async () => snapshotOf(await courseRow());

/** A student opens a page, some seconds before now; what follows from it is derived. */
async function arrive(student: string, secondsAgo: number): Promise<void> {
  const { courseId } = small.course;
  const body = {
    id: randomUUID(),
    actor: { account: { homePage: 'https://x.example', name: student } },
    verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
    object: { id: 'https://x.example/works/r1' },
    timestamp: new Date(Date.parse(NOW) - secondsAgo * 1000).toISOString(),
  };
  await receiveStatements({ credentialId: 1, key: 'test', courseId }, checkStatements(body));
  await catchUp(small.test.db, courseId);
}

/** The instructor types points into a cell, over whatever stands there. */
async function type(student: string, points: number): Promise<void> {
  const { enrolmentId } = await small.course.student(student);
  const { orm } = small.test.db;
  const [work] = await orm.select().from(activities).where(eq(activities.externalId, 'w2'));
  const stored = (await loadScores(small.test.db, small.course.courseId, [enrolmentId]))
    .get(enrolmentId)
    ?.get(String(work!.id));
  const seen = { points: stored?.points ?? null, excused: stored?.excused ?? false };
  await grade(small.course.instructor, small.course.code, [
    { enrolmentId, activityId: work!.id, seen, points },
  ]);
}

const sorted = <K, V>(map: ReadonlyMap<K, V>) => [...map].sort((a, b) => Number(a[0]) - Number(b[0]));
const plain = (value: unknown): unknown =>
  value instanceof Map
    ? sorted(value).map(([k, v]) => [k, plain(v)])
    : value instanceof Set
      ? [...value].sort()
      : value;

/** The rows that packed works hold, in an order of their own: the database gives them in any. */
const rowsOf = (works: ReadonlyMap<number, WorkDays>) =>
  new Map(
    [...works].map(([id, w]) => [
      id,
      Array.from({ length: w.count }, (_, i) =>
        [w.activity, w.day, w.seconds, w.inClassSeconds, w.views, w.contributions].map((c) => c[i]).join(),
      ).sort(),
    ]),
  );

/** Each part as it is read from nothing: the sessions by a query of their own. */
const FRESH: Record<
  'days' | 'scores' | 'workDays' | 'sessions',
  () => Promise<ReadonlyMap<number, unknown>>
> = {
  days: () => loadDays(small.test.db, small.course.courseId),
  scores: () => loadScores(small.test.db, small.course.courseId),
  workDays: async () => rowsOf(await loadWorkDays(small.test.db, small.course.courseId)),
  sessions: async () => {
    const rows = await small.test.db.orm
      .select()
      .from(sessions)
      .orderBy(sessions.enrolmentId, sessions.startedAt);
    const found = new Map<number, { from: number; until: number; seconds: number }[]>();
    for (const { enrolmentId: id, startedAt, endedAt, seconds } of rows)
      found.set(id, [
        ...(found.get(id) ?? []),
        { from: startedAt.getTime(), until: endedAt.getTime(), seconds },
      ]);
    return found;
  },
};
const PARTS = ['days', 'scores', 'workDays', 'sessions'] as const;
type PartName = (typeof PARTS)[number];
const read = async (of: Snapshot, part: PartName): Promise<ReadonlyMap<number, unknown>> =>
  part === 'workDays' ? rowsOf(await of.workDays()) : of[part]();

const student = fc.constantFrom(...STUDENTS);
const step = fc.oneof(
  fc.record({ kind: fc.constant('arrive'), student, ago: fc.integer({ min: 0, max: 20 * DAY_S }) }),
  fc.record({ kind: fc.constant('type'), student, points: fc.integer({ min: 0, max: 20 }) }),
  fc.record({ kind: fc.constant('look'), parts: fc.subarray([...PARTS]) }),
);

describe('the snapshot of a course', () => {
  it('is the same object while nothing changes, and another once something came in', async () => {
    const first = await snapshot();
    expect(await snapshot()).toBe(first);
    await arrive('s1', 30);
    expect(await snapshot()).not.toBe(first);
  });

  it('holds what the database holds, whatever came in and whichever parts were asked for in between', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 14 }), async (steps) => {
        for (const s of steps) {
          if (s.kind === 'arrive') await arrive(s.student, s.ago);
          else if (s.kind === 'type') await type(s.student, s.points);
          else {
            const now = await snapshot();
            for (const part of s.parts) await read(now, part);
          }
        }
        const now = await snapshot();
        for (const part of PARTS)
          expect(plain(await read(now, part)), part).toEqual(plain(await FRESH[part]()));
      }),
      { numRuns: runs(12) },
    );
  });

  it('reads anew only whom something came in for, also where nobody asked at the version in between', async () => {
    const { orm } = small.test.db;
    const [one, other] = [await small.course.student('s1'), await small.course.student('s3')];
    const before = await (await snapshot()).days();
    // Behind the back of the application: whoever reads this student again would see it.
    await orm.update(dayRows).set({ seconds: 77 }).where(eq(dayRows.enrolmentId, other.enrolmentId));
    await arrive('s1', 10);
    await (await snapshot()).scores();
    await arrive('s1', 5);
    const after = await (await snapshot()).days();
    expect(after.get(other.enrolmentId)).toBe(before.get(other.enrolmentId));
    expect(after.get(one.enrolmentId)).not.toEqual(before.get(one.enrolmentId));
    expect(after.get(one.enrolmentId)).toEqual((await FRESH.days()).get(one.enrolmentId));
  });

  it('asks again after a reading that failed', async () => {
    await arrive('s4', 10);
    const now = await snapshot();
    const { orm } = small.test.db;
    await orm.execute('alter view day_totals_now rename to away');
    await expect(now.days()).rejects.toThrow();
    await orm.execute('alter view away rename to day_totals_now');
    expect(plain(await now.days())).toEqual(plain(await FRESH.days()));
  });
});
