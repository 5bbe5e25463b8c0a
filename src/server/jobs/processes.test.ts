import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, count, eq, inArray, isNotNull, like, sql } from 'drizzle-orm';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { imports, jobs, recipients, seenEvents } from '@/data/schema';
import { docOf } from '@/core/messages/doc';
import { sendMessages } from '../act/compose';
import { rereadConfig } from '../base/config';
import { checkDerived } from '../export/check';
import { queueImport } from '../intake/intake';
import { stage, staged } from '../staging/staging';
import { release } from './queue';

const small = withSmallCourse();
const db = () => small.test.db;
const me = () => small.course.instructor;

const ROUNDS = 16;
const ROWS = 2500;

/** Who got which e-mail, by its Message-ID: a server that keeps none, and cannot be asked. */
const got: string[] = [];
const mail = new SMTPServer({
  disabledCommands: ['AUTH', 'STARTTLS'],
  onData: (stream, _, done) => {
    let text = '';
    stream.on('data', (d: Buffer) => (text += d.toString()));
    stream.on('end', () => {
      got.push(/^message-id:\s*(\S+)/im.exec(text)![1]!);
      done();
    });
  },
});

const folders: string[] = [];
const workers = new Set<ChildProcess>();
/** A process of its own, with a disk of its own, that works off the queue of the database. */
async function worker(): Promise<ChildProcess> {
  const [{ name }] = (
    (await db().orm.execute(sql`select current_database() as name`)) as unknown as {
      rows: [{ name: string }];
    }
  ).rows;
  const url = new URL(process.env.LANTERN_TEST_SERVER!);
  url.pathname = `/${name}`;
  const folder = mkdtempSync(join(tmpdir(), 'lantern-worker-'));
  folders.push(folder);
  const child = spawn(process.execPath, ['--import', 'tsx', 'tests/support/runner.ts'], {
    env: {
      ...process.env,
      DATABASE_URL: url.toString(),
      LANTERN_DATA: folder,
      LANTERN_NOW: NOW,
      SMTP_URL: `smtp://127.0.0.1:${(mail.server.address() as AddressInfo).port}`,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  workers.add(child);
  await once(child.stdout, 'data');
  return child;
}

/** Kills a process, and lets others have at once what it held: in life they would wait half a minute. */
async function kill(child: ChildProcess): Promise<void> {
  child.kill('SIGKILL');
  await once(child, 'exit');
  workers.delete(child);
  const own = like(jobs.holder, `% ${child.pid} %`);
  const importing = await db()
    .orm.select({ id: jobs.id })
    .from(jobs)
    .where(and(own, eq(jobs.kind, 'import'), eq(jobs.state, 'running')));
  if (importing.length > 0)
    await db()
      .orm.update(imports)
      .set({ arrivingUntil: sql`clock_timestamp() - interval '1 second'` })
      .where(isNotNull(imports.arrivingUntil));
  await release(db(), own);
}

const rows = (round: number) =>
  Array.from({ length: ROWS }, (_, i) => {
    const at = new Date(Date.parse('2026-10-01T08:00:00Z') + (round * ROWS + i) * 1000).toISOString();
    return `many-${round}-${i},s${1 + (i % 4)},${at},view,r1,`;
  });
const log = (round: number) =>
  file('events.csv', `event_id,student_id,at,kind,activity_id,duration_s\n${rows(round).join('\n')}\n`);

describe.skipIf(!process.env.LANTERN_TEST_SERVER)('two processes on one database server', () => {
  beforeAll(async () => {
    // A process that is killed leaves its conversation.
    mail.on('error', () => undefined);
    await new Promise<void>((resolve) => mail.listen(0, '127.0.0.1', () => resolve()));
  });
  afterAll(() => {
    for (const child of workers) child.kill('SIGKILL');
    mail.close();
    for (const folder of folders) rmSync(folder, { recursive: true, force: true });
  });

  it('find the files that the other took', async () => {
    const id = await stage(small.course.courseId, me().userId, [log(99)]);
    const before = process.env.LANTERN_DATA;
    const folder = mkdtempSync(join(tmpdir(), 'lantern-elsewhere-'));
    folders.push(folder);
    process.env.LANTERN_DATA = folder;
    rereadConfig();
    const { uploads } = await staged(id, small.course.courseId, me().userId);
    expect(uploads).toMatchObject([{ name: 'events.csv', size: log(99).bytes.length }]);
    expect(readdirSync(join(folder, 'staging'))).toEqual([id]);
    process.env.LANTERN_DATA = before;
    rereadConfig();
  });

  it('killed again and again lose nothing, and do nothing twice', async () => {
    const ids = await Promise.all(['s1', 's3'].map(async (s) => (await small.course.student(s)).enrolmentId));
    const pair = [await worker(), await worker()];
    const asked: string[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      const upload = await stage(small.course.courseId, me().userId, [log(round)]);
      asked.push(await queueImport(me(), 'NAV', upload, 'import'));
      await sendMessages(me(), 'NAV', [
        {
          key: randomUUID(),
          subject: 'A word',
          doc: docOf('Hello {first name | you}.'),
          reason: 'behind',
          about: 'other' as const,
          activityId: null,
          recipients: ids.map((enrolmentId) => ({ enrolmentId, plan: null })),
        },
      ]);
      // A different moment each time, by multiples of the golden ratio: they spread evenly.
      await new Promise((resolve) => setTimeout(resolve, ((round * 0.618) % 1) * 1500));
      const which = round % 2;
      await kill(pair[which]!);
      pair[which] = await worker();
    }
    const left = async () =>
      (
        await db()
          .orm.select({ n: count() })
          .from(jobs)
          .where(and(inArray(jobs.state, ['queued', 'running']), inArray(jobs.kind, ['import', 'mail'])))
      )[0]!.n;
    await expect.poll(left, { timeout: 600_000, interval: 200 }).toBe(0);
    for (const child of pair) await kill(child);

    const ended = await db().orm.select().from(jobs).where(inArray(jobs.id, asked));
    expect(ended.filter((j) => j.state !== 'done').map((j) => [j.state, j.message])).toEqual([]);
    expect(new Set(ended.map((j) => j.holder)).size).toBeGreaterThan(1);
    const [brought] = await db()
      .orm.select({ n: count() })
      .from(seenEvents)
      .where(like(seenEvents.eventId, 'many-%'));
    expect(brought!.n).toBe(ROUNDS * ROWS);
    expect((await db().orm.select().from(imports).where(isNotNull(imports.arrivingUntil))).length).toBe(0);
    expect((await checkDerived(db())).flatMap((c) => c.differing)).toEqual([]);
    // Nobody got anything twice; a copy that was on its way when its process was killed is shown as unsure.
    expect(new Set(got).size).toBe(got.length);
    const copies = await db().orm.select().from(recipients);
    expect(copies).toHaveLength(ROUNDS * ids.length);
    expect(copies.filter((c) => c.mailState !== 'sent' && c.mailState !== 'unsure')).toEqual([]);
    const sent = copies.filter((c) => c.mailState === 'sent').length;
    expect(got.length).toBeGreaterThanOrEqual(sent);
    expect(got.length).toBeLessThanOrEqual(copies.length);
  });
});
