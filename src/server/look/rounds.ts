import { and, eq, isNull } from 'drizzle-orm';
import { isInTerm } from '@/core/calendar/term';
import { addDays, localDate } from '@/core/calendar/zone';
import { isStale, staleText } from '@/core/course/stale';
import { comparePriority } from '@/core/flags/priority';
import { isAnswered, returnsOn } from '@/core/acts/rounds';
import type { LocalDate } from '@/core/units';
import { enrolments, flags } from '@/data/schema';
import { studentBrief } from './brief';
import { now } from '../base/clock';
import { database } from '../base/database';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import { latestAnswers, roundPosition } from '@/data/queries/acts';
import { type AskedScope } from './scope';
import { mayIn, type Viewer } from '../access/viewer';
import {
  isRoundFilter,
  ROUND_FILTERS,
  type QueueRow,
  type RoundFilter,
  type RoundsView,
} from '@/core/views/rounds';
import { type Audience, meantBy, byName } from '@/core/people/audience';
import { groupName } from '@/core/views/scope';
import { openReasons } from '../snapshot/reasons';
import { roster } from '../snapshot/roster';
import { cutTo } from '@/core/weekly/shortOfTime';
import { feedNotices } from '../feeds/view';
import { dueActs, dueFollowUps } from '../follow/followUps';
import { occasionsOf } from '@/data/queries/rules';
import { openView, type Opened } from './frame';
import { openWords } from './words';

/** Follow-ups that are looked into at once; more of them are counted. */
const MOST_FOLLOW_UPS = 6;

/**
 * The rounds of a course: the queue in order of priority, filtered, with the brief of the student the viewer is at. The
 * student is the one at whom the viewer left off; a filter or a group only what the address says, so that nobody who
 * needs something is hidden by what was looked at another day.
 */
export async function roundsView(
  viewer: Viewer,
  code: string,
  asked: { filter?: string; student?: number; minutes?: number; scope?: AskedScope },
): Promise<RoundsView> {
  const opened = await openView(
    viewer,
    code,
    { ...asked.scope, g: asked.scope?.g ?? 'all' },
    { evaluated: true },
  );
  const { row: course, snapshot, scope, frame, people } = opened;
  const { today } = scope;
  const all = await allRows(opened);
  const { lastRound } = all;
  const shown = new Set(people.map((p) => p.enrolmentId));
  const everyone = all.everyone.filter((r) => shown.has(r.enrolmentId));
  const waits = (r: QueueRow) => r.level !== 'steady' && !answered(r, today);
  const queue = everyone.filter(waits);
  const position = await roundPosition(await database(), viewer.userId, course.id);
  // Of what was kept only the filter that hides nobody holds.
  const kept = asked.student == null && position?.filter === 'everyone' ? 'everyone' : 'all';
  const filter: RoundFilter = asked.filter != null && isRoundFilter(asked.filter) ? asked.filter : kept;
  const rows = filtered(filter, everyone, queue, today);
  const wantedStudent = asked.student ?? position?.enrolmentId ?? null;
  const selected =
    rows.find((r) => r.enrolmentId === wantedStudent)?.enrolmentId ??
    (asked.student != null && everyone.some((r) => r.enrolmentId === asked.student) ? asked.student : null) ??
    rows[0]?.enrolmentId ??
    null;
  // What rules ask is for who acts on it.
  const mayAct = await mayIn(viewer, 'act', course.id);
  const returns = everyone.flatMap((r) => (r.mark && answered(r, today) ? [returnsOn(r.mark)] : [])).sort();
  return {
    ...frame,
    today,
    students: everyone.length,
    counts: Object.fromEntries(
      ROUND_FILTERS.map((f) => [f, filtered(f, everyone, queue, today).length]),
    ) as Record<RoundFilter, number>,
    elsewhere: all.everyone.filter((r) => !shown.has(r.enrolmentId) && waits(r)).length,
    stale: staleOf(course),
    group: groupName(scope),
    newOnes: queue.filter((r) => r.isNew).length,
    lastRound,
    filter,
    rows,
    selected,
    isKept: position?.enrolmentId === selected && position.filter === filter,
    followUps: await dueFollowUps(snapshot, viewer.userId, shown, MOST_FOLLOW_UPS),
    words: mayAct ? await openWords(await database(), course) : [],
    waitingForYes: mayAct ? (await occasionsOf(await database(), course.id, ['waiting'])).length : 0,
    feeds: (await mayIn(viewer, 'import', course.id)) ? await feedNotices(await database(), course) : [],
    short: asked.minutes == null ? null : await shortOf(opened, asked.minutes, queue, shown),
    brief: selected == null ? null : await studentBrief(snapshot, selected),
    nextReturn: returns[0] ?? null,
  };
}

/** Since when nothing has come, if that is too long for flags about logins and time; outside the term nothing has to. */
function staleOf(course: CourseRow): string | null {
  const until = course.dataUntil?.getTime() ?? null;
  return isInTerm(termOf(course), now()) && isStale(until, now()) ? staleText(until, course.zone) : null;
}

/** The most minutes that somebody says they have. */
const MOST_MINUTES = 120;

/** What fits into the minutes there are, and until when the others can wait. */
async function shortOf(
  { course, row, people, scope: { now: at } }: Opened,
  asked: number,
  queue: readonly QueueRow[],
  shown: ReadonlySet<number>,
): Promise<RoundsView['short']> {
  const minutes = Math.min(MOST_MINUTES, Math.max(1, asked));
  const sectionOf = new Map(people.map((p) => [p.enrolmentId, p.sectionId]));
  const meets = new Map(
    course.sections.map((s) => {
      const next = (course.meetingsOfSection.get(s.id) ?? []).find((m) => m.from > at);
      return [s.id, next ? localDate(next.from, row.zone) : null];
    }),
  );
  const due = await dueActs(row, shown);
  const cut = cutTo(
    minutes,
    queue.map((r) => ({
      id: r.enrolmentId,
      flags: r.reasons,
      isNew: r.isNew,
      meets: meets.get(sectionOf.get(r.enrolmentId) ?? -1) ?? null,
    })),
    due,
  );
  const named = new Set(cut.now.flatMap((t) => t.ids));
  return { asked: minutes, ...cut, rows: queue.filter((r) => named.has(r.enrolmentId)), followUps: due };
}

export const answered = (row: QueueRow, today: LocalDate) =>
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

/** The active students of a course in order of priority, and the day of the last round before today. */
export async function allRows({ row: course, snapshot, scope: { today } }: Opened) {
  const people = (await roster(course.id)).filter((p) => p.status === 'active');
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
