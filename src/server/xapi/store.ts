import { randomUUID } from 'node:crypto';
import { and, eq, inArray, isNull, like, or, sql } from 'drizzle-orm';
import { personKey } from '@/core/formats/xapi/person';
import { OF_STATEMENT, recordOf, voidedBy, type StatementRecord } from '@/core/formats/xapi/records';
import { sameStatement } from '@/core/formats/xapi/compare';
import type { Identified } from '@/core/formats/xapi/identify';
import type { SpokenVersion, Statement } from '@/core/formats/xapi/statement';
import { instantOf } from '@/core/formats/xapi/timestamp';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { behind, events, isArriving, isSeen, statements, waiting } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { excluded } from '@/data/write/excluded';
import { keepAttachments, NO_BYTES, sweepAttachments, type Bytes } from './attachments';
import { takeAnswers } from '@/data/write/answerSteps';
import { takeBackHandIns, takeHandIns, type HandIn } from '@/data/write/handIns';
import type { Names } from './people';

/** Rows a statement: few enough for the parameter limit of PostgreSQL. */
const WRITTEN = 1000;

/** Statements that cannot be taken as they are, and why; nothing of their batch is stored. */
export class StatementConflict extends Error {
  constructor(
    readonly status: 400 | 404 | 405 | 409 | 412 | 413,
    message: string,
  ) {
    super(message);
  }
}

export interface Batch {
  readonly courseId: number;
  readonly names: Names;
  readonly received: Instant;
  /** Who sent it, as the `authority` of its statements. */
  readonly authority: string;
  /** The import it came with; null if it came in live. */
  readonly importId: number | null;
  /** The version of the request: that of a statement which states none (part two, 2.4.10). */
  readonly version?: SpokenVersion;
  /** Ids that statements void which are here or come with this one; looked up among the batch where it is not said. */
  readonly voids?: ReadonlySet<string>;
  /** Attachments that came beside the statements, checked. */
  readonly bytes?: Bytes;
}

export interface Stored {
  /** Ids in the order of the batch. */
  readonly ids: readonly string[];
  readonly added: number;
  readonly unchanged: number;
  readonly waiting: number;
  readonly voided: number;
}

/** What the store adds to a statement (part two, 2.4.7 to 2.4.10). */
function complete(statement: Identified, batch: Batch): Record<string, unknown> {
  const stored = new Date(batch.received).toISOString();
  return {
    ...statement,
    timestamp: statement.timestamp ?? stored,
    stored,
    authority: {
      objectType: 'Agent',
      account: { homePage: 'https://ready-lantern.example', name: batch.authority },
    },
    version: 'version' in statement ? statement.version : batch.version === '2.0.0' ? '2.0.0' : '1.0.0',
  };
}

/**
 * Stores checked statements and what they say, in the transaction given (the course is locked). A statement known
 * already counts once; one that says something else under a known id refuses the whole batch.
 */
export async function storeStatements(
  access: Access,
  batch: Batch,
  list: readonly Statement[],
): Promise<Stored> {
  const { orm } = access;
  const ids: string[] = [];
  const fresh = new Map<string, Identified>();
  for (const statement of list) {
    const id = (statement.id ?? randomUUID()).toLowerCase();
    ids.push(id);
    if (fresh.has(id)) throw new StatementConflict(400, `The id ${id} occurs twice.`);
    fresh.set(id, { ...statement, id });
  }
  const known = await orm
    .select({ id: statements.id, statement: statements.statement })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, batch.courseId),
        inArray(statements.id, [...fresh.keys()]),
        isSeen(statements),
      ),
    );
  for (const { id, statement } of known) {
    // What was stored here was checked when it came in.
    if (!sameStatement(statement as Statement, fresh.get(id)!))
      throw new StatementConflict(409, `The statement ${id} is stored with other content.`);
    fresh.delete(id);
  }
  const added = [...fresh.values()];
  if (added.length === 0) return { ids, added: 0, unchanged: ids.length, waiting: 0, voided: 0 };

  const voids = batch.voids ?? (await voidsAmong(access, batch.courseId, added));
  await orm
    .insert(statements)
    .values(statementRows(batch, added, voids))
    // What an import is still bringing counts as not there yet: the one that came first stands.
    .onConflictDoUpdate({
      target: [statements.courseId, statements.id],
      set: excluded(statements, [statements.courseId, statements.id]),
      setWhere: isArriving(statements),
    });
  await keepAttachments(access, batch.courseId, added, batch.bytes ?? NO_BYTES);
  const taken = await takeRecords(access, batch, recordsOf(batch, added, voids));
  const voided = await voidEarlier(access, batch, added);
  return { ids, added: added.length, unchanged: ids.length - added.length, waiting: taken.waiting, voided };
}

/** Statements as they are stored. */
export const statementRows = (
  batch: Batch,
  list: readonly Identified[],
  voids: ReadonlySet<string>,
): (typeof statements.$inferInsert)[] =>
  list.map((s) => ({
    courseId: batch.courseId,
    id: s.id,
    stored: new Date(batch.received),
    at: s.timestamp == null ? new Date(batch.received) : new Date(instantOf(s.timestamp)),
    actor: personKey(s.actor) ?? 'nobody',
    verb: s.verb.id,
    activity: (s.object.objectType ?? 'Activity') === 'Activity' ? (s.object.id ?? null) : null,
    registration: s.context?.registration?.toLowerCase() ?? null,
    voids: voidedBy(s),
    // One voiding statement cannot be voided by another (part two, 2.3.2).
    voided: voids.has(s.id) && voidedBy(s) == null,
    importId: batch.importId,
    statement: complete(s, batch),
  }));

/** What statements tell of, those left out that are void. */
export const recordsOf = (
  batch: Pick<Batch, 'names' | 'received'>,
  list: readonly Identified[],
  voids: ReadonlySet<string>,
): StatementRecord[] =>
  list.flatMap((s) => {
    if (voidedBy(s) != null || voids.has(s.id)) return [];
    const record = recordOf(s, batch.names.find, batch.received);
    return record.ok ? [record.value] : [];
  });

/** The ids that statements on record, or one of those given, void. */
export async function voidsAmong(
  { orm }: Access,
  courseId: number,
  list: readonly Identified[],
): Promise<Set<string>> {
  const voids = new Set(list.flatMap((s) => voidedBy(s) ?? []));
  for (let i = 0; i < list.length; i += WRITTEN) {
    const ids = list.slice(i, i + WRITTEN).map((s) => s.id);
    const early = await orm
      .select({ voids: statements.voids })
      .from(statements)
      .where(and(eq(statements.courseId, courseId), inArray(statements.voids, ids), isSeen(statements)));
    for (const { voids: id } of early) voids.add(id!);
  }
  return voids;
}

/** The authority of statements that came in files. */
export const OF_FILES = 'import';

/**
 * What is dated later than this is kept and shown as such, and counts for nobody: a clock that runs ahead must not make
 * anybody look active tomorrow.
 */
const latestOf = (received: Instant): Instant => received + DAY_MS;

/** Whether what a statement says must wait for its person. */
export const mustWait = (record: StatementRecord, names: Names, received: Instant): boolean =>
  record.at <= latestOf(received) && names.enrolmentOf(record.person) == null;

/** Puts records of statements where they belong: events and hand-ins, or the list of those who wait. */
export async function takeRecords(
  access: Access,
  batch: Omit<Batch, 'authority'>,
  records: readonly StatementRecord[],
): Promise<{ events: number; waiting: number }> {
  const { known, unknown } = await placeRecords(access, batch, records);
  await letWait(access, batch, unknown);
  const inserted = await insertEvents(access, batch, known);
  await fallBehind(access, inserted);
  const fresh = new Set(inserted.map((e) => e.id));
  await takeHandIns(
    access,
    handInsOf(batch, known).flatMap(({ eventId, handIn }) => (fresh.has(eventId) ? [handIn] : [])),
  );
  return { events: inserted.length, waiting: unknown.length };
}

/** What a statement tells of somebody who is known, and the id under which its event goes in. */
export interface Placed {
  readonly record: StatementRecord;
  readonly enrolmentId: number;
  readonly eventId: string;
}

/** Tells apart records of people who are known and of those who are not. */
export async function placeRecords(
  access: Access,
  batch: Omit<Batch, 'authority'>,
  records: readonly StatementRecord[],
): Promise<{ readonly known: readonly Placed[]; readonly unknown: readonly StatementRecord[] }> {
  const { names } = batch;
  const about: { record: StatementRecord; enrolmentId: number }[] = [];
  const unknown: StatementRecord[] = [];
  for (const record of records) {
    if (mustWait(record, names, batch.received)) unknown.push(record);
    else if (record.at <= latestOf(batch.received))
      about.push({ record, enrolmentId: names.enrolmentOf(record.person)! });
  }
  return {
    known: await withOwnIds(access, batch, about),
    // Under the id of an event that came another way only what a file brings waits.
    unknown: batch.importId == null ? unknown.map((record) => ({ ...record, ownId: null })) : unknown,
  };
}

interface Inserted {
  readonly id: string;
  readonly enrolmentId: number;
  readonly at: Date;
}

/** Writes the events of records, with the answers to items that they tell of. Returns those that were not there. */
export async function insertEvents(
  access: Access,
  { courseId, importId, names }: Omit<Batch, 'authority'>,
  known: readonly Placed[],
): Promise<Inserted[]> {
  const { orm } = access;
  const inserted: Inserted[] = [];
  for (let i = 0; i < known.length; i += WRITTEN) {
    const values = known.slice(i, i + WRITTEN).map(({ record, enrolmentId, eventId }) => ({
      courseId,
      eventId,
      ofStatement: eventId === record.eventId ? null : record.eventId.slice(OF_STATEMENT.length),
      enrolmentId,
      at: new Date(record.at),
      kind: record.kind,
      activityId: names.activityIdOf(record.activity),
      durationS: record.duration,
      importId,
    }));
    const written = await orm
      .insert(events)
      .values(values)
      // What an import is still bringing counts as not there yet: the one that came first stands.
      .onConflictDoUpdate({
        target: [events.courseId, events.eventId],
        set: excluded(events, [events.courseId, events.eventId]),
        setWhere: importId == null ? isArriving(events) : sql`false`,
      })
      .returning({ id: events.eventId, enrolmentId: events.enrolmentId, at: events.at });
    inserted.push(...written);
    const there = new Set(written.map((w) => w.id));
    await takeAnswers(
      access,
      known.slice(i, i + WRITTEN).flatMap(({ record, enrolmentId, eventId }) => {
        const activityId = names.activityIdOf(record.activity);
        if (!record.answered || activityId == null || !there.has(eventId)) return [];
        return [{ courseId, eventId, enrolmentId, activityId, answered: record.answered }];
      }),
    );
  }
  return inserted;
}

/** What of placed records was handed in, with the event that tells of it. */
export const handInsOf = (
  { names }: Pick<Batch, 'names'>,
  known: readonly Placed[],
): { readonly eventId: string; readonly handIn: HandIn }[] =>
  known.flatMap(({ record, enrolmentId, eventId }) => {
    const activityId = names.activityIdOf(record.activity);
    if (!record.handedIn || activityId == null) return [];
    return [{ eventId, handIn: { enrolmentId, activityId, at: record.at, points: record.handedIn.points } }];
  });

/**
 * Under which id the event of each record goes in. A statement of our own export names its event: it is that event
 * if it is on record and the same, and then nothing goes in; it takes the id if a file brings it and the id is free.
 * Any other is an event of its own: a name in a statement takes over nothing that came another way.
 */
async function withOwnIds(
  { orm }: Access,
  { courseId, importId }: Pick<Batch, 'courseId' | 'importId'>,
  about: readonly { readonly record: StatementRecord; readonly enrolmentId: number }[],
): Promise<{ record: StatementRecord; enrolmentId: number; eventId: string }[]> {
  const ids = about.flatMap(({ record }) => record.ownId ?? []);
  const stored = new Map<string, { enrolmentId: number; at: Date; kind: string }>();
  for (let i = 0; i < ids.length; i += WRITTEN) {
    const rows = await orm
      .select({ id: events.eventId, enrolmentId: events.enrolmentId, at: events.at, kind: events.kind })
      .from(events)
      .where(
        and(
          eq(events.courseId, courseId),
          inArray(events.eventId, ids.slice(i, i + WRITTEN)),
          importId == null ? isSeen(events) : undefined,
        ),
      );
    for (const { id, ...row } of rows) stored.set(id, row);
  }
  return about.flatMap(({ record, enrolmentId }) => {
    const { ownId } = record;
    const known = ownId == null ? undefined : stored.get(ownId);
    if (known?.enrolmentId === enrolmentId && known.at.getTime() === record.at && known.kind === record.kind)
      return [];
    const takes = ownId != null && importId != null && !stored.has(ownId);
    if (takes) stored.set(ownId, { enrolmentId, at: new Date(record.at), kind: record.kind });
    return [{ record, enrolmentId, eventId: takes ? ownId : record.eventId }];
  });
}

/** Lets records wait for their person. */
export async function letWait(
  access: Access,
  { courseId, importId, received }: Pick<Batch, 'courseId' | 'importId' | 'received'>,
  records: readonly StatementRecord[],
): Promise<void> {
  await insertMany(
    access,
    waiting,
    records.map((record) => ({
      courseId,
      importId,
      kind: 'events' as const,
      person: record.person,
      name: record.name,
      key: record.eventId,
      record,
      at: new Date(received),
    })),
    { conflict: sql`on conflict do nothing` },
  );
}

/** Notes whose derived rows are behind, and from when. */
export async function fallBehind(
  { orm }: Access,
  changed: readonly { readonly enrolmentId: number; readonly at: Date }[],
  removed = false,
): Promise<void> {
  const since = new Map<number, number>();
  for (const { enrolmentId, at } of changed)
    since.set(enrolmentId, Math.min(at.getTime(), since.get(enrolmentId) ?? Infinity));
  if (since.size === 0) return;
  await orm
    .insert(behind)
    .values([...since].map(([enrolmentId, at]) => ({ enrolmentId, since: new Date(at), removed })))
    .onConflictDoUpdate({
      target: behind.enrolmentId,
      set: {
        since: sql`least(${behind.since}, excluded.since)`,
        removed: sql`${behind.removed} or excluded.removed`,
      },
    });
}

/** Takes back what statements said that others of this batch void. Returns how many. */
export async function voidEarlier(
  access: Access,
  batch: Pick<Batch, 'courseId' | 'names'>,
  added: readonly Identified[],
): Promise<number> {
  const { orm } = access;
  const targets = added.flatMap((s) => voidedBy(s) ?? []);
  if (targets.length === 0) return 0;
  const gone = await orm
    .update(statements)
    .set({ voided: true })
    .where(
      and(
        eq(statements.courseId, batch.courseId),
        inArray(statements.id, targets),
        sql`${statements.voids} is null`,
      ),
    )
    .returning({ statement: statements.statement, stored: statements.stored });
  await forgetSaid(access, batch, gone);
  return gone.length;
}

/** A statement as it is stored. It was checked when it came in. */
interface Said {
  readonly statement: unknown;
  readonly stored: Date;
}

/**
 * Takes back what stored statements said: their events, their hand-ins, or their places among those who wait. Returns
 * what those said that had been in.
 */
async function forgetSaid(
  access: Access,
  of: Pick<Batch, 'courseId' | 'names'>,
  rows: readonly Said[],
): Promise<StatementRecord[]> {
  const records = rows.flatMap(({ statement, stored }) => {
    const record = recordOf(statement as Identified, of.names.find, stored.getTime());
    return record.ok ? [record.value] : [];
  });
  const had: StatementRecord[] = [];
  for (let i = 0; i < records.length; i += WRITTEN)
    had.push(...(await forgetRecords(access, of, records.slice(i, i + WRITTEN))));
  return had;
}

async function forgetRecords(
  access: Access,
  of: Pick<Batch, 'courseId' | 'names'>,
  records: readonly StatementRecord[],
): Promise<StatementRecord[]> {
  const { orm } = access;
  const { courseId } = of;
  const ids = records.map((r) => r.eventId);
  await orm
    .delete(waiting)
    .where(and(eq(waiting.courseId, courseId), eq(waiting.kind, 'events'), inArray(waiting.key, ids)));
  // Never an event that came another way, whatever its id.
  const own = records.filter((r) => r.ownId != null);
  const named = sql`(${events.eventId}, ${events.ofStatement}) in (select * from unnest(
    ${sql.param(own.map((r) => r.ownId))}::text[],
    ${sql.param(own.map((r) => r.eventId.slice(OF_STATEMENT.length)))}::text[]))`;
  const gone = await orm
    .delete(events)
    .where(
      and(
        eq(events.courseId, courseId),
        or(
          and(inArray(events.eventId, ids), isNull(events.ofStatement)),
          own.length > 0
            ? and(
                inArray(
                  events.eventId,
                  own.map((r) => r.ownId!),
                ),
                named,
              )
            : undefined,
        ),
      ),
    )
    .returning({
      id: events.eventId,
      of: events.ofStatement,
      enrolmentId: events.enrolmentId,
      activityId: events.activityId,
      at: events.at,
    });
  await fallBehind(access, gone, true);
  const eventOf = new Map(gone.map((e) => [e.of == null ? e.id : OF_STATEMENT + e.of, e]));
  const had = records.filter((r) => eventOf.has(r.eventId));
  const handIns = had.flatMap(({ eventId, handedIn, at }): HandIn[] => {
    const { enrolmentId, activityId } = eventOf.get(eventId)!;
    return handedIn && activityId != null ? [{ enrolmentId, activityId, at, points: handedIn.points }] : [];
  });
  await takeBackHandIns(access, await saidByNobody(access, of, handIns));
  return had;
}

/**
 * Hand-ins that no other statement which holds, and is in, tells of. Platforms often say “completed” and “passed” of
 * one attempt at once: it is one attempt until neither says so.
 */
async function saidByNobody(
  { orm }: Access,
  { courseId, names }: Pick<Batch, 'courseId' | 'names'>,
  handIns: readonly HandIn[],
): Promise<HandIn[]> {
  if (handIns.length === 0) return [];
  const column = <K extends keyof HandIn>(key: K) => sql.param(handIns.map((h) => h[key]));
  const beside = await orm
    .select({ id: events.eventId, enrolmentId: events.enrolmentId, activityId: events.activityId })
    .from(events)
    .innerJoin(
      sql`(select distinct * from unnest(${column('enrolmentId')}::int[], ${column('activityId')}::int[],
        ${sql.param(handIns.map((h) => new Date(h.at).toISOString()))}::timestamptz[])) as said(e, a, at)`,
      sql`said.e = ${events.enrolmentId} and said.a = ${events.activityId} and said.at = ${events.at}`,
    )
    .where(and(like(events.eventId, `${OF_STATEMENT}%`), isSeen(events)));
  if (beside.length === 0) return [...handIns];
  const cellOf = new Map(
    beside.map((b) => [b.id.slice(OF_STATEMENT.length), `${b.enrolmentId} ${b.activityId}`]),
  );
  const rows = await orm
    .select({ id: statements.id, statement: statements.statement, stored: statements.stored })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, courseId),
        inArray(statements.id, [...cellOf.keys()]),
        eq(statements.voided, false),
      ),
    );
  const said = new Set(
    rows.flatMap(({ id, statement, stored }) => {
      const record = recordOf(statement as Identified, names.find, stored.getTime());
      return record.ok && record.value.handedIn
        ? [`${cellOf.get(id)} ${record.value.at} ${record.value.handedIn.points}`]
        : [];
    }),
  );
  return handIns.filter((h) => !said.has(`${h.enrolmentId} ${h.activityId} ${h.at} ${h.points}`));
}

/** Takes out what everything said under the name of somebody, who is not who they were taken for: it waits again. */
export async function unsay(
  access: Access,
  of: Pick<Batch, 'courseId' | 'names' | 'received'>,
  person: string,
): Promise<number> {
  const theirs = await access.orm
    .select({ statement: statements.statement, stored: statements.stored })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, of.courseId),
        eq(statements.actor, person),
        eq(statements.voided, false),
        isNull(statements.voids),
      ),
    );
  const said = await forgetSaid(access, of, theirs);
  await letWait(access, { ...of, importId: null }, said);
  return said.length;
}

/**
 * Takes out the statements that came with an import, and what they said; what they had voided holds again. Returns how
 * many there were.
 */
export async function removeImported(
  access: Access,
  of: Pick<Batch, 'courseId' | 'names' | 'received'>,
  importId: number,
): Promise<number> {
  const gone = await access.orm
    .delete(statements)
    .where(and(eq(statements.courseId, of.courseId), eq(statements.importId, importId)))
    .returning({ statement: statements.statement, stored: statements.stored, voids: statements.voids });
  await sweepAttachments(access, of.courseId);
  await forgetSaid(access, of, gone);
  const targets = gone.flatMap((row) => row.voids ?? []);
  if (targets.length > 0) await holdAgain(access, of, targets);
  return gone.length;
}

/** Lets voided statements hold again that nothing voids any more. */
async function holdAgain(
  access: Access,
  of: Pick<Batch, 'courseId' | 'names' | 'received'>,
  ids: readonly string[],
): Promise<void> {
  const { orm } = access;
  const still = await orm
    .select({ id: statements.voids })
    .from(statements)
    .where(and(eq(statements.courseId, of.courseId), inArray(statements.voids, [...ids])));
  const voided = new Set(still.map((s) => s.id));
  const freed = ids.filter((id) => !voided.has(id));
  if (freed.length === 0) return;
  const again = await orm
    .update(statements)
    .set({ voided: false })
    .where(
      and(eq(statements.courseId, of.courseId), inArray(statements.id, freed), eq(statements.voided, true)),
    )
    .returning({
      statement: statements.statement,
      stored: statements.stored,
      importId: statements.importId,
    });
  const byImport = new Map<number | null, StatementRecord[]>();
  for (const { statement, stored, importId } of again) {
    const record = recordOf(statement as Identified, of.names.find, stored.getTime());
    if (record.ok) byImport.set(importId, [...(byImport.get(importId) ?? []), record.value]);
  }
  for (const [importId, records] of byImport) await takeRecords(access, { ...of, importId }, records);
}
