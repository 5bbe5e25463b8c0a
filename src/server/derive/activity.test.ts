import { eq, inArray } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { runs } from '../../../tests/support/runs';
import { EVENT_KINDS } from '@/core/course/kinds';
import {
  activities,
  activityDays,
  activityTotals,
  courseDwells,
  courses,
  dayTotals,
  enrolments,
  events,
  sessions,
  settled,
  studentDwells,
} from '@/data/schema';
import { deriveActivity } from './activity';
import { loadCourseModel } from '@/data/queries/courseModel';

const small = withSmallCourse();
const START = Date.parse('2026-10-20T00:00:00Z');

/** Sittings that run over midnight and over the end of summer time (25 October), pauses around the limit, logins. */
const event = fc.record({
  student: fc.integer({ min: 0, max: 3 }),
  // Twelve days: the older of them are settled.
  sitting: fc.integer({ min: 0, max: 24 }),
  second: fc.integer({ min: 0, max: 5400 }),
  kind: fc.constantFrom(...EVENT_KINDS),
  activity: fc.integer({ min: -1, max: 5 }),
  duration: fc.option(fc.integer({ min: 0, max: 900 })),
  batch: fc.integer({ min: 0, max: 3 }),
  undone: fc.boolean(),
});

async function derived() {
  const { orm } = small.test.db;
  const sorted = (rows: object[]) => rows.map((r) => JSON.stringify(r)).sort();
  const [course] = await orm.select().from(courses).where(eq(courses.id, small.course.courseId));
  return {
    sessions: sorted(await orm.select().from(sessions)),
    days: sorted(await orm.select().from(dayTotals)),
    works: sorted(await orm.select().from(activityDays)),
    totals: sorted(await orm.select().from(activityTotals)),
    students: sorted(await orm.select().from(studentDwells)),
    course: sorted(await orm.select().from(courseDwells)),
    until: course!.dataUntil,
  };
}

/** The days of each student and activity taken together, row by row. */
async function totalsOfDays(): Promise<string[]> {
  const days = await small.test.db.orm.select().from(activityDays);
  const byWork = new Map<string, typeof days>();
  for (const day of days) {
    const key = `${day.enrolmentId} ${day.activityId}`;
    byWork.set(key, [...(byWork.get(key) ?? []), day]);
  }
  return [...byWork.values()]
    .map((list) => {
      const sorted = list.sort((a, b) => (a.day < b.day ? -1 : 1));
      const done = sorted.filter((d) => d.contributions > 0);
      return JSON.stringify({
        enrolmentId: list[0]!.enrolmentId,
        activityId: list[0]!.activityId,
        firstDay: sorted[0]!.day,
        lastDay: sorted.at(-1)!.day,
        firstContribution: done[0]?.day ?? null,
        seconds: sorted.reduce((sum, d) => sum + d.seconds, 0),
      });
    })
    .sort();
}

describe('derived rows brought up to date', () => {
  it('are those of a rebuild, whatever the order, with late arrivals and events taken back', async () => {
    const { db } = small.test;
    const { courseId } = small.course;
    const people = await db.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.courseId, courseId));
    const works = await db.orm.select().from(activities).where(eq(activities.courseId, courseId));
    const derive = (affected: Map<number, number> | null, removed = false) =>
      db.transaction(async (tx) =>
        deriveActivity(tx, await loadCourseModel(tx, courseId), affected, { removed }),
      );
    const earliestOf = (rows: readonly { enrolmentId: number; at: Date }[]) => {
      const since = new Map<number, number>();
      for (const { enrolmentId, at } of rows)
        since.set(enrolmentId, Math.min(at.getTime(), since.get(enrolmentId) ?? Infinity));
      return since;
    };
    let settledSeen = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(event, { minLength: 30, maxLength: 160 }), async (made) => {
        await db.orm.delete(events);
        await derive(null);
        const rows = made.map((e, i) => ({
          batch: e.batch,
          undone: e.undone,
          row: {
            courseId,
            eventId: `e${i}`,
            enrolmentId: people[e.student]!.id,
            at: new Date(START + e.sitting * 12 * 3_600_000 - 2_400_000 + e.second * 1000),
            kind: e.kind,
            activityId: works[e.activity]?.id ?? null,
            durationS: e.duration,
          },
        }));
        for (const batch of [2, 0, 3, 1]) {
          const some = rows.filter((r) => r.batch === batch).map((r) => r.row);
          if (some.length === 0) continue;
          await db.orm.insert(events).values(some);
          await derive(earliestOf(some));
        }
        const gone = rows.filter((r) => r.undone && r.batch === 0).map((r) => r.row);
        if (gone.length > 0) {
          await db.orm.delete(events).where(
            inArray(
              events.eventId,
              gone.map((g) => g.eventId),
            ),
          );
          await derive(earliestOf(gone), true);
        }
        const step = await derived();
        settledSeen += (await db.orm.select().from(settled)).length;
        await derive(null);
        expect(step).toEqual(await derived());
        expect(step.totals).toEqual(await totalsOfDays());
      }),
      { numRuns: runs(12) },
    );
    expect(settledSeen).toBeGreaterThan(10);
  });
});
