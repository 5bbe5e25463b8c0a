import { spawn, type ChildProcess } from 'node:child_process';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import * as yup from 'yup';
import { activityFinder, recordOf } from '@/core/formats/xapi/records';
import { readStatement } from '@/core/formats/xapi/statement';
import { HOUR_MS, MINUTE_MS } from '@/core/units';
import { scenario } from '../scenario';
import { PracticeRoom, type RoomOptions } from './room';
import type { SentStatement } from './student';
import { bundle } from '../../../tests/support/bundle';

const START = Date.parse('2026-11-25T10:00:00Z');
const made = scenario({ now: START });
const room = (options: Partial<RoomOptions> = {}) =>
  new PracticeRoom(made, { seed: 7, start: START, students: 12, pace: 1, ...options });
const hours = (n: number, options: Partial<RoomOptions> = {}) => room(options).until(START + n * HOUR_MS);

const said = (statement: SentStatement) => {
  const read = readStatement(statement);
  if (!read.ok) throw new Error(read.reason);
  const find = activityFinder(made.activities);
  const record = recordOf({ ...read.value, id: statement.id }, find, START + 100 * HOUR_MS);
  if (!record.ok) throw new Error(record.reason);
  return record.value;
};

describe('the practice room', () => {
  it('says the same whenever it is asked, and something else from another seed', () => {
    const whole = hours(5);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 300 }), { maxLength: 12 }), (minutes) => {
        const asked = room();
        const stops = [...minutes, 300].sort((a, b) => a - b);
        expect(stops.flatMap((m) => asked.until(START + m * MINUTE_MS))).toEqual(whole);
      }),
      { numRuns: 20 },
    );
    expect(hours(5, { seed: 8 })).not.toEqual(whole);
    expect(hours(5, { start: START + 1 }).map((s) => s.id)).not.toEqual(whole.map((s) => s.id));
  });

  it('says what the course understands: no statement twice, in order, about steady students only', () => {
    const list = hours(8);
    expect(list.length).toBeGreaterThan(200);
    expect(new Set(list.map((s) => s.id)).size).toBe(list.length);
    const records = list.map(said);
    expect(new Set(records.map((r) => r.kind))).toEqual(
      new Set(['login', 'view', 'watch', 'practise', 'attempt', 'submit']),
    );
    expect(records.map((r) => r.at)).toEqual(records.map((r) => r.at).toSorted((a, b) => a - b));
    const steady = made.students.filter((s) => s.habit.name === 'steady' && s.roster.status === 'active');
    const names = new Set(steady.flatMap((s) => [s.roster.id, s.roster.email].filter((n) => n != null)));
    for (const { person } of records) expect([...names].some((name) => person.includes(name))).toBe(true);
    expect(new Set(records.map((r) => r.person)).size).toBeGreaterThan(12);
  });

  it('goes as many times faster than life as it is told', () => {
    const [slow, fast] = [hours(6).length, hours(6, { pace: 5 }).length];
    expect(fast / slow).toBeGreaterThan(4);
    expect(fast / slow).toBeLessThan(6);
  });

  it('takes each quiz once, before it is due, to its end', () => {
    const list = hours(30, { students: 40 }).map(said);
    const kindOf = new Map(made.activities.map((a) => [a.id, a]));
    const quizzes = list.filter((r) => r.activity != null && kindOf.get(r.activity)!.kind === 'quiz');
    const handed = quizzes.filter((r) => r.handedIn);
    expect(handed.length).toBeGreaterThan(3);
    const cell = (r: (typeof list)[number]) => `${r.name} ${r.activity}`;
    expect(new Set(handed.map(cell)).size).toBe(handed.length);
    expect(
      quizzes
        .filter((r) => r.kind === 'attempt')
        .map(cell)
        .sort(),
    ).toEqual(handed.map(cell).sort());
    for (const r of quizzes.filter((q) => q.kind === 'attempt'))
      expect(r.at).toBeLessThan(kindOf.get(r.activity!)!.due ?? Infinity);
    for (const r of handed) expect(r.handedIn!.points).toBeGreaterThanOrEqual(0);
    const before = new Set(
      made.gradebook.filter((g) => g.submitted != null).map((g) => `${g.student} ${g.activity}`),
    );
    const idOf = new Map(made.students.map((s) => [`${s.roster.given} ${s.roster.family}`, s.roster.id]));
    for (const r of handed) expect(before.has(`${idOf.get(r.name!)} ${r.activity}`)).toBe(false);
  });
});

const sentSchema = yup.array(yup.object({ id: yup.string().required() }).required()).required();

/** A statements endpoint that answers as it is told, one status a request, and keeps what it took. */
async function endpoint(
  answers: number[],
): Promise<{ server: Server; url: string; took: string[]; asked: () => number }> {
  const took: string[] = [];
  let asked = 0;
  const server = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      const status = answers[asked++] ?? 200;
      const known = request.headers.authorization === `Basic ${Buffer.from('k:s').toString('base64')}`;
      if (status === 200 && known)
        took.push(...sentSchema.validateSync(JSON.parse(body)).map((statement) => statement.id));
      response.writeHead(status).end();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, resolve));
  const { port } = server.address() as AddressInfo;
  return { server, url: `http://localhost:${port}/xapi`, took, asked: () => asked };
}

describe('its process', () => {
  const program = bundle('src/demo/practice/main.ts');
  let child: ChildProcess | null = null;
  let server: Server | null = null;
  afterEach(() => {
    child?.kill('SIGKILL');
    server?.close();
  });
  const start = (url: string, pace = '500') =>
    (child = spawn(process.execPath, [program], {
      env: {
        ...process.env,
        LANTERN_XAPI_URL: url,
        LANTERN_XAPI_KEY: 'k',
        LANTERN_XAPI_SECRET: 's',
        PRACTICE_PACE: pace,
      },
      stdio: ['ignore', 'ignore', 'pipe'],
    }));
  const ended = (of: ChildProcess) => new Promise<number | null>((resolve) => of.on('exit', resolve));
  const until = (holds: () => boolean) => expect.poll(holds, { timeout: 600_000 }).toBe(true);

  it('keeps what a server that is away or busy did not take, sends it later, and nothing twice', async () => {
    const to = await endpoint([503, 429, 200, 500]);
    server = to.server;
    const running = start(to.url);
    const code = ended(running);
    await until(() => to.asked() > 4 && to.took.length > 30);
    running.kill('SIGTERM');
    expect(await code).toBe(0);
    expect(new Set(to.took).size).toBe(to.took.length);
  });

  it('ends with a word once its key is refused', async () => {
    const to = await endpoint([401]);
    server = to.server;
    const running = start(to.url);
    let words = '';
    running.stderr!.on('data', (part: Buffer) => (words += part.toString()));
    expect(await ended(running)).toBe(1);
    expect(words).toContain('is its key still in use?');
  });
});
