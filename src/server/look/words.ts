import { and, asc, inArray, lt } from 'drizzle-orm';
import { weakestOutcomes } from '@/core/plans/propose';
import type { WordLine } from '@/core/views/rules';
import { occasionsOf, openOccasions } from '@/data/queries/rules';
import { database } from '../base/database';
import { idsIn } from '@/data/queries/idsIn';
import { answersNow, rules } from '@/data/schema';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { snapshotOf } from '../snapshot/snapshot';
import { occasionLines } from './occasions';

/** Wrong answers and outcomes that are named: more is for the student's page. */
const MOST = { wrong: 12, outcomes: 3 };

/** What the rules of a course ask of its instructor: messages that wait for a yes, and open words. */
export const rulesAsk = async (course: CourseRow): Promise<number> =>
  openOccasions(await database(), course.id);

/** The open words of the rules of a course, each with the weakest outcomes and the wrong answers it is about. */
export async function openWords(db: Database, course: CourseRow): Promise<WordLine[]> {
  const open = await occasionsOf(db, course.id, ['word']);
  if (open.length === 0) return [];
  const lines = await occasionLines(db, course, open);
  const snapshot = await snapshotOf(course);
  const { covers } = await snapshot.model();
  const learned = await snapshot.masteries();
  const abouts = await db.orm
    .select({ id: rules.id, about: rules.about })
    .from(rules)
    .where(
      inArray(
        rules.id,
        open.map((o) => o.ruleId),
      ),
    );
  const aboutOf = new Map(abouts.map((r) => [r.id, r.about]));
  const wrong = await db.orm
    .select({
      student: answersNow.enrolmentId,
      work: answersNow.activityId,
      item: answersNow.item,
      answer: answersNow.answer,
    })
    .from(answersNow)
    .where(
      and(
        idsIn(
          answersNow.enrolmentId,
          open.map((o) => o.enrolmentId),
        ),
        lt(answersNow.score, 1),
      ),
    )
    .orderBy(asc(answersNow.item), asc(answersNow.attempt));
  return lines.map((line): WordLine => {
    const asked = new Set(line.assignment ? (covers.get(String(line.assignment.id)) ?? []) : []);
    const known = (learned.get(line.enrolmentId) ?? [])
      .filter((o) => asked.size === 0 || asked.has(String(o.outcomeId)))
      .map((o) => ({ ...o, id: String(o.outcomeId) }));
    const own = wrong.filter((w) => w.student === line.enrolmentId && w.work === line.assignment?.id);
    // Of several attempts the last answer counts.
    const last = new Map(own.map((w) => [w.item, w.answer]));
    return {
      ...line,
      about: aboutOf.get(line.ruleId) ?? 'other',
      weakest: weakestOutcomes(known)
        .slice(0, MOST.outcomes)
        .map((o) => o.title),
      wrong: [...last].slice(0, MOST.wrong).map(([item, answer]) => ({ item, answer })),
    };
  });
}
