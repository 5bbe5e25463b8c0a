import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILE_KINDS } from '@/core/formats/courseFiles';
import { openEmbedded } from '@/data/database';
import { SECTIONS } from '@/demo/course';
import { scenarioFiles } from '@/demo/files';
import { scenario } from '@/demo/scenario';
import { setDatabase } from '@/server/database';
import { importFiles } from '@/server/intake/intake';
import { roundsView } from '@/server/rounds';
import { createAccounts, createCourse } from '@/server/setup';
import { bound, medianTime, ms } from './measure';

const NOW = '2026-11-25T10:00:00Z';

/** Server time of the Rounds view in a course of so many students. */
async function roundsTime(students: number): Promise<number> {
  const made = scenario({ now: Date.parse(NOW), students });
  const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'));
  const db = await openEmbedded(folder, 'the benchmark');
  setDatabase(db);
  const [user] = await createAccounts(
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
    staff: [user!],
  });
  const files = scenarioFiles(made);
  const uploads = FILE_KINDS.map((kind) => ({
    name: `${kind}.csv`,
    bytes: new TextEncoder().encode(files[kind]),
  }));
  await importFiles(db, courseId, user!, uploads, Date.parse(NOW));
  const viewer = { userId: user!, name: 'B', role: 'instructor' as const, personId: null };
  const time = await medianTime(31, () => roundsView(viewer, 'B', { filter: 'all' }));
  await db.close();
  rmSync(folder, { recursive: true, force: true });
  return time;
}

/** The Rounds view of the demo against ten times the students. */
export async function benchRounds(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  console.log('Rounds, server time');
  const small = await roundsTime(73);
  const large = await roundsTime(730);
  console.log(`  72 students ${ms(small)}, 720 students ${ms(large)}`);
  bound('720 students against 72', large / small, 5, 'at most');
  bound('72 students', small, 150, 'at most', 'ms');
}
