import { request, type ClientRequest } from 'node:http';
import { FILE_KINDS } from '@/core/course/records';
import { importFiles, previewImport } from '@/server/intake/intake';
import { setDatabase } from '@/server/base/database';
import { startServer } from '../tests/support/server';
import { benchCourse, NOW } from './course';
import { bound, median, ms, timed } from './measure';

const PORT = 3249;
const SIZE = 20 * 1024 * 1024;
const fill = (piece: string): string => piece.repeat(Math.ceil(SIZE / piece.length)).slice(0, SIZE);

/** Text that costs much to read by a reader that looks twice. */
const HOSTILE: Readonly<Record<string, string>> = {
  'nothing but commas': fill(','),
  'nothing but quotes': fill('"'),
  'stray quotes': `a,b\n${fill('"x"x,')}`,
  'quotes and spaces': `a,b\n${fill('"x" ')}`,
  'quoted cells in one line': `a,b\n${fill('"a",')}`,
  'one endless line': fill('x'),
  'returns without feeds': `a,b\n${fill('\r')}`,
  'a thousand columns': `${'x,'.repeat(999)}y\n${fill(`${'1,'.repeat(999)}1\n`)}`,
  'rows of nothing': `event_id,student_id,at,kind\n${fill(',,,\n')}`,
  'rows that cannot be read': `event_id,student_id,at,kind\n${fill('a,b,c,d\n')}`,
  'JSON, deep': fill('['),
  'JSON, deep records': fill('{"a":'),
  'JSON, many pieces': `[${fill('{},')}{}]`,
  'JSON, a broken line each': fill('{\n'),
  'JSON, no statement each': fill('{"actor":{},"verb":{},"object":{}}\n'),
};

/** A real file of events of the size. */
function realFile(): string {
  const lines = ['event_id,student_id,at,kind,activity_id,duration_s'];
  for (let i = 0, length = 0; length < SIZE; i++) {
    const at = new Date(Date.parse(NOW) - i * 7000).toISOString();
    const line = `real-${i},S${1001 + (i % 60)},${at},view,,${i % 300}`;
    length += line.length + 1;
    lines.push(line);
  }
  return lines.join('\n');
}

/** Parsing and previewing hostile text against a real file of the same size, and what either does to others meanwhile. */
async function hostileText(): Promise<void> {
  console.log('20 MB of hostile text against 20 MB of a real file, parsed and previewed');
  const { db, courseId, userId, upload, close } = await benchCourse({ events: 1000 });
  setDatabase(db);
  process.env.LANTERN_NOW = NOW;
  try {
    await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
    const viewer = { userId, name: 'B', role: 'instructor' as const, personId: null };
    const preview = (text: string) =>
      timed(() =>
        previewImport(viewer, 'B', [{ name: 'events.csv', bytes: new TextEncoder().encode(text) }]),
      );
    const real = realFile();
    await preview(real);
    const honest = await preview(real);
    console.log(`  a real file: ${ms(honest)}`);
    for (const [name, text] of Object.entries(HOSTILE)) {
      const time = await preview(text);
      console.log(`  ${name}: ${ms(time)}`);
      bound(name, time / honest, 5, 'at most');
    }
  } finally {
    await close();
  }
}

const CLIENTS = 200;
const VIEWS = ['rounds', 'week', 'activity', 'gradebook'];
const RUNS = 9;
const pause = (time: number) => new Promise((resolve) => setTimeout(resolve, time));
const BASE = `http://localhost:${PORT}`;

async function pages(cookie: string): Promise<number> {
  const times: number[] = [];
  for (let run = -2; run < RUNS; run++)
    for (const view of VIEWS) {
      const time = await timed(async () =>
        (await fetch(`${BASE}/c/B/${view}`, { headers: { cookie } })).text(),
      );
      if (run >= 0) times.push(time);
      await pause(50);
    }
  return median(times);
}

/** A client that sends its body a few bytes at a time and never comes to its end. */
function slowClient(path: string, headers: Record<string, string>): () => void {
  const asked: ClientRequest = request(`${BASE}${path}`, { method: 'POST', headers });
  asked.on('error', () => undefined);
  asked.on('response', (answer) => answer.resume());
  asked.write('--b\r\nContent-Disposition: form-data; name="files"; filename="a.csv"\r\n\r\n');
  const drip = setInterval(() => asked.write('x,'), 200);
  return () => {
    clearInterval(drip);
    asked.destroy();
  };
}

/** Pages while 200 clients hold open bodies that come slowly, at every door that reads one. */
async function slowBodies(): Promise<void> {
  console.log(`Pages while ${CLIENTS} clients hold open slow bodies`);
  const { db, courseId, userId, upload, folder, close } = await benchCourse();
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  await db.close();
  const key = { LANTERN_XAPI_KEY: 'doors-key', LANTERN_XAPI_SECRET: 'a secret for the doors' };
  const server = await startServer(folder, PORT, { ...key, LANTERN_NOW: NOW });
  try {
    const signedIn = await fetch(`${BASE}/api/auth/sign-in/email`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: BASE },
      body: JSON.stringify({ email: 'b@x.example', password: 'a long password' }),
    });
    const cookie = signedIn.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const authorization = `Basic ${Buffer.from(Object.values(key).join(':')).toString('base64')}`;
    const doors: readonly (readonly [string, Record<string, string>])[] = [
      ['/api/courses/B/imports', { cookie, origin: BASE, 'content-type': 'multipart/form-data; boundary=b' }],
      [
        '/xapi/statements',
        { authorization, 'x-experience-api-version': '1.0.3', 'content-type': 'application/json' },
      ],
      ['/xapi/statements?method=GET', { 'content-type': 'application/x-www-form-urlencoded' }],
      ['/api/auth/sign-in/email', { origin: BASE, 'content-type': 'application/json' }],
      ['/api/courses/B/messages', { cookie, origin: BASE, 'content-type': 'application/json' }],
    ];
    const idle = await pages(cookie);
    const clients = Array.from({ length: CLIENTS }, (_, i) => slowClient(...doors[i % doors.length]!));
    await pause(1000);
    const busy = await pages(cookie);
    for (const leave of clients) leave();
    console.log(`  a page: ${ms(idle)} idle, ${ms(busy)} with them`);
    bound('pages with slow bodies against idle', busy / idle, 2, 'at most');
  } finally {
    await server.stop();
    await close().catch(() => undefined);
  }
}

/** What text and clients that mean ill cost everybody else. */
export async function benchDoors(): Promise<void> {
  await hostileText();
  await slowBodies();
}
