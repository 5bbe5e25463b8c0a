import { and, eq, inArray, isNull } from 'drizzle-orm';
import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { classMastery } from '@/core/outcomes/evidence';
import { crossings } from '@/core/risk/crossings';
import { stepFlags, type ClosedFlag, type OpenFlag } from '@/core/risk/flags';
import { measureClass } from '@/core/risk/measureClass';
import type { StudentMeasures } from '@/core/risk/measures';
import { weeklyPicture } from '@/core/risk/weeks';
import type { Instant, LocalDate } from '@/core/units';
import { copyLine, type Access } from '@/data/database';
import { classWeeks, courses, enrolments, flags, masteries, measures, studentWeeks } from '@/data/schema';
import { loadClassRecord } from './classRecord';
import { unwatched, type Progress } from '../jobs';
import { inTurns } from '../turns';
import type { CourseModel } from './courseModel';

/** Days before today that a first evaluation goes through, so that flags have a history from the start. */
const LOOK_BACK_DAYS = 21;

/**
 * Evaluates the indicators of a course, once for every local day since the last evaluation and for today as of
 * `asOf`, and stores measures, flags with their history, weeks and mastery. Evaluating the same day again replaces
 * what it found.
 */
export async function evaluateCourse(
  access: Access,
  course: CourseModel,
  asOf: Instant,
  progress: Progress = unwatched,
): Promise<void> {
  const { orm } = access;
  const courseId = course.row.id;
  const record = await loadClassRecord(access, course);
  const enrolled = await orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  const ids = enrolled.map((e) => e.id);
  const today = localDate(asOf, course.term.zone);

  const open = new Map<number, OpenFlag[]>();
  if (ids.length > 0) {
    const rows = await orm
      .select()
      .from(flags)
      .where(and(inArray(flags.enrolmentId, ids), isNull(flags.closedOn)));
    for (const row of rows) open.set(row.enrolmentId, [...(open.get(row.enrolmentId) ?? []), row]);
  }
  const closed: { student: number; flag: ClosedFlag }[] = [];
  let latest = new Map<number, StudentMeasures>();
  const days = daysToEvaluate(course, today);
  for (const [i, day] of days.entries()) {
    await progress('Who needs somebody', i, days.length);
    const then = day === today ? asOf : startOfDay(addDays(day, 1), course.term.zone) - 1;
    latest = await inTurns(measureClass(record, course.row.indicators, then));
    for (const [student, measured] of latest) {
      const step = stepFlags(open.get(student) ?? [], crossings(measured, course.row.indicators), day);
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
  await store(access, course, record, ids, { open, closed, latest, asOf, today });
}

/** Forgets what was evaluated, so that the next evaluation goes through the past weeks again. */
export async function startHistory({ orm }: Access, courseId: number): Promise<void> {
  const own = orm.select({ id: enrolments.id }).from(enrolments).where(eq(enrolments.courseId, courseId));
  await orm.delete(flags).where(inArray(flags.enrolmentId, own));
  await orm.update(courses).set({ evaluatedOn: null, evaluatedAt: null }).where(eq(courses.id, courseId));
}

/** Days since the last evaluation, oldest first, always ending today. */
function daysToEvaluate(course: CourseModel, today: LocalDate): LocalDate[] {
  const { evaluatedOn } = course.row;
  const earliest = addDays(today, -LOOK_BACK_DAYS);
  let from = evaluatedOn ? addDays(evaluatedOn, 1) : course.term.start;
  if (from < earliest) from = earliest;
  const days: LocalDate[] = [];
  for (let day = from; day < today; day = addDays(day, 1)) days.push(day);
  return [...days, today];
}

interface Evaluated {
  readonly open: ReadonlyMap<number, readonly OpenFlag[]>;
  readonly closed: readonly { student: number; flag: ClosedFlag }[];
  readonly latest: ReadonlyMap<number, StudentMeasures>;
  readonly asOf: Instant;
  readonly today: LocalDate;
}

async function store(
  access: Access,
  course: CourseModel,
  record: Awaited<ReturnType<typeof loadClassRecord>>,
  ids: readonly number[],
  { open, closed, latest, asOf, today }: Evaluated,
): Promise<void> {
  const { orm } = access;
  const courseId = course.row.id;
  const outcomes = course.outcomes.map((o) => String(o.id));
  const picture = await inTurns(weeklyPicture(record, asOf));
  const learned = await inTurns(classMastery(record, outcomes, course.covers, asOf));
  if (ids.length > 0) {
    const all = [...ids];
    await orm.delete(flags).where(and(inArray(flags.enrolmentId, all), isNull(flags.closedOn)));
    await orm.delete(measures).where(inArray(measures.enrolmentId, all));
    await orm.delete(studentWeeks).where(inArray(studentWeeks.enrolmentId, all));
    await orm.delete(masteries).where(inArray(masteries.enrolmentId, all));
  }
  await orm.delete(classWeeks).where(eq(classWeeks.courseId, courseId));

  const flagLine = (student: number, flag: OpenFlag, closedOn: LocalDate | null) =>
    copyLine([
      student,
      flag.kind,
      flag.level,
      flag.openedOn,
      flag.insideSince,
      closedOn,
      JSON.stringify(flag.detail),
    ]);
  let csv = '';
  for (const [student, list] of open) for (const flag of list) csv += flagLine(student, flag, null);
  for (const { student, flag } of closed) csv += flagLine(student, flag, flag.closedOn);
  await access.copy(
    'flags',
    ['enrolment_id', 'kind', 'level', 'opened_on', 'inside_since', 'closed_on', 'detail'],
    csv,
  );
  csv = '';
  for (const [student, measured] of latest) {
    const { rhythm, standing } = measured;
    csv += copyLine([student, rhythm.silence, standing.standing, JSON.stringify(measured)]);
  }
  await access.copy('measures', ['enrolment_id', 'silence', 'standing', 'measures'], csv);
  csv = '';
  for (const w of picture.students) {
    csv += copyLine([w.student, w.week, w.days, w.seconds, w.inClassSeconds, w.done, w.expected, w.standing]);
  }
  await access.copy(
    'student_weeks',
    ['enrolment_id', 'week', 'days', 'seconds', 'in_class_seconds', 'done', 'expected', 'standing'],
    csv,
  );
  csv = '';
  for (const w of picture.course) {
    const { standing } = w;
    csv += copyLine([
      courseId,
      w.week,
      w.medianSeconds,
      standing?.low ?? null,
      standing?.median ?? null,
      standing?.high ?? null,
    ]);
  }
  await access.copy(
    'class_weeks',
    ['course_id', 'week', 'median_seconds', 'standing_low', 'standing_median', 'standing_high'],
    csv,
  );
  csv = '';
  for (const [student, byOutcome] of learned) {
    for (const [outcome, m] of byOutcome) {
      csv += copyLine([student, Number(outcome), m.mean, m.low, m.high, m.effective, m.level]);
    }
  }
  await access.copy(
    'masteries',
    ['enrolment_id', 'outcome_id', 'mean', 'low', 'high', 'effective', 'level'],
    csv,
  );
  await orm
    .update(courses)
    .set({ evaluatedOn: today, evaluatedAt: new Date(asOf) })
    .where(eq(courses.id, courseId));
}
