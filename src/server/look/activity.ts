import * as yup from 'yup';
import { hoursOfWeek } from '@/core/activity/heat';
import type { DaySpan } from '@/core/calendar/window';
import { weekOf } from '@/core/calendar/term';
import { MEASURES, measureOf } from '@/core/measures/registry';
import { judge } from '@/core/rules/condition';
import { activityShows } from '@/core/tables/activityShow';
import { ACTIVITY_SHOWS } from '@/core/views/activity';
import { summarise } from '@/core/gradebook/distribution';
import type { Percent } from '@/core/units';
import {
  ACTIVITY_COLUMNS,
  ACTIVITY_TABS,
  type ActivityColumn,
  type ActivityRow,
  type ActivityView,
  type ClassFigures,
  type EffortRow,
  type ResourceRow,
} from '@/core/views/activity';
import type { RosterEntry } from '@/core/views/rosterEntry';
import type { Scope } from '@/core/views/scope';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import { type Snapshot } from '../snapshot/snapshot';
import { instants, subjectsOf } from '../snapshot/subjects';
import { mapKeys } from '@/core/mapKeys';
import { fullName } from '../snapshot/roster';
import { type AskedScope } from './scope';
import { requireCourse, type Viewer } from '../access/viewer';
import { saveViewSetting, viewSetting } from '../access/viewSettings';
import { weekFinder, weeksOf } from '@/core/activity/dayFigures';
import { dayNumber, eachWorkDay } from '@/core/activity/workDays';
import { openView } from './frame';

/** Which columns somebody wants, in their order. */
export const activityColumns = yup
  .array(
    yup
      .string()
      .oneOf([...ACTIVITY_COLUMNS])
      .required(),
  )
  .min(1, 'Keep at least one column.')
  .max(ACTIVITY_COLUMNS.length)
  .required();
const columnSettings = yup.object({ columns: activityColumns });
const USUAL_COLUMNS: readonly ActivityColumn[] = [
  'days',
  'minutes',
  'minutesBefore',
  'inClass',
  'contributions',
  'opened',
  'silence',
  'usualGap',
  'last',
];

/** What the students of a scope did in its window. Only what the tab needs is computed. */
export async function activityView(
  viewer: Viewer,
  code: string,
  asked: AskedScope & { readonly tab?: string },
): Promise<ActivityView> {
  const opened = await openView(viewer, code, asked, { evaluated: true });
  const { row: course, snapshot, scope, people, frame } = opened;
  const tab = ACTIVITY_TABS.find((t) => t === asked.tab) ?? 'people';
  const columns = await viewSetting(viewer, course, 'activity', columnSettings);
  return {
    ...frame,
    tab,
    people: await activityRows(snapshot, course, scope, people, tab === 'people'),
    figures: tab === 'class' ? await classFigures(snapshot, course, scope, people) : null,
    resources: tab === 'resources' ? await resourceRows(snapshot, scope, people) : null,
    effort: tab === 'effort' ? await effortRows(snapshot, scope, people) : null,
    columns: columns && columns.columns.length > 0 ? columns.columns : USUAL_COLUMNS,
  };
}

/** Keeps which columns the viewer wants, in their order. */
export async function saveActivityColumns(
  viewer: Viewer,
  code: string,
  columns: readonly ActivityColumn[],
): Promise<void> {
  await saveViewSetting(viewer, await requireCourse(viewer, 'look', code), 'activity', { columns });
}

const idsOf = (people: readonly RosterEntry[]) => people.map((p) => p.enrolmentId);

/** One row a student, whoever did nothing included. */
async function activityRows(
  snapshot: Snapshot,
  course: CourseRow,
  scope: Scope & { readonly now: number },
  people: readonly RosterEntry[],
  whole: boolean,
): Promise<ActivityRow[]> {
  // Only the table of students shows when somebody was there and what they only opened.
  const subjects = await subjectsOf(snapshot, idsOf(people), scope.kind, { whole });
  const days = await snapshot.days();
  const weeks = Math.min(course.termWeeks, weekOf(termOf(course), scope.now));
  const weekIn = weekFinder(course.termStart);
  const shown = ACTIVITY_SHOWS.map((show) => ({
    show,
    verdicts: judge(activityShows[show], subjects, scope),
  }));
  return people.map((p, i) => ({
    enrolmentId: p.enrolmentId,
    given: p.given,
    family: p.family,
    section: p.section,
    ...mapKeys(ACTIVITY_COLUMNS, (column) => measureOf(column).value(subjects[i]!, scope)),
    minutes: MEASURES.minutes.value(subjects[i]!, scope) ?? 0,
    shows: shown.filter(({ verdicts }) => verdicts[i]).map(({ show }) => show),
    lastSeen: subjects[i]!.measured?.rhythm.lastSeen ?? null,
    weeks: weeksOf(days.get(p.enrolmentId) ?? [], weekIn, weeks),
  }));
}

async function classFigures(
  snapshot: Snapshot,
  course: CourseRow,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<ClassFigures> {
  const ids = idsOf(people);
  const { window, kind } = scope;
  const subjects = await subjectsOf(snapshot, ids, kind);
  const figures = (span: DaySpan, of = kind) => subjects.map((s) => s.figures!(span, of)!);
  const now = figures(window);
  const before = window.before && figures(window.before);
  const all = figures(window, null);
  const minutes = now.map((f) => f.seconds / 60);
  const minutesBefore = before && before.map((f) => f.seconds / 60);
  const share = (list: typeof now): Percent | null => {
    const total = sumOf(list, (f) => f.seconds);
    return total > 0 ? (100 * sumOf(list, (f) => f.inClassSeconds)) / total : null;
  };
  const { from, until } = instants(window, course.zone);
  const sessions = await snapshot.sessions();
  return {
    minutes,
    minutesBefore,
    now: summarise(minutes),
    before: minutesBefore && summarise(minutesBefore),
    hours: hoursOfWeek(
      ids.flatMap((id) => (sessions.get(id) ?? []).filter((t) => t.from >= from && t.from < until)),
      course.zone,
    ),
    inClassShare: share(now),
    inClassShareBefore: before && share(before),
    atLimits: [
      { limit: 10, minutes: sumOf(all, (f) => f.at10) / 60 },
      { limit: 30, minutes: sumOf(all, (f) => f.at30) / 60 },
      { limit: 60, minutes: sumOf(all, (f) => f.at60) / 60 },
    ],
    sessionLimit: course.sessionGapMinutes,
  };
}

const sumOf = <T>(list: readonly T[], of: (item: T) => number): number =>
  list.reduce((total, item) => total + of(item), 0);

/** Every activity of the scope's kind: who opened it in the window, and who never did up to its end. */
async function resourceRows(
  snapshot: Snapshot,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<ResourceRow[]> {
  const { activities } = await snapshot.model();
  const days = await snapshot.workDays();
  const from = dayNumber(scope.window.from);
  const sums = new Map(
    activities
      .filter((a) => scope.kind == null || a.kind === scope.kind)
      .map((a) => [a.id, { a, openedBy: 0, views: 0, seconds: 0, contributions: 0, never: [] as number[] }]),
  );
  for (const { enrolmentId } of people) {
    const own = days.get(enrolmentId);
    const ever = new Set<number>();
    const now = new Set<number>();
    eachWorkDay(own, { from: '1970-01-01', to: scope.window.to }, (i) => {
      const activity = own!.activity[i]!;
      ever.add(activity);
      const sum = sums.get(activity);
      if (!sum || own!.day[i]! < from) return;
      now.add(activity);
      sum.views += own!.views[i]!;
      sum.seconds += own!.seconds[i]!;
      sum.contributions += own!.contributions[i]!;
    });
    for (const [activity, sum] of sums) {
      if (now.has(activity)) sum.openedBy++;
      if (!ever.has(activity)) sum.never.push(enrolmentId);
    }
  }
  return [...sums.values()].map(({ a, seconds, ...sum }) => ({
    id: a.id,
    title: a.title,
    kind: a.kind,
    minutes: seconds / 60,
    ...sum,
  }));
}

async function effortRows(
  snapshot: Snapshot,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<EffortRow[]> {
  const subjects = await subjectsOf(snapshot, idsOf(people), scope.kind);
  return people.map((p, i) => ({
    enrolmentId: p.enrolmentId,
    name: fullName(p),
    minutes: MEASURES.minutes.value(subjects[i]!, scope) ?? 0,
    completion: MEASURES.completion.value(subjects[i]!),
    standing: MEASURES.standing.value(subjects[i]!),
  }));
}
