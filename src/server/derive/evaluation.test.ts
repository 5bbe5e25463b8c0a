import { asc, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse, TERM } from '../../../tests/support/course';
import { courses, flags, masteries, measures, studentWeeks } from '@/data/schema';
import { loadCourseModel } from '@/data/queries/courseModel';
import { evaluateCourse } from './evaluate';
import { ensureEvaluated, evaluateNow } from './evaluation';
import { importFiles, pastImports } from '../intake/intake';
import { undoImport } from '../intake/undo';
import { createCourse } from '../snapshot/createCourse';

const small = withSmallCourse();

/** The flags of the course without their row numbers, in an order of their own. */
async function flagLines(): Promise<string[]> {
  const rows = await small.test.db.orm
    .select()
    .from(flags)
    .orderBy(asc(flags.enrolmentId), asc(flags.kind), asc(flags.openedOn));
  return rows.map(
    (f) => `${f.enrolmentId} ${f.kind} ${f.level} ${f.openedOn} ${f.insideSince ?? '-'} ${f.closedOn ?? '-'}`,
  );
}

async function startOver(): Promise<void> {
  await small.test.db.orm.delete(flags);
  await small.test.db.orm
    .update(courses)
    .set({ evaluatedOn: null, evaluatedAt: null })
    .where(eq(courses.id, small.course.courseId));
}

const evaluateAt = (iso: string) =>
  small.test.db.transaction(async (tx) =>
    evaluateCourse(tx, await loadCourseModel(tx, small.course.courseId), Date.parse(iso)),
  );

describe('catching up', () => {
  beforeEach(startOver);

  it('over many days at once gives the flags that evaluating every evening gives', async () => {
    await evaluateAt('2026-10-12T22:59:59.999Z');
    // Summer time ends on 25 October: the evening is an hour later by UTC from then on.
    for (let day = 13; day <= 27; day++) await evaluateAt(`2026-10-${day}T${day < 25 ? 22 : 23}:59:59.999Z`);
    await evaluateAt('2026-10-28T12:00:00Z');
    const daily = await flagLines();
    await startOver();
    await evaluateAt('2026-10-12T22:59:59.999Z');
    await evaluateAt('2026-10-28T12:00:00Z');
    expect(await flagLines()).toEqual(daily);
    expect(daily.length).toBeGreaterThan(2);
  });
  it('keeps the id of a flag from evaluation to evaluation, and when all the past is gone through again', async () => {
    const ids = async () => {
      const rows = await small.test.db.orm.select().from(flags).orderBy(asc(flags.id));
      return rows.map((f) => `${f.id} ${f.enrolmentId} ${f.kind} ${f.openedOn}`);
    };
    await evaluateAt('2026-10-22T12:00:00Z');
    const first = await ids();
    await evaluateAt('2026-10-22T18:00:00Z');
    expect(await ids()).toEqual(first);
    await evaluateAt('2026-10-28T12:00:00Z');
    const later = await ids();
    expect(later.length).toBeGreaterThan(first.length);
    expect(later).toEqual(expect.arrayContaining(first));
    await small.test.db.orm
      .update(courses)
      .set({ evaluatedOn: null })
      .where(eq(courses.id, small.course.courseId));
    await evaluateAt('2026-10-28T12:00:00Z');
    expect(await ids()).toEqual(later);
  });
  it('knows on which day somebody fell behind, and on which silence became too long', async () => {
    await evaluateAt('2026-10-28T12:00:00Z');
    const { enrolmentId } = await small.course.student('s2');
    const own = await small.test.db.orm.select().from(flags).where(eq(flags.enrolmentId, enrolmentId));
    const opened = Object.fromEntries(own.map((f) => [f.kind, f.openedOn]));
    // Two works missing since 18 October 22:00 UTC; last seen on the 16th, five days of silence on the 21st.
    expect(opened).toMatchObject({ behind: '2026-10-18', 'not seen': '2026-10-21' });
  });
  it('evaluating a day again changes nothing', async () => {
    await evaluateAt('2026-10-28T12:00:00Z');
    const once = await flagLines();
    await evaluateAt('2026-10-28T12:00:00Z');
    await evaluateAt('2026-10-28T13:00:00Z');
    expect(await flagLines()).toEqual(once);
  });
});

describe('flags in time', () => {
  beforeEach(startOver);

  it('close on the second day after what opened them was mended, and stay in the history', async () => {
    await evaluateAt('2026-10-28T12:00:00Z');
    const { enrolmentId } = await small.course.student('s2');
    const behind = async () => {
      const own = await small.test.db.orm.select().from(flags).where(eq(flags.enrolmentId, enrolmentId));
      return own.filter((f) => f.kind === 'behind').map((f) => [f.openedOn, f.insideSince, f.closedOn]);
    };
    const mended = ['w2', 'w3', 'q1'].map((w) => `s2,${w},2026-10-28T13:00:00Z,,,,no`).join('\n');
    const head = FILES.gradebook.split('\n')[0];
    await importFiles(
      small.test.db,
      small.course.courseId,
      small.course.instructor.userId,
      [file('g.csv', `${head}\n${mended}\n`)],
      Date.parse('2026-10-28T14:00:00Z'),
    );
    expect(await behind()).toEqual([['2026-10-18', '2026-10-28', null]]);
    await evaluateAt('2026-10-29T09:00:00Z');
    expect(await behind()).toEqual([['2026-10-18', '2026-10-28', '2026-10-29']]);
    // On a day that is not over it is open again, the same, if the threshold is crossed once more.
    const [last] = await pastImports(small.course.instructor, 'NAV');
    process.env.LANTERN_NOW = '2026-10-29T11:00:00Z';
    await undoImport(small.course.instructor, 'NAV', last!.id);
    expect(await behind()).toEqual([['2026-10-18', null, null]]);
    process.env.LANTERN_NOW = NOW;
  });
  it('close when somebody leaves, whose figures then are gone', async () => {
    await evaluateAt('2026-10-28T12:00:00Z');
    const { enrolmentId } = await small.course.student('s2');
    const left = FILES.roster.replace(
      'Monday,active,2026-09-28,\ns3',
      'Monday,withdrawn,2026-09-28,2026-10-28\ns3',
    );
    await importFiles(
      small.test.db,
      small.course.courseId,
      small.course.instructor.userId,
      [file('r.csv', left)],
      Date.parse('2026-10-28T15:00:00Z'),
    );
    const own = await small.test.db.orm.select().from(flags).where(eq(flags.enrolmentId, enrolmentId));
    expect(own.length).toBeGreaterThan(0);
    expect(own.every((f) => f.closedOn != null)).toBe(true);
    for (const table of [measures, studentWeeks, masteries]) {
      expect(await small.test.db.orm.select().from(table).where(eq(table.enrolmentId, enrolmentId))).toEqual(
        [],
      );
    }
    await importFiles(
      small.test.db,
      small.course.courseId,
      small.course.instructor.userId,
      [file('r.csv', FILES.roster)],
      Date.parse('2026-10-28T16:00:00Z'),
    );
    expect(
      await small.test.db.orm.select().from(measures).where(eq(measures.enrolmentId, enrolmentId)),
    ).toHaveLength(1);
  });
});

describe('when a page asks', () => {
  const row = async () =>
    (await small.test.db.orm.select().from(courses).where(eq(courses.id, small.course.courseId)))[0]!;
  it('evaluates once an hour and once a day, however many ask at once', async () => {
    process.env.LANTERN_NOW = '2026-10-30T08:00:00Z';
    await Promise.all([
      evaluateNow(small.test.db, small.course.courseId),
      ensureEvaluated(await row()),
      ensureEvaluated(await row()),
    ]);
    expect((await row()).evaluatedOn).toBe('2026-10-30');
    process.env.LANTERN_NOW = '2026-10-30T08:59:00Z';
    await ensureEvaluated(await row());
    expect((await row()).evaluatedAt?.toISOString()).toBe('2026-10-30T08:00:00.000Z');
    process.env.LANTERN_NOW = '2026-10-30T09:00:00Z';
    await ensureEvaluated(await row());
    expect((await row()).evaluatedAt?.toISOString()).toBe('2026-10-30T09:00:00.000Z');
    process.env.LANTERN_NOW = NOW;
  });
  it('has nothing to evaluate in an empty course, and says so without failing', async () => {
    const id = await createCourse(small.test.db, {
      code: 'EMPTY',
      title: 'Empty',
      termName: 'Autumn',
      term: TERM,
      policy: { missing: 'zero' },
      sections: [],
      staff: [small.course.instructor.userId],
    });
    await evaluateNow(small.test.db, id);
    const [empty] = await small.test.db.orm.select().from(courses).where(eq(courses.id, id));
    expect(empty!.evaluatedAt).not.toBeNull();
  });
  it('refuses a course in a zone that does not exist', async () => {
    const wrong = createCourse(small.test.db, {
      code: 'ZONE',
      title: 'Zone',
      termName: 'Autumn',
      term: { ...TERM, zone: 'Mars/Olympus' },
      policy: { missing: 'zero' },
      sections: [],
      staff: [],
    });
    await expect(wrong).rejects.toThrow('“Mars/Olympus” is not a time zone');
  });
});
