import { and, asc, eq, gte, lt, lte, sql } from 'drizzle-orm';
import { checkStudent, piecesAllowed, type CheckEvent } from '@/core/activity/sessionCheck';
import { addDays, weekday } from '@/core/calendar/zone';
import { isResource } from '@/core/course/kinds';
import { MINUTE_MS } from '@/core/units';
import type { RosterEntry } from '@/core/views/rosterEntry';
import type { ScopeView } from '@/core/views/scope';
import {
  REPORT_SPANS,
  type CheckRow,
  type MeetingChoice,
  type Report,
  type ReportSpan,
  type SessionView,
} from '@/core/views/session';
import type { Access } from '@/data/database';
import { activityDays, seenEvents } from '@/data/schema';
import { database } from '../base/database';
import type { CourseModel } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { openView } from './frame';

export interface AskedSession extends AskedScope {
  /** Minutes back from now. */
  readonly back?: number;
  /** Start of a meeting, as an instant. */
  readonly meeting?: number;
  readonly student?: number;
  readonly span?: string;
}

const USUAL_BACK = 60;
const JUST_AFTER_MS = 30 * MINUTE_MS;
const MOST_BACK = 24 * 60;
/** Meetings offered: those of the days just gone. */
const MEETINGS_OFFERED = 8;

/** What each student has worked on in the period, and what one of them did by day, week or month. */
export async function sessionView(viewer: Viewer, code: string, asked: AskedSession): Promise<SessionView> {
  const { course, scope, people: everyone, frame } = await openView(viewer, code, asked);
  const db = await database();
  const meetings = recentMeetings(course, scope.now);
  // In class, or just after it, the check is about that class unless something else is asked for.
  const current = meetings[0] && scope.now - meetings[0].until < JUST_AFTER_MS ? meetings[0] : undefined;
  const meeting =
    meetings.find((m) => m.from === asked.meeting) ??
    (asked.meeting == null && asked.back == null ? current : undefined);
  const back = meeting ? null : Math.min(MOST_BACK, Math.max(5, asked.back ?? USUAL_BACK));
  const from = meeting ? meeting.from : scope.now - back! * MINUTE_MS;
  const until = meeting ? Math.min(meeting.until, scope.now) : scope.now;
  const people =
    meeting && scope.group === 'all' ? everyone.filter((p) => p.sectionId === meeting.sectionId) : everyone;
  const reported = everyone.find((p) => p.enrolmentId === asked.student);
  return {
    ...frame,
    from,
    until,
    back,
    meetings,
    rows: await checkRows(db, course, people, from, until),
    report: reported
      ? await reportOf(db, course, scope, reported, REPORT_SPANS.find((s) => s === asked.span) ?? 'week')
      : null,
  };
}

/** Meetings that have begun, the latest first. */
function recentMeetings(course: CourseModel, now: number): MeetingChoice[] {
  return course.sections
    .flatMap((s) =>
      (course.meetingsOfSection.get(s.id) ?? []).map((m) => ({ section: s.name, sectionId: s.id, ...m })),
    )
    .filter((m) => m.from <= now)
    .sort((a, b) => b.from - a.from)
    .slice(0, MEETINGS_OFFERED);
}

async function checkRows(
  { orm }: Access,
  course: CourseModel,
  people: readonly RosterEntry[],
  from: number,
  until: number,
): Promise<CheckRow[]> {
  const ids = people.map((p) => p.enrolmentId);
  if (ids.length === 0) return [];
  const rows = await orm
    .select({
      id: seenEvents.enrolmentId,
      // As a number at once: thousands of dates are slow to make.
      at: sql<number>`extract(epoch from ${seenEvents.at}) * 1000`.mapWith(Number),
      kind: seenEvents.kind,
      activityId: seenEvents.activityId,
      durationS: seenEvents.durationS,
    })
    .from(seenEvents)
    .where(
      and(
        idsIn(seenEvents.enrolmentId, ids),
        gte(seenEvents.at, new Date(from)),
        // The end belongs to the period: what is recorded this very second counts.
        lte(seenEvents.at, new Date(until)),
      ),
    )
    .orderBy(asc(seenEvents.enrolmentId), asc(seenEvents.at));
  const own = new Map<number, CheckEvent[]>(ids.map((id) => [id, []]));
  for (const r of rows)
    own.get(r.id)!.push({
      at: r.at,
      kind: r.kind,
      activity: r.activityId,
      duration: r.durationS,
    });
  const activityOf = new Map(course.activities.map((a) => [a.id, a]));
  const isWork = (id: number) => {
    const activity = activityOf.get(id);
    return activity != null && !isResource(activity.kind);
  };
  const period = (until - from) / MINUTE_MS;
  return people.map((p) => {
    const found = checkStudent(own.get(p.enrolmentId)!, until, course.row.sessionGapMinutes, isWork);
    const pieces = found.pieces.map(({ activity, ...piece }) => ({
      ...piece,
      activityId: activity,
      title: activityOf.get(activity)?.title ?? 'no longer in the course',
      estimated: activityOf.get(activity)?.minutes ?? null,
    }));
    const known = pieces.flatMap((x) => (x.estimated == null ? [] : [x.estimated]));
    return {
      enrolmentId: p.enrolmentId,
      name: p.name,
      family: p.family,
      section: p.section,
      state: found.state,
      loggedIn: found.loggedIn,
      minutes: found.minutes,
      last: found.last,
      pieces,
      advanced: pieces.filter((x) => x.advance !== 'opened').length,
      allowed: piecesAllowed(
        period,
        known.length > 0 ? known.reduce((a, b) => a + b, 0) / known.length : null,
      ),
    };
  });
}

/** Days of a report: the day, the week or the month that ends with the window. */
function reportDays(span: ReportSpan, on: string): { from: string; to: string } {
  if (span === 'day') return { from: on, to: on };
  if (span === 'week') {
    const from = addDays(on, 1 - weekday(on));
    return { from, to: addDays(from, 6) };
  }
  const from = `${on.slice(0, 7)}-01`;
  const next = addDays(from, 31);
  return { from, to: addDays(`${next.slice(0, 7)}-01`, -1) };
}

async function reportOf(
  { orm }: Access,
  course: CourseModel,
  scope: ScopeView,
  person: RosterEntry,
  span: ReportSpan,
): Promise<Report> {
  const days = reportDays(span, scope.window.to);
  const rows = await orm
    .select()
    .from(activityDays)
    .where(
      and(
        eq(activityDays.enrolmentId, person.enrolmentId),
        gte(activityDays.day, days.from),
        lt(activityDays.day, addDays(days.to, 1)),
      ),
    )
    .orderBy(asc(activityDays.day));
  const titles = new Map(course.activities.map((a) => [a.id, a.title]));
  return {
    enrolmentId: person.enrolmentId,
    name: person.name,
    span,
    ...days,
    lines: rows.map((r) => ({
      day: r.day,
      activityId: r.activityId,
      title: titles.get(r.activityId) ?? 'no longer in the course',
      minutes: r.seconds / 60,
      inClass: r.inClassSeconds / 60,
      views: r.views,
      contributions: r.contributions,
    })),
  };
}
