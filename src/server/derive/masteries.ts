import { eq, sql } from 'drizzle-orm';
import type { OutcomePart, Priors } from '@/core/outcomes/evidence';
import { studentMastery } from '@/core/outcomes/evidence';
import type { Mastery } from '@/core/outcomes/mastery';
import type { Instant } from '@/core/units';
import { copyLine, copyLines, type Access } from '@/data/database';
import type { CourseModel } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { readLearning, readNorms } from '@/data/queries/learning';
import { loadScores } from '@/data/queries/scores';
import { masteries, outcomePriors, outcomes } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';

/** The outcomes of a course with what they are part of, as the computation names them. */
export const outcomeParts = (course: CourseModel): OutcomePart[] =>
  course.outcomes.map(({ id, parentId }) => ({
    id: String(id),
    parent: parentId == null ? null : String(parentId),
  }));

/** Writes masteries where there are none of these students. */
export const storeMasteries = (
  access: Access,
  students: ReadonlyMap<number, ReadonlyMap<string, Mastery>>,
): Promise<void> =>
  copyLines(
    access,
    'masteries',
    ['enrolment_id', 'outcome_id', 'mean', 'low', 'high', 'effective', 'level', 'asked_at'],
    (function* () {
      for (const [student, byOutcome] of students)
        for (const [outcome, m] of byOutcome)
          yield copyLine([
            student,
            Number(outcome),
            m.mean,
            m.low,
            m.high,
            m.effective,
            m.level,
            m.askedAt == null ? null : new Date(m.askedAt),
          ]);
    })(),
  );

const ofCourse = (courseId: number) =>
  sql`${outcomePriors.outcomeId} in (select id from outcomes where course_id = ${courseId})`;

/** Keeps the priors of a class until the next evaluation. */
export async function storePriors(access: Access, courseId: number, priors: Priors): Promise<void> {
  await access.orm.delete(outcomePriors).where(ofCourse(courseId));
  await insertMany(
    access,
    outcomePriors,
    [...priors].map(([id, { a, b }]) => ({ outcomeId: Number(id), a, b })),
  );
}

async function readPriors({ orm }: Access, courseId: number): Promise<Priors> {
  const rows = await orm
    .select({ prior: outcomePriors })
    .from(outcomePriors)
    .innerJoin(outcomes, eq(outcomes.id, outcomePriors.outcomeId))
    .where(eq(outcomes.courseId, courseId));
  return new Map(rows.map(({ prior }) => [String(prior.outcomeId), prior]));
}

/**
 * Brings the mastery of some students up to date after something came in about them, against the priors and norms of the last
 * evaluation: the rest of the class is not read. Nothing where the course was never evaluated.
 */
export async function refreshMasteries(
  access: Access,
  course: CourseModel,
  students: readonly number[],
  asOf: Instant,
): Promise<void> {
  if (students.length === 0 || course.outcomes.length === 0 || course.row.evaluatedAt == null) return;
  const courseId = course.row.id;
  const priors = await readPriors(access, courseId);
  const learning = await readLearning(access, courseId, await readNorms(access, courseId), students);
  const scores = await loadScores(access, courseId, students);
  const parts = outcomeParts(course);
  const found = new Map(
    students.map((id) => [
      id,
      studentMastery(
        course,
        { id, scores: scores.get(id) ?? new Map() },
        parts,
        course.covers,
        learning,
        priors,
        asOf,
      ),
    ]),
  );
  await access.orm.delete(masteries).where(idsIn(masteries.enrolmentId, students));
  await storeMasteries(access, found);
}
