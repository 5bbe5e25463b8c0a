import { and, eq, isNotNull } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import type { NoteKind } from '@/core/acts/act';
import type { Kept } from '@/core/acts/agreement';
import { lookAgainAfter, PASSING_WORDS, type PassingResult, wasSpokenTo } from '@/core/acts/passing';
import type { PassingForm } from '@/core/forms/note';
import type { TalkNoteForm } from '@/core/forms/talk';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { acts, agreements, notes, talks } from '@/data/schema';
import { openReasons } from '../snapshot/reasons';
import { snapshotOf } from '../snapshot/snapshot';
import { checkFollowUp } from './followUps';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { requireEnrolment, requireCourse, type Viewer } from '../access/viewer';
import { recordActs } from './acts';

/** What is kept of a note. */
interface NewNote {
  readonly kind: NoteKind;
  readonly on: LocalDate;
  readonly text: string;
  readonly followUpOn?: LocalDate | null;
  readonly talkId?: number;
  /** How a word in passing went. */
  readonly result?: PassingResult;
  /** Of one that may come twice: it is stored once. */
  readonly key?: string;
}

function checkNote(course: CourseRow, { on, followUpOn }: NewNote): void {
  if (on > localDate(now(), course.zone)) throw invalid('A note is about a day that has come.');
  checkFollowUp(course, followUpOn);
}

/** Stores a note; null if there is one of its key already. */
async function storeNote(
  { orm }: Access,
  course: CourseRow,
  { userId }: Viewer,
  enrolmentId: number,
  { kind, on, text, talkId, result, key }: NewNote,
): Promise<number | null> {
  const [row] = await orm
    .insert(notes)
    .values({
      courseId: course.id,
      enrolmentId,
      userId,
      kind,
      on,
      text: text.trim(),
      talkId,
      result,
      key,
      at: nowDate(),
    })
    .onConflictDoNothing({ target: notes.key })
    .returning({ id: notes.id });
  return row?.id ?? null;
}

/** Stores a note with its act, and the day to look again. */
async function noteWithAct(
  tx: Access,
  course: CourseRow,
  viewer: Viewer,
  enrolmentId: number,
  note: NewNote,
): Promise<number> {
  const id = (await storeNote(tx, course, viewer, enrolmentId, note))!;
  const { kind, on, followUpOn } = note;
  await recordActs(tx, course, viewer, [
    { enrolmentId, kind, on, noteId: id, followUpOn: followUpOn ?? undefined },
  ]);
  return id;
}

/** Saves a note, a talk or a call. Returns its id, for undoing it. */
export async function addNote(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  { kind, on, text, followUpOn }: Pick<NewNote, 'kind' | 'on' | 'text' | 'followUpOn'>,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, enrolmentId);
  // By name: of which talk a note is, say, is not for this form to tell.
  const note: NewNote = { kind, on, text, followUpOn };
  if (note.text.trim() === '') throw invalid('Write a word or two.');
  checkNote(course, note);
  return (await database()).transaction((tx) => noteWithAct(tx, course, viewer, enrolmentId, note));
}

/**
 * Saves what is kept of a talk: the note, and what both agreed on, which the student sees too and which is looked at on its
 * day. Returns the id of the note, for undoing it.
 *
 * @param talkId the booked talk that it is of; null of one that was not booked
 */
export async function addTalkNote(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  { on, text, agreed }: TalkNoteForm,
  talkId: number | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, enrolmentId);
  if (text.trim() === '' && !agreed) throw invalid('Write a word or two, or what you agreed on.');
  const db = await database();
  if (talkId != null) {
    const [talk] = await db.orm
      .select({ id: talks.id })
      .from(talks)
      .where(and(eq(talks.id, talkId), eq(talks.enrolmentId, enrolmentId), eq(talks.courseId, course.id)));
    if (!talk) throw notFound('talk with this student');
  }
  const note: NewNote = { kind: 'talk', on, text, followUpOn: agreed?.on, talkId: talkId ?? undefined };
  checkNote(course, note);
  return db.transaction(async (tx) => {
    const id = await noteWithAct(tx, course, viewer, enrolmentId, note);
    if (agreed)
      await tx.orm.insert(agreements).values({
        courseId: course.id,
        enrolmentId,
        userId: viewer.userId,
        noteId: id,
        goal: agreed.goal.trim(),
        step: agreed.step.trim(),
        on: agreed.on,
        said: agreed.said.trim(),
        at: nowDate(),
      });
    return id;
  });
}

/** Says what became of what was agreed, and closes its follow-up; null opens both again. */
export async function closeAgreement(
  viewer: Viewer,
  code: string,
  id: number,
  as: Kept | null,
): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  await db.transaction(async (tx) => {
    const [row] = await tx.orm
      .update(agreements)
      .set({ closedAs: as, closedAt: as == null ? null : nowDate() })
      .where(and(eq(agreements.id, id), eq(agreements.courseId, course.id)))
      .returning({ noteId: agreements.noteId });
    if (!row) throw notFound('agreement in this course');
    await tx.orm
      .update(acts)
      .set(
        as == null
          ? { followedUpAt: null, followedUpBy: null }
          : { followedUpAt: nowDate(), followedUpBy: viewer.userId },
      )
      .where(and(eq(acts.noteId, row.noteId), isNotNull(acts.followUpOn)));
  });
}

/**
 * Saves a word in passing, once however often it is sent: it logs the talk, handles the flags of who was spoken to, and
 * sets the day to look again. Returns the id of the note.
 */
export async function addPassing(viewer: Viewer, code: string, form: PassingForm): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, form.student);
  const { key, student: enrolmentId, result, on } = form;
  checkNote(course, { kind: 'talk', on, text: '' });
  const spoken = wasSpokenTo(result);
  const kind: NoteKind = spoken ? 'talk' : 'note';
  const db = await database();
  const answers = spoken
    ? ((await openReasons(await snapshotOf(course), [enrolmentId])).get(enrolmentId) ?? [])
    : [];
  return db.transaction(async (tx) => {
    const id = await storeNote(tx, course, viewer, enrolmentId, {
      kind,
      on,
      text: form.text.trim() || PASSING_WORDS[result],
      result,
      key,
    });
    if (id == null) {
      const [before] = await tx.orm
        .select({ id: notes.id })
        .from(notes)
        .where(and(eq(notes.key, key), eq(notes.userId, viewer.userId), eq(notes.courseId, course.id)));
      if (!before) throw invalid('Write it once more.');
      return before.id;
    }
    const today = localDate(now(), course.zone);
    const again = lookAgainAfter(result, today);
    await recordActs(tx, course, viewer, [
      { enrolmentId, kind, on, noteId: id, followUpOn: again ?? undefined },
      ...(answers.length > 0
        ? [{ enrolmentId, kind: 'seen' as const, reason: PASSING_WORDS[result], answers, noteId: id }]
        : []),
    ]);
    return id;
  });
}

/** Removes a note of the viewer's own, with what was agreed and the day to look again. */
export async function removeNote(viewer: Viewer, code: string, noteId: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const gone = await orm
    .delete(notes)
    .where(and(eq(notes.id, noteId), eq(notes.courseId, course.id), eq(notes.userId, viewer.userId)))
    .returning({ id: notes.id });
  if (gone.length === 0) throw notFound('note of yours');
}
