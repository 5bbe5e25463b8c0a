import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { eq } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import { FILE_KINDS } from '@/core/course/records';
import { docOf } from '@/core/messages/doc';
import { docHtml } from '@/core/messages/docText';
import { enrolments } from '@/data/schema';
import { startMailStandIn } from '@/demo/mailStandIn';
import { sendMessages } from '@/server/act/compose';
import { rereadConfig } from '@/server/base/config';
import { setDatabase } from '@/server/base/database';
import { importFiles } from '@/server/intake/intake';
import { workOff } from '@/server/work';
import { startServer } from '../tests/support/server';
import { benchCourse } from './course';
import { launchBrowser } from './browser';
import { bound, median, ms, timed } from './measure';

const NOW = '2026-11-25T10:35:00Z';
const PORT = 3249;
const STUDENTS = 500;

/** Milliseconds from a keystroke in the builder until the count says something else, as the page itself measures it. */
const follow = (page: Page, value: number): Promise<number> =>
  page.evaluate(async (next) => {
    const field = document.querySelector<HTMLInputElement>('input[aria-label="Row 1: number"]')!;
    const head = document.querySelector('h1')!;
    const before = head.textContent;
    const start = performance.now();
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field, String(next));
    field.dispatchEvent(new Event('input', { bubbles: true }));
    return new Promise<number>((resolve) => {
      const look = () =>
        head.textContent === before
          ? requestAnimationFrame(look)
          : requestAnimationFrame(() => resolve(performance.now() - start));
      requestAnimationFrame(look);
    });
  }, value);

/** The count of an open audience, and five hundred messages of their own with plans: queued, and sent. */
export async function benchActing(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  process.env.LANTERN_CALL_BACK_S = '0';
  console.log(`Acting: an audience of ${STUDENTS} students, and as many messages with plans`);
  const { db, courseId, userId, upload, folder, close } = await benchCourse({
    students: STUDENTS,
    copies: 1,
    events: 50_000,
  });
  setDatabase(db);
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));

  const mailFolder = await mkdtemp(join(tmpdir(), 'lantern-bench-mail-'));
  const standIn = await startMailStandIn(mailFolder);
  process.env.SMTP_URL = `smtp://127.0.0.1:${standIn.port}`;
  rereadConfig();
  const active = await db.orm.select().from(enrolments).where(eq(enrolments.courseId, courseId));
  const people = active.filter((e) => e.status === 'active').slice(0, STUDENTS);
  const doc = docOf(
    'Hello {first name | there},\n\nstart with {next step | the oldest one}.\n\n{instructor}',
  );
  const viewer = { userId, name: 'B', role: 'instructor' as const, personId: null };
  const step = { activityId: null, title: 'Two pages on tides', minutes: 20, on: '2026-11-27', why: '' };
  const queued = await timed(() =>
    sendMessages(viewer, 'B', [
      {
        key: randomUUID(),
        subject: 'A word about {course}',
        doc,
        reason: 'behind',
        about: 'behind',
        activityId: null,
        recipients: people.map((e) => ({
          enrolmentId: e.id,
          plan: [step, { ...step, on: '2026-11-28' }, { ...step, on: '2026-11-30' }],
        })),
      },
    ]),
  );
  bound(`${people.length} messages with plans queued`, queued / 1000, 3, 'at most', 's');
  const ours = await timed(() => workOff(db, ['mail']));
  const transport = createTransport({
    host: '127.0.0.1',
    port: standIn.port,
    ignoreTLS: true,
    pool: true,
    maxConnections: 1,
  });
  const bare = await timed(async () => {
    for (const { id } of people)
      await transport.sendMail({
        messageId: `<bare-${id}@x.example>`,
        from: 'b@x.example',
        to: `s${id}@students.example`,
        subject: 'A word',
        text: 'Hello there, start with the oldest one.',
        html: docHtml(doc),
      });
  });
  transport.close();
  console.log(`  sent in ${ms(ours)}, by SMTP alone in ${ms(bare)}`);
  bound('rate of SMTP alone that is reached', bare / ours, 0.5, 'at least');
  await db.close();
  await standIn.close();

  const server = await startServer(folder, PORT, { LANTERN_NOW: NOW });
  try {
    const browser = await launchBrowser();
    const page = await browser.newPage({ baseURL: `http://localhost:${PORT}` });
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.request.post('/api/auth/sign-in/email', {
      data: { email: 'b@x.example', password: 'a long password' },
    });
    const where = {
      all: [
        { measure: 'standing', is: '<', value: 50 },
        { measure: 'missing', is: '>=', value: 0 },
      ],
    };
    await page.goto(`/c/B/audiences?where=${encodeURIComponent(JSON.stringify(where))}`);
    await page.waitForFunction(() => document.documentElement.dataset.awake === 'yes');
    const times: number[] = [];
    for (let i = 0; i < 11; i++) times.push(await follow(page, 40 + 5 * i));
    bound('the count follows a change, median', median(times), 100, 'at most', 'ms');
    await browser.close();
  } finally {
    await server.stop();
    await close().catch(() => undefined);
    await rm(mailFolder, { recursive: true, force: true });
  }
}
