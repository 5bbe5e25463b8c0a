import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { sql, type SQL } from 'drizzle-orm';
import { openEmbedded } from '@/data/database';
import { events, imports as listedImports, statements } from '@/data/schema';
import { NOW, smallCourse } from '../support/course';
import { startServer } from '../support/server';
import { open } from './support';

const PORT = 3229;
const BASE = `http://localhost:${PORT}`;
const KILLS = 20;
/** Rows of a file: enough that most kills come in the middle of its import. */
const ROWS = 20_000;
const SAID = ROWS.toLocaleString('en');
const BATCH = 50;
const KEY = { LANTERN_XAPI_KEY: 'kills-key', LANTERN_XAPI_SECRET: 'a secret for the kills' };
const folder = mkdtempSync(join(tmpdir(), 'lantern-kills-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

const start = () => startServer(folder, PORT, { ...KEY, LANTERN_XAPI_COURSE: 'NAV', LANTERN_NOW: NOW });
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

/** Uploads a file of events on the page and imports it until it is under way. Asks then whether the page says it is in. */
async function bring(page: Page, round: number): Promise<() => Promise<boolean>> {
  const rows = Array.from(
    { length: ROWS },
    (_, i) => `kill-${round}-${i},${student(i)},${at(round * 20_000 + i)},view,r1,`,
  );
  const buffer = Buffer.from(`event_id,student_id,at,kind,activity_id,duration_s\n${rows.join('\n')}\n`);
  await open(page, '/c/NAV/import');
  await page
    .getByLabel('Files to import')
    .setInputFiles([{ name: 'events.csv', mimeType: 'text/csv', buffer }]);
  await page.getByRole('button', { name: `Import ${SAID} rows` }).click();
  const done = page.getByRole('heading', { name: `${SAID} rows went in` });
  // Under way, as the page tells; or through already.
  await page
    .getByText(/^(Comparing with|Writing events|Sessions and|Who needs)/)
    .or(done)
    .first()
    .waitFor();
  return () => done.isVisible();
}

function lantern(...args: string[]): string {
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'src/cli/main.ts', ...args], {
    encoding: 'utf8',
    env: { ...process.env, LANTERN_DATA: folder },
  });
  expect(done.status, done.stderr).toBe(0);
  return done.stdout;
}

test('the server killed twenty times while it imports and takes statements in: what it acknowledged is there, nothing is half', async ({
  browser,
}) => {
  test.setTimeout(480_000);
  const db = await openEmbedded(folder, 'the test of kills');
  await smallCourse(db);
  await db.close();
  const acknowledged: number[] = [];
  const wentIn = new Set<number>();
  let imports = 0;
  const context = await browser.newContext({ baseURL: BASE });
  for (let round = 0; round < KILLS; round++) {
    const server = await start();
    // Every fifth kill comes in an import; statements come in all the time.
    let saidSo: (() => Promise<boolean>) | null = null;
    let page: Page | null = null;
    if (round % 5 === 0) {
      imports++;
      page = await context.newPage();
      await page.request.post('/api/auth/sign-in/email', {
        data: { email: 'ines@example.org', password: 'a password for tests' },
      });
      saidSo = await bring(page, round);
    }
    let first = () => {};
    const begun = new Promise<void>((resolve) => (first = resolve));
    const saying = say(round, first);
    if (!saidSo) await begun;
    // A different moment each time, by multiples of the golden ratio: they spread evenly.
    const wait = saidSo ? (imports - 1) * 500 : ((round * 0.618) % 1) * 500;
    await new Promise((resolve) => setTimeout(resolve, wait));
    if (await saidSo?.()) wentIn.add(round);
    await server.kill();
    acknowledged.push(await saying);
    await page?.close();
  }
  await context.close();

  // The next start settles what a kill left behind; then the command line looks at it from outside.
  const last = await start();
  await expect.poll(() => fetch(`${BASE}/api/health`).then((r) => r.ok)).toBe(true);
  await last.stop();
  expect(lantern('check')).toMatch(/"course":"NAV","events":\d+,"behind":0,"differing":\[\]/);
  const after = await openEmbedded(folder, 'the test of kills');
  const count = async (table: typeof events | typeof statements, round: SQL<number>, of: SQL) =>
    new Map(
      (
        await after.orm
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
  const listed = await after.orm.select({ id: listedImports.id }).from(listedImports);
  await after.close();
  // A file goes in as a whole, and what the page said went in is there.
  expect([...imported.values()].filter((n) => n !== ROWS)).toEqual([]);
  for (const round of wentIn) expect(imported.get(round)).toBe(ROWS);
  // It is listed once: the first is the course itself.
  expect(listed).toHaveLength(1 + imported.size);
  // A statement and its event go in together.
  expect(told).toEqual(said);
  // So does a request; at most the one without an answer may be there too.
  for (const [round, n] of acknowledged.entries())
    expect([n, n + BATCH], `statements of round ${round}`).toContain(said.get(round) ?? 0);
  // The kills came in the middle: most rounds got some statements in.
  expect(acknowledged.filter((n) => n > 0).length).toBeGreaterThan(KILLS / 2);
  console.info(
    `${acknowledged.reduce((a, b) => a + b, 0)} statements acknowledged, ${imported.size} of ${imports} imports in`,
  );
});
