import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { count, inArray, isNotNull, like } from 'drizzle-orm';
import pg from 'pg';
import { openServer } from '@/data/database';
import { docOf } from '@/core/messages/doc';
import { enrolments, imports, jobs, recipients, seenEvents } from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { startPostgres } from '../../scripts/postgres.mjs';
import { NOW, smallCourse } from '../support/course';
import { startServer } from '../support/server';
import { open } from './support';

const PORTS = [3233, 3234] as const;
const [ONE, OTHER] = PORTS.map((port) => `http://localhost:${port}`) as [string, string];
const ROWS = 20_000;
const SAID = ROWS.toLocaleString('en');
const KEY = { LANTERN_XAPI_KEY: 'pair-key', LANTERN_XAPI_SECRET: 'a secret for the pair' };

const folder = mkdtempSync(join(tmpdir(), 'lantern-pair-'));
let postgres: Awaited<ReturnType<typeof startPostgres>>;
let mail: MailStandIn;
let url: string;
test.beforeAll(async () => {
  postgres = await startPostgres();
  const client = new pg.Client({ connectionString: postgres.url });
  await client.connect();
  await client.query('CREATE DATABASE pair');
  await client.end();
  const own = new URL(postgres.url);
  own.pathname = '/pair';
  url = own.toString();
  mail = await startMailStandIn(join(folder, 'mail'));
});
test.afterAll(async () => {
  await mail.close();
  postgres.stop();
  rmSync(folder, { recursive: true, force: true });
});

const rows = Array.from({ length: ROWS }, (_, i) => {
  const at = new Date(Date.parse('2026-10-01T08:00:00Z') + i * 60_000).toISOString();
  return `pair-${i},s${1 + (i % 4)},${at},view,r1,`;
});
const buffer = Buffer.from(`event_id,student_id,at,kind,activity_id,duration_s\n${rows.join('\n')}\n`);

test('two web processes on one database: each shows what the other took, and goes on with what it left', async ({
  browser,
}) => {
  const db = await openServer(url);
  const { orm } = db;
  await smallCourse(db);
  const places = await orm.select({ id: enrolments.id }).from(enrolments).orderBy(enrolments.id);
  // Each has a disk of its own: only the database is shared, and the secret that signs sessions.
  const start = (n: 0 | 1) =>
    startServer(join(folder, String(n)), PORTS[n], {
      ...KEY,
      DATABASE_URL: url,
      LANTERN_NOW: NOW,
      LANTERN_XAPI_COURSE: 'NAV',
      LANTERN_SECRET: 'a secret that both of the processes know',
      SMTP_URL: `smtp://127.0.0.1:${mail.port}`,
    });
  const [one, other] = [await start(0), await start(1)];
  try {
    const context = await browser.newContext();
    const [left, right] = [await context.newPage(), await context.newPage()];
    await left.request.post(`${ONE}/api/auth/sign-in/email`, {
      data: { email: 'ines@example.org', password: 'a password for tests' },
    });

    // What comes in by one shows in a page of the other.
    await open(right, `${OTHER}/c/NAV/activity`);
    const upTo = right.getByText(/Activity up to/).first();
    const before = await upTo.textContent();
    const said = await left.request.post(`${ONE}/xapi/statements`, {
      headers: {
        authorization: `Basic ${Buffer.from(Object.values(KEY).join(':')).toString('base64')}`,
        'x-experience-api-version': '1.0.3',
      },
      data: {
        actor: { account: { homePage: 'https://x.example', name: 's1' } },
        verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
        object: { id: 'https://x.example/works/r1' },
        timestamp: '2026-10-28T11:58:00Z',
      },
    });
    expect(said.status()).toBe(200);
    await expect(upTo).not.toHaveText(before!);

    // One is killed in the middle of an import and of a message; the other goes on with both.
    await open(left, `${ONE}/c/NAV/import`);
    await left
      .getByLabel('Files to import')
      .setInputFiles([{ name: 'events.csv', mimeType: 'text/csv', buffer }]);
    const asked = left.waitForRequest(/\/api\/courses\/NAV\/jobs\//);
    await left.getByRole('button', { name: `Import ${SAID} rows` }).click();
    const job = (await asked).url().split('/').at(-1)!;
    const sent = await left.request.post(`${ONE}/api/courses/NAV/messages`, {
      headers: { origin: ONE },
      data: {
        messages: [
          {
            key: randomUUID(),
            subject: 'A word',
            doc: docOf('Hello {first name | you}.'),
            reason: 'behind',
            about: 'behind',
            activityId: null,
            recipients: [places[0]!.id, places[2]!.id].map((enrolmentId) => ({ enrolmentId, plan: null })),
          },
        ],
      },
    });
    expect(await sent.json()).toMatchObject({ ok: true });
    await one.kill();
    await expect
      .poll(
        async () =>
          (
            (await (await right.request.get(`${OTHER}/api/courses/NAV/jobs/${job}`)).json()) as {
              state: string;
            }
          ).state,
        { timeout: 600_000 },
      )
      .toBe('done');
    await open(right, `${OTHER}/c/NAV/import`);
    await expect(right.getByText('events.csv').first()).toBeVisible();
    const waiting = async () =>
      (
        await orm
          .select({ n: count() })
          .from(recipients)
          .where(inArray(recipients.mailState, ['queued', 'sending']))
      )[0]!.n;
    await expect.poll(waiting, { timeout: 600_000 }).toBe(0);
    await context.close();

    const [brought] = await orm
      .select({ n: count() })
      .from(seenEvents)
      .where(like(seenEvents.eventId, 'pair-%'));
    expect(brought!.n).toBe(ROWS);
    expect(await orm.select().from(imports).where(isNotNull(imports.arrivingUntil))).toEqual([]);
    expect((await orm.select().from(imports)).length).toBe(2);
    expect(
      await orm
        .select()
        .from(jobs)
        .where(inArray(jobs.state, ['failed'])),
    ).toEqual([]);
    // Without a stand-in nobody can be asked: a copy that was on its way is shown as unsure and not sent again.
    const copies = await orm.select().from(recipients);
    const went = copies.filter((c) => c.mailState === 'sent').length;
    const kept = readdirSync(join(folder, 'mail')).filter((f) => f.endsWith('.eml')).length;
    expect(copies.filter((c) => c.mailState !== 'sent' && c.mailState !== 'unsure')).toEqual([]);
    expect(kept).toBeGreaterThanOrEqual(went);
    expect(kept).toBeLessThanOrEqual(2);
  } finally {
    await one.stop();
    await other.stop();
    await db.close();
  }
});
