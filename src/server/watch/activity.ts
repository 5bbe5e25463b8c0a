import { and, eq, gte, inArray, lt, lte, sql } from 'drizzle-orm';
import * as yup from 'yup';
import { hoursOfWeek } from '@/core/activity/heat';
import type { DaySpan } from '@/core/calendar/window';
import { weekOf } from '@/core/calendar/term';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { isResource } from '@/core/formats/courseFiles';
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
import type { Access } from '@/data/database';
import { activities, activityDays, measures, scores, sessions } from '@/data/schema';
import { courseHead } from '../courseHead';
import { database } from '../database';
import { termOf, type CourseRow } from '../derive/courseModel';
import { ensureEvaluated } from '../evaluation';
import { termRibbon } from '../ribbon';
import { fullName } from '../roster';
import { peopleOf, scopeOf, type AskedScope } from '../scope';
import { tray } from '../tray';
import { requireTaught, type Viewer } from '../viewer';
import { saveViewSetting, viewSetting } from '../viewSettings';
import { figuresOf, weeksOf } from './dayFigures';

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
  const db = await database();
  const scope = await scopeOf(viewer, course, asked);
  const people = await peopleOf(viewer, course, scope);
  const tab = ACTIVITY_TABS.find((t) => t === asked.tab) ?? 'people';
  const columns = await viewSetting(viewer, course, 'activity', columnSettings);
  return {
    course: courseHead(course),
    scope,
    ribbon: await termRibbon(course),
    tab,
    people: await activityRows(db, course, scope, people),
    figures: tab === 'class' ? await classFigures(db, course, scope, people) : null,
    resources: tab === 'resources' ? await resourceRows(db, course, scope, people) : null,
    effort: tab === 'effort' ? await effortRows(db, scope, people) : null,
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
  from: new Date(startOfDay(span.from, course.zone)),
  until: new Date(startOfDay(addDays(span.to, 1), course.zone)),
});

/** One row a student, whoever did nothing included. */
export async function activityRows(
  db: Access,
  course: CourseRow,
  scope: Scope & { readonly now: number },
  people: readonly RosterEntry[],
): Promise<ActivityRow[]> {
  const { orm } = db;
  const ids = idsOf(people);
  if (ids.length === 0) return [];
  const { window, kind } = scope;
  const own = await figuresOf(db, ids, window, kind);
  const before = window.before ? await figuresOf(db, ids, window.before, kind) : null;
  const weeks = await weeksOf(
    db,
    ids,
    course.termStart,
    Math.min(course.termWeeks, weekOf(termOf(course), scope.now)),
  );
  const span = instants(course, window);
  const seen = await orm
    .select({
      id: sessions.enrolmentId,
      first: sql<number>`min(extract(epoch from ${sessions.startedAt}) * 1000)`.mapWith(Number),
      last: sql<number>`max(extract(epoch from ${sessions.endedAt}) * 1000)`.mapWith(Number),
    })
    .from(sessions)
    .where(
      and(
        inArray(sessions.enrolmentId, ids),
        gte(sessions.startedAt, span.from),
        lt(sessions.startedAt, span.until),
      ),
    )
    .groupBy(sessions.enrolmentId);
  const seenOf = new Map(seen.map((s) => [s.id, s]));
  const measured = await orm
    .select({
      id: measures.enrolmentId,
      silence: measures.silence,
      usualGap: sql<number | null>`(${measures.measures} -> 'rhythm' ->> 'usualGap')::float8`,
      lastSeen: sql<string | null>`${measures.measures} -> 'rhythm' ->> 'lastSeen'`,
    })
    .from(measures)
    .where(inArray(measures.enrolmentId, ids));
  const measuredOf = new Map(measured.map((m) => [m.id, m]));
  const opened = await openedOnly(db, course, ids, window);
  return people.map((p) => {
    const figures = own.get(p.enrolmentId);
    const m = measuredOf.get(p.enrolmentId);
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
      opened: opened.get(p.enrolmentId) ?? 0,
      first: seenOf.get(p.enrolmentId)?.first ?? null,
      last: seenOf.get(p.enrolmentId)?.last ?? null,
      usualGap: m?.usualGap == null ? null : Number(m.usualGap),
      silence: m?.silence ?? 0,
      lastSeen: m?.lastSeen ?? null,
      weeks: weeks.get(p.enrolmentId) ?? [],
    };
  });
}

/** Works opened in the window with nothing done in them so far and nothing handed in, counted by student. */
async function openedOnly(
  { orm }: Access,
  course: CourseRow,
  ids: readonly number[],
  span: DaySpan,
): Promise<Map<number, number>> {
  const works = (
    await orm
      .select({ id: activities.id, kind: activities.kind })
      .from(activities)
      .where(eq(activities.courseId, course.id))
  ).filter((a) => !isResource(a.kind));
  if (works.length === 0) return new Map();
  const touched = orm
    .select({
      enrolmentId: activityDays.enrolmentId,
      activityId: activityDays.activityId,
    })
    .from(activityDays)
    .where(
      and(
        inArray(activityDays.enrolmentId, [...ids]),
        inArray(
          activityDays.activityId,
          works.map((w) => w.id),
        ),
        lte(activityDays.day, span.to),
      ),
    )
    .groupBy(activityDays.enrolmentId, activityDays.activityId)
    .having(
      and(
        sql`sum(${activityDays.contributions}) = 0`,
        sql`sum(case when ${activityDays.day} >= ${span.from} then ${activityDays.views} else 0 end) > 0`,
      ),
    )
    .as('touched');
  const rows = await orm
    .select({ id: touched.enrolmentId, n: sql<number>`count(*)`.mapWith(Number) })
    .from(touched)
    .leftJoin(
      scores,
      and(eq(scores.enrolmentId, touched.enrolmentId), eq(scores.activityId, touched.activityId)),
    )
    .where(sql`${scores.submittedAt} is null and ${scores.points} is null`)
    .groupBy(touched.enrolmentId);
  return new Map(rows.map((r) => [r.id, r.n]));
}

async function classFigures(
  db: Access,
  course: CourseRow,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<ClassFigures> {
  const ids = idsOf(people);
  const { window, kind } = scope;
  const now = await figuresOf(db, ids, window, kind);
  const before = window.before ? await figuresOf(db, ids, window.before, kind) : null;
  const all = await figuresOf(db, ids, window, null);
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
    hours: await hoursIn(db, course, ids, window),
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

async function hoursIn({ orm }: Access, course: CourseRow, ids: readonly number[], window: DaySpan) {
  if (ids.length === 0) return hoursOfWeek([], course.zone);
  const span = instants(course, window);
  const rows = await orm
    .select({
      // As numbers at once: tens of thousands of dates are slow to make.
      from: sql<number>`extract(epoch from ${sessions.startedAt}) * 1000`.mapWith(Number),
      until: sql<number>`extract(epoch from ${sessions.endedAt}) * 1000`.mapWith(Number),
      seconds: sessions.seconds,
    })
    .from(sessions)
    .where(
      and(
        inArray(sessions.enrolmentId, [...ids]),
        gte(sessions.startedAt, span.from),
        lt(sessions.startedAt, span.until),
      ),
    );
  return hoursOfWeek(rows, course.zone);
}

/** Every activity of the scope's kind: who opened it in the window, and who never did. */
export async function resourceRows(
  { orm }: Access,
  course: CourseRow,
  scope: Scope,
  people: readonly RosterEntry[],
): Promise<ResourceRow[]> {
  const ids = idsOf(people);
  const list = (
    await orm.select().from(activities).where(eq(activities.courseId, course.id)).orderBy(activities.position)
  ).filter((a) => scope.kind == null || a.kind === scope.kind);
  if (ids.length === 0 || list.length === 0) return [];
  const inWindow = sql`${activityDays.day} >= ${scope.window.from}`;
  const rows = await orm
    .select({
      id: activityDays.activityId,
      openers: sql<string>`string_agg(distinct ${activityDays.enrolmentId}::text, ',')`,
      inWindow:
        sql<number>`count(distinct case when ${inWindow} then ${activityDays.enrolmentId} end)`.mapWith(
          Number,
        ),
      views: sql<number>`sum(case when ${inWindow} then ${activityDays.views} else 0 end)`.mapWith(Number),
      seconds: sql<number>`sum(case when ${inWindow} then ${activityDays.seconds} else 0 end)`.mapWith(
        Number,
      ),
      contributions:
        sql<number>`sum(case when ${inWindow} then ${activityDays.contributions} else 0 end)`.mapWith(Number),
    })
    .from(activityDays)
    .where(and(inArray(activityDays.enrolmentId, ids), lte(activityDays.day, scope.window.to)))
    .groupBy(activityDays.activityId);
  const found = new Map(rows.map((r) => [r.id, r]));
  return list.map((a) => {
    const r = found.get(a.id);
    const openers = new Set(r?.openers.split(',').map(Number) ?? []);
    return {
      id: a.id,
      title: a.title,
      kind: a.kind,
      openedBy: r?.inWindow ?? 0,
      views: r?.views ?? 0,
      minutes: (r?.seconds ?? 0) / 60,
      contributions: r?.contributions ?? 0,
      never: ids.filter((id) => !openers.has(id)),
    };
  });
}

async function effortRows(db: Access, scope: Scope, people: readonly RosterEntry[]): Promise<EffortRow[]> {
  const ids = idsOf(people);
  if (ids.length === 0) return [];
  const figures = await figuresOf(db, ids, scope.window, scope.kind);
  const measured = await db.orm
    .select({
      id: measures.enrolmentId,
      standing: measures.standing,
      done: sql<number>`(${measures.measures} -> 'completion' ->> 'done')::int`.mapWith(Number),
      expected: sql<number>`(${measures.measures} -> 'completion' ->> 'expected')::int`.mapWith(Number),
    })
    .from(measures)
    .where(inArray(measures.enrolmentId, ids));
  const of = new Map(measured.map((m) => [m.id, m]));
  return people.map((p) => {
    const m = of.get(p.enrolmentId);
    return {
      enrolmentId: p.enrolmentId,
      name: fullName(p),
      minutes: (figures.get(p.enrolmentId)?.seconds ?? 0) / 60,
      completion: m && m.expected > 0 ? (100 * m.done) / m.expected : null,
      standing: m?.standing ?? null,
    };
  });
}
