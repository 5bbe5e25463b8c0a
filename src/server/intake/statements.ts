import { and, eq, sql } from 'drizzle-orm';
import { sameStatement } from '@/core/formats/xapi/compare';
import {
  identifyInSteps,
  refusedStatement,
  type Identified,
  type PlacedStatement,
} from '@/core/formats/xapi/identify';
import { OF_STATEMENT, recordOf, voidedBy, type StatementRecord } from '@/core/formats/xapi/records';
import type { Statement } from '@/core/formats/xapi/statement';
import type { RejectedRow } from '@/core/formats/table';
import type { Instant } from '@/core/units';
import type { FileCounts, FilePreview, PreviewRow } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import { events, isSeen, statements } from '@/data/schema';
import { turn } from '@/data/turn';
import { unwatched, type Progress } from '../jobs/progress';
import { inTurns } from '../base/turns';
import { readNames, sha1, type Names } from '../xapi/people';
import { takeHandIns, type HandIn } from '@/data/write/handIns';
import {
  handInsOf,
  insertEvents,
  letWait,
  mustWait,
  OF_FILES,
  placeRecords,
  recordsOf,
  statementRows,
  storeStatements,
  voidEarlier,
  voidsAmong,
} from '../xapi/store';
import type { Arrival } from './arrival';
import type { StatementFile } from './readFiles';

/** Statements stored, or compared, together. */
const BATCH = 500;
const SHOWN = 200;
/** What a rejected statement is reported with. */
export const REJECTED_HEADER: readonly string[] = ['statement'];

interface SortedStatements {
  readonly fresh: readonly PlacedStatement[];
  readonly unchanged: number;
  readonly rejected: readonly RejectedRow[];
}

/** Tells apart which statements of a file are new, which are known, and which say something else than those known. */
export async function sortStatements(
  access: Access,
  courseId: number,
  file: StatementFile,
): Promise<SortedStatements> {
  const { rows, repeated, rejected } = await inTurns(identifyInSteps(file, sha1));
  const fresh: PlacedStatement[] = [];
  const refused = [...rejected];
  let unchanged = repeated;
  for (let i = 0; i < rows.length; i += BATCH) {
    await turn();
    const batch = rows.slice(i, i + BATCH);
    const stored = await storedAmong(
      access,
      courseId,
      batch.map((r) => r.value.id),
    );
    for (const row of batch) {
      const known = stored.get(row.value.id);
      if (!known) fresh.push(row);
      else if (sameStatement(known, row.value)) unchanged++;
      else refused.push(refusedStatement(row, `the statement ${row.value.id} is stored with other content`));
    }
  }
  return { fresh, unchanged, rejected: refused.sort((a, b) => a.line - b.line) };
}

async function storedAmong(
  { orm }: Access,
  courseId: number,
  ids: readonly string[],
): Promise<Map<string, Statement>> {
  const found = await orm
    .select({ id: statements.id, statement: statements.statement })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, courseId),
        sql`${statements.id} = any(${sql.param([...ids])}::text[])`,
        isSeen(statements),
      ),
    );
  // What was stored here was checked when it came in.
  return new Map(found.map((f) => [f.id, f.statement as Statement]));
}

/**
 * What importing a file of statements would do; nothing is changed.
 *
 * @param names who and what names mean once the other files of the upload are in
 */
export async function previewStatements(
  db: Database,
  courseId: number,
  file: StatementFile,
  names: Names,
  at: Instant,
): Promise<FilePreview> {
  const { fresh, unchanged, rejected } = await sortStatements(db, courseId, file);
  const voids = await voidsAmong(
    db,
    courseId,
    fresh.map((r) => r.value),
  );
  const added: PreviewRow[] = [];
  const waiting: PreviewRow[] = [];
  let [addedCount, waitingCount] = [0, 0];
  for (const [i, { line, value }] of fresh.entries()) {
    if (i % BATCH === 0) await turn();
    const record = recordOf(value, names.find, at);
    const counts = voidedBy(value) == null && !voids.has(value.id);
    const unknown = counts && record.ok && mustWait(record.value, names, at);
    if (unknown) waitingCount++;
    else addedCount++;
    const list = unknown ? waiting : added;
    if (list.length < SHOWN)
      list.push({
        line,
        cells: [
          value.timestamp ?? '',
          record.ok ? record.value.person : '',
          value.verb.id,
          value.object.id ?? '',
        ],
        field: '',
        reason: '',
      });
  }
  return {
    kind: 'statements',
    name: file.name,
    header: ['timestamp', 'actor', 'verb', 'object'],
    rejectedHeader: REJECTED_HEADER,
    counts: {
      file: file.name,
      kind: 'statements',
      added: addedCount,
      changed: 0,
      unchanged,
      rejected: rejected.length,
      waiting: waitingCount,
    },
    added,
    changed: [],
    waiting,
    rejected: rejected.slice(0, SHOWN).map((r) => ({ ...r, cells: r.cells.map((c) => c.slice(0, 120)) })),
  };
}

/** Stores the statements of a file as part of an import, in its transaction. */
export async function importStatements(
  tx: Access,
  courseId: number,
  importId: number,
  file: StatementFile,
  at: Instant,
  progress: Progress = unwatched,
): Promise<FileCounts> {
  const names = await readNames(tx, courseId);
  const { fresh, unchanged, rejected } = await sortStatements(tx, courseId, file);
  let [added, waiting] = [0, 0];
  const list = fresh.map((r) => r.value);
  const voids = await voidsAmong(tx, courseId, list);
  for (let i = 0; i < list.length; i += BATCH) {
    await progress('Writing statements', i, list.length);
    const stored = await storeStatements(
      tx,
      { courseId, names, received: at, authority: OF_FILES, importId, voids },
      list.slice(i, i + BATCH),
    );
    added += stored.added - stored.waiting;
    waiting += stored.waiting;
  }
  return countsOf(file, { added, unchanged, rejected: rejected.length, waiting });
}

const countsOf = (
  file: StatementFile,
  counts: Pick<FileCounts, 'added' | 'unchanged' | 'rejected' | 'waiting'>,
): FileCounts => ({ file: file.name, kind: 'statements', changed: 0, ...counts });

/** Statements of a file that are stored where nobody sees them yet, and what is left to do when they come in. */
export interface BroughtStatements {
  readonly file: StatementFile;
  readonly list: readonly Identified[];
  readonly unchanged: number;
  readonly rejected: number;
  readonly waits: readonly StatementRecord[];
  readonly handIns: readonly { readonly eventId: string; readonly handIn: HandIn }[];
  /** How many events they told of. */
  readonly events: number;
  /** The earliest event of each student. */
  readonly affected: ReadonlyMap<number, Instant>;
}

/**
 * Stores the statements of a file, and what they tell of, as rows of an import that nobody sees yet.
 *
 * @param names what names mean once the other files of the import are in
 */
export async function bringStatements(
  db: Access,
  { courseId, importId }: Pick<Arrival, 'courseId' | 'importId'>,
  file: StatementFile,
  names: Names,
  at: Instant,
  progress: Progress,
): Promise<BroughtStatements> {
  const { fresh, unchanged, rejected } = await sortStatements(db, courseId, file);
  const all = fresh.map((r) => r.value);
  const voids = await voidsAmong(db, courseId, all);
  const batch = { courseId, names, received: at, authority: OF_FILES, importId, voids };
  const list: Identified[] = [];
  const waits: StatementRecord[] = [];
  const handIns: { eventId: string; handIn: HandIn }[] = [];
  const affected = new Map<number, Instant>();
  let told = 0;
  for (let i = 0; i < all.length; i += BROUGHT) {
    await progress('Writing statements', i, all.length);
    const some = all.slice(i, i + BROUGHT);
    const written = await db.orm
      .insert(statements)
      .values(statementRows(batch, some, voids))
      .onConflictDoNothing()
      .returning({ id: statements.id });
    // One that came in live meanwhile is there already.
    const ids = new Set(written.map((w) => w.id));
    const own = some.filter((s) => ids.has(s.id));
    list.push(...own);
    const { known, unknown } = await placeRecords(db, batch, recordsOf(batch, own, voids));
    waits.push(...unknown);
    const inserted = await insertEvents(db, batch, known);
    told += inserted.length;
    const there = new Set(inserted.map((e) => e.id));
    handIns.push(...handInsOf(batch, known).filter((h) => there.has(h.eventId)));
    for (const e of inserted)
      affected.set(e.enrolmentId, Math.min(e.at.getTime(), affected.get(e.enrolmentId) ?? Infinity));
  }
  return {
    file,
    list,
    unchanged: unchanged + all.length - list.length,
    rejected: rejected.length,
    waits,
    handIns,
    events: told,
    affected,
  };
}

/** Statements stored together where nobody sees them: few enough that nobody waits for it. */
const BROUGHT = 100;

/** Lets brought statements count, in the transaction that ends their import. */
export async function letStatementsCount(
  tx: Access,
  arrival: Pick<Arrival, 'courseId' | 'importId'>,
  brought: BroughtStatements,
  names: Names,
  at: Instant,
): Promise<FileCounts> {
  const { courseId, importId } = arrival;
  const own = await tx.orm
    .select({ id: statements.id })
    .from(statements)
    .where(and(eq(statements.courseId, courseId), eq(statements.importId, importId)));
  const still = new Set(own.map((s) => s.id));
  const list = brought.list.filter((s) => still.has(s.id));
  const waits = brought.waits.filter((r) => still.has(r.eventId.slice(OF_STATEMENT.length)));
  const told = await tx.orm
    .select({ id: events.eventId })
    .from(events)
    .where(
      and(
        eq(events.courseId, courseId),
        eq(events.importId, importId),
        sql`${events.eventId} = any(${sql.param(brought.handIns.map((h) => h.eventId))}::text[])`,
      ),
    );
  const there = new Set(told.map((e) => e.id));
  await letWait(tx, { courseId, importId, received: at }, waits);
  await takeHandIns(
    tx,
    brought.handIns.filter((h) => there.has(h.eventId)).map((h) => h.handIn),
  );
  await voidEarlier(tx, { courseId, names }, list);
  return countsOf(brought.file, {
    added: list.length - waits.length,
    unchanged: brought.unchanged + brought.list.length - list.length,
    rejected: brought.rejected,
    waiting: waits.length,
  });
}
