import { and, eq, isNull } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { comparePriority } from '@/core/flags/priority';
import { isAnswered, returnsOn } from '@/core/acts/rounds';
import type { LocalDate } from '@/core/units';
import { enrolments, flags } from '@/data/schema';
import { studentBrief } from './brief';
import { now } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { latestAnswers, roundPosition } from '@/data/queries/acts';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import {
  isRoundFilter,
  ROUND_FILTERS,
  type QueueRow,
  type RoundFilter,
  type RoundsView,
} from '@/core/views/rounds';
import { type Audience, meantBy, byName } from '@/core/people/audience';
import { openReasons } from '../snapshot/reasons';
import { openView, type Opened } from './frame';

/**
 * The rounds of a course: the queue in order of priority, filtered, with the brief of the student the viewer is at.
 * What the address does not say is taken from where the viewer left off.
 */
export async function roundsView(
  viewer: Viewer,
  code: string,
  asked: { filter?: string; student?: number; scope?: AskedScope },
): Promise<RoundsView> {
  const opened = await openView(viewer, code, asked.scope ?? {}, { evaluated: true });
  const { row: course, snapshot, scope, frame } = opened;
  const { today } = scope;
  const { everyone, lastRound } = await allRows(opened);
  const queue = everyone.filter((r) => r.level !== 'steady' && !answered(r, today));
  const position = await roundPosition(await database(), viewer.userId, course.id);
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
    ...frame,
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
    brief: selected == null ? null : await studentBrief(snapshot, selected),
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
  const flagged: Audience = { condition: { measure: 'flag', flag: filter, is: '>=', than: 1 } };
  return meantBy(flagged, queue, (r) => ({
    ...byName(r),
    flag: (kind) => r.reasons.find((reason) => reason.kind === kind)?.level ?? null,
  }));
}

/** The given students in order of priority, and the day of the last round before today. */
async function allRows({ row: course, snapshot, people, scope: { today } }: Opened) {
  const reasons = await openReasons(snapshot);
  const marks = await latestAnswers(await database(), course.id, today);
  const measured = await snapshot.measures();
  const lastRound =
    [...marks.values()]
      .map((m) => m.on)
      .filter((on) => on < today)
      .sort()
      .at(-1) ?? null;
  const since = lastRound ?? addDays(today, -7);
  const rows = people.map((person) => {
    const list = reasons.get(person.enrolmentId) ?? [];
    const m = measured.get(person.enrolmentId);
    const row: QueueRow = {
      enrolmentId: person.enrolmentId,
      name: person.name,
      section: person.section,
      level: list.some((r) => r.level === 'act') ? 'act' : list.length > 0 ? 'watch' : 'steady',
      reasons: list,
      isNew: list.some((r) => r.openedOn > since),
      standing: m?.standing.standing ?? null,
      mark: marks.get(person.enrolmentId) ?? null,
    };
    return {
      row,
      key: { name: row.name, flags: list, silence: m?.rhythm.silence ?? 0, standing: row.standing },
    };
  });
  rows.sort((a, b) => comparePriority(a.key, b.key));
  return { everyone: rows.map((r) => r.row), lastRound };
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
  const marks = await latestAnswers(await database(), course.id, today);
  const byStudent = new Map<number, typeof open>();
  for (const flag of open) byStudent.set(flag.id, [...(byStudent.get(flag.id) ?? []), flag]);
  return [...byStudent].filter(([id, list]) => !isAnswered(marks.get(id) ?? null, list, today)).length;
}
