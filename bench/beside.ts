import * as yup from 'yup';
import { FILE_KINDS } from '@/core/course/records';
import { setDatabase } from '@/server/base/database';
import { importFiles, queueImport } from '@/server/intake/intake';
import { stage } from '@/server/staging/staging';
import { startServer } from '../tests/support/server';
import { benchCourse, cookieOf, NOW } from './course';
import { bareCopy } from './intake';
import { bound, ms, timed } from './measure';

const PORT = 3247;
const EVENTS = 1_000_000;
const STUDENTS = 540;
const ASK_EVERY_MS = 1000;

const jobSchema = yup.object({ state: yup.string().required(), step: yup.string().defined() });
const pause = (time: number) => new Promise((resolve) => setTimeout(resolve, time));

/** Rounds of a course, asked for once a second over HTTP while a million events of its students are imported. */
export async function benchBeside(): Promise<void> {
  console.log(`Rounds once a second while ${EVENTS.toLocaleString('en')} events go in`);
  const made = await benchCourse({ students: STUDENTS, copies: 2, events: EVENTS });
  const { db, courseId, userId, upload, folder, close } = made;
  setDatabase(db);
  const setUp = FILE_KINDS.filter((k) => k !== 'events').map(upload);
  await importFiles(db, courseId, userId, setUp, Date.parse(NOW));
  const copied = await bareCopy(made);
  const viewer = { userId, name: 'B', role: 'instructor' as const, personId: null };
  const job = await queueImport(viewer, 'B', await stage(courseId, userId, [upload('events')]), 'import');
  await db.close();
  const server = await startServer(folder, PORT, { LANTERN_NOW: NOW });
  try {
    const cookie = await cookieOf(PORT);
    const ask = async (path: string) => {
      const response = await fetch(`http://localhost:${PORT}${path}`, { headers: { cookie } });
      if (!response.ok) throw new Error(`${path}: ${response.status}`);
      return response.text();
    };
    const times: { readonly time: number; readonly step: string }[] = [];
    const asked: Promise<unknown>[] = [];
    const begun = performance.now();
    for (;;) {
      const { state, step } = jobSchema.validateSync(JSON.parse(await ask(`/api/courses/B/jobs/${job}`)));
      if (state === 'done') break;
      if (state !== 'running') throw new Error(`the import ended ${state}`);
      asked.push(timed(() => ask('/c/B/rounds')).then((time) => times.push({ time, step })));
      await pause(ASK_EVERY_MS);
    }
    const took = performance.now() - begun;
    await Promise.all(asked);
    const sorted = times.map((t) => t.time).sort((a, b) => a - b);
    const slow = times.toSorted((a, b) => b.time - a.time).slice(0, 8);
    const [slowest] = slow as [(typeof times)[number]];
    console.log(
      `  import ${ms(took)}, bare COPY ${ms(copied)}; ${sorted.length} requests, the slowest ${slow.map((t) => `${ms(t.time)} at “${t.step}”`).join(', ')}`,
    );
    bound('import beside Rounds against bare COPY', took / copied, 3, 'at most');
    bound('seconds of 95 of 100 requests', sorted[Math.ceil(sorted.length * 0.95) - 1]! / 1000, 1, 'at most');
    bound('seconds of the slowest request', slowest.time / 1000, 3, 'at most');
  } finally {
    await server.stop();
    await close().catch(() => undefined);
  }
}
