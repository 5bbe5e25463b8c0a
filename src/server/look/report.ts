import { sumDays } from '@/core/activity/dayFigures';
import { dayOfNumber, eachWorkDay } from '@/core/activity/workDays';
import type { DaySpan } from '@/core/calendar/window';
import type { RosterEntry } from '@/core/views/rosterEntry';
import type { Report, ReportLine } from '@/core/views/session';
import type { Snapshot } from '../snapshot/snapshot';

/** What one student did in some days, activity by activity. */
export async function reportOf(
  snapshot: Snapshot,
  window: DaySpan,
  { enrolmentId, name }: Pick<RosterEntry, 'enrolmentId' | 'name'>,
): Promise<Report> {
  const titles = new Map((await snapshot.model()).activities.map((a) => [a.id, a.title]));
  const own = (await snapshot.workDays()).get(enrolmentId);
  const sum = sumDays((await snapshot.days()).get(enrolmentId) ?? [], window);
  const lines: ReportLine[] = [];
  eachWorkDay(own, window, (i) => {
    const activityId = own!.activity[i]!;
    lines.push({
      day: dayOfNumber(own!.day[i]!),
      activityId,
      title: titles.get(activityId) ?? 'no longer in the course',
      minutes: own!.seconds[i]! / 60,
      inClass: own!.inClassSeconds[i]! / 60,
      views: own!.views[i]!,
      contributions: own!.contributions[i]!,
    });
  });
  lines.sort((a, b) => a.day.localeCompare(b.day) || a.activityId - b.activityId);
  return {
    enrolmentId,
    name,
    minutes: sum.seconds / 60,
    inClass: sum.inClassSeconds / 60,
    days: sum.days,
    lines,
    elsewhere: Math.max(0, sum.seconds / 60 - lines.reduce((total, l) => total + l.minutes, 0)),
  };
}
