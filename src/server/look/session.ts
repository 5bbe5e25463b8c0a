import * as yup from 'yup';
import { SIGN_MINUTES, type CheckPeriod } from '@/core/activity/sessionCheck';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { MINUTE_MS, type Instant } from '@/core/units';
import type { ScopeView } from '@/core/views/scope';
import type { MeetingChoice, SessionView } from '@/core/views/session';
import { database } from '../base/database';
import type { CourseModel } from '@/data/queries/courseModel';
import { type AskedScope } from './scope';
import { requireCourse, type Viewer } from '../access/viewer';
import { saveViewSetting, viewSetting } from '../access/viewSettings';
import { checksOf } from './check';
import { openView } from './frame';
import { reportOf } from './report';

export interface AskedSession extends AskedScope {
  /** Minutes back from now. */
  readonly back?: number;
  /** Start of a meeting, as an instant. */
  readonly meeting?: number;
  readonly student?: number;
}

/** Where no section meets: the last day. */
const MOST_BACK = 24 * 60;

export const signMinutes = yup.number().integer().min(0).max(SIGN_MINUTES.most).required();
const sessionSettings = yup.object({ signMinutes });

/** What each student did in the period, and what one of them did in the days of the window. */
export async function sessionView(viewer: Viewer, code: string, asked: AskedSession): Promise<SessionView> {
  const { row, course, scope, people: everyone, frame, snapshot } = await openView(viewer, code, asked);
  const db = await database();
  const { meetings, meeting } = chosenMeeting(course, scope, asked);
  const back = meeting ? null : Math.min(MOST_BACK, Math.max(5, asked.back ?? MOST_BACK));
  const period: CheckPeriod = meeting
    ? {
        from: meeting.from,
        until: Math.min(meeting.until, scope.now),
        running: meeting.until > scope.now,
      }
    : { from: scope.now - back! * MINUTE_MS, until: scope.now, running: true };
  const people =
    meeting && scope.group === 'all' ? everyone.filter((p) => p.sectionId === meeting.sectionId) : everyone;
  const reported = everyone.find((p) => p.enrolmentId === asked.student);
  const checks = await checksOf(
    db,
    snapshot,
    people.map((p) => p.enrolmentId),
    period,
  );
  return {
    ...frame,
    ...period,
    back,
    meeting,
    meetings,
    signMinutes:
      (await viewSetting(viewer, row, 'session', sessionSettings))?.signMinutes ?? SIGN_MINUTES.usual,
    rows: people.map(({ enrolmentId, name, family, section }) => ({
      enrolmentId,
      name,
      family,
      section,
      ...checks.get(enrolmentId)!,
    })),
    report: reported ? await reportOf(snapshot, scope.window, reported) : null,
  };
}

/** Keeps how long before the end of a meeting the viewer wants a sign; 0 for none. */
export async function saveSignMinutes(viewer: Viewer, code: string, minutes: number): Promise<void> {
  await saveViewSetting(viewer, await requireCourse(viewer, 'look', code), 'session', {
    signMinutes: minutes,
  });
}

/** Meetings that have begun, the latest first. */
export function pastMeetings(course: CourseModel, now: Instant): MeetingChoice[] {
  return course.sections
    .flatMap((s) =>
      (course.meetingsOfSection.get(s.id) ?? []).map((m) => ({ section: s.name, sectionId: s.id, ...m })),
    )
    .filter((m) => m.from <= now)
    .sort((a, b) => b.from - a.from);
}

/**
 * The meetings of the window and the one that is meant: what is asked for, else the one that runs, else the last one of
 * the section looked at. A window without any offers the last one there was. None where minutes back are asked for.
 */
function chosenMeeting(
  course: CourseModel,
  { window, now, group, zone }: ScopeView,
  asked: AskedSession,
): { readonly meetings: MeetingChoice[]; readonly meeting: MeetingChoice | null } {
  const all = pastMeetings(course, now).filter((m) => typeof group !== 'number' || m.sectionId === group);
  const from = startOfDay(window.from, zone);
  const until = startOfDay(addDays(window.to, 1), zone);
  const within = all.filter((m) => m.from >= from && m.from < until);
  const meetings = within.length > 0 ? within : all.slice(0, 1);
  if (asked.meeting == null && asked.back != null) return { meetings, meeting: null };
  const running = meetings.find((m) => m.until > now);
  const meeting = all.find((m) => m.from === asked.meeting) ?? running ?? meetings[0] ?? null;
  return { meetings: meeting && !meetings.includes(meeting) ? [meeting, ...meetings] : meetings, meeting };
}
