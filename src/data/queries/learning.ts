import { and, eq, sql, type SQL } from 'drizzle-orm';
import { groupBy } from '@/core/groupBy';
import {
  HURRIED,
  isAtRandom,
  LEAST_SET,
  LEAST_TIMES,
  MOST_CHOICES,
  QUICK_PERCENTILE,
  QUICK_SHARE,
  type ItemNorm,
  type SetAnswer,
} from '@/core/items/effort';
import { numericAnswer, type WrongNumber } from '@/core/items/lean';
import {
  AFTER_HINT,
  type AnsweredAttempt,
  type LearningRecord,
  type OutsideEvidence,
} from '@/core/outcomes/evidence';
import type { Access } from '@/data/database';
import { activities, answersNow, enrolments, itemNorms, items, outsideResults } from '@/data/schema';
import { idsIn } from './idsIn';
import { ofStudents } from './days';

export type NormRow = typeof itemNorms.$inferSelect;

/**
 * What the items of a course are measured against, from the first answers of its active students: the mean score, and a third
 * of the fifth percentile and the median of the times where twenty and more are known.
 */
export async function findItemNorms({ orm }: Access, courseId: number): Promise<NormRow[]> {
  const { activityId, item, attempt, score, seconds, answer } = answersNow;
  const times = sql`count(${seconds}) >= ${LEAST_TIMES}`;
  const at = (share: number) => sql`percentile_cont(${share}::float8) within group (order by ${seconds})`;
  const number = (v: unknown) => (v == null ? null : Number(v));
  return orm
    .select({
      activityId: sql<number>`${activityId}`.mapWith(Number),
      item,
      p: sql`avg(${score})`.mapWith(Number),
      least: sql`case when ${times} then ${QUICK_SHARE}::float8 * ${at(QUICK_PERCENTILE)} end`.mapWith(
        number,
      ),
      usual: sql`case when ${times} then ${at(0.5)} end`.mapWith(number),
      choices: sql`count(distinct nullif(btrim(${answer}), ''))`.mapWith(Number),
    })
    .from(answersNow)
    .innerJoin(enrolments, eq(enrolments.id, answersNow.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, courseId),
        eq(enrolments.status, 'active'),
        eq(attempt, 1),
        sql`${score} is not null`,
        sql`${activityId} is not null`,
      ),
    )
    .groupBy(activityId, item);
}

/** The norms of the items of an activity, by item. */
export async function readItemNorms({ orm }: Access, activityId: number): Promise<Map<string, ItemNorm>> {
  const rows = await orm.select().from(itemNorms).where(eq(itemNorms.activityId, activityId));
  return new Map(rows.map((r) => [r.item, r]));
}

/** Every norm of a course. */
export async function readNorms({ orm }: Access, courseId: number): Promise<NormRow[]> {
  const rows = await orm
    .select({ norm: itemNorms })
    .from(itemNorms)
    .innerJoin(activities, eq(activities.id, itemNorms.activityId))
    .where(eq(activities.courseId, courseId));
  return rows.map((r) => r.norm);
}

/** Norms as rows that a statement can join: those that are stored, or those just found. */
function normRows(norms: readonly NormRow[]): SQL {
  const column = <K extends keyof NormRow>(key: K) => sql.param(norms.map((n) => n[key]));
  return sql`unnest(${column('activityId')}::int[], ${column('item')}::text[], ${column('p')}::float8[],
    ${column('least')}::float8[], ${column('usual')}::float8[], ${column('choices')}::int[])
    as norm(activity_id, item, p, least, usual, choices)`;
}

const { enrolmentId, activityId, item, attempt, answer, score, seconds, hints, at } = answersNow;
const isOfNorm = sql`norm.activity_id = ${activityId} and norm.item = ${item}`;

/**
 * What is known of the learning of the students of a course, or of some, beside their grades: scored answers by attempt,
 * those left out that came too quickly or at random, half for those after a hint; and what outside tests say.
 *
 * @param norms what the items are measured against
 */
export async function readLearning(
  access: Access,
  courseId: number,
  norms: readonly NormRow[],
  only?: readonly number[],
): Promise<LearningRecord> {
  const { orm } = access;
  const scored = and(
    ofStudents(courseId, only),
    // Said of the view itself, so that it reads the answers of these students alone.
    only ? idsIn(enrolmentId, only) : undefined,
    sql`${score} is not null`,
    sql`${activityId} is not null`,
  );
  const worth = sql`case when ${hints} > 0 then ${AFTER_HINT}::float8 else 1 end`;
  const inTime = sql`(${seconds} is null or norm.least is null or ${seconds} >= norm.least)`;
  const rows = await orm
    .select({
      student: enrolmentId,
      activity: sql<string>`${activityId}::text`,
      attempt,
      responses: sql`count(*)`.mapWith(Number),
      worth: sql`sum(${worth})`.mapWith(Number),
      share: sql`sum(${worth} * ${score}) / sum(${worth})`.mapWith(Number),
      at: sql`extract(epoch from max(${at})) * 1000`.mapWith((v) => (v == null ? null : Number(v))),
    })
    .from(answersNow)
    .innerJoin(enrolments, eq(enrolments.id, enrolmentId))
    .leftJoin(normRows(norms), isOfNorm)
    .where(and(scored, inTime))
    .groupBy(enrolmentId, activityId, attempt)
    .orderBy(enrolmentId, activityId, attempt);
  const random = await setsAtRandom(access, norms, scored);
  const counted = rows.filter((r) => !random.has(`${r.student} ${r.activity} ${r.attempt}`));
  return {
    answers: groupBy<AnsweredAttempt & { student: number }, number>(counted, (r) => r.student),
    outside: await readOutside(access, courseId, only),
  };
}

/** Sittings whose answers have no relation to the items, as `student activity attempt`. Only those that may be are read. */
async function setsAtRandom(
  { orm }: Access,
  norms: readonly NormRow[],
  scored: SQL | undefined,
): Promise<Set<string>> {
  if (norms.length === 0) return new Set();
  const suspects = await orm
    .select({ enrolmentId, activityId: sql<number>`${activityId}`.as('suspect'), attempt })
    .from(answersNow)
    .innerJoin(enrolments, eq(enrolments.id, enrolmentId))
    .innerJoin(normRows(norms), isOfNorm)
    .where(scored)
    .groupBy(enrolmentId, activityId, attempt)
    .having(
      // Wider than the rule, never narrower: one answer to all that offer a choice, or many that came in a hurry.
      sql`count(distinct btrim(${answer})) filter (where norm.choices between 2 and ${MOST_CHOICES}) = 1
        or 2 * count(*) filter (where ${seconds} < ${HURRIED}::float8 * norm.usual) >= ${LEAST_SET}`,
    );
  if (suspects.length === 0) return new Set();
  const rows = await orm
    .select({
      student: enrolmentId,
      activity: activityId,
      attempt,
      answer,
      score: sql`${score}`.mapWith(Number),
      seconds,
      p: sql`norm.p`.mapWith(Number),
      least: sql<number | null>`norm.least`,
      usual: sql<number | null>`norm.usual`,
      choices: sql`norm.choices`.mapWith(Number),
    })
    .from(answersNow)
    .innerJoin(enrolments, eq(enrolments.id, enrolmentId))
    .innerJoin(normRows(norms), isOfNorm)
    .where(and(scored, idsIn(enrolmentId, [...new Set(suspects.map((s) => s.enrolmentId))])))
    .orderBy(item);
  const sets = groupBy(
    rows.map(({ p, least, usual, choices, ...r }) => ({
      name: `${r.student} ${r.activity} ${r.attempt}`,
      said: { ...r, norm: { p, least, usual, choices } } satisfies SetAnswer,
    })),
    (r) => r.name,
  );
  return new Set([...sets].flatMap(([name, list]) => (isAtRandom(list.map((l) => l.said)) ? [name] : [])));
}

async function readOutside(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, OutsideEvidence[]>> {
  const rows = await orm
    .select({ row: outsideResults })
    .from(outsideResults)
    .innerJoin(enrolments, eq(enrolments.id, outsideResults.enrolmentId))
    .where(ofStudents(courseId, only));
  return groupBy(
    rows.map(({ row: r }) => ({
      student: r.enrolmentId,
      outcome: String(r.outcomeId),
      at: r.at.getTime(),
      share: r.share,
      weight: r.weight,
    })),
    (r) => r.student,
  );
}

/** Wrong first answers of the students of a course to items that ask for a number, with what is right. */
export async function readWrongNumbers({ orm }: Access, courseId: number): Promise<WrongNumber[]> {
  // Few items ask for a number: they are found first, and only their answers are read.
  const asked = await orm
    .select({ activity: items.activityId, item: items.item, right: items.keys })
    .from(items)
    .innerJoin(activities, eq(activities.id, items.activityId))
    .where(and(eq(activities.courseId, courseId), sql`jsonb_array_length(${items.options}) = 0`));
  const numeric = new Map(
    asked
      .filter((i) => i.right?.some((key) => numericAnswer(key) != null))
      .map((i) => [`${i.activity} ${i.item}`, i]),
  );
  if (numeric.size === 0) return [];
  const all = [...numeric.values()];
  const rows = await orm
    .select({ student: enrolmentId, activity: activityId, item, answer })
    .from(answersNow)
    .where(
      and(
        idsIn(activityId, [...new Set(all.map((i) => i.activity))]),
        sql`${item} = any(${sql.param([...new Set(all.map((i) => i.item))])}::text[])`,
        eq(attempt, 1),
        sql`${score} < 1`,
      ),
    )
    .orderBy(enrolmentId);
  return rows.flatMap(({ activity, item: name, ...r }) => {
    const of = numeric.get(`${activity} ${name}`);
    return of ? [{ ...r, right: of.right ?? [] }] : [];
  });
}

/** Items of an activity that a student has answered, and the sum of their first scores. */
export interface ItemsSeen {
  readonly student: number;
  readonly activity: number;
  readonly seen: number;
  readonly right: number;
}

/** How many items of each activity of a course there are, and which part of them each student has seen. */
export async function readItemsSeen(
  { orm }: Access,
  courseId: number,
): Promise<{ readonly items: ReadonlyMap<number, number>; readonly seen: readonly ItemsSeen[] }> {
  const seen = await orm
    .select({
      student: enrolmentId,
      activity: sql`${activityId}`.mapWith(Number),
      seen: sql`count(distinct ${item})`.mapWith(Number),
      right: sql`coalesce(sum(${score}) filter (where ${attempt} = 1), 0)`.mapWith(Number),
    })
    .from(answersNow)
    .innerJoin(enrolments, eq(enrolments.id, enrolmentId))
    .where(and(ofStudents(courseId), sql`${activityId} is not null`))
    .groupBy(enrolmentId, activityId);
  const { rows } = (await orm.execute(sql`
    select activity_id, count(distinct item)::int as n from (
      select activity_id, item from items union select activity_id, item from answers_now
    ) known join activities a on a.id = known.activity_id where a.course_id = ${courseId} group by activity_id`)) as unknown as {
    rows: { activity_id: number; n: number }[];
  };
  return { items: new Map(rows.map((r) => [r.activity_id, r.n])), seen };
}
