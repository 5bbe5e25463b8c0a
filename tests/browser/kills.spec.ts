import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { inArray, sql, type SQL } from 'drizzle-orm';
import { openEmbedded } from '@/data/database';
import { docOf } from '@/core/messages/doc';
import {
  enrolments,
  events,
  imports as listedImports,
  jobs,
  messages,
  recipients,
  statements,
} from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { NOW, smallCourse } from '../support/course';
import { setDatabase } from '@/server/base/database';
import { workOff } from '@/server/work';
import { bundle } from '../support/bundle';
import { startServer } from '../support/server';
import { open } from './support';

const PORT = 3229;
const BASE = `http://localhost:${PORT}`;
const KILLS = 30;
/** Rows of a file: enough that most kills come in the middle of its import. */
const ROWS = 20_000;
const SAID = ROWS.toLocaleString('en');
const BATCH = 50;
const KEY = { LANTERN_XAPI_KEY: 'kills-key', LANTERN_XAPI_SECRET: 'a secret for the kills' };
const folder = mkdtempSync(join(tmpdir(), 'lantern-kills-'));
let mail: MailStandIn;
test.beforeAll(async () => {
  mail = await startMailStandIn(join(folder, 'mail'));
});
test.afterAll(async () => {
  await mail.close();
  rmSync(folder, { recursive: true, force: true });
});

const start = () =>
  startServer(folder, PORT, {
    ...KEY,
    LANTERN_XAPI_COURSE: 'NAV',
    LANTERN_NOW: NOW,
    SMTP_URL: `smtp://127.0.0.1:${mail.port}`,
    LANTERN_MAIL_STANDIN: 'yes',
  });
const at = (second: number) => new Date(Date.parse('2026-10-01T08:00:00Z') + second * 1000).toISOString();
const student = (n: number) => `s${1 + (n % 4)}`;
const statementId = (round: number, n: number) =>
  `00000000-0000-4000-8000-${String(round).padStart(4, '0')}${String(n).padStart(8, '0')}`;

/** Sends statements, request after request, until one gets no answer. Returns how many were acknowledged. */
async function say(round: number, first: () => void): Promise<number> {
  for (let n = 0; ; n += BATCH) {
    const batch = Array.from({ length: BATCH }, (_, i) => ({
      id: statementId(round, n + i),
      actor: { account: { homePage: 'https://x.example', name: student(i) } },
      verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
      object: { id: 'https://x.example/works/r1' },
      timestamp: at(round * 20_000 + n + i),
    }));
    const answer = await fetch(`${BASE}/xapi/statements`, {
      method: 'POST',
      headers: {
        authorization: `Basic ${Buffer.from(Object.values(KEY).join(':')).toString('base64')}`,
        'content-type': 'application/json',
        'x-experience-api-version': '1.0.3',
      },
      body: JSON.stringify(batch),
    }).catch(() => null);
    if (!answer) return n;
    expect(answer.status).toBe(200);
    await answer.text().catch(() => '');
    first();
  }
}

/** Uploads a file of events on the page and imports it until it is under way. Returns the job. */
async function bring(page: Page, round: number): Promise<string> {
  const rows = Array.from(
    { length: ROWS },
    (_, i) => `kill-${round}-${i},${student(i)},${at(round * 20_000 + i)},view,r1,`,
  );
  const buffer = Buffer.from(`event_id,student_id,at,kind,activity_id,duration_s\n${rows.join('\n')}\n`);
  await open(page, '/c/NAV/import');
  await page
    .getByLabel('Files to import')
    .setInputFiles([{ name: 'events.csv', mimeType: 'text/csv', buffer }]);
  const asked = page.waitForRequest(/\/api\/courses\/NAV\/jobs\//);
  await page.getByRole('button', { name: `Import ${SAID} rows` }).click();
  return (await asked).url().split('/').at(-1)!;
}

/** Writes to three students. Returns the key of the message. */
async function write(page: Page, enrolmentIds: readonly number[]): Promise<string> {
  const key = randomUUID();
  const answer = await page.request.post('/api/courses/NAV/messages', {
    headers: { origin: BASE },
    data: {
      messages: [
        {
          key,
          subject: 'A word',
          doc: docOf('Hello {first name | you}.'),
          reason: 'behind',
          about: 'behind',
          activityId: null,
          recipients: enrolmentIds.map((enrolmentId) => ({ enrolmentId, plan: null })),
        },
      ],
    },
  });
  expect(await answer.json()).toMatchObject({ ok: true });
  return key;
}

const program = bundle('src/cli/main.ts');

function lantern(...args: string[]): string {
  const done = spawnSync(process.execPath, [program, ...args], {
    encoding: 'utf8',
    env: { ...process.env, LANTERN_DATA: folder },
  });
  expect(done.status, done.stderr).toBe(0);
  return done.stdout;
}

test('the server killed thirty times while it imports, sends and takes statements in: nothing is lost, doubled or half', async ({
  browser,
}) => {
  test.setTimeout(5_400_000);
  const db = await openEmbedded(folder, 'the test of kills');
  await smallCourse(db);
  const places = await db.orm.select({ id: enrolments.id }).from(enrolments).orderBy(enrolments.id);
  await db.close();
  // Those with an address at which mail arrives: the first and the third.
  const writtenTo = [places[0]!.id, places[2]!.id];
  const acknowledged: number[] = [];
  const imports = new Map<number, string>();
  const sent: string[] = [];
  const context = await browser.newContext({ baseURL: BASE });
  for (let round = 0; round < KILLS; round++) {
    const server = await start();
    const page = await context.newPage();
    await page.request.post('/api/auth/sign-in/email', {
      data: { email: 'ines@example.org', password: 'a password for tests' },
    });
    // Some kills come in an import, some in sending; statements come in all the time.
    let first = () => {};
    const begun = new Promise<void>((resolve) => (first = resolve));
    if (round % 5 === 0) imports.set(round, await bring(page, round));
    const saying = say(round, first);
    await begun;
    if (round % 5 === 2 || round % 5 === 4) sent.push(await write(page, writtenTo));
    // A different moment each time, by multiples of the golden ratio: they spread evenly.
    const within = round % 5 === 0 ? 3000 : 500;
    await new Promise((resolve) => setTimeout(resolve, ((round * 0.618) % 1) * within));
    await server.kill();
    acknowledged.push(await saying);
    await page.close();
  }

  // The next start goes on with whatever a kill left in the queue.
  const last = await start();
  const page = await context.newPage();
  const states = async () => {
    const all = await Promise.all(
      [...imports.values()].map((id) => page.request.get(`/api/courses/NAV/jobs/${id}`)),
    );
    return Promise.all(all.map(async (a) => ((await a.json()) as { state: string }).state));
  };
  await expect.poll(states, { timeout: 600_000 }).toEqual([...imports.values()].map(() => 'done'));
  await expect
    .poll(() => readdirSync(join(folder, 'mail')).filter((f) => f.endsWith('.eml')).length)
    .toBe(sent.length * writtenTo.length);
  await context.close();
  await last.stop();
  // The command line looks at it from outside.
  const after = await openEmbedded(folder, 'the test of kills');
  setDatabase(after);
  await workOff(after);
  await after.close();
  expect(lantern('check')).toMatch(/"course":"NAV","events":\d+,"behind":0,"differing":\[\]/);
  const db2 = await openEmbedded(folder, 'the test of kills');
  const count = async (table: typeof events | typeof statements, round: SQL<number>, of: SQL) =>
    new Map(
      (
        await db2.orm
          .select({ round, n: sql<number>`count(*)::int` })
          .from(table)
          .where(of)
          .groupBy(sql`1`)
      ).map((r) => [r.round, r.n]),
    );
  const imported = await count(
    events,
    sql<number>`split_part(${events.eventId}, '-', 2)::int`,
    sql`${events.eventId} like 'kill-%'`,
  );
  const said = await count(statements, sql<number>`substr(${statements.id}, 25, 4)::int`, sql`true`);
  const told = await count(
    events,
    sql<number>`substr(${events.eventId}, 30, 4)::int`,
    sql`${events.eventId} like 'xapi:%'`,
  );
  const listed = await db2.orm.select().from(listedImports);
  const copies = await db2.orm
    .select({ key: messages.key, state: recipients.mailState })
    .from(recipients)
    .innerJoin(messages, sql`${messages.id} = ${recipients.messageId}`);
  const unfinished = await db2.orm
    .select()
    .from(jobs)
    .where(inArray(jobs.state, ['running', 'failed']));
  await db2.close();
  // Every import that was asked for is in, as a whole and once; the first listed is the course itself.
  expect([...imported]).toEqual(expect.arrayContaining([...imports.keys()].map((round) => [round, ROWS])));
  expect(listed).toHaveLength(1 + imports.size);
  expect(listed.filter((i) => i.arrivingUntil != null)).toEqual([]);
  // Every message went to each recipient.
  expect(copies.filter((c) => c.state !== 'sent')).toEqual([]);
  expect(copies.map((c) => c.key).sort()).toEqual(sent.flatMap((key) => writtenTo.map(() => key)).sort());
  expect(unfinished).toEqual([]);
  // A statement and its event go in together.
  expect(told).toEqual(said);
  // So does a request; at most the one without an answer may be there too.
  for (const [round, n] of acknowledged.entries())
    expect([n, n + BATCH], `statements of round ${round}`).toContain(said.get(round) ?? 0);
  // The kills came in the middle: most rounds got some statements in.
  expect(acknowledged.filter((n) => n > 0).length).toBeGreaterThan(KILLS / 2);
  console.info(
    `${acknowledged.reduce((a, b) => a + b, 0)} statements acknowledged, ${imported.size} imports and ${sent.length} messages`,
  );
});
