import { and, eq, sql } from 'drizzle-orm';
import { sameStatement } from '@/core/formats/xapi/compare';
import { identifyInSteps, refusedStatement, type PlacedStatement } from '@/core/formats/xapi/identify';
import { recordOf, voidedBy } from '@/core/formats/xapi/records';
import type { Statement } from '@/core/formats/xapi/statement';
import type { RejectedRow } from '@/core/formats/table';
import type { Instant } from '@/core/units';
import type { FileCounts, FilePreview, PreviewRow } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import { statements } from '@/data/schema';
import { turn } from '@/data/turn';
import { unwatched, type Progress } from '../jobs';
import { inTurns } from '../turns';
import { readNames, sha1, type Names } from '../xapi/people';
import { mustWait, storeStatements, voidsAmong } from '../xapi/store';
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
      and(eq(statements.courseId, courseId), sql`${statements.id} = any(${sql.param([...ids])}::text[])`),
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
      { courseId, names, received: at, authority: 'import', importId, voids },
      list.slice(i, i + BATCH),
    );
    added += stored.added - stored.waiting;
    waiting += stored.waiting;
  }
  return {
    file: file.name,
    kind: 'statements',
    added,
    changed: 0,
    unchanged,
    rejected: rejected.length,
    waiting,
  };
}
