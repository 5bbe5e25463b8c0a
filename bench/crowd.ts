import { spawn } from 'node:child_process';
import { count } from 'drizzle-orm';
import { FILE_KINDS } from '@/core/course/records';
import { openEmbedded } from '@/data/database';
import { statements } from '@/data/schema';
import { importFiles } from '@/server/intake/intake';
import { benchCourse, cookieOf } from './course';
import { bound, median, ms, timed } from './measure';
import { startServer } from '../tests/support/server';

const PORT = 3248;
const STUDENTS = 200;
/** So many times faster than life: in life they would take an hour to have all sat down. */
const PACE = 3;
const KEY = {
  LANTERN_XAPI_KEY: 'crowd-key',
  LANTERN_XAPI_SECRET: 'a secret for the crowd',
  LANTERN_XAPI_COURSE: 'B',
};
const VIEWS = ['rounds', 'week', 'activity', 'session', 'gradebook', 'trends', 'lists'];
const RUNS = 15;
/** Runs first that do not count: what the server does for the first time takes longer. */
const WARMING = 3;

const pause = (time: number) => new Promise((resolve) => setTimeout(resolve, time));

/**
 * Milliseconds for each view of the course, over HTTP, medians. The views take turns with some time between them, so that
 * what happens once in a while strikes all alike.
 */
async function pages(cookie: string): Promise<Map<string, number>> {
  const times = new Map<string, number[]>(VIEWS.map((view) => [view, []]));
  for (let run = -WARMING; run < RUNS; run++) {
    for (const view of VIEWS) {
      const time = await timed(async () => {
        const response = await fetch(`http://localhost:${PORT}/c/B/${view}`, { headers: { cookie } });
        if (!response.ok) throw new Error(`${view}: ${response.status}`);
        await response.text();
      });
      if (run >= 0) times.get(view)!.push(time);
      await pause(300);
    }
  }
  return new Map([...times].map(([view, list]) => [view, median(list)]));
}

/** Somebody has Rounds open: it is read again whenever the server says that something came in. */
function openRounds(cookie: string): { readonly close: () => Promise<number> } {
  const end = new AbortController();
  let repaints = 0;
  const following = (async () => {
    const said = await fetch(`http://localhost:${PORT}/api/courses/B/live`, {
      headers: { cookie },
      signal: end.signal,
    });
    if (!said.ok || !said.body) throw new Error(`live: ${said.status}`);
    let first = true;
    for await (const part of said.body) {
      if (!new TextDecoder().decode(part).includes('data:')) continue;
      if (!first) {
        await fetch(`http://localhost:${PORT}/c/B/rounds`, { headers: { cookie, rsc: '1' } }).then((r) =>
          r.text(),
        );
        repaints++;
      }
      first = false;
    }
  })().catch((error: unknown) => {
    if (!end.signal.aborted) throw error;
  });
  return {
    close: async () => {
      end.abort();
      await following;
      return repaints;
    },
  };
}

/** The pages of a course while nothing comes in, and while 200 simulated students send what they do. */
export async function benchCrowd(): Promise<void> {
  console.log(`Pages while ${STUDENTS} simulated students are at work`);
  // By the real clock: the students of the practice room live by it.
  const { db, courseId, userId, upload, folder, close } = await benchCourse({
    students: STUDENTS + 60,
    now: Date.now(),
  });
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.now());
  await db.close();
  const server = await startServer(folder, PORT, KEY);
  try {
    const cookie = await cookieOf(PORT);
    const open = openRounds(cookie);
    const idle = await pages(cookie);
    const room = spawn(process.execPath, ['--import', 'tsx', 'src/demo/practice/main.ts'], {
      env: {
        ...process.env,
        ...KEY,
        LANTERN_XAPI_URL: `http://localhost:${PORT}/xapi`,
        PRACTICE_STUDENTS: String(STUDENTS),
        PRACTICE_PACE: String(PACE),
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    await pause(15_000);
    const busy = await pages(cookie);
    room.kill('SIGTERM');
    const repaints = await open.close();
    for (const view of VIEWS) {
      console.log(`  ${view}: ${ms(idle.get(view)!)} idle, ${ms(busy.get(view)!)} busy`);
      bound(`${view}, busy against idle`, busy.get(view)! / idle.get(view)!, 2, 'at most');
    }
    await server.stop();
    const after = await openEmbedded(folder, 'the benchmark');
    const [row] = await after.orm.select({ n: count() }).from(statements);
    await after.close();
    console.log(
      `  ${row!.n} statements came in meanwhile; Rounds, open all the time, was read again ${repaints} times`,
    );
    if (row!.n === 0) throw new Error('no statement came in: the busy times are idle ones');
  } finally {
    await server.stop();
    await close().catch(() => undefined);
  }
}
