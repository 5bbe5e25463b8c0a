import { FILE_KINDS } from '@/core/course/records';
import { setDatabase } from '@/server/base/database';
import { importFiles } from '@/server/intake/intake';
import { roundsView } from '@/server/look/rounds';
import { benchCourse, NOW } from './course';
import { bound, medianTime, ms } from './measure';

/** Server time of the Rounds view in a course of so many students. */
async function roundsTime(students: number): Promise<number> {
  const { db, courseId, userId, upload, close } = await benchCourse({ students });
  setDatabase(db);
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  const viewer = { userId, name: 'B', role: 'instructor' as const, personId: null };
  const time = await medianTime(31, () => roundsView(viewer, 'B', { filter: 'all' }));
  await close();
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
