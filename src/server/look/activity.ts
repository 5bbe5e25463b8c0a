import * as yup from 'yup';
import { effortGroup, effortRelation } from '@/core/activity/effort';
import { hoursOfWeek } from '@/core/activity/heat';
import type { Span } from '@/core/calendar/meetings';
import { isResource } from '@/core/course/kinds';
import { isSubmitted } from '@/core/gradebook/status';
import type { DaySpan } from '@/core/calendar/window';
import { median } from '@/core/statistics/quantile';
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
  PROGRESS,
  type EffortFigures,
  type ResourceRow,
} from '@/core/views/activity';
import { rowPerson, type RosterEntry } from '@/core/views/rosterEntry';
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
import { dayNumber, eachWorkDay, looksOn } from '@/core/activity/workDays';
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
    comparedMedians: await comparedMedians(snapshot, scope, people),
    people: await activityRows(snapshot, course, scope, people, tab === 'people'),
    figures: tab === 'class' ? await classFigures(snapshot, course, scope, people) : null,
    resources: tab === 'resources' ? await resourceRows(snapshot, scope, people) : null,
    effort: tab === 'effort' ? await effortFigures(snapshot, scope, people) : null,
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
    ...rowPerson(p),
    ...mapKeys(ACTIVITY_COLUMNS, (column) => measureOf(column).value(subjects[i]!, scope)),
    minutes: MEASURES.minutes.value(subjects[i]!, scope) ?? 0,
    shows: shown.filter(({ verdicts }) => verdicts[i]).map(({ show }) => show),
    lastSeen: subjects[i]!.measured?.rhythm.lastSeen ?? null,
    weeks: weeksOf(days.get(p.enrolmentId) ?? [], weekIn, weeks),
  }));
}

/** Medians of the minutes in the window and in the one before, without breaks; null where there is none before. */
async function comparedMedians(
  snapshot: Snapshot,
  { window: { compared, before }, kind }: Scope,
  people: readonly RosterEntry[],
): Promise<ActivityView['comparedMedians']> {
  if (!before) return null;
  const subjects = await subjectsOf(snapshot, idsOf(people), kind);
  const medianOf = (span: DaySpan) => median(subjects.map((s) => s.figures!(span, kind)!.seconds / 60)) ?? 0;
  return { now: medianOf(compared), before: medianOf(before) };
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
  const compared = figures(window.compared);
  const before = window.before && figures(window.before);
  const all = figures(window, null);
  const minutesOf = (list: typeof now) => list.map((f) => f.seconds / 60);
  const { from, until } = instants(window, course.zone);
  const sessions = await snapshot.sessions();
  const { meetingsOfSection } = await snapshot.model();
  const met = window.before && metInBoth(meetingsOfSection, [window.compared, window.before], course.zone);
  const wholeShare = (list: typeof now): Percent | null => {
    const total = sumOf(list, (f) => f.seconds);
    return total > 0 ? (100 * sumOf(list, (f) => f.inClassSeconds)) / total : null;
  };
  const share = (list: typeof now) => wholeShare(list.filter((_, i) => met?.has(people[i]!.sectionId ?? -1)));
  // Without a section that met in both there is nothing to compare.
  const comparable = before != null && met != null && met.size > 0;
  return {
    minutes: minutesOf(now),
    minutesBefore: before && minutesOf(before),
    now: summarise(minutesOf(now)),
    hours: hoursOfWeek(
      ids.flatMap((id) => (sessions.get(id) ?? []).filter((t) => t.from >= from && t.from < until)),
      course.zone,
    ),
    inClassShare: wholeShare(now),
    inClassCompared: comparable ? { now: share(compared), before: share(before) } : null,
    atLimits: [
      { limit: 10, minutes: sumOf(all, (f) => f.at10) / 60 },
      { limit: 30, minutes: sumOf(all, (f) => f.at30) / 60 },
      { limit: 60, minutes: sumOf(all, (f) => f.at60) / 60 },
    ],
    sessionLimit: course.sessionGapMinutes,
  };
}

/** Sections that met in each of some spans: a section that did not meet has no share in class to compare. */
function metInBoth(
  meetings: ReadonlyMap<number, readonly Span[]>,
  spans: readonly DaySpan[],
  zone: string,
): ReadonlySet<number> {
  const within = spans.map((span) => instants(span, zone));
  return new Set(
    [...meetings].flatMap(([section, list]) =>
      within.every(({ from, until }) => list.some((m) => m.from >= from && m.from < until)) ? [section] : [],
    ),
  );
}

const sumOf = <T>(list: readonly T[], of: (item: T) => number): number =>
  list.reduce((total, item) => total + of(item), 0);

/** Every activity of the scope's kind: who opened it in the window, and who never did up to its end. */
async function resourceRows(
  snapshot: Snapshot,
  scope: Scope & { readonly now: number },
  people: readonly RosterEntry[],
): Promise<ResourceRow[]> {
  const { activities, row } = await snapshot.model();
  const days = await snapshot.workDays();
  const scores = await snapshot.scores();
  const end = Math.min(scope.now, instants(scope.window, row.zone).until - 1);
  const from = dayNumber(scope.window.from);
  const sums = new Map(
    activities
      .filter((a) => scope.kind == null || a.kind === scope.kind)
      .map((a) => [
        a.id,
        { a, openedBy: 0, views: 0, seconds: 0, contributions: 0, handedIn: 0, never: [] as number[] },
      ]),
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
      sum.views += looksOn(own!, i);
      sum.seconds += own!.seconds[i]!;
      sum.contributions += own!.contributions[i]!;
    });
    for (const [activity, sum] of sums) {
      if (now.has(activity)) sum.openedBy++;
      if (!ever.has(activity)) sum.never.push(enrolmentId);
      if (isSubmitted(scores.get(enrolmentId)?.get(String(activity)), end)) sum.handedIn++;
    }
  }
  return [...sums.values()].map(({ a, seconds, handedIn, ...sum }) => ({
    id: a.id,
    title: a.title,
    kind: a.kind,
    minutes: seconds / 60,
    handedIn: isResource(a.kind) ? null : handedIn,
    ...sum,
  }));
}

/** Judged in the whole class, as in Rounds; shown of those looked at. */
async function effortFigures(
  snapshot: Snapshot,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<EffortFigures> {
  const { students } = await snapshot.record();
  const subjects = await subjectsOf(
    snapshot,
    students.map((s) => s.id),
    scope.kind,
  );
  const points = subjects.map((subject, i) => ({
    id: subject.id,
    minutes: MEASURES.minutes.value(subject, scope) ?? 0,
    whole: students[i]!.joined <= scope.window.from,
    standing: MEASURES.standing.value(subject),
    completion: MEASURES.completion.value(subject),
  }));
  const found = mapKeys(PROGRESS, (by) => {
    const asked = points.map((p) => ({ ...p, progress: p[by] }));
    const { medianMinutes, places } = effortRelation(asked);
    const group = new Map(asked.map((p) => [p.id, effortGroup(p, medianMinutes, places.get(p.id))]));
    const band = asked
      .flatMap((p) => {
        const place = places.get(p.id);
        return place ? [{ minutes: p.minutes, low: place.low, high: place.high }] : [];
      })
      .sort((a, b) => a.minutes - b.minutes);
    return { medianMinutes, group, band };
  });
  const pointOf = new Map(points.map((p) => [p.id, p]));
  return {
    medianMinutes: found.standing.medianMinutes,
    band: mapKeys(PROGRESS, (by) => found[by].band),
    rows: people.map((p) => ({
      enrolmentId: p.enrolmentId,
      name: fullName(p),
      minutes: pointOf.get(p.enrolmentId)?.minutes ?? 0,
      progress: mapKeys(PROGRESS, (by) => pointOf.get(p.enrolmentId)?.[by] ?? null),
      group: mapKeys(PROGRESS, (by) => found[by].group.get(p.enrolmentId) ?? null),
    })),
  };
}
