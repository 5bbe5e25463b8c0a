import { eq, inArray, sql, sum } from 'drizzle-orm';
import { activityDays as cutByActivity, activityTotals as sumByActivity } from '@/core/activity/activityDays';
import { dayTotals as cutIntoDays } from '@/core/activity/dayTotals';
import { EVENT_KINDS, roleOf, type EventColumns, type EventKind } from '@/core/activity/events';
import { sessionize } from '@/core/activity/sessions';
import { dayGrid } from '@/core/calendar/dayGrid';
import { ACTIVITY_KINDS } from '@/core/formats/courseFiles';
import { DAY_MS, type Instant } from '@/core/units';
import { copyLine, type Access } from '@/data/database';
import {
  activityDays,
  activityTotals,
  courses,
  dayTotals,
  enrolments,
  events,
  sessions,
} from '@/data/schema';
import type { CourseModel } from './courseModel';

/** An event as the derivation needs it. */
export interface DerivableEvent {
  readonly enrolmentId: number;
  readonly at: Instant;
  readonly kind: EventKind;
  readonly activityId: number | null;
  readonly duration: number | null;
}

/**
 * Brings sessions, day totals and the data mark of a course up to date with its events. Students whose rows would
 * not change are left alone: those without a new event whose time on task is the same as before (a class median may
 * have moved it).
 *
 * @param affected enrolments with new events; null rebuilds everybody
 * @param known all events of the course, if the caller has them at hand; else they are read
 */
export async function deriveActivity(
  access: Access,
  course: CourseModel,
  affected: ReadonlySet<number> | null,
  known?: readonly DerivableEvent[],
): Promise<void> {
  const { orm } = access;
  const courseId = course.row.id;
  const all = known ?? (await readEvents(access, courseId));
  const roster = await orm
    .select({ id: enrolments.id, sectionId: enrolments.sectionId })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  const ids = roster.map((r) => r.id);
  if (ids.length === 0) return;
  const columns = toColumns(course, all, ids);
  let earliest = Infinity;
  let latest = -Infinity;
  for (const event of all) {
    if (event.at < earliest) earliest = event.at;
    if (event.at > latest) latest = event.at;
  }
  const cut = sessionize(columns, { gapMinutes: course.row.sessionGapMinutes, last: 'own' });
  const meetingsOf = new Map(
    roster.map((r, i) => [i, course.meetingsOfSection.get(r.sectionId ?? -1) ?? []]),
  );
  const grid = all.length > 0 ? dayGrid(earliest, latest + DAY_MS, course.term.zone) : null;
  const meetings = (s: number) => meetingsOf.get(s)!;
  const days = grid ? cutIntoDays(columns, cut, grid, meetings) : [];
  const works = grid ? cutByActivity(columns, columns.activity, cut, grid, meetings) : [];
  // The same days at other limits: how much the choice of limit decides is shown beside every total.
  const atLimit = COMPARED_LIMITS.map((gapMinutes) => {
    const other = sessionize(columns, { gapMinutes, last: 'own' });
    const totals = grid ? cutIntoDays(columns, other, grid, () => []) : [];
    return new Map(totals.map((d) => [`${d.student} ${d.date}`, d.seconds]));
  });

  const totals = new Float64Array(ids.length);
  for (let i = 0; i < cut.sessions.count; i++) totals[cut.sessions.student[i]!]! += cut.sessions.seconds[i]!;
  const before = new Map<number, number>();
  if (affected) {
    const stored = await orm
      .select({ id: sessions.enrolmentId, seconds: sum(sessions.seconds).mapWith(Number) })
      .from(sessions)
      .where(inArray(sessions.enrolmentId, ids))
      .groupBy(sessions.enrolmentId);
    for (const row of stored) before.set(row.id, row.seconds);
  }
  const rewritten = new Set<number>();
  ids.forEach((id, i) => {
    if (!affected || affected.has(id) || Math.abs((before.get(id) ?? 0) - totals[i]!) > 0.01)
      rewritten.add(i);
  });
  if (rewritten.size > 0) {
    const changed = [...rewritten].map((i) => ids[i]!);
    await orm.delete(sessions).where(inArray(sessions.enrolmentId, changed));
    await orm.delete(dayTotals).where(inArray(dayTotals.enrolmentId, changed));
    await orm.delete(activityDays).where(inArray(activityDays.enrolmentId, changed));
    await orm.delete(activityTotals).where(inArray(activityTotals.enrolmentId, changed));
    let csv = '';
    const { student, start, end, seconds, events: counts, count } = cut.sessions;
    for (let i = 0; i < count; i++) {
      if (!rewritten.has(student[i]!)) continue;
      const from = new Date(start[i]!);
      csv += copyLine([ids[student[i]!]!, from, new Date(end[i]!), seconds[i]!, counts[i]!]);
    }
    await access.copy('sessions', ['enrolment_id', 'started_at', 'ended_at', 'seconds', 'events'], csv);
    csv = '';
    for (const d of days) {
      if (!rewritten.has(d.student)) continue;
      csv += copyLine([
        ids[d.student]!,
        d.date,
        d.seconds,
        d.inClassSeconds,
        d.logins,
        d.events,
        d.views,
        d.contributions,
        ...atLimit.map((totals) => totals.get(`${d.student} ${d.date}`) ?? 0),
      ]);
    }
    await access.copy(
      'day_totals',
      [
        'enrolment_id',
        'day',
        'seconds',
        'in_class_seconds',
        'logins',
        'events',
        'views',
        'contributions',
        'seconds_at_10',
        'seconds_at_30',
        'seconds_at_60',
      ],
      csv,
    );
    csv = '';
    for (const w of works) {
      if (!rewritten.has(w.student)) continue;
      const { date, seconds, inClassSeconds, views, contributions } = w;
      csv += copyLine([
        ids[w.student]!,
        course.activities[w.activity]!.id,
        date,
        seconds,
        inClassSeconds,
        views,
        contributions,
      ]);
    }
    await access.copy(
      'activity_days',
      ['enrolment_id', 'activity_id', 'day', 'seconds', 'in_class_seconds', 'views', 'contributions'],
      csv,
    );
    csv = '';
    for (const t of sumByActivity(works)) {
      if (!rewritten.has(t.student)) continue;
      csv += copyLine([
        ids[t.student]!,
        course.activities[t.activity]!.id,
        t.firstDay,
        t.lastDay,
        t.firstContribution,
        t.seconds,
      ]);
    }
    await access.copy(
      'activity_totals',
      ['enrolment_id', 'activity_id', 'first_day', 'last_day', 'first_contribution', 'seconds'],
      csv,
    );
  }
  const dataUntil = all.length > 0 ? new Date(latest) : null;
  await orm.update(courses).set({ dataUntil }).where(eq(courses.id, courseId));
}

/** Session limits shown beside each other, in minutes. */
const COMPARED_LIMITS = [10, 30, 60];

/** Numbers of the kinds that share a typical dwell: the kind of the activity, or else that of the event. */
const KIND_NUMBERS = new Map<string, number>([...EVENT_KINDS, ...ACTIVITY_KINDS].map((kind, i) => [kind, i]));

function toColumns(
  course: CourseModel,
  all: readonly DerivableEvent[],
  ids: readonly number[],
): EventColumns & { readonly activity: Int32Array } {
  const numberOf = new Map(ids.map((id, i) => [id, i]));
  const placeOf = new Map(course.activities.map((a, i) => [a.id, i]));
  const kindOf = new Map(course.activities.map((a) => [a.id, KIND_NUMBERS.get(a.kind)!]));
  const count = all.length;
  const columns = {
    count,
    studentCount: ids.length,
    student: new Int32Array(count),
    at: new Float64Array(count),
    kind: new Uint8Array(count),
    login: new Uint8Array(count),
    duration: new Float64Array(count),
    role: new Uint8Array(count),
    activity: new Int32Array(count),
  };
  for (let i = 0; i < count; i++) {
    const event = all[i]!;
    columns.student[i] = numberOf.get(event.enrolmentId)!;
    columns.at[i] = event.at;
    columns.login[i] = event.kind === 'login' ? 1 : 0;
    columns.kind[i] = kindOf.get(event.activityId ?? -1) ?? KIND_NUMBERS.get(event.kind)!;
    columns.duration[i] = event.duration ?? NaN;
    columns.role[i] = roleOf(event.kind);
    columns.activity[i] = placeOf.get(event.activityId ?? -1) ?? -1;
  }
  return columns;
}

async function readEvents({ orm }: Access, courseId: number): Promise<DerivableEvent[]> {
  return orm
    .select({
      enrolmentId: events.enrolmentId,
      // As a number at once: a hundred thousand dates are slow to make.
      at: sql<number>`extract(epoch from ${events.at}) * 1000`.mapWith(Number),
      kind: events.kind,
      activityId: events.activityId,
      duration: events.durationS,
    })
    .from(events)
    .where(eq(events.courseId, courseId));
}
