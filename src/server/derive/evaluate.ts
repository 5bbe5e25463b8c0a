import { and, eq, isNull, or, sql, type SQL } from 'drizzle-orm';
import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { classMastery, type ClassMastery } from '@/core/outcomes/evidence';
import { crossings } from '@/core/flags/crossings';
import { isStale, staleDays } from '@/core/course/stale';
import { FLAGS_OF_EVENTS, timeWindows } from '@/core/flags/indicators';
import { stepFlags, type ClosedFlag, type OpenFlag } from '@/core/flags/flags';
import { measureClass } from '@/core/measures/measureClass';
import { subjectsAt } from '@/core/measures/subjects';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import { weeklyPicture } from '@/core/measures/weeks';
import type { ClassRecord } from '@/core/course/record';
import type { Steps } from '@/core/steps';
import type { Instant, LocalDate } from '@/core/units';
import { copyLine, copyLines, type Access } from '@/data/database';
import { classWeeks, courses, enrolments, flags, masteries, measures, studentWeeks } from '@/data/schema';
import { loadClassRecord } from '@/data/queries/classRecord';
import { unwatched, type Progress } from '../jobs/progress';
import { inTurns } from '../base/turns';
import type { CourseModel } from '@/data/queries/courseModel';
import { findItemNorms, readLearning, type NormRow } from '@/data/queries/learning';
import { storeItemNorms } from '@/data/write/itemNorms';
import { idsIn } from '@/data/queries/idsIn';
import { outcomeParts, storeMasteries, storePriors } from './masteries';
import { evaluateAgain, queuePlans, queueRules } from './outdated';
import { upsertMany } from '@/data/write/bulk';

/** Days before today that a first evaluation goes through, so that flags have a history from the start. */
const LOOK_BACK_DAYS = 21;

/** What an evaluation found, before it is stored. */
export interface Evaluated {
  readonly ids: readonly number[];
  readonly open: ReadonlyMap<number, readonly OpenFlag[]>;
  readonly closed: readonly { readonly student: number; readonly flag: ClosedFlag }[];
  readonly latest: ReadonlyMap<number, StudentMeasures>;
  readonly picture: ReturnType<typeof weeklyPicture> extends Steps<infer T> ? T : never;
  readonly learned: ClassMastery;
  readonly norms: readonly NormRow[];
  readonly asOf: Instant;
  readonly today: LocalDate;
}

/**
 * Evaluates the indicators of a course, once for every local day that has ended since the last evaluation and for today
 * as of `asOf`, and stores measures, flags with their history, weeks and mastery. Evaluating the same day again
 * replaces what it found.
 */
export async function evaluateCourse(access: Access, course: CourseModel, asOf: Instant): Promise<void> {
  const record = await loadClassRecord(access, course);
  await storeEvaluation(access, course, await findEvaluation(access, course, record, asOf));
}

/**
 * The same without storing it: reads only, so that nobody waits for it.
 *
 * @param record of the active students, as it shall be evaluated
 */
export async function findEvaluation(
  access: Access,
  course: CourseModel,
  record: ClassRecord,
  asOf: Instant,
  progress: Progress = unwatched,
): Promise<Evaluated> {
  const { orm } = access;
  const courseId = course.row.id;
  const { evaluatedOn } = course.row;
  const enrolled = await orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  const ids = enrolled.map((e) => e.id);
  const today = localDate(asOf, course.term.zone);

  const open = new Map<number, OpenFlag[]>();
  if (ids.length > 0 && evaluatedOn != null) {
    const rows = await orm.select().from(flags).where(unsettled(ids, evaluatedOn));
    for (const row of rows) open.set(row.enrolmentId, [...(open.get(row.enrolmentId) ?? []), row]);
  }
  const closed: { student: number; flag: ClosedFlag }[] = [];
  let latest = new Map<number, StudentMeasures>();
  const { indicators } = course.row;
  const windows = timeWindows(indicators);
  const wasStale = staleDays(record);
  const days = daysToEvaluate(course, evaluatedOn, today);
  for (const [i, day] of days.entries()) {
    await progress('Who needs somebody', i, days.length);
    const over = day !== today;
    const then = over ? startOfDay(addDays(day, 1), course.term.zone) - 1 : asOf;
    const stale = over ? wasStale(day) : isStale(course.row.dataUntil?.getTime() ?? null, asOf);
    latest = await inTurns(measureClass(record, windows, then));
    for (const [student, crossed] of crossings(subjectsAt(record, latest, windows, then), indicators)) {
      const step = stepFlags(open.get(student) ?? [], crossed, day, over, stale ? FLAGS_OF_EVENTS : []);
      open.set(student, step.open);
      for (const flag of step.closed) closed.push({ student, flag });
    }
  }
  // Who has left the course has no open flags.
  for (const student of [...open.keys()]) {
    if (latest.has(student)) continue;
    for (const flag of open.get(student)!) closed.push({ student, flag: { ...flag, closedOn: today } });
    open.delete(student);
  }
  const norms = await findItemNorms(access, courseId);
  const learning = await readLearning(access, courseId, norms);
  return {
    ids,
    open,
    closed,
    latest,
    picture: await inTurns(weeklyPicture(record, asOf)),
    learned: await inTurns(classMastery(record, outcomeParts(course), course.covers, learning, asOf)),
    norms,
    asOf,
    today,
  };
}

/**
 * Flags that an evaluation replaces: those that are open, and those that the last one closed on a day that was not over;
 * all of them if there was none.
 */
const unsettled = (ids: readonly number[], evaluatedOn: LocalDate | null) =>
  and(
    idsIn(flags.enrolmentId, ids),
    evaluatedOn == null ? undefined : or(isNull(flags.closedOn), eq(flags.closedOn, evaluatedOn)),
  );

/**
 * Has the next evaluation go through the past weeks again and put what it finds in the place of all flags. Until then
 * those that stand are shown.
 */
export async function startHistory({ orm }: Access, courseId: number): Promise<void> {
  await orm.update(courses).set({ evaluatedOn: null }).where(eq(courses.id, courseId));
}

/** The day of the last evaluation, if it is over by now, and the days since, always ending today. */
function daysToEvaluate(course: CourseModel, evaluatedOn: LocalDate | null, today: LocalDate): LocalDate[] {
  const earliest = addDays(today, -LOOK_BACK_DAYS);
  let from = evaluatedOn ?? course.term.start;
  if (from < earliest) from = earliest;
  const days: LocalDate[] = [];
  for (let day = from; day < today; day = addDays(day, 1)) days.push(day);
  return [...days, today];
}

/**
 * Puts the flags of an evaluation in the place of those it replaces. A flag that goes on keeps its row and its id: a
 * student has one of a kind that opened on a day.
 */
async function storeFlags(
  access: Access,
  replaced: SQL | undefined,
  open: Evaluated['open'],
  closed: Evaluated['closed'],
): Promise<void> {
  const { orm } = access;
  const row = (enrolmentId: number, flag: OpenFlag, closedOn: LocalDate | null) => {
    const { kind, level, openedOn, insideSince, insideBefore, detail } = flag;
    return { enrolmentId, kind, level, openedOn, insideSince, insideBefore, closedOn, detail };
  };
  const found = [
    ...[...open].flatMap(([student, list]) => list.map((flag) => row(student, flag, null))),
    ...closed.map(({ student, flag }) => row(student, flag, flag.closedOn)),
  ];
  const keyOf = (f: Pick<(typeof found)[number], 'enrolmentId' | 'kind' | 'openedOn'>) =>
    `${f.enrolmentId} ${f.kind} ${f.openedOn}`;
  const kept = new Set(found.map(keyOf));
  const stored = await orm.select().from(flags).where(replaced);
  const gone = stored.filter((f) => !kept.has(keyOf(f))).map((f) => f.id);
  if (gone.length > 0) await orm.delete(flags).where(idsIn(flags.id, gone));
  await upsertMany(access, flags, [flags.enrolmentId, flags.kind, flags.openedOn], found);
}

/** Stores what an evaluation found. To be run in a transaction that holds the course. */
export async function storeEvaluation(
  access: Access,
  course: CourseModel,
  { ids, open, closed, latest, picture, learned, norms, asOf, today }: Evaluated,
): Promise<void> {
  const { orm } = access;
  const courseId = course.row.id;
  if (ids.length > 0) {
    await storeFlags(access, unsettled(ids, course.row.evaluatedOn), open, closed);
    await orm.delete(measures).where(idsIn(measures.enrolmentId, ids));
    await orm.delete(studentWeeks).where(idsIn(studentWeeks.enrolmentId, ids));
    await orm.delete(masteries).where(idsIn(masteries.enrolmentId, ids));
  }
  await orm.delete(classWeeks).where(eq(classWeeks.courseId, courseId));

  await copyLines(
    access,
    'measures',
    ['enrolment_id', 'silence', 'standing', 'measures'],
    (function* () {
      for (const [student, measured] of latest) {
        const { rhythm, standing } = measured;
        yield copyLine([student, rhythm.silence, standing.standing, JSON.stringify(measured)]);
      }
    })(),
  );
  await copyLines(
    access,
    'student_weeks',
    ['enrolment_id', 'week', 'days', 'seconds', 'in_class_seconds', 'done', 'expected', 'standing'],
    (function* () {
      for (const w of picture.students)
        yield copyLine([
          w.student,
          w.week,
          w.days,
          w.seconds,
          w.inClassSeconds,
          w.done,
          w.expected,
          w.standing,
        ]);
    })(),
  );
  await copyLines(
    access,
    'class_weeks',
    ['course_id', 'week', 'median_seconds', 'standing_low', 'standing_median', 'standing_high'],
    (function* () {
      for (const { week, medianSeconds, standing } of picture.course)
        yield copyLine([
          courseId,
          week,
          medianSeconds,
          standing?.low ?? null,
          standing?.median ?? null,
          standing?.high ?? null,
        ]);
    })(),
  );
  await storeMasteries(access, learned.students);
  await storePriors(access, courseId, learned.priors);
  await storeItemNorms(access, courseId, norms);
  await orm
    .update(courses)
    .set({ evaluatedOn: today, evaluatedAt: new Date(asOf), evaluations: sql`${courses.evaluations} + 1` })
    .where(eq(courses.id, courseId));
  await evaluateAgain(access, course, asOf);
  await queueRules(access, courseId);
  await queuePlans(access, courseId);
}
