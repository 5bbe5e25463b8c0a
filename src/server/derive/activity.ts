import { and, eq, sql } from 'drizzle-orm';
import {
  COUNTED_SECONDS,
  countDwells,
  medianDwells,
  type DwellCounts,
  type TypicalDwell,
} from '@/core/activity/dwell';
import { orderEvents, type EventOrder } from '@/core/activity/order';
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
  sumCounts,
  type StudentDwells,
} from './dwells';
import { readEvents, toColumns, type ActivityColumns, type EventList } from './eventColumns';
import { idsIn } from './idsIn';
import { unwatched, type Progress } from '../jobs';
import { revise } from './revision';
import { endsBetween, loadSettled, settleOld, type Settled } from './settled';
import { writeActivity } from './writeActivity';

/** From which instant on the events of a student have changed; -Infinity for all of them. */
export type Affected = ReadonlyMap<number, Instant>;

/**
 * Brings sessions, day totals and the data mark of a course up to date with its events. Reads the events of the
 * affected students only, and of those only what is not settled; writes from the first day that may have changed.
 * Students who lean on a median of the class that has moved are derived anew. Gives the same rows as a rebuild of
 * everybody.
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
  }: { known?: EventList; removed?: boolean; progress?: Progress } = {},
): Promise<void> {
  const all = affected == null || known != null;
  const roster = await rosterOf(access, course, all ? null : [...affected.keys()]);
  if (roster.length === 0) return;
  const latest = all
    ? await deriveEverybody(access, course, roster, known, progress)
    : await deriveSome(access, course, roster, affected, removed, progress);
  await progress('Sessions and days');
  await settle(
    access,
    course,
    roster.map((r) => r.id),
    latest,
  );
}

type Roster = readonly { readonly id: number; readonly sectionId: number | null }[];

/** The students of a course, or some of them. */
async function rosterOf(
  { orm }: Access,
  course: CourseModel,
  ids: readonly number[] | null,
): Promise<Roster> {
  const own = eq(enrolments.courseId, course.row.id);
  return orm
    .select({ id: enrolments.id, sectionId: enrolments.sectionId })
    .from(enrolments)
    .where(ids ? and(own, idsIn(enrolments.id, ids)) : own);
}

/** Derives all students from all their events. Returns the data mark. */
async function deriveEverybody(
  access: Access,
  course: CourseModel,
  roster: Roster,
  known: EventList | undefined,
  progress: Progress,
): Promise<Date | null> {
  const courseId = course.row.id;
  const all =
    known ??
    (await readEvents(
      access,
      roster.map((r) => r.id),
      new Map(),
      progress,
    ));
  const group = groupOf(course, roster, all, new Map());
  const medians = medianDwells(await classCounts(access, courseId, group, null));
  await progress('Sessions and days');
  await deriveGroup(access, course, group, medians, null, null);
  return latestAmong(all, null);
}

/** Derives those whose events changed, and whoever leans on a median that they moved. Returns the data mark. */
async function deriveSome(
  access: Access,
  course: CourseModel,
  roster: Roster,
  affected: Affected,
  removed: boolean,
  progress: Progress,
): Promise<Date | null> {
  const courseId = course.row.id;
  const ids = roster.map((r) => r.id);
  const stored = await loadStudentDwells(access, ids);
  const before = await loadCourseDwells(access, courseId);
  const old = medianDwells(before);
  let ends = await unsettled(access, affected, stored);
  let group = groupOf(course, roster, await readEvents(access, ids, sinceOf(ends), progress), ends);
  const medians = medianDwells(await classCounts(access, courseId, group, { before, stored }));
  // Whose typical dwell has moved, or whose change reaches into what is settled, is read as a whole after all.
  const reaching = reachingBack(course, group, medians, stored, affected);
  if (reaching.length > 0) {
    ends = new Map([...ends].filter(([id]) => !reaching.includes(id)));
    group = groupOf(course, roster, await readEvents(access, ids, sinceOf(ends), progress), ends);
  }
  await progress('Sessions and days');
  await deriveGroup(access, course, group, medians, stored, affected);
  const moved = [...new Set([...old.keys(), ...medians.keys()])].filter((k) => old.get(k) !== medians.get(k));
  const done = new Set(ids);
  const leaning = (await leaningOn(access, courseId, moved)).filter((id) => !done.has(id));
  if (leaning.length > 0) {
    const others = await rosterOf(access, course, leaning);
    const whole = await readEvents(access, leaning, new Map(), progress);
    const theirs = groupOf(course, others, whole, new Map());
    await deriveGroup(access, course, theirs, medians, null, null);
    await settle(access, course, theirs.ids, undefined);
  }
  return removed
    ? latestStored(access, courseId)
    : latestAmong(group.events, await dataUntilOf(access, courseId));
}

interface Group {
  readonly ids: readonly number[];
  readonly sections: readonly (number | null)[];
  readonly events: EventList;
  readonly columns: ActivityColumns;
  readonly order: EventOrder;
  /** What is settled of a student whose events are here from then on only; null for all of them. */
  readonly before: readonly (Settled | null)[];
  /** Counts of all dwells of each student, settled or not. */
  readonly counts: readonly DwellCounts[];
}

function groupOf(
  course: CourseModel,
  roster: Roster,
  all: EventList,
  ends: ReadonlyMap<number, Settled>,
): Group {
  const ids = roster.map((r) => r.id);
  const columns = toColumns(course, all, ids);
  const before = ids.map((id) => ends.get(id) ?? null);
  const order = orderEvents(columns);
  const counts = ids.map((_, s) => {
    const own = { ...order, offsets: order.offsets.slice(s, s + 2) };
    const total = countDwells({ ...columns, studentCount: 1 }, own);
    if (before[s]) addCounts(total, before[s].counts, 1, COUNTED_SECONDS);
    return total;
  });
  return { ids, sections: roster.map((r) => r.sectionId), events: all, columns, order, before, counts };
}

/** What is settled of the students whose change comes after it. */
async function unsettled(
  access: Access,
  affected: Affected,
  stored: ReadonlyMap<number, StudentDwells>,
): Promise<Map<number, Settled>> {
  const known = await loadSettled(access, [...affected.keys()]);
  return new Map(
    [...known].filter(([id, { until }]) => stored.has(id) && affected.get(id)! > until.getTime()),
  );
}

const sinceOf = (ends: ReadonlyMap<number, Settled>): Map<number, Instant> =>
  new Map([...ends].map(([id, { until }]) => [id, until.getTime()]));

/** Counts of the class's dwells as they are now; they are stored. */
async function classCounts(
  access: Access,
  courseId: number,
  group: Group,
  known: { readonly before: DwellCounts; readonly stored: ReadonlyMap<number, StudentDwells> } | null,
): Promise<DwellCounts> {
  const after: DwellCounts = new Map(
    [...(known?.before ?? [])].map(([kind, counts]) => [kind, counts.slice()]),
  );
  for (const { counts } of known?.stored.values() ?? []) addCounts(after, counts, -1, COUNTED_SECONDS);
  for (const counts of group.counts) sumCounts(after, counts);
  if (!known) await access.orm.delete(courseDwells).where(eq(courseDwells.courseId, courseId));
  const changed = [...after].filter(([kind, counts]) => {
    const old = known?.before.get(kind);
    return !old || counts.some((n, i) => n !== old[i]);
  });
  await storeCourseDwells(
    access,
    courseId,
    after,
    changed.map(([kind]) => kind),
  );
  return after;
}

/** The typical dwell of each student of a group, and their own medians alone. */
function typicalOf({ counts }: Group, ofClass: ReadonlyMap<number, number>) {
  const own = counts.map(medianDwells);
  const typical: TypicalDwell = (s, kind) => own[s]!.get(kind) ?? ofClass.get(kind) ?? 0;
  return { own, typical };
}

/** Of the students whose events are here in part, those whose change needs the events before, too. */
function reachingBack(
  course: CourseModel,
  group: Group,
  ofClass: ReadonlyMap<number, number>,
  stored: ReadonlyMap<number, StudentDwells>,
  affected: Affected,
): number[] {
  const { typical } = typicalOf(group, ofClass);
  const cut = cutOf(course, group, typical);
  const { zone } = course.term;
  return group.ids.filter((id, s) => {
    const settled = group.before[s];
    if (!settled) return false;
    if (movedTypical(stored.get(id)!, (kind) => typical(s, kind))) return true;
    const since = affected.get(id)!;
    const from = localDate(Math.min(since, startBefore(cut, s, since)), zone);
    return from <= localDate(settled.until.getTime(), zone);
  });
}

/** Whether a typical dwell that a student's sessions used is another by now. */
function movedTypical({ typical }: StudentDwells, now: (kind: number) => number): boolean {
  for (let i = 0; i < typical.length; i += 2) if (now(typical[i]!) !== typical[i + 1]) return true;
  return false;
}

const cutOf = (course: CourseModel, { columns, order }: Group, typical: TypicalDwell): Sessionized =>
  sessionize(columns, { gapMinutes: course.row.sessionGapMinutes, last: 'own', typical }, order);

/** Cuts the events of a group and writes what came of it. */
async function deriveGroup(
  access: Access,
  course: CourseModel,
  group: Group,
  ofClass: ReadonlyMap<number, number>,
  stored: ReadonlyMap<number, StudentDwells> | null,
  affected: Affected | null,
): Promise<void> {
  const { ids, sections, columns, before, counts } = group;
  const { own, typical } = typicalOf(group, ofClass);
  const cut = cutOf(course, group, typical);
  const dwells = ids.map((enrolmentId, s): StudentDwells => {
    const [first, last] = [cut.order.offsets[s]!, cut.order.offsets[s + 1]!];
    const ends = new Set([...(before[s]?.ends ?? []), ...endsBetween(columns, cut, first, last)]);
    const used = [...ends].sort((a, b) => a - b);
    return {
      enrolmentId,
      counts: packCounts(counts[s]!),
      relies: used.filter((kind) => !own[s]!.has(kind)),
      typical: used.flatMap((kind) => [kind, typical(s, kind)]),
    };
  });
  const from = ids.map((id, s): LocalDate | null => {
    const since = affected?.get(id);
    const known = stored?.get(id);
    // A typical dwell that moved moves the end of every session.
    if (since == null || since === -Infinity || !known) return null;
    if (movedTypical(known, (kind) => typical(s, kind))) return null;
    return localDate(Math.min(since, startBefore(cut, s, since)), course.term.zone);
  });
  const meetings = sections.map((id) => course.meetingsOfSection.get(id ?? -1) ?? []);
  await writeActivity(access, course, { ids, columns, cut, typical, from, meetingsOf: (s) => meetings[s]! });
  await access.orm.delete(studentDwells).where(idsIn(studentDwells.enrolmentId, ids));
  // Whoever has no events has nothing to remember.
  const known = dwells.filter((d) => d.typical.length > 0);
  for (let i = 0; i < known.length; i += 500) {
    await access.orm.insert(studentDwells).values(known.slice(i, i + 500));
  }
  await settleOld(access, ids, columns, cut, before, course.row.sessionGapMinutes);
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

/** The latest of some events and an instant known before: the data mark. Null if there is none. */
function latestAmong(all: EventList, known: Date | null): Date | null {
  let latest = known?.getTime() ?? -Infinity;
  for (const event of all) if (event.at > latest) latest = event.at;
  return Number.isFinite(latest) ? new Date(latest) : null;
}

async function dataUntilOf({ orm }: Access, courseId: number): Promise<Date | null> {
  const [row] = await orm.select({ until: courses.dataUntil }).from(courses).where(eq(courses.id, courseId));
  return row?.until ?? null;
}

/** The same where events may have gone, as the database has them now. */
async function latestStored({ orm }: Access, courseId: number): Promise<Date | null> {
  // The latest of each student stands in an index; that of a course does not.
  const own = sql`(select max(${events.at}) from ${events} where ${events.enrolmentId} = ${enrolments}.id)`;
  const [found] = await orm
    .select({ at: sql<number | null>`extract(epoch from max(${own})) * 1000` })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  return found?.at == null ? null : new Date(Number(found.at));
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
