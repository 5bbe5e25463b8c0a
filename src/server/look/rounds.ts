import { and, eq, isNull } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { type FlagKind } from '@/core/flags/indicators';
import { comparePriority } from '@/core/flags/priority';
import { isAnswered, returnsOn } from '@/core/flags/rounds';
import type { LocalDate } from '@/core/units';
import { enrolments, flags, measures } from '@/data/schema';
import { studentBrief } from './brief';
import { now } from '../base/clock';
import { courseHead } from './courseHead';
import { database } from '../base/database';
import type { CourseRow } from '../snapshot/courseModel';
import { ensureEvaluated } from '../derive/evaluation';
import { activityTitles, openReasons } from './flags';
import { latestMarks, roundPosition } from '../act/marks';
import { termRibbon } from './ribbon';
import { peopleOf, scopeOf, type AskedScope } from './scope';
import { tray } from '../act/tray';
import { requireTaught, type Viewer } from '../access/viewer';
import type { RosterEntry } from '@/core/views/rosterEntry';
import {
  isRoundFilter,
  ROUND_FILTERS,
  type QueueRow,
  type RoundFilter,
  type RoundsView,
} from '@/core/views/rounds';

/**
 * The rounds of a course: the queue in order of priority, filtered, with the brief of the student the viewer is at.
 * What the address does not say is taken from where the viewer left off.
 */
export async function roundsView(
  viewer: Viewer,
  code: string,
  asked: { filter?: string; student?: number; scope?: AskedScope },
): Promise<RoundsView> {
  const course = await ensureEvaluated(await requireTaught(viewer, code));
  const today = localDate(now(), course.zone);
  const scope = await scopeOf(viewer, course, asked.scope ?? {});
  const people = await peopleOf(viewer, course, scope);
  const { everyone, lastRound, titleOf } = await allRows(course, today, people);
  const queue = everyone.filter((r) => r.level !== 'steady' && !answered(r, today));
  const position = await roundPosition(viewer, course);
  const wanted = asked.filter ?? (asked.student == null ? position?.filter : undefined) ?? 'all';
  const filter: RoundFilter = isRoundFilter(wanted) ? wanted : 'all';
  const rows = filtered(filter, everyone, queue, today);
  const wantedStudent = asked.student ?? position?.enrolmentId ?? null;
  const selected =
    rows.find((r) => r.enrolmentId === wantedStudent)?.enrolmentId ??
    (asked.student != null && everyone.some((r) => r.enrolmentId === asked.student) ? asked.student : null) ??
    rows[0]?.enrolmentId ??
    null;
  const returns = everyone.flatMap((r) => (r.mark && answered(r, today) ? [returnsOn(r.mark)] : [])).sort();
  return {
    course: courseHead(course),
    scope,
    today,
    students: everyone.length,
    counts: Object.fromEntries(
      ROUND_FILTERS.map((f) => [f, filtered(f, everyone, queue, today).length]),
    ) as Record<RoundFilter, number>,
    newOnes: queue.filter((r) => r.isNew).length,
    lastRound,
    filter,
    rows,
    selected,
    isKept: position?.enrolmentId === selected && position.filter === filter,
    brief: selected == null ? null : await studentBrief(course, selected, titleOf),
    tray: await tray(viewer, course),
    ribbon: await termRibbon(course),
    nextReturn: returns[0] ?? null,
  };
}

const answered = (row: QueueRow, today: LocalDate) =>
  row.level !== 'steady' && isAnswered(row.mark, row.reasons, today);

function filtered(
  filter: RoundFilter,
  everyone: readonly QueueRow[],
  queue: readonly QueueRow[],
  today: LocalDate,
): readonly QueueRow[] {
  if (filter === 'all') return queue;
  if (filter === 'everyone') return everyone;
  if (filter === 'answered') return everyone.filter((r) => answered(r, today));
  const kind: FlagKind = filter;
  return queue.filter((r) => r.reasons.some((reason) => reason.kind === kind));
}

/** The given students in order of priority, and the day of the last round before today. */
async function allRows(course: CourseRow, today: LocalDate, people: readonly RosterEntry[]) {
  const { orm } = await database();
  const titleOf = await activityTitles(course.id);
  const reasons = await openReasons(course.id, titleOf);
  const marks = await latestMarks(course, today);
  const measured = await orm
    .select({ id: measures.enrolmentId, silence: measures.silence, standing: measures.standing })
    .from(measures)
    .innerJoin(enrolments, eq(enrolments.id, measures.enrolmentId))
    .where(eq(enrolments.courseId, course.id));
  const measuredOf = new Map(measured.map((m) => [m.id, m]));
  const lastRound =
    [...marks.values()]
      .map((m) => m.on)
      .filter((on) => on < today)
      .sort()
      .at(-1) ?? null;
  const since = lastRound ?? addDays(today, -7);
  const rows = people.map((person) => {
    const list = reasons.get(person.enrolmentId) ?? [];
    const m = measuredOf.get(person.enrolmentId);
    const row: QueueRow = {
      enrolmentId: person.enrolmentId,
      name: person.name,
      section: person.section,
      level: list.some((r) => r.level === 'act') ? 'act' : list.length > 0 ? 'watch' : 'steady',
      reasons: list,
      isNew: list.some((r) => r.openedOn > since),
      standing: m?.standing ?? null,
      mark: marks.get(person.enrolmentId) ?? null,
    };
    return { row, key: { name: row.name, flags: list, silence: m?.silence ?? 0, standing: row.standing } };
  });
  rows.sort((a, b) => comparePriority(a.key, b.key));
  return { everyone: rows.map((r) => r.row), lastRound, titleOf };
}

/** How many students wait in the rounds of a course, for the rail: flags and marks are enough to tell. */
export async function waitingCount(course: CourseRow): Promise<number> {
  const { orm } = await database();
  const today = localDate(now(), course.zone);
  const open = await orm
    .select({ id: flags.enrolmentId, kind: flags.kind, level: flags.level })
    .from(flags)
    .innerJoin(enrolments, eq(enrolments.id, flags.enrolmentId))
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.status, 'active'), isNull(flags.closedOn)));
  const marks = await latestMarks(course, today);
  const byStudent = new Map<number, typeof open>();
  for (const flag of open) byStudent.set(flag.id, [...(byStudent.get(flag.id) ?? []), flag]);
  return [...byStudent].filter(([id, list]) => !isAnswered(marks.get(id) ?? null, list, today)).length;
}
