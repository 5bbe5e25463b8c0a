import { readFileSync } from 'node:fs';
import { openEmbedded } from '@/data/database';
import { importFiles } from '@/server/intake/intake';
import { rereadConfig } from '@/server/base/config';
import { setDatabase } from '@/server/base/database';
import { NOW } from './course';
import { timed } from './measure';

/** Columns of the bare rows, as `benchIntake` writes them. */
export const BARE_COLUMNS = [
  'course_id',
  'event_id',
  'enrolment_id',
  'at',
  'kind',
  'activity_id',
  'duration_s',
];

/**
 * One run in a process of its own, so that its memory is its own: a bare COPY of rows, or the import of a file.
 * Prints milliseconds and the most memory that the process had, in bytes.
 */
async function main([what, folder, file, courseId]: string[]): Promise<void> {
  process.env.LANTERN_DATA = folder;
  rereadConfig();
  process.env.LANTERN_NOW = NOW;
  const db = await openEmbedded(folder!, 'the benchmark');
  setDatabase(db);
  const time = await timed(async () => {
    if (what === 'copy') {
      const csv = readFileSync(file!, 'utf8');
      await db.transaction((tx) => tx.copy('events', BARE_COLUMNS, csv));
    } else {
      const bytes = readFileSync(file!);
      await importFiles(db, Number(courseId), null, [{ name: 'events.csv', bytes }], Date.parse(NOW));
    }
  });
  await db.close();
  console.log(JSON.stringify({ time, memory: process.resourceUsage().maxRSS * 1024 }));
  process.exit(0);
}

if (process.argv[2]) void main(process.argv.slice(2));
