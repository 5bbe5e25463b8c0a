import { localDate } from '@/core/calendar/zone';
import type { ActAnswer, ActKind } from '@/core/acts/act';
import type { LocalDate } from '@/core/units';
import type { ReasonView } from '@/core/views/reason';
import type { Access } from '@/data/database';
import { acts } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import type { Viewer } from '../access/viewer';
import { now, nowDate } from '../base/clock';
import type { CourseRow } from '@/data/queries/courseModel';
import { supersede } from './followUps';

/** What is done about one student. */
export interface NewAct {
  readonly enrolmentId: number;
  readonly kind: ActKind;
  /** The flags it answers; none if left out. */
  readonly answers?: readonly ReasonView[];
  /** The day it is about; today if left out. */
  readonly on?: LocalDate;
  readonly followUpOn?: LocalDate;
  readonly reason?: string;
  readonly recipientId?: number;
  readonly noteId?: number;
}

const answerOf = ({ id, kind, level }: ReasonView): ActAnswer => ({ flag: id, kind, level });

/** Records acts, in the transaction of what was done. Returns their ids in the same order. */
export async function recordActs(
  access: Access,
  course: CourseRow,
  { userId }: Viewer,
  list: readonly NewAct[],
): Promise<number[]> {
  const rows = await insertMany(
    access,
    acts,
    list.map(({ enrolmentId, kind, answers = [], on, followUpOn, reason, recipientId, noteId }) => ({
      courseId: course.id,
      enrolmentId,
      userId,
      kind,
      on: on ?? localDate(now(), course.zone),
      followUpOn: followUpOn ?? null,
      reason: reason ?? null,
      answers: answers.map(answerOf),
      recipientId: recipientId ?? null,
      noteId: noteId ?? null,
      at: nowDate(),
    })),
    { returning: [acts.id] },
  );
  const ids = rows.map((r) => Number(r.id));
  const again = list.filter((a) => a.followUpOn != null && a.kind !== 'put off').map((a) => a.enrolmentId);
  await supersede(access, { userId }, again, ids);
  return ids;
}
