import { eq } from 'drizzle-orm';
import * as yup from 'yup';
import { keyText, type Maxima, type Planning, toDate, type IntakeKind } from './kind';
import { maybeNumber, textField } from './fields';
import { sort, changed } from '../sort';
import { type ReadOf } from '../readFiles';
import type { Placed } from '@/core/formats/classify';
import { deleteMany, upsertMany } from '@/data/write/bulk';
import { scores, persons, enrolments } from '@/data/schema';
import { revise } from '@/data/queries/revision';
import { type FileIds } from '@/data/queries/fileIds';
import { ofStudents } from '@/data/queries/days';
import { type CourseModel } from '@/data/queries/courseModel';
import { type Access, copyLine } from '@/data/database';
import { sameFields } from '@/core/formats/sameRecord';
import { fillScore } from '@/core/formats/mapping/fillScores';
import { type Objection, type Changes, written } from '@/core/formats/classify';
import { type GradebookRecord } from '@/core/course/records';

const scoreKey = (student: string, activity: string) => keyText(student, activity);

/** Why points for an activity cannot be taken; null if they can. */
export function pointsObjection(
  g: { readonly activity: string; readonly points: number | null },
  maxima: Maxima,
): Objection {
  const maximum = maxima.get(g.activity);
  if (maximum === undefined) return { field: 'activity_id', reason: `there is no activity “${g.activity}”` };
  if (g.points == null) return null;
  if (maximum == null) return { field: 'points', reason: 'given for an activity without points' };
  return g.points > maximum
    ? { field: 'points', reason: `${g.points} is above the maximum of ${maximum}` }
    : null;
}

/** The gradebook of a course, or of one of its enrolments, as the files write it, by student and activity. */
export async function storedScores(
  { orm }: Access,
  course: CourseModel,
  enrolmentId?: number,
): Promise<Map<string, GradebookRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const rows = await orm
    .select({ score: scores, student: persons.externalId })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(ofStudents(course.row.id, enrolmentId == null ? undefined : [enrolmentId]));
  return new Map(
    rows.map(({ score, student }): [string, GradebookRecord] => {
      const activity = activityOf.get(score.activityId) ?? '';
      return [
        scoreKey(student, activity),
        {
          student,
          activity,
          submitted: score.submittedAt?.getTime() ?? null,
          graded: score.gradedAt?.getTime() ?? null,
          returned: score.returnedAt?.getTime() ?? null,
          points: score.points,
          excused: score.excused,
          due: score.ownDueAt?.getTime() ?? null,
          extra: score.extraAttempts,
        },
      ];
    }),
  );
}

async function planGradebook(
  file: ReadOf<'gradebook'>,
  { access, course, students, maxima, waits, now }: Planning,
): Promise<Changes<GradebookRecord>> {
  const existing = await storedScores(access, course);
  const keyOf = (g: GradebookRecord) => scoreKey(g.student, g.activity);
  // Of whom nobody knows who it is, nobody knows either what stands there already.
  const whole = (g: GradebookRecord, row: Placed<GradebookRecord>) =>
    students.has(g.student) ? fillScore(g, existing.get(keyOf(g)), row.absent ?? file.absent, now) : g;
  return sort(await changed(file.rows, whole), file.rejected, {
    keyOf,
    keyField: 'activity_id',
    existing,
    same: sameFields,
    objection: (g) => pointsObjection(g, maxima),
    waitsAlready: waits('gradebook'),
    waits: (g) => !students.has(g.student),
    onDifference: 'change',
  });
}

async function writeScores(
  access: Access,
  ids: FileIds,
  added: readonly Placed<GradebookRecord>[],
  changed: readonly Placed<GradebookRecord>[],
) {
  const row = ({ value }: Placed<GradebookRecord>) => ({
    enrolmentId: ids.enrolmentOf.get(value.student)!,
    activityId: ids.activityOf.get(value.activity)!,
    submittedAt: toDate(value.submitted),
    gradedAt: toDate(value.graded),
    returnedAt: toDate(value.returned),
    points: value.points,
    excused: value.excused,
    ownDueAt: toDate(value.due),
    extraAttempts: value.extra,
  });
  let csv = '';
  for (const placed of added) {
    const r = row(placed);
    csv += copyLine([
      r.enrolmentId,
      r.activityId,
      r.submittedAt,
      r.gradedAt,
      r.returnedAt,
      r.points,
      r.excused,
      r.ownDueAt,
      r.extraAttempts,
    ]);
  }
  await access.copy(
    'scores',
    [
      'enrolment_id',
      'activity_id',
      'submitted_at',
      'graded_at',
      'returned_at',
      'points',
      'excused',
      'own_due_at',
      'extra_attempts',
    ],
    csv,
  );
  // What a file says stands, whatever statements said before.
  const said = changed.map((c) => ({ ...row(c), fromStatements: false }));
  await upsertMany(access, scores, [scores.enrolmentId, scores.activityId], said);
}

export const gradebookKind: IntakeKind<'gradebook'> = {
  keyOf: (g) => scoreKey(g.student, g.activity),
  schema: yup.object({
    student: textField(),
    activity: textField(),
    submitted: maybeNumber(),
    graded: maybeNumber(),
    returned: maybeNumber(),
    points: maybeNumber(),
    excused: yup.boolean().required(),
    // Records kept before these were known have neither.
    due: maybeNumber().default(null),
    extra: yup.number().required().default(0),
  }),
  stored: storedScores,
  plan: planGradebook,
  write: async (access, { course, ids }, changes) => {
    await writeScores(access, ids, changes.added, changes.changed);
    const graded = new Set(written(changes).map((g) => ids.enrolmentOf.get(g.student)!));
    if (graded.size > 0) await revise(access, course.row.id, [...graded]);
  },
  remove: async (access, { course, ids }, records) => {
    const cells = records.map((g) => ({
      enrolmentId: ids.enrolmentOf.get(g.student) ?? 0,
      activityId: ids.activityOf.get(g.activity) ?? 0,
    }));
    if (cells.length === 0) return 0;
    await deleteMany(access, scores, [scores.enrolmentId, scores.activityId], cells);
    await revise(access, course.row.id, [...new Set(cells.map((c) => c.enrolmentId))]);
    return 0;
  },
};
