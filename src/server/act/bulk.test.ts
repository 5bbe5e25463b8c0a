import { randomUUID } from 'node:crypto';
import { and, asc, count, eq, inArray } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import type { Database } from '@/data/database';
import { docOf } from '@/core/messages/doc';
import { activities, attendance, enrolments, persons, planSteps, recipients, scores } from '@/data/schema';
import { deleteMany, insertMany, upsertMany } from '@/data/write/bulk';
import { sendMessages } from './compose';
import { changeCells, undoBatch } from './gradeChange';

const small = withSmallCourse();
const me = () => small.course.instructor;
const db = () => small.test.db;
const STUDENTS = 2000;
let students: number[] = [];

beforeAll(async () => {
  const people = await insertMany(
    db(),
    persons,
    Array.from({ length: STUDENTS }, (_, i) => ({
      externalId: `many-${i}`,
      given: `Nia “${i}”`,
      family: 'O\\Neill, {jr}',
      email: i % 3 === 0 ? null : `many-${i}@students.example`,
    })),
    { returning: [persons.id] },
  );
  const places = await insertMany(
    db(),
    enrolments,
    people.map((p) => ({ courseId: small.course.courseId, personId: Number(p.id) })),
    { returning: [enrolments.id] },
  );
  students = places.map((p) => Number(p.id));
});

/** How many statements the transactions of some work take, begin and end aside. */
async function statementsOf(work: () => Promise<unknown>): Promise<number> {
  const database = db() as { transaction: Database['transaction'] };
  const { transaction } = database;
  let n = 0;
  database.transaction = (inside) =>
    transaction((tx) => {
      const { $client } = tx.orm as unknown as { $client: { query: (...args: unknown[]) => unknown } };
      const query = $client.query.bind($client);
      $client.query = (...args) => {
        n++;
        return query(...args);
      };
      return inside(tx).finally(() => ($client.query = query));
    });
  try {
    await work();
  } finally {
    database.transaction = transaction;
  }
  return n;
}

describe('at most twelve statements', () => {
  it('queue a message to two thousand, with a plan each', async () => {
    const step = { activityId: null, title: 'Fixing in four pages', minutes: 12, on: '2026-10-29', why: '' };
    const input = {
      key: randomUUID(),
      subject: 'About {course}',
      doc: docOf('Hello {first name | you}.'),
      reason: 'behind',
      about: 'other' as const,
      activityId: null,
      recipients: students.map((enrolmentId) => ({ enrolmentId, plan: [step, { ...step, why: 'x' }] })),
    };
    const n = await statementsOf(() => sendMessages(me(), 'NAV', [input]));
    expect(n).toBeGreaterThan(3);
    expect(n).toBeLessThanOrEqual(12);
    const [copies] = await db().orm.select({ n: count() }).from(recipients);
    const [steps] = await db().orm.select({ n: count() }).from(planSteps);
    expect([copies!.n, steps!.n]).toEqual([STUDENTS, 2 * STUDENTS]);
    const [first] = await db().orm.select().from(recipients).orderBy(asc(recipients.id)).limit(1);
    expect(first).toMatchObject({ body: 'Hello Nia “0”.', mailState: 'no address', readAt: null });
  });

  it('keep five thousand pasted cells, and as many undo them', async () => {
    const works = await db()
      .orm.select({ id: activities.id })
      .from(activities)
      .where(
        and(
          eq(activities.courseId, small.course.courseId),
          inArray(activities.externalId, ['w1', 'w2', 'w3']),
        ),
      );
    const cells = works.flatMap(({ id }) =>
      students.map((enrolmentId) => ({
        enrolmentId,
        activityId: id,
        seen: { points: null, excused: false },
      })),
    );
    const pasted = cells.slice(0, 5000).map((cell, i) => ({
      ...cell,
      to: (state: Parameters<Parameters<typeof changeCells>[3][number]['to']>[0]) => ({
        ...state,
        points: i % 17,
      }),
    }));
    let batch = '';
    const n = await statementsOf(async () => {
      batch = (await changeCells(me(), 'NAV', 'grade', pasted)).batch!;
    });
    expect(n).toBeLessThanOrEqual(12);
    const stored = async () =>
      (await db().orm.select().from(scores).where(inArray(scores.enrolmentId, students))).length;
    expect(await stored()).toBe(5000);
    expect(await statementsOf(() => undoBatch(me(), 'NAV', batch))).toBeLessThanOrEqual(12);
    expect(await stored()).toBe(0);
  });
});

describe('bulk writes', () => {
  it('keep every kind of value as it is, replace by key, and remove by key', async () => {
    const [enrolmentId] = students as [number];
    const own = eq(attendance.enrolmentId, enrolmentId);
    const row = (day: string, meeting: string, minutes: number | null) => ({
      enrolmentId,
      day,
      meeting,
      attendance: 'late' as const,
      minutes,
    });
    const all = [
      row('2026-10-01', 'a', 12.5),
      row('2026-10-02', '“{},\\"\'', null),
      row('2026-10-03', '', 1e-300),
    ];
    const keys = [attendance.enrolmentId, attendance.day, attendance.meeting];
    const stored = () => db().orm.select().from(attendance).where(own).orderBy(asc(attendance.day));
    await upsertMany(db(), attendance, keys, all);
    expect(await stored()).toEqual(all);
    await upsertMany(db(), attendance, keys, [{ ...all[0]!, minutes: 7 }]);
    expect(await stored()).toEqual([{ ...all[0]!, minutes: 7 }, all[1], all[2]]);
    await deleteMany(db(), attendance, keys, [all[1]!]);
    expect(await stored()).toEqual([{ ...all[0]!, minutes: 7 }, all[2]]);
  });
});
