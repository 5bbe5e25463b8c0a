import { and, eq, sql } from 'drizzle-orm';
import { recordOf } from '@/core/formats/xapi/records';
import type { Statement } from '@/core/formats/xapi/statement';
import type { Instant } from '@/core/units';
import type { FileCounts, FilePreview, PreviewRow } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import { statements } from '@/data/schema';
import { unwatched, type Progress } from '../jobs';
import { namesOf } from '../xapi/people';
import { storeStatements } from '../xapi/store';
import type { StatementFile } from './readFiles';

/** Statements stored together. */
const BATCH = 500;
const SHOWN = 200;

/** What importing a file of statements would do; nothing is changed. */
export async function previewStatements(
  db: Database,
  courseId: number,
  file: StatementFile,
  at: Instant,
): Promise<FilePreview> {
  const names = await namesOf(db, courseId, db);
  const stored = await storedIds(
    db,
    courseId,
    file.rows.flatMap((r) => r.value.id ?? []),
  );
  const added: PreviewRow[] = [];
  const waiting: PreviewRow[] = [];
  let unchanged = 0;
  let [addedCount, waitingCount] = [0, 0];
  for (const { line, value } of file.rows) {
    if (value.id && stored.has(value.id.toLowerCase())) {
      unchanged++;
      continue;
    }
    const record = recordOf({ ...value, id: value.id ?? 'none' }, names.find, at);
    const unknown = record.ok && names.enrolmentOf(record.value.person) == null;
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
    rejectedHeader: ['timestamp', 'actor', 'verb', 'object'],
    counts: {
      file: file.name,
      kind: 'statements',
      added: addedCount,
      changed: 0,
      unchanged,
      rejected: file.rejected.length,
      waiting: waitingCount,
    },
    added,
    changed: [],
    waiting,
    rejected: file.rejected
      .slice(0, SHOWN)
      .map((r) => ({ ...r, cells: r.cells.map((c) => c.slice(0, 120)) })),
  };
}

async function storedIds({ orm }: Access, courseId: number, ids: readonly string[]): Promise<Set<string>> {
  const found = await orm
    .select({ id: statements.id })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, courseId),
        sql`${statements.id} = any(${sql.param(ids.map((i) => i.toLowerCase()))}::text[])`,
      ),
    );
  return new Set(found.map((f) => f.id));
}

/** Stores the statements of a file as part of an import, in its transaction. */
export async function importStatements(
  tx: Access,
  owner: object,
  courseId: number,
  importId: number,
  file: StatementFile,
  at: Instant,
  progress: Progress = unwatched,
): Promise<FileCounts> {
  const names = await namesOf(tx, courseId, owner);
  let [added, unchanged, waiting] = [0, 0, 0];
  const list: Statement[] = file.rows.map((r) => r.value);
  for (let i = 0; i < list.length; i += BATCH) {
    await progress('Writing statements', i, list.length);
    const stored = await storeStatements(
      tx,
      { courseId, names, received: at, authority: 'import', importId },
      list.slice(i, i + BATCH),
    );
    added += stored.added - stored.waiting;
    unchanged += stored.unchanged;
    waiting += stored.waiting;
  }
  return {
    file: file.name,
    kind: 'statements',
    added,
    changed: 0,
    unchanged,
    rejected: file.rejected.length,
    waiting,
  };
}
