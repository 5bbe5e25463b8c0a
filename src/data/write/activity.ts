import { and, getTableColumns, gte, lt, sql } from 'drizzle-orm';
import { activityDays as cutByActivity } from '@/core/activity/activityDays';
import type { TypicalDwell } from '@/core/activity/dwell';
import { dayTotals as cutIntoDays } from '@/core/activity/dayTotals';
import { sessionize, type Sessionized } from '@/core/activity/sessions';
import { COMPARED_LIMITS } from '@/core/activity/settle';
import { dayGrid } from '@/core/calendar/dayGrid';
import type { Span } from '@/core/calendar/meetings';
import { startOfDay } from '@/core/calendar/zone';
import { DAY_MS, type LocalDate } from '@/core/units';
import { copyLine, copyLines, type Access } from '@/data/database';
import { turn } from '@/data/turn';
import { activityDayRows, activityTotalRows, dayRows, holds, sessionRows } from '@/data/schema';
import { removePrepared } from './versions';
import type { CourseModel } from '../queries/courseModel';
import type { ActivityColumns } from '../queries/eventColumns';
import { idsIn } from '@/data/queries/idsIn';

/** Students whose rows are written anew, all of them or from a local day on. */
export interface Cut {
  readonly ids: readonly number[];
  readonly columns: ActivityColumns;
  readonly cut: Sessionized;
  readonly typical: TypicalDwell;
  readonly meetingsOf: (student: number) => readonly Span[];
  /** First local day that may have changed, by number of the student; null for all. */
  readonly from: readonly (LocalDate | null)[];
  /** The version of each student's rows that holds. */
  readonly versions: readonly number[];
  /** The version to prepare beside it; null to change the rows that hold. */
  readonly prepare: number | null;
}

/** Events of which a step takes longer than anybody should wait. */
const MANY = 2000;

/** Replaces sessions, days and works of the students of a cut, or prepares their next version. */
export async function writeActivity(access: Access, course: CourseModel, parts: Cut): Promise<void> {
  const { ids, columns, cut, from, meetingsOf, typical, versions, prepare } = parts;
  const { zone } = course.term;
  await (prepare == null ? forget(access, parts, zone) : carryOver(access, parts, prepare, zone));
  const version = (student: number) => prepare ?? versions[student]!;
  if (columns.count === 0) return;
  // Of many events each step takes a while: others have their turn in between.
  const others = () => (columns.count > MANY ? turn() : Promise.resolve());
  await others();
  let earliest = Infinity;
  let latest = -Infinity;
  for (const at of columns.at) {
    if (at < earliest) earliest = at;
    if (at > latest) latest = at;
  }
  const grid = dayGrid(earliest, latest + DAY_MS, zone);
  const since = from.map((day) => (day == null ? -Infinity : startOfDay(day, zone)));
  const stays = (student: number, day: LocalDate) => from[student] != null && day < from[student];

  const { student, start, end, seconds, events: counts, count } = cut.sessions;
  const sessionLines = function* () {
    for (let i = 0; i < count; i++) {
      if (start[i]! < since[student[i]!]!) continue;
      yield copyLine([
        ids[student[i]!]!,
        version(student[i]!),
        new Date(start[i]!),
        new Date(end[i]!),
        seconds[i]!,
        counts[i]!,
      ]);
    }
  };
  const sessionColumns = ['enrolment_id', 'version', 'started_at', 'ended_at', 'seconds', 'events'];
  await copyLines(access, 'sessions', sessionColumns, sessionLines());
  await others();

  // The same days at other limits: how much the choice of limit decides is shown beside every total.
  const atLimit = COMPARED_LIMITS.map((gapMinutes) => {
    const other = sessionize(columns, { gapMinutes, last: 'own', typical }, cut.order);
    const totals = cutIntoDays(columns, other, grid, () => []);
    return new Map(totals.map((d) => [`${d.student} ${d.date}`, d.seconds]));
  });
  await others();
  const dayLines = function* () {
    for (const d of cutIntoDays(columns, cut, grid, meetingsOf)) {
      if (stays(d.student, d.date)) continue;
      yield copyLine([
        ids[d.student]!,
        version(d.student),
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
  };
  await copyLines(
    access,
    'day_totals',
    [
      'enrolment_id',
      'version',
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
    dayLines(),
  );
  await others();
  const workLines = function* () {
    for (const w of cutByActivity(columns, columns.activity, cut, grid, meetingsOf)) {
      if (stays(w.student, w.date)) continue;
      const { date, seconds: spent, inClassSeconds, views, contributions } = w;
      const activityId = course.activities[w.activity]!.id;
      yield copyLine([
        ids[w.student]!,
        version(w.student),
        activityId,
        date,
        spent,
        inClassSeconds,
        views,
        contributions,
      ]);
    }
  };
  await copyLines(
    access,
    'activity_days',
    [
      'enrolment_id',
      'version',
      'activity_id',
      'day',
      'seconds',
      'in_class_seconds',
      'views',
      'contributions',
    ],
    workLines(),
  );
  await others();
  await sumDays(
    access,
    ids,
    ids.map((_, i) => version(i)),
  );
}

/** Takes the days of each student and activity together. In the database: the days before may not be at hand. */
async function sumDays({ orm }: Access, ids: readonly number[], versions: readonly number[]): Promise<void> {
  await orm.execute(sql`
    insert into ${activityTotalRows}
      (enrolment_id, version, activity_id, first_day, last_day, first_contribution, seconds)
    select enrolment_id, version, activity_id, min(day), max(day), min(day) filter (where contributions > 0),
      sum(seconds order by day)
    from ${activityDayRows}
    where (enrolment_id, version) in
      (select * from unnest(${sql.param([...ids])}::int[], ${sql.param([...versions])}::int[]))
    group by enrolment_id, version, activity_id`);
}

/** Students that start on the same day, together; those that start from the beginning are the many. */
function byStart({ ids, from }: Cut): Map<LocalDate | null, number[]> {
  const groups = new Map<LocalDate | null, number[]>();
  ids.forEach((id, i) => groups.set(from[i]!, [...(groups.get(from[i]!) ?? []), id]));
  return groups;
}

async function forget({ orm }: Access, parts: Cut, zone: string): Promise<void> {
  for (const [day, some] of byStart(parts)) {
    const at = day == null ? undefined : new Date(startOfDay(day, zone));
    const of = (rows: typeof sessionRows | typeof dayRows | typeof activityDayRows) =>
      and(idsIn(rows.enrolmentId, some), holds(rows));
    await orm
      .delete(sessionRows)
      .where(and(of(sessionRows), at ? gte(sessionRows.startedAt, at) : undefined));
    await orm.delete(dayRows).where(and(of(dayRows), day ? gte(dayRows.day, day) : undefined));
    await orm
      .delete(activityDayRows)
      .where(and(of(activityDayRows), day ? gte(activityDayRows.day, day) : undefined));
  }
  await orm
    .delete(activityTotalRows)
    .where(and(idsIn(activityTotalRows.enrolmentId, parts.ids), holds(activityTotalRows)));
}

/** Takes into the next version what stays of the one that holds: all before the day that may have changed. */
async function carryOver(access: Access, parts: Cut, version: number, zone: string): Promise<void> {
  await removePrepared(access, parts.ids, version);
  for (const [day, some] of byStart(parts)) {
    if (day == null) continue;
    for (const [rows, until] of [
      [
        sessionRows,
        sql`${sessionRows.startedAt} < ${new Date(startOfDay(day, zone)).toISOString()}::timestamptz`,
      ],
      [dayRows, lt(dayRows.day, day)],
      [activityDayRows, lt(activityDayRows.day, day)],
    ] as const) {
      const names = Object.values(getTableColumns(rows as typeof dayRows)).map((c) => c.name);
      const list = sql.join(
        names.map((name) => sql.identifier(name)),
        sql`, `,
      );
      const values = sql.join(
        names.map((name) => (name === 'version' ? sql`${version}::int` : sql.identifier(name))),
        sql`, `,
      );
      await access.orm.execute(sql`insert into ${rows} (${list}) select ${values} from ${rows}
        where ${and(idsIn(rows.enrolmentId, some), holds(rows), until)}`);
    }
  }
}
