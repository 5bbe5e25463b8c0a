import { and, desc, eq, gte, inArray } from 'drizzle-orm';
import { ANSWERS, type Answer } from '@/core/acts/act';
import type { LocalDate } from '@/core/units';
import type { MarkLine } from '@/core/views/brief';
import type { MarkView } from '@/core/views/mark';
import type { NoteView } from '@/core/views/notes';
import type { Access } from '../database';
import { acts, notes, roundPositions, user } from '../schema';
import { addDays } from '@/core/calendar/zone';
import { ROUND_DAYS, MOST_PUT_OFF_DAYS } from '@/core/acts/rounds';

const isAnswer = inArray(acts.kind, [...ANSWERS]);
const toMark = ({ act, by }: { act: typeof acts.$inferSelect; by: string }): MarkView => ({
  id: act.id,
  by,
  reason: act.reason,
  // The query asks for answers only.
  action: act.kind as Answer,
  on: act.on,
  until: act.followUpOn,
  covered: act.answers,
});

/** The latest answer to the flags of each student of a course that can still matter on a day. */
export async function latestAnswers(
  { orm }: Access,
  courseId: number,
  today: LocalDate,
): Promise<Map<number, MarkView>> {
  const since = addDays(today, -Math.max(ROUND_DAYS, MOST_PUT_OFF_DAYS));
  const rows = await orm
    .select({ act: acts, by: user.name })
    .from(acts)
    .innerJoin(user, eq(user.id, acts.userId))
    .where(and(eq(acts.courseId, courseId), isAnswer, gte(acts.on, since)))
    // The latest of each is set last.
    .orderBy(acts.id);
  return new Map(rows.map((row) => [row.act.enrolmentId, toMark(row)]));
}

/** How a student's flags were answered without writing to them, the latest first. */
export async function answersOf({ orm }: Access, enrolmentId: number): Promise<MarkLine[]> {
  const rows = await orm
    .select({ act: acts, by: user.name })
    .from(acts)
    .innerJoin(user, eq(user.id, acts.userId))
    .where(and(eq(acts.enrolmentId, enrolmentId), inArray(acts.kind, ['put off', 'seen'])))
    .orderBy(desc(acts.id));
  return rows.map(toMark).map(({ action, on, until, reason, by }) => ({ action, on, until, reason, by }));
}

/** Notes and talks about a student, the newest first. */
export async function notesOf({ orm }: Access, userId: string, enrolmentId: number): Promise<NoteView[]> {
  const rows = await orm
    .select({ note: notes, by: user.name })
    .from(notes)
    .innerJoin(user, eq(user.id, notes.userId))
    .where(eq(notes.enrolmentId, enrolmentId))
    .orderBy(desc(notes.on), desc(notes.id));
  return rows.map(({ note, by }) => ({
    id: note.id,
    kind: note.kind,
    on: note.on,
    text: note.text,
    by,
    at: note.at.getTime(),
    own: note.userId === userId,
  }));
}

/** Where somebody was in the rounds of a course. */
export async function roundPosition({ orm }: Access, userId: string, courseId: number) {
  const [row] = await orm
    .select({ enrolmentId: roundPositions.enrolmentId, filter: roundPositions.filter })
    .from(roundPositions)
    .where(and(eq(roundPositions.userId, userId), eq(roundPositions.courseId, courseId)));
  return row ?? null;
}
