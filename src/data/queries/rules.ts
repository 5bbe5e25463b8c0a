import { and, asc, desc, eq, gt, inArray, isNotNull, isNull, lte, or, sql } from 'drizzle-orm';
import { guardsForm, readFacts, readParts } from '@/core/forms/rule';
import type { Hold } from '@/core/unasked/occasions';
import { DEFAULT_GUARDS, type Guards, type WrittenTo } from '@/core/unasked/guards';
import type { Fact } from '@/core/unasked/lookAt';
import type { RuleParts } from '@/core/unasked/rule';
import type { OccasionState } from '@/core/unasked/states';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '../database';
import {
  enrolments,
  gradesSeen,
  messages,
  occasions,
  recipients,
  ruleCourses,
  ruleHolds,
  rules,
  scores,
} from '../schema';
import { idsIn } from './idsIn';

export type RuleRow = Omit<typeof rules.$inferSelect, 'parts' | 'numbers'> & {
  readonly parts: RuleParts;
  readonly numbers: Readonly<Record<string, number>>;
};
export type OccasionRow = Omit<typeof occasions.$inferSelect, 'facts'> & { readonly facts: readonly Fact[] };

/** The rules of a course in their order, without those that ended. */
export async function rulesOf({ orm }: Access, courseId: number): Promise<RuleRow[]> {
  const rows = await orm
    .select()
    .from(rules)
    .where(and(eq(rules.courseId, courseId), sql`${rules.state} <> 'ended'`))
    .orderBy(asc(rules.position), asc(rules.id));
  return rows.map((row) => ({
    ...row,
    parts: readParts(row.parts),
    numbers: row.numbers as Record<string, number>,
  }));
}

/** Whether a course has a rule that is on. */
export async function hasRules({ orm }: Access, courseId: number): Promise<boolean> {
  const [found] = await orm
    .select({ id: rules.id })
    .from(rules)
    .where(and(eq(rules.courseId, courseId), eq(rules.state, 'on')))
    .limit(1);
  return found !== undefined;
}

/** Up to when the rules of a course have looked, and its guards. */
export async function ruleCourseOf({ orm }: Access, courseId: number) {
  const [row] = await orm.select().from(ruleCourses).where(eq(ruleCourses.courseId, courseId));
  return {
    lookedAt: row?.lookedAt?.getTime() ?? null,
    rev: row?.rev ?? 0,
    guards: readGuards(row?.guards),
  };
}

const readGuards = (value: unknown): Guards =>
  value == null ? DEFAULT_GUARDS : guardsForm.validateSync(value, { strict: true });

/** Since when the conditions of rules hold, by rule and student. */
export async function holdsOf(
  { orm }: Access,
  ids: readonly number[],
): Promise<Map<number, Map<number, Hold>>> {
  const rows = await orm.select().from(ruleHolds).where(idsIn(ruleHolds.ruleId, ids));
  const found = new Map<number, Map<number, Hold>>();
  for (const { ruleId, enrolmentId, since, spent } of rows) {
    const known = found.get(ruleId) ?? new Map<number, Hold>();
    known.set(enrolmentId, { since, spent });
    found.set(ruleId, known);
  }
  return found;
}

/**
 * Grades of a course that were returned by an instant and that its rules have not seen.
 *
 * @param only of these students; of all, if left out
 */
export async function unseenGrades(
  { orm }: Access,
  courseId: number,
  at: Instant,
  only?: readonly number[],
): Promise<{ student: number; work: number; at: Instant }[]> {
  const rows = await orm
    .select({ student: scores.enrolmentId, work: scores.activityId, at: scores.returnedAt })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .leftJoin(
      gradesSeen,
      and(eq(gradesSeen.enrolmentId, scores.enrolmentId), eq(gradesSeen.activityId, scores.activityId)),
    )
    .where(
      and(
        eq(enrolments.courseId, courseId),
        only ? inArray(enrolments.id, [...only]) : undefined,
        isNotNull(scores.points),
        lte(scores.returnedAt, new Date(at)),
        isNull(gradesSeen.enrolmentId),
      ),
    )
    .orderBy(asc(scores.enrolmentId), asc(scores.activityId));
  return rows.map((r) => ({ student: r.student, work: r.work, at: r.at!.getTime() }));
}

/** Days of messages that guards look at. */
const GUARDED_DAYS = 91;

/** What people were written to since long enough for any guard, in all their courses, with what is on its way. */
export async function writtenToPersons(
  { orm }: Access,
  personIds: readonly number[],
  at: Instant,
): Promise<Map<number, (WrittenTo & { readonly occasion: number | null })[]>> {
  const since = new Date(at - GUARDED_DAYS * DAY_MS);
  const rows = await orm
    .select({
      person: enrolments.personId,
      course: messages.courseId,
      about: messages.about,
      at: sql<Date>`coalesce(${messages.goneAt}, ${messages.goesAt}, ${messages.createdAt})`.mapWith(
        messages.createdAt,
      ),
      occasion: occasions.id,
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .leftJoin(occasions, eq(occasions.recipientId, recipients.id))
    .where(and(idsIn(enrolments.personId, personIds), gt(messages.createdAt, since)));
  const waiting = await orm
    .select({
      person: enrolments.personId,
      course: occasions.courseId,
      about: rules.about,
      at: occasions.goesAt,
      occasion: occasions.id,
    })
    .from(occasions)
    .innerJoin(rules, eq(rules.id, occasions.ruleId))
    .innerJoin(enrolments, eq(enrolments.id, occasions.enrolmentId))
    .where(and(idsIn(enrolments.personId, personIds), inArray(occasions.state, ['waiting', 'to go'])));
  const found = new Map<number, (WrittenTo & { readonly occasion: number | null })[]>();
  for (const row of [...rows, ...waiting]) {
    const list = found.get(row.person) ?? [];
    list.push({
      at: row.at?.getTime() ?? at,
      course: row.course,
      about: row.about,
      unasked: row.occasion != null,
      occasion: row.occasion,
    });
    found.set(row.person, list);
  }
  return found;
}

/** The occasions of a course in some states, the newest first. */
export async function occasionsOf(
  { orm }: Access,
  courseId: number,
  states: readonly OccasionState[],
  { most, rule }: { readonly most?: number; readonly rule?: number } = {},
): Promise<OccasionRow[]> {
  const rows = await orm
    .select()
    .from(occasions)
    .where(
      and(
        eq(occasions.courseId, courseId),
        inArray(occasions.state, [...states]),
        rule == null ? undefined : eq(occasions.ruleId, rule),
      ),
    )
    .orderBy(desc(occasions.at), desc(occasions.id))
    .limit(most ?? 10_000);
  return rows.map((row) => ({ ...row, facts: readFacts(row.facts) }));
}

/** How many occasions of a course wait for a yes, and how many words are open. */
export async function openOccasions({ orm }: Access, courseId: number): Promise<number> {
  const [row] = await orm
    .select({ n: sql`count(*)`.mapWith(Number) })
    .from(occasions)
    .where(
      and(eq(occasions.courseId, courseId), or(eq(occasions.state, 'waiting'), eq(occasions.state, 'word'))),
    );
  return row?.n ?? 0;
}
