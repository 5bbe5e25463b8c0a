import { and, desc, eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import type { NoteKind, NoteView } from '@/core/views/notes';
import { notes, user } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { requireEnrolment, requireTaught, type Viewer } from '../access/viewer';

/** Notes and talks about a student, the newest first. The caller has checked that the course is the viewer's. */
export async function notesOf(viewer: Viewer, enrolmentId: number): Promise<NoteView[]> {
  const { orm } = await database();
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
    own: note.userId === viewer.userId,
  }));
}

/** Writes a note or a talk down. Returns its id, for undoing it. */
export async function addNote(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  note: { readonly kind: NoteKind; readonly on: LocalDate; readonly text: string },
): Promise<number> {
  const course = await requireTaught(viewer, code);
  await requireEnrolment(course, enrolmentId);
  if (note.text.trim() === '') throw invalid('Write a word or two.');
  if (note.on > localDate(now(), course.zone)) throw invalid('A note is about a day that has come.');
  const { orm } = await database();
  const [row] = await orm
    .insert(notes)
    .values({
      courseId: course.id,
      enrolmentId,
      userId: viewer.userId,
      kind: note.kind,
      on: note.on,
      text: note.text.trim(),
      at: nowDate(),
    })
    .returning({ id: notes.id });
  return row!.id;
}

/** Takes a note of the viewer's own out. */
export async function removeNote(viewer: Viewer, code: string, noteId: number): Promise<void> {
  const course = await requireTaught(viewer, code);
  const { orm } = await database();
  const gone = await orm
    .delete(notes)
    .where(and(eq(notes.id, noteId), eq(notes.courseId, course.id), eq(notes.userId, viewer.userId)))
    .returning({ id: notes.id });
  if (gone.length === 0) throw notFound('note of yours');
}
