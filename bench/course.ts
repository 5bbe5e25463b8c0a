import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FileKind } from '@/core/course/records';
import { openEmbedded, type Database } from '@/data/database';
import { SECTIONS } from '@/demo/course';
import { scenarioFiles } from '@/demo/files';
import { scenario } from '@/demo/scenario';
import { rereadConfig } from '@/server/base/config';
import { createAccounts, createCourse } from '@/server/snapshot/createCourse';

export const NOW = '2026-11-25T10:00:00Z';

export interface BenchCourse {
  readonly db: Database;
  readonly courseId: number;
  readonly userId: string;
  /** The data folder, for a server to open once the database here is closed. */
  readonly folder: string;
  readonly upload: (kind: FileKind) => { name: string; bytes: Uint8Array };
  readonly close: () => Promise<void>;
}

/** An empty course in an embedded database of its own, and the demo's files to bring in; the last `events` of them. */
export async function benchCourse(
  options: { students?: number; copies?: number; events?: number; now?: number } = {},
): Promise<BenchCourse> {
  const made = scenario({
    now: options.now ?? Date.parse(NOW),
    students: options.students,
    copies: options.copies,
  });
  const files = scenarioFiles({
    ...made,
    events: made.events.slice(-(options.events ?? made.events.length)),
  });
  const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'));
  process.env.LANTERN_DATA = folder;
  rereadConfig();
  const db = await openEmbedded(folder, 'the benchmark');
  const [userId] = await createAccounts(
    db,
    [{ name: 'B', email: 'b@x.example', role: 'instructor' }],
    'a long password',
  );
  const courseId = await createCourse(db, {
    code: 'B',
    title: 'B',
    termName: 'B',
    term: made.term,
    policy: { missing: 'zero' },
    sections: SECTIONS,
    staff: [userId!],
  });
  return {
    db,
    courseId,
    userId: userId!,
    folder,
    upload: (kind) => ({ name: `${kind}.csv`, bytes: new TextEncoder().encode(files[kind]) }),
    close: async () => {
      await db.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Signs in, on a server that has such a course, who teaches it. Returns the cookie. */
export async function cookieOf(port: number): Promise<string> {
  const signedIn = await fetch(`http://localhost:${port}/api/auth/sign-in/email`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: `http://localhost:${port}` },
    body: JSON.stringify({ email: 'b@x.example', password: 'a long password' }),
  });
  return signedIn.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
}
