import { and, eq, sql } from 'drizzle-orm';
import {
  classDwells,
  COUNTED_SECONDS,
  countDwells,
  typicalDwells,
  type DwellCounts,
} from '@/core/activity/dwell';
import { orderEvents } from '@/core/activity/order';
import { sessionize, type Sessionized } from '@/core/activity/sessions';
import { localDate } from '@/core/calendar/zone';
import type { Instant, LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { behind, courseDwells, courses, enrolments, events, studentDwells } from '@/data/schema';
import type { CourseModel } from './courseModel';
import {
  addCounts,
  leaningOn,
  loadCourseDwells,
  loadStudentDwells,
  packCounts,
  storeCourseDwells,
  type StudentDwells,
} from './dwells';
import { readEvents, toColumns, type ActivityColumns, type DerivableEvent } from './eventColumns';
import { idsIn } from './idsIn';
import { unwatched, type Progress } from '../jobs';
import { revise } from './revision';
import { writeActivity } from './writeActivity';

/** From which instant on the events of a student have changed; -Infinity for all of them. */
export type Affected = ReadonlyMap<number, Instant>;

/**
 * Brings sessions, day totals and the data mark of a course up to date with its events. Reads the events of the
 * affected students only, and those of students who lean on a median of the class that has moved; writes from the
 * first day that may have changed. Gives the same rows as a rebuild of everybody.
 *
 * @param affected students whose events changed; null rebuilds everybody
 * @param options.known all events of the course, if the caller has them at hand (then everybody is rebuilt)
 * @param options.removed whether events have gone, so that the data mark may go back
 */
export async function deriveActivity(
  access: Access,
  course: CourseModel,
  affected: Affected | null,
  {
    known,
    removed = false,
    progress = unwatched,
  }: { known?: readonly DerivableEvent[]; removed?: boolean; progress?: Progress } = {},
): Promise<void> {
  const { orm } = access;
  const courseId = course.row.id;
  const everybody = affected == null || known != null;
  const roster = await orm
    .select({ id: enrolments.id, sectionId: enrolments.sectionId })
    .from(enrolments)
    .where(
      everybody
        ? eq(enrolments.courseId, courseId)
        : and(eq(enrolments.courseId, courseId), idsIn(enrolments.id, [...affected.keys()])),
    );
  if (roster.length === 0) return;
  const all = known ?? (await readEvents(access, courseId, everybody ? null : roster.map((r) => r.id)));
  const group = groupOf(course, roster, all);
  const stored = everybody ? null : await loadStudentDwells(access, group.ids);
  const { before, after } = await classCounts(access, courseId, group, stored);
  const medians = classDwells(after);
  await progress('Sessions and days');
  await deriveGroup(access, course, group, medians, stored, everybody ? null : affected);
  await progress('Sessions and days');

  if (!everybody) {
    const old = classDwells(before);
    const moved = [...new Set([...old.keys(), ...medians.keys()])].filter(
      (k) => old.get(k) !== medians.get(k),
    );
    const done = new Set(group.ids);
    const leaning = (await leaningOn(access, courseId, moved)).filter((id) => !done.has(id));
    if (leaning.length > 0) {
      const others = await orm
        .select({ id: enrolments.id, sectionId: enrolments.sectionId })
        .from(enrolments)
        .where(idsIn(enrolments.id, leaning));
      const theirs = groupOf(course, others, await readEvents(access, courseId, leaning));
      await deriveGroup(access, course, theirs, medians, null, null);
      await settle(access, course, theirs.ids, undefined);
    }
  }
  await settle(access, course, group.ids, await latestOf(access, courseId, all, everybody, removed));
}

interface Group {
  readonly ids: readonly number[];
  readonly sections: readonly (number | null)[];
  readonly columns: ActivityColumns;
}

const groupOf = (
  course: CourseModel,
  roster: readonly { readonly id: number; readonly sectionId: number | null }[],
  all: readonly DerivableEvent[],
): Group => {
  const ids = roster.map((r) => r.id);
  return { ids, sections: roster.map((r) => r.sectionId), columns: toColumns(course, all, ids) };
};

/** Counts of the class's dwells as stored and as they are now; the new ones are stored. */
async function classCounts(
  access: Access,
  courseId: number,
  { columns }: Group,
  stored: ReadonlyMap<number, StudentDwells> | null,
): Promise<{ before: DwellCounts; after: DwellCounts }> {
  const now = countDwells(columns, orderEvents(columns));
  if (!stored) {
    await access.orm.delete(courseDwells).where(eq(courseDwells.courseId, courseId));
    await storeCourseDwells(access, courseId, now, now.keys());
    return { before: new Map(), after: now };
  }
  const before = await loadCourseDwells(access, courseId);
  const after: DwellCounts = new Map([...before].map(([kind, counts]) => [kind, counts.slice()]));
  for (const { counts } of stored.values()) addCounts(after, counts, -1, COUNTED_SECONDS);
  addCounts(after, packCounts(now), 1, COUNTED_SECONDS);
  const changed = [...after].filter(([kind, counts]) => {
    const old = before.get(kind);
    return !old || counts.some((n, i) => n !== old[i]);
  });
  await storeCourseDwells(
    access,
    courseId,
    after,
    changed.map(([kind]) => kind),
  );
  return { before, after };
}

/** Cuts the events of a group and writes what came of it. */
async function deriveGroup(
  access: Access,
  course: CourseModel,
  { ids, sections, columns }: Group,
  ofClass: ReadonlyMap<number, number>,
  stored: ReadonlyMap<number, StudentDwells> | null,
  affected: Affected | null,
): Promise<void> {
  const cut = sessionize(columns, { gapMinutes: course.row.sessionGapMinutes, last: 'own', ofClass });
  const dwells = dwellsOf(ids, columns, cut, ofClass);
  const from = ids.map((id, i): LocalDate | null => {
    const since = affected?.get(id);
    const known = stored?.get(id);
    // A typical dwell that moved moves the end of every session.
    if (since == null || since === -Infinity || !known) return null;
    if (JSON.stringify(known.typical) !== JSON.stringify(dwells[i]!.typical)) return null;
    return localDate(Math.min(since, startBefore(cut, i, since)), course.term.zone);
  });
  const meetings = sections.map((id) => course.meetingsOfSection.get(id ?? -1) ?? []);
  await writeActivity(access, course, { ids, columns, cut, ofClass, from, meetingsOf: (s) => meetings[s]! });
  await access.orm.delete(studentDwells).where(idsIn(studentDwells.enrolmentId, ids));
  // Whoever has no events has nothing to remember.
  const known = dwells.filter((d) => d.typical.length > 0);
  for (let i = 0; i < known.length; i += 500) {
    await access.orm.insert(studentDwells).values(known.slice(i, i + 500));
  }
}

/** Start of the session that holds the last event before an instant; the instant if there is none. */
function startBefore({ order, dwells }: Sessionized, student: number, since: Instant): Instant {
  let start = since;
  for (let p = order.offsets[student]!; p < order.offsets[student + 1]!; p++) {
    if (order.at[p]! >= since) break;
    if (dwells.starts[p] === 1) start = order.at[p]!;
  }
  return start;
}

/** Counts of each student, and the typical dwells that their sessions use. */
function dwellsOf(
  ids: readonly number[],
  columns: ActivityColumns,
  { order, dwells }: Sessionized,
  ofClass: ReadonlyMap<number, number>,
): StudentDwells[] {
  const typical = typicalDwells(columns, order, ofClass);
  const own = typicalDwells(columns, order, new Map());
  return ids.map((enrolmentId, s) => {
    const [from, until] = [order.offsets[s]!, order.offsets[s + 1]!];
    const kinds = new Set<number>();
    // Only the last event of a session asks for a typical dwell.
    for (let p = from; p < until; p++) {
      if (p + 1 === until || dwells.starts[p + 1] === 1) kinds.add(columns.kind[order.rows[p]!]!);
    }
    const used = [...kinds].sort((a, b) => a - b);
    const one = { ...order, offsets: order.offsets.slice(s, s + 2) };
    return {
      enrolmentId,
      counts: packCounts(countDwells({ ...columns, studentCount: 1 }, one)),
      relies: used.filter((k) => own(s, k) === 0),
      typical: used.flatMap((k) => [k, typical(s, k)]),
    };
  });
}

/** Instant of the latest event of the course: the data mark. Null if there is none. */
async function latestOf(
  { orm }: Access,
  courseId: number,
  all: readonly DerivableEvent[],
  everybody: boolean,
  removed: boolean,
): Promise<Date | null> {
  if (removed && !everybody) {
    // The latest of each student stands in an index; that of a course does not.
    const own = sql`(select max(${events.at}) from ${events} where ${events.enrolmentId} = ${enrolments}.id)`;
    const [found] = await orm
      .select({ at: sql<number | null>`extract(epoch from max(${own})) * 1000` })
      .from(enrolments)
      .where(eq(enrolments.courseId, courseId));
    return found?.at == null ? null : new Date(Number(found.at));
  }
  let latest = -Infinity;
  for (const event of all) if (event.at > latest) latest = event.at;
  if (!everybody) {
    const [row] = await orm
      .select({ until: courses.dataUntil })
      .from(courses)
      .where(eq(courses.id, courseId));
    latest = Math.max(latest, row?.until?.getTime() ?? -Infinity);
  }
  return Number.isFinite(latest) ? new Date(latest) : null;
}

/** Marks students as up to date, in a new revision of the course. */
async function settle(
  access: Access,
  course: CourseModel,
  ids: readonly number[],
  dataUntil: Date | null | undefined,
): Promise<void> {
  await access.orm.delete(behind).where(idsIn(behind.enrolmentId, ids));
  await revise(access, course.row.id, ids, dataUntil === undefined ? {} : { dataUntil });
}
