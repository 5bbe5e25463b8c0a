import { and, eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import type { NoteKind } from '@/core/acts/act';
import { notes } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { requireEnrolment, requireCourse, type Viewer } from '../access/viewer';
import { recordActs } from './acts';

/** Writes a note or a talk down. Returns its id, for undoing it. */
export async function addNote(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  note: { readonly kind: NoteKind; readonly on: LocalDate; readonly text: string },
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, enrolmentId);
  if (note.text.trim() === '') throw invalid('Write a word or two.');
  if (note.on > localDate(now(), course.zone)) throw invalid('A note is about a day that has come.');
  const { kind, on } = note;
  return (await database()).transaction(async (tx) => {
    const [row] = await tx.orm
      .insert(notes)
      .values({
        courseId: course.id,
        enrolmentId,
        userId: viewer.userId,
        kind,
        on,
        text: note.text.trim(),
        at: nowDate(),
      })
      .returning({ id: notes.id });
    await recordActs(tx, course, viewer, [{ enrolmentId, kind, on, noteId: row!.id }]);
    return row!.id;
  });
}

/** Takes a note of the viewer's own out. */
export async function removeNote(viewer: Viewer, code: string, noteId: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const gone = await orm
    .delete(notes)
    .where(and(eq(notes.id, noteId), eq(notes.courseId, course.id), eq(notes.userId, viewer.userId)))
    .returning({ id: notes.id });
  if (gone.length === 0) throw notFound('note of yours');
}
