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
import { behind, courses, enrolments, seenEvents, studentDwells } from '@/data/schema';
import { turn } from '@/data/turn';
import type { CourseModel } from '@/data/queries/courseModel';
import {
  addCounts,
  leaningOn,
  loadCourseDwells,
  loadStudentDwells,
  packCounts,
  storeCourseDwells,
  sumCounts,
  type StudentDwells,
} from '@/data/write/dwells';
import { readEvents, toColumns, type ActivityColumns, type EventList } from '@/data/queries/eventColumns';
import { idsIn } from '@/data/queries/idsIn';
import { unwatched, type Progress } from '../jobs/progress';
import { revise } from '@/data/queries/revision';
import { endsBetween, loadSettled, settleOld, storeSettled, type Settled } from '@/data/write/settled';
import { letHold } from '@/data/write/versions';
import { writeActivity } from '@/data/write/activity';

/** From which instant on the events of a student have changed; -Infinity for all of them. */
export type Affected = ReadonlyMap<number, Instant>;

/** Events at hand, by student. */
export type KnownEvents = ReadonlyMap<number, EventList>;

/** What an import brings along that is not in the tables of the course yet. */
export interface ToCome {
  readonly importId: number;
  /** Students that the import adds, and those whose section it changes. */
  readonly sections: ReadonlyMap<number, number | null>;
  /** All events of the affected students, if they are at hand. */
  readonly known?: KnownEvents;
}

/** What a derivation found beside the rows that it wrote: it is stored in the transaction that lets them hold. */
export interface Derived {
  readonly ids: readonly number[];
  /** The version that was prepared; null if the rows that hold were changed. */
  readonly version: number | null;
  /** Whether it is all of the course. */
  readonly all: boolean;
  readonly dwells: readonly StudentDwells[];
  readonly settled: readonly Settled[];
  /** Students whose settled part is replaced. */
  readonly unsettled: readonly number[];
  /** The latest of the events that were looked at. */
  readonly latest: Date | null;
  /** The medians of the class that the students leaned on. */
  readonly medians: ReadonlyMap<number, number>;
}

/**
 * Brings sessions, day totals and the data mark of a course up to date with its events, in a transaction that holds
 * the course. Reads the events of the affected students only, and of those only what is not settled; writes from the
 * first day that may have changed. Students who lean on a median of the class that has moved are derived anew. Gives
 * the same rows as a rebuild of everybody.
 *
 * @param affected students whose events changed; null rebuilds everybody
 * @param options.removed whether events have gone, so that the data mark may go back
 */
export async function deriveActivity(
  access: Access,
  course: CourseModel,
  affected: Affected | null,
  { removed = false }: { removed?: boolean } = {},
): Promise<void> {
  const derived = await derive(access, course, affected, null, undefined, unwatched);
  if (!derived) return;
  await keepDerived(access, course.row.id, derived, removed);
  await access.orm.delete(behind).where(idsIn(behind.enrolmentId, derived.ids));
}

/**
 * The same into a version of its own, which nobody sees until `installActivity`; outside of any transaction, so that
 * nobody waits for it. Null if there is nobody to derive.
 */
export async function prepareActivity(
  db: Access,
  course: CourseModel,
  affected: Affected | null,
  version: number,
  toCome?: ToCome,
  progress: Progress = unwatched,
): Promise<Derived | null> {
  return derive(db, course, affected, version, toCome, progress);
}

/**
 * Lets what was prepared hold, in a transaction that holds the course. Returns students who lean on a median of the
 * class that has moved since it was prepared.
 */
export async function installActivity(access: Access, courseId: number, derived: Derived): Promise<number[]> {
  if (derived.version != null) await letHold(access, derived.ids, derived.version);
  await keepDerived(access, courseId, derived, false);
  const medians = medianDwells(await loadCourseDwells(access, courseId));
  return leaningOn(access, courseId, movedKinds(derived.medians, medians));
}

/** Kinds of which one median is another. */
const movedKinds = (a: ReadonlyMap<number, number>, b: ReadonlyMap<number, number>): number[] =>
  [...new Set([...a.keys(), ...b.keys()])].filter((kind) => a.get(kind) !== b.get(kind));

async function derive(
  access: Access,
  course: CourseModel,
  affected: Affected | null,
  version: number | null,
  toCome: ToCome | undefined,
  progress: Progress,
): Promise<Derived | null> {
  const courseId = course.row.id;
  const roster = await rosterOf(access, course, affected && [...affected.keys()], toCome);
  if (roster.length === 0) return null;
  const ids = roster.map((r) => r.id);
  const none = { stored: new Map<number, StudentDwells>(), before: new Map() as DwellCounts };
  const { stored, before } = affected
    ? { stored: await loadStudentDwells(access, ids), before: await loadCourseDwells(access, courseId) }
    : none;
  const old = medianDwells(before);
  const read = { access, course, toCome, progress };
  let ends = affected ? await unsettled(access, affected, stored) : new Map<number, Settled>();
  let groups = await groupsOf(read, roster, ends);
  const medians = medianDwells(countsAfter(before, stored, groups));
  // Whose typical dwell has moved, or whose change reaches into what is settled, is read as a whole after all.
  const reaching = affected
    ? groups.flatMap((group) => reachingBack(course, group, medians, stored, affected))
    : [];
  if (reaching.length > 0) {
    const whole = new Set(reaching);
    ends = new Map([...ends].filter(([id]) => !whole.has(id)));
    groups = await groupsOf(read, roster, ends);
  }
  await progress('Sessions and days');
  const parts = [];
  for (const group of groups) {
    parts.push(await deriveGroup(access, course, group, medians, { stored, affected, version }));
    if (groups.length > 1) await progress('Sessions and days', parts.length, groups.length);
  }
  if (affected) {
    const done = new Set(ids);
    const leaning = (await leaningOn(access, courseId, movedKinds(old, medians))).filter(
      (id) => !done.has(id),
    );
    if (leaning.length > 0) {
      const others = await rosterOf(access, course, leaning, toCome);
      for (const group of await groupsOf(read, others, new Map()))
        parts.push(
          await deriveGroup(access, course, group, medians, { stored: null, affected: null, version }),
        );
    }
  }
  const latest = Math.max(...groups.map((g) => g.latest));
  return {
    ids: parts.flatMap((p) => p.ids),
    version,
    all: affected == null,
    dwells: parts.flatMap((p) => p.dwells),
    settled: parts.flatMap((p) => p.settled),
    unsettled: parts.flatMap((p) => p.unsettled),
    latest: Number.isFinite(latest) ? new Date(latest) : null,
    medians,
  };
}

/** Rows of dwells a statement: each has some thousand numbers. */
const DWELLS = 50;

/** Stores what a derivation found, and says so in a new revision of the course. */
async function keepDerived(
  access: Access,
  courseId: number,
  { ids, all, dwells, settled, unsettled: gone, latest }: Derived,
  removed: boolean,
): Promise<void> {
  const before = await loadCourseDwells(access, courseId);
  const stored = all ? [] : [...(await loadStudentDwells(access, ids)).values()];
  const after: DwellCounts = new Map(all ? [] : [...before].map(([kind, counts]) => [kind, counts.slice()]));
  for (const { counts } of stored) addCounts(after, counts, -1, COUNTED_SECONDS);
  for (const { counts } of dwells) addCounts(after, counts, 1, COUNTED_SECONDS);
  const changed = [...new Set([...before.keys(), ...after.keys()])].filter((kind) => {
    const [was, is] = [before.get(kind), after.get(kind)];
    return !was || !is || is.some((n, i) => n !== was[i]);
  });
  await storeCourseDwells(access, courseId, after, changed);
  await access.orm.delete(studentDwells).where(idsIn(studentDwells.enrolmentId, ids));
  // Whoever has no events has nothing to remember.
  const known = dwells.filter((d) => d.typical.length > 0);
  for (let i = 0; i < known.length; i += DWELLS)
    await access.orm.insert(studentDwells).values(known.slice(i, i + DWELLS));
  await storeSettled(access, settled, gone);
  const dataUntil = removed
    ? await latestStored(access, courseId)
    : later(latest, all ? null : await dataUntilOf(access, courseId));
  await revise(access, courseId, ids, { dataUntil });
}

const later = (a: Date | null, b: Date | null): Date | null => (a != null && (b == null || a > b) ? a : b);

interface Student {
  readonly id: number;
  readonly sectionId: number | null;
  readonly version: number;
}
type Roster = readonly Student[];

/** The students of a course, or some of them; those of an import as they will be. */
async function rosterOf(
  { orm }: Access,
  course: CourseModel,
  ids: readonly number[] | null,
  toCome: ToCome | undefined,
): Promise<Roster> {
  const own = eq(enrolments.courseId, course.row.id);
  const rows = await orm
    .select({ id: enrolments.id, sectionId: enrolments.sectionId, version: enrolments.version })
    .from(enrolments)
    // Those that an import adds are in no course yet.
    .where(ids ? (toCome ? idsIn(enrolments.id, ids) : and(own, idsIn(enrolments.id, ids))) : own);
  const { sections } = toCome ?? {};
  return rows.map((r) => (sections?.has(r.id) ? { ...r, sectionId: sections.get(r.id)! } : r));
}

/** Events that are cut together: few enough that nobody waits long for their turn. */
const CUT_TOGETHER = 20_000;

interface Reading {
  readonly access: Access;
  readonly course: CourseModel;
  readonly toCome: ToCome | undefined;
  readonly progress: Progress;
}

/** Students with their events, in groups. */
async function groupsOf(
  { access, course, toCome, progress }: Reading,
  roster: Roster,
  ends: ReadonlyMap<number, Settled>,
): Promise<Group[]> {
  const groups: Group[] = [];
  let some: Student[] = [];
  let events: EventList[] = [];
  let count = 0;
  const close = async () => {
    if (some.length === 0) return;
    groups.push(groupOf(course, some, joined(events, count), ends));
    [some, events, count] = [[], [], 0];
    await turn();
  };
  for (let i = 0; i < roster.length; i += READ_TOGETHER) {
    const next = roster.slice(i, i + READ_TOGETHER);
    const ids = next.map((r) => r.id);
    const lists: EventList[] = toCome?.known
      ? ids.map((id) => toCome.known!.get(id) ?? [])
      : [await readEvents(access, ids, sinceOf(ends), toCome?.importId)];
    if (i > 0 && !toCome?.known) await progress('Sessions and days', i, roster.length);
    some.push(...next);
    events.push(...lists);
    for (const list of lists) count += list.length;
    if (count >= CUT_TOGETHER) await close();
  }
  await close();
  return groups;
}

/** Students whose events are read together: few enough that nobody else waits long for their turn. */
const READ_TOGETHER = 8;

const joined = (lists: readonly EventList[], length: number): EventList => ({
  length,
  *[Symbol.iterator]() {
    for (const list of lists) yield* list;
  },
});

interface Group {
  readonly ids: readonly number[];
  readonly roster: Roster;
  readonly columns: ActivityColumns;
  readonly order: EventOrder;
  /** The latest event; -Infinity if there is none. */
  readonly latest: number;
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
  let latest = -Infinity;
  for (const at of columns.at) if (at > latest) latest = at;
  return { ids, roster, columns, order, latest, before, counts };
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

/** Counts of the class's dwells once those of some students are those of the groups. */
function countsAfter(
  before: DwellCounts,
  stored: ReadonlyMap<number, StudentDwells>,
  groups: readonly Group[],
): DwellCounts {
  const after: DwellCounts = new Map([...before].map(([kind, counts]) => [kind, counts.slice()]));
  for (const { counts } of stored.values()) addCounts(after, counts, -1, COUNTED_SECONDS);
  for (const group of groups) for (const counts of group.counts) sumCounts(after, counts);
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

interface How {
  /** What is remembered of the students; null if they are derived as a whole. */
  readonly stored: ReadonlyMap<number, StudentDwells> | null;
  readonly affected: Affected | null;
  /** The version to prepare; null to change the rows that hold. */
  readonly version: number | null;
}

/** Cuts the events of a group and writes what came of it; returns the rest, to be stored with it. */
async function deriveGroup(
  access: Access,
  course: CourseModel,
  group: Group,
  ofClass: ReadonlyMap<number, number>,
  { stored, affected, version }: How,
): Promise<Pick<Derived, 'ids' | 'dwells' | 'settled' | 'unsettled'>> {
  const { ids, roster, columns, before, counts } = group;
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
  const meetings = roster.map((r) => course.meetingsOfSection.get(r.sectionId ?? -1) ?? []);
  await writeActivity(access, course, {
    ids,
    columns,
    cut,
    typical,
    from,
    meetingsOf: (s) => meetings[s]!,
    versions: roster.map((r) => r.version),
    prepare: version,
  });
  const { rows, gone } = settleOld(ids, columns, cut, before, course.row.sessionGapMinutes);
  return { ids, dwells, settled: rows, unsettled: gone };
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

async function dataUntilOf({ orm }: Access, courseId: number): Promise<Date | null> {
  const [row] = await orm.select({ until: courses.dataUntil }).from(courses).where(eq(courses.id, courseId));
  return row?.until ?? null;
}

/** The same where events may have gone, as the database has them now. */
async function latestStored({ orm }: Access, courseId: number): Promise<Date | null> {
  // The latest of each student stands in an index; that of a course does not.
  const own = sql`(select max(${seenEvents.at}) from ${seenEvents} where ${seenEvents.enrolmentId} = ${enrolments}.id)`;
  const [found] = await orm
    .select({ at: sql<number | null>`extract(epoch from max(${own})) * 1000` })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  return found?.at == null ? null : new Date(Number(found.at));
}
