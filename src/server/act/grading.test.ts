import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { countFilters } from '@/core/tables/gradeFilters';
import { statusOfLetter, type GradebookView } from '@/core/views/gradebook';
import { activities, courses, courseStaff, measures, scores, user } from '@/data/schema';
import { ensureEvaluated } from '../derive/evaluation';
import { keepScope } from '../look/scope';
import { scopeText } from '@/core/views/scope';
import { roundsView } from '../look/rounds';
import { requireCourse } from '../access/viewer';
import { cellView } from '../look/cell';
import { undoBatch } from './gradeChange';
import { excuse, extend, grade, grantAttempt, hideStanding, saveBands, showStanding } from './grade';
import { awaitingCount, gradebookView } from '../look/gradebook';

const small = withSmallCourse();
const code = 'NAV';
const ines = () => small.course.instructor;

const workId = async (external: string) =>
  (await small.test.db.orm.select().from(activities).where(eq(activities.externalId, external)))[0]!.id;
const storedScore = async (enrolmentId: number, activityId: number) =>
  (
    await small.test.db.orm
      .select()
      .from(scores)
      .where(and(eq(scores.enrolmentId, enrolmentId), eq(scores.activityId, activityId)))
  )[0];

async function cell(student: string, work: string) {
  const { enrolmentId } = await small.course.student(student);
  const activityId = await workId(work);
  const stored = await storedScore(enrolmentId, activityId);
  return {
    enrolmentId,
    activityId,
    seen: { points: stored?.points ?? null, excused: stored?.excused ?? false },
  };
}

const statusIn = (view: GradebookView, enrolmentId: number, activityId: number) => {
  const place = view.columns.findIndex((c) => c.id === activityId);
  const row = view.rows.find((r) => r.enrolmentId === enrolmentId)!;
  return { status: statusOfLetter(row.statuses[place]!), points: row.points[place], row };
};

describe('the gradebook', () => {
  it('shows every status, and sums up each work over what was graded', async () => {
    const view = await gradebookView(ines(), code, {});
    expect(view.rows.map((r) => r.family)).toEqual(['Li', 'Wójcik', 'Wren', 'Yıldız']);
    const of = async (student: string, work: string) => {
      const c = await cell(student, work);
      return statusIn(view, c.enrolmentId, c.activityId).status;
    };
    expect(await of('s1', 'w1')).toBe('graded');
    expect(await of('s2', 'w2')).toBe('missing');
    expect(await of('s3', 'q1')).toBe('awaiting grade');
    expect(await of('s4', 'w1')).toBe('excused');
    expect(await of('s1', 'q2')).toBe('not yet due');
    // By hand: 17, 14 and 15 points.
    const w1 = view.columns.find((c) => c.title === 'Chart exercise 1')!;
    expect(w1.summary).toMatchObject({ n: 3, median: 15, lowest: 14, highest: 17 });
    expect(w1.summary!.mean).toBeCloseTo(46 / 3);
    // What the rail counts is what the grid shows.
    const waiting = countFilters(view)['awaiting grade'].cells;
    expect([waiting, await awaitingCount(await requireCourse(ines(), 'grade', code))]).toEqual([1, 1]);
    const late = view.rows.find((r) => r.family === 'Li')!;
    expect(late.late.map((i) => view.columns[i]!.title)).toEqual(['Chart exercise 3']);
  });

  it('is for who teaches the course', async () => {
    const { viewer } = await small.course.student('s1');
    const c = await cell('s3', 'q1');
    for (const other of [small.course.stranger, viewer]) {
      await expect(gradebookView(other, code, {})).rejects.toThrow();
      await expect(cellView(other, code, c.enrolmentId, c.activityId)).rejects.toThrow();
      await expect(grade(other, code, [{ ...c, points: 5 }])).rejects.toThrow();
      await expect(excuse(other, code, [c], true)).rejects.toThrow();
      await expect(
        saveBands(other, code, { practice: { low: 1, high: 2 }, other: { low: 1, high: 2 } }),
      ).rejects.toThrow();
      await expect(undoBatch(other, code, '00000000-0000-4000-8000-000000000000')).rejects.toThrow();
    }
    expect(await storedScore(c.enrolmentId, c.activityId)).toMatchObject({ points: null });
  });

  it('narrows to a section and a kind, and takes nonsense for nothing said', async () => {
    const section = (await gradebookView(ines(), code, {})).scope.sections.find((s) => s.name === 'Online')!;
    const view = await gradebookView(ines(), code, { g: String(section.id), k: 'quiz', w: 'always' });
    expect(view.rows.map((r) => r.family)).toEqual(['Li', 'Wren']);
    expect(view.columns.map((c) => c.kind)).toEqual(['quiz', 'quiz']);
    expect(view.scope.window.choice).toBe('7d');
    // Looking alone keeps nothing; what is kept is the default of the next view, until another is.
    expect(view.scope.isKept).toBe(false);
    expect((await gradebookView(ines(), code, {})).rows).toHaveLength(4);
    await keepScope(ines(), code, scopeText(view.scope));
    const next = await gradebookView(ines(), code, {});
    expect([next.rows.length, next.scope.isKept]).toEqual([2, true]);
    await expect(keepScope(small.course.stranger, code, scopeText(view.scope))).rejects.toThrow();
    const all = await gradebookView(ines(), code, { g: 'all', k: 'all' });
    expect([all.rows.length, all.columns.length]).toEqual([4, 5]);
    await keepScope(ines(), code, scopeText(all.scope));
  });
});

describe('grading in place', () => {
  it('grades and returns, moves standing and flags, keeps the history, and is undone', async () => {
    const c = await cell('s3', 'q1');
    const before = (await gradebookView(ines(), code, {})).rows.find((r) => r.enrolmentId === c.enrolmentId)!;
    const changed = await grade(ines(), code, [{ ...c, points: 2 }]);
    expect(changed).toMatchObject({ changed: 1, conflicts: [] });
    const after = await gradebookView(ines(), code, {});
    expect(statusIn(after, c.enrolmentId, c.activityId)).toMatchObject({ status: 'graded', points: 2 });
    // By hand: charts 42 of 60 at weight 60, quizzes 2 of 10 at 40.
    expect(after.rows.find((r) => r.enrolmentId === c.enrolmentId)!.standing).toBeCloseTo(
      60 * 0.7 + 40 * 0.2,
    );

    await ensureEvaluated(await requireCourse(ines(), 'grade', code));
    const [m] = await small.test.db.orm
      .select()
      .from(measures)
      .where(eq(measures.enrolmentId, c.enrolmentId));
    expect(m!.standing).toBeCloseTo(50);

    const seen = await cellView(ines(), code, c.enrolmentId, c.activityId);
    expect(seen.changes[0]).toMatchObject({ action: 'grade', by: 'Ines Calloway', undone: false });
    expect(await undoBatch(ines(), code, changed.batch!)).toBe(1);
    expect(await storedScore(c.enrolmentId, c.activityId)).toMatchObject({ points: null, returnedAt: null });
    expect((await cellView(ines(), code, c.enrolmentId, c.activityId)).changes[0]!.undone).toBe(true);
    const again = (await gradebookView(ines(), code, {})).rows.find((r) => r.enrolmentId === c.enrolmentId)!;
    expect(again.standing).toBe(before.standing);
    await expect(undoBatch(ines(), code, changed.batch!)).rejects.toThrow(/no such change/);
  });

  it('tells the second of two that the first was faster, and loses neither', async () => {
    const { orm } = small.test.db;
    const second = { ...small.course.stranger };
    await orm.insert(courseStaff).values({ courseId: small.course.courseId, userId: second.userId });
    const c = await cell('s3', 'q1');
    const first = await grade(ines(), code, [{ ...c, points: 8 }]);
    const other = await cell('s2', 'w1');
    const answer = await grade(second, code, [
      { ...c, points: 3 },
      { ...other, points: 13 },
    ]);
    expect(answer.changed).toBe(1);
    expect(answer.conflicts).toEqual([
      expect.objectContaining({ student: 'Bo Li', title: 'Tides quiz', points: 8, by: 'Ines Calloway' }),
    ]);
    expect(await storedScore(c.enrolmentId, c.activityId)).toMatchObject({ points: 8 });
    // Seen anew, the second may insist; then the first cannot undo what is no longer hers.
    await grade(second, code, [{ ...c, seen: { points: 8, excused: false }, points: 3 }]);
    await expect(undoBatch(ines(), code, first.batch!)).rejects.toThrow(/changed this since/);
    expect(await storedScore(c.enrolmentId, c.activityId)).toMatchObject({ points: 3 });
    await grade(ines(), code, [{ ...c, seen: { points: 3, excused: false }, points: null }]);
    await orm.delete(courseStaff).where(eq(courseStaff.userId, second.userId)).returning();
    const [mine] = await orm.select().from(courses).where(eq(courses.code, 'OTHER'));
    await orm.insert(courseStaff).values({ courseId: mine!.id, userId: second.userId });
  });

  it('two at the very same time: one of them wins, the other is told', async () => {
    const c = await cell('s3', 'q1');
    const [a, b] = await Promise.all([
      grade(ines(), code, [{ ...c, points: 6 }]),
      grade(ines(), code, [{ ...c, points: 7 }]),
    ]);
    expect([a.changed, b.changed].sort()).toEqual([0, 1]);
    expect(a.conflicts.length + b.conflicts.length).toBe(1);
    await undoBatch(ines(), code, (a.batch ?? b.batch)!);
  });

  it('refuses points over the maximum, works without points, and who has left', async () => {
    const c = await cell('s3', 'q1');
    await expect(grade(ines(), code, [{ ...c, points: 11 }])).rejects.toThrow(/maximum of 10/);
    const page = await cell('s3', 'r1');
    await expect(grade(ines(), code, [{ ...page, points: 1 }])).rejects.toThrow(/no points/);
    const gone = await cell('s5', 'w1');
    await expect(
      grade(ines(), code, [
        { ...c, points: 4 },
        { ...gone, points: 4 },
      ]),
    ).rejects.toThrow(/Gone Away has left the course \(withdrawn\)/);
    await expect(grade(ines(), code, [{ ...c, activityId: 999_999, points: 4 }])).rejects.toThrow(
      /no such assignment/,
    );
    // Nothing of a refused batch was kept.
    expect(await storedScore(c.enrolmentId, c.activityId)).toMatchObject({ points: null });
  });

  it('excuses, extends for several, grants an attempt; each is undone to what stood', async () => {
    const [missing, other] = [await cell('s2', 'w2'), await cell('s2', 'w3')];
    const done = await extend(ines(), code, [missing, other], Date.parse('2026-11-01T22:59:00Z'));
    expect(done.changed).toBe(2);
    const view = await gradebookView(ines(), code, {});
    expect(statusIn(view, missing.enrolmentId, missing.activityId).status).toBe('not yet due');
    expect(statusIn(view, missing.enrolmentId, missing.activityId).row.missing).toBe(1);
    await undoBatch(ines(), code, done.batch!);
    expect(await storedScore(missing.enrolmentId, missing.activityId)).toBeUndefined();

    await expect(extend(ines(), code, [missing], Date.parse('2026-10-01T00:00:00Z'))).rejects.toThrow(
      /later than that/,
    );
    const out = await excuse(ines(), code, [missing], true);
    expect(
      statusIn(await gradebookView(ines(), code, {}), missing.enrolmentId, missing.activityId).status,
    ).toBe('excused');
    await undoBatch(ines(), code, out.batch!);
    const granted = await grantAttempt(ines(), code, [missing]);
    expect(await storedScore(missing.enrolmentId, missing.activityId)).toMatchObject({ extraAttempts: 1 });
    await undoBatch(ines(), code, granted.batch!);
  });

  it('keeps bands, and hides the standing from students or from oneself', async () => {
    await expect(
      saveBands(ines(), code, { practice: { low: 90, high: 80 }, other: { low: 50, high: 85 } }),
    ).rejects.toThrow(/below/);
    await saveBands(ines(), code, { practice: { low: 40, high: 90 }, other: { low: 60, high: 80 } });
    await hideStanding(ines(), code, true);
    await showStanding(ines(), code, false);
    const view = await gradebookView(ines(), code, {});
    expect([view.bands.other, view.hidesStanding, view.studentsSeeStanding]).toEqual([
      { low: 60, high: 80 },
      true,
      false,
    ]);
    const { viewer } = await small.course.student('s1');
    const { studentHome } = await import('../look/student');
    const [own] = (await studentHome(viewer)).courses;
    expect([own!.standing, own!.weeks.some((w) => w.own?.standing != null)]).toEqual([null, false]);
    await showStanding(ines(), code, true);
    expect((await studentHome(viewer)).courses[0]!.standing).not.toBeNull();
  });

  it('shows first, best and last attempt with minutes, and what the activity allows', async () => {
    const c = await cell('s1', 'q1');
    const seen = await cellView(ines(), code, c.enrolmentId, c.activityId);
    // No attempts file was imported: what was handed in counts as the one attempt.
    expect(seen.attempts).toEqual([
      expect.objectContaining({
        number: 1,
        points: 9,
        note: 'best',
        submitted: Date.parse('2026-10-20T10:00:00Z'),
      }),
    ]);
    expect(seen.attemptsAllowed).toBeNull();
  });

  it('leaves the rounds as they are where nothing was changed', async () => {
    const view = await roundsView(ines(), code, { filter: 'everyone' });
    expect(view.rows).toHaveLength(4);
    expect(await small.test.db.orm.select().from(user)).not.toHaveLength(0);
  });
});
