import * as yup from 'yup';
import { hoursOfWeek } from '@/core/activity/heat';
import type { DaySpan } from '@/core/calendar/window';
import { weekOf } from '@/core/calendar/term';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { isResource } from '@/core/course/kinds';
import { summarise } from '@/core/gradebook/distribution';
import type { Instant, Percent } from '@/core/units';
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
import { courseHead } from './courseHead';
import { termOf, type CourseRow } from '../snapshot/courseModel';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { ensureEvaluated } from '../derive/evaluation';
import { termRibbon } from './ribbon';
import { fullName } from '../snapshot/roster';
import { peopleOf, scopeOf, type AskedScope } from './scope';
import { tray } from '../act/tray';
import { requireTaught, type Viewer } from '../access/viewer';
import { saveViewSetting, viewSetting } from './viewSettings';
import { figuresOf, weekFinder, weeksOf } from './dayFigures';
import { dayNumber, eachWorkDay } from './workFigures';

const columnSettings = yup.object({
  columns: yup
    .array(
      yup
        .string()
        .oneOf([...ACTIVITY_COLUMNS])
        .required(),
    )
    .required(),
});
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
  const course = await ensureEvaluated(await requireTaught(viewer, code));
  const scope = await scopeOf(viewer, course, asked);
  const people = await peopleOf(viewer, course, scope);
  const snapshot = await snapshotOf(course);
  const tab = ACTIVITY_TABS.find((t) => t === asked.tab) ?? 'people';
  const columns = await viewSetting(viewer, course, 'activity', columnSettings);
  return {
    course: courseHead(course),
    scope,
    ribbon: await termRibbon(course),
    tab,
    people: await activityRows(snapshot, course, scope, people, tab === 'people'),
    figures: tab === 'class' ? await classFigures(snapshot, course, scope, people) : null,
    resources: tab === 'resources' ? await resourceRows(snapshot, scope, people) : null,
    effort: tab === 'effort' ? await effortRows(snapshot, scope, people) : null,
    columns: columns && columns.columns.length > 0 ? columns.columns : USUAL_COLUMNS,
    tray: (await tray(viewer, course)).map((t) => t.enrolmentId),
  };
}

/** Keeps which columns the viewer wants, in their order. */
export async function saveActivityColumns(
  viewer: Viewer,
  code: string,
  columns: readonly ActivityColumn[],
): Promise<void> {
  await saveViewSetting(viewer, await requireTaught(viewer, code), 'activity', { columns });
}

const idsOf = (people: readonly RosterEntry[]) => people.map((p) => p.enrolmentId);

/** Instants of a span of days in the zone of a course. */
const instants = (course: CourseRow, span: DaySpan) => ({
  from: startOfDay(span.from, course.zone),
  until: startOfDay(addDays(span.to, 1), course.zone),
});

/** One row a student, whoever did nothing included. */
export async function activityRows(
  snapshot: Snapshot,
  course: CourseRow,
  scope: Scope & { readonly now: number },
  people: readonly RosterEntry[],
  full = true,
): Promise<ActivityRow[]> {
  const ids = idsOf(people);
  if (ids.length === 0) return [];
  const { window, kind } = scope;
  const own = await figuresOf(snapshot, ids, window, kind);
  const before = window.before ? await figuresOf(snapshot, ids, window.before, kind) : null;
  const days = await snapshot.days();
  const weeks = Math.min(course.termWeeks, weekOf(termOf(course), scope.now));
  const span = instants(course, window);
  // Only the table of students shows when somebody was there and what they only opened.
  const stretches = full ? await snapshot.sessions() : null;
  const measured = await snapshot.measures();
  const opened = full ? await openedOnly(snapshot, ids, window) : null;
  const weekIn = weekFinder(course.termStart);
  return people.map((p) => {
    const figures = own.get(p.enrolmentId);
    const m = measured.get(p.enrolmentId);
    let first: Instant | null = null;
    let last: Instant | null = null;
    for (const t of stretches?.get(p.enrolmentId) ?? []) {
      if (t.from < span.from || t.from >= span.until) continue;
      first ??= t.from;
      last = t.until;
    }
    return {
      enrolmentId: p.enrolmentId,
      given: p.given,
      family: p.family,
      section: p.section,
      days: figures?.days ?? 0,
      minutes: (figures?.seconds ?? 0) / 60,
      minutesBefore: before ? (before.get(p.enrolmentId)?.seconds ?? 0) / 60 : null,
      inClass: (figures?.inClassSeconds ?? 0) / 60,
      outside: ((figures?.seconds ?? 0) - (figures?.inClassSeconds ?? 0)) / 60,
      views: figures?.views ?? 0,
      contributions: figures?.contributions ?? 0,
      opened: opened?.get(p.enrolmentId) ?? 0,
      first,
      last,
      usualGap: m?.rhythm.usualGap ?? null,
      silence: m?.rhythm.silence ?? 0,
      lastSeen: m?.rhythm.lastSeen ?? null,
      weeks: weeksOf(days.get(p.enrolmentId) ?? [], weekIn, weeks),
    };
  });
}

/** Works opened in the window with nothing done in them up to its end and nothing handed in, counted by student. */
async function openedOnly(
  snapshot: Snapshot,
  ids: readonly number[],
  span: DaySpan,
): Promise<Map<number, number>> {
  const { activities } = await snapshot.model();
  const works = new Set(activities.filter((a) => !isResource(a.kind)).map((a) => a.id));
  const days = await snapshot.workDays();
  const scores = await snapshot.scores();
  const sums = new Map<number, number>();
  for (const id of ids) {
    const own = days.get(id);
    const opened = new Set<number>();
    eachWorkDay(own, span, (i) => {
      if (own!.views[i]! > 0 && works.has(own!.activity[i]!)) opened.add(own!.activity[i]!);
    });
    if (opened.size > 0)
      eachWorkDay(own, { from: '1970-01-01', to: span.to }, (i) => {
        if (own!.contributions[i]! > 0) opened.delete(own!.activity[i]!);
      });
    const handedIn = scores.get(id);
    let n = 0;
    for (const activity of opened) {
      const score = handedIn?.get(String(activity));
      if (score?.submitted == null && score?.points == null) n++;
    }
    sums.set(id, n);
  }
  return sums;
}

async function classFigures(
  snapshot: Snapshot,
  course: CourseRow,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<ClassFigures> {
  const ids = idsOf(people);
  const { window, kind } = scope;
  const now = await figuresOf(snapshot, ids, window, kind);
  const before = window.before ? await figuresOf(snapshot, ids, window.before, kind) : null;
  const all = await figuresOf(snapshot, ids, window, null);
  const minutes = ids.map((id) => (now.get(id)?.seconds ?? 0) / 60);
  const minutesBefore = before ? ids.map((id) => (before.get(id)?.seconds ?? 0) / 60) : null;
  const share = (figures: typeof now): Percent | null => {
    let total = 0;
    let inClass = 0;
    for (const f of figures.values()) {
      total += f.seconds;
      inClass += f.inClassSeconds;
    }
    return total > 0 ? (100 * inClass) / total : null;
  };
  const sum = (pick: 'at10' | 'at30' | 'at60') => {
    let seconds = 0;
    for (const f of all.values()) seconds += f[pick];
    return seconds / 60;
  };
  return {
    minutes,
    minutesBefore,
    now: summarise(minutes),
    before: minutesBefore ? summarise(minutesBefore) : null,
    hours: await hoursIn(snapshot, course, ids, window),
    inClassShare: share(now),
    inClassShareBefore: before ? share(before) : null,
    atLimits: [
      { limit: 10, minutes: sum('at10') },
      { limit: 30, minutes: sum('at30') },
      { limit: 60, minutes: sum('at60') },
    ],
    sessionLimit: course.sessionGapMinutes,
  };
}

async function hoursIn(snapshot: Snapshot, course: CourseRow, ids: readonly number[], window: DaySpan) {
  const span = instants(course, window);
  const sessions = await snapshot.sessions();
  return hoursOfWeek(
    ids.flatMap((id) => (sessions.get(id) ?? []).filter((t) => t.from >= span.from && t.from < span.until)),
    course.zone,
  );
}

/** Every activity of the scope's kind: who opened it in the window, and who never did up to its end. */
export async function resourceRows(
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
  const figures = await figuresOf(snapshot, idsOf(people), scope.window, scope.kind);
  const measured = await snapshot.measures();
  return people.map((p) => {
    const m = measured.get(p.enrolmentId);
    return {
      enrolmentId: p.enrolmentId,
      name: fullName(p),
      minutes: (figures.get(p.enrolmentId)?.seconds ?? 0) / 60,
      completion: m && m.completion.expected > 0 ? (100 * m.completion.done) / m.completion.expected : null,
      standing: m?.standing.standing ?? null,
    };
  });
}
