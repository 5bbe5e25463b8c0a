import { eq, sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { jobs, type JobKind } from '@/data/schema';
import { invalid } from '../base/errors';
import { claim, end, enqueue, forgetEnded, release, tryAgain, TRIES, type Job } from './queue';
import { Later, startRunner, workOff, type AllHandlers, type Working } from './runner';
import { figuresFail } from './view';
import { HANDLERS } from '../work';

const small = withSmallCourse();
const db = () => small.test.db;
beforeEach(() => db().orm.delete(jobs));

const all = () => db().orm.select().from(jobs).orderBy(jobs.createdAt);
const one = async (id: string): Promise<Job | undefined> =>
  (await db().orm.select().from(jobs).where(eq(jobs.id, id)))[0];
const sweepOf = (courseId: number, more: { key?: string; line?: string; delayMs?: number } = {}) =>
  enqueue(db(), { kind: 'sweep', payload: { courseId }, ...more });
const due = (id: string) =>
  db()
    .orm.update(jobs)
    .set({ runAt: sql`clock_timestamp() - interval '1 second'` })
    .where(eq(jobs.id, id));
/** As if the process that holds a job had not been heard of for long. */
const abandon = (id: string) =>
  db()
    .orm.update(jobs)
    .set({ heldUntil: sql`clock_timestamp() - interval '1 second'` })
    .where(eq(jobs.id, id));
/** Handlers of which one does what a test says. */
const doing = <K extends JobKind>(
  kind: K,
  handle: (payload: unknown, job: Working) => unknown,
): AllHandlers => ({
  ...HANDLERS,
  [kind]: (_: unknown, payload: unknown, job: Working) => Promise.resolve(handle(payload, job)),
});

describe('a job', () => {
  it('is there if and only if its cause is', async () => {
    const cause = (fails: boolean) =>
      db().transaction(async (tx) => {
        await enqueue(tx, { kind: 'sweep', payload: { courseId: 1 } });
        if (fails) throw new Error('taken back');
      });
    await expect(cause(true)).rejects.toThrow('taken back');
    expect(await all()).toHaveLength(0);
    await cause(false);
    expect(await all()).toHaveLength(1);
  });

  it('of one key that has not begun stands for all that ask for it, at the earliest of their times', async () => {
    const first = await sweepOf(1, { key: 'a', delayMs: 60_000 });
    expect(await sweepOf(1, { key: 'a' })).toBe(first);
    expect(await sweepOf(1, { key: 'b' })).not.toBe(first);
    expect(await claim(db(), ['sweep'], 'me', first)).toMatchObject({ id: first });
    // What comes while it runs is not in it: another follows.
    expect(await sweepOf(1, { key: 'a' })).not.toBe(first);
  });

  it('of one line runs after the one before it', async () => {
    const [a, b] = [await sweepOf(1, { line: 'x' }), await sweepOf(2, { line: 'x' })];
    const held = await claim(db(), ['sweep'], 'me');
    expect([a, b]).toContain(held!.id);
    expect(await claim(db(), ['sweep'], 'other')).toBeNull();
    await end(db(), held!, { state: 'done' });
    expect((await claim(db(), ['sweep'], 'other'))?.id).toBe(held!.id === a ? b : a);
  });

  it('is taken by one of many that look at once', async () => {
    for (let i = 0; i < 30; i++) await sweepOf(i, i % 3 === 0 ? { line: `line ${i % 2}` } : {});
    const ran: unknown[] = [];
    const handlers = doing('sweep', (payload) => {
      ran.push((payload as { courseId: number }).courseId);
      return null;
    });
    await Promise.all(Array.from({ length: 4 }, () => workOff(db(), handlers)));
    // One that found another of its line under way may have left some.
    await workOff(db(), handlers);
    expect(ran.sort((a, b) => Number(a) - Number(b))).toEqual(Array.from({ length: 30 }, (_, i) => i));
  });

  it('that its process left is taken over, and what that one still says of it does not count', async () => {
    const id = await sweepOf(1);
    const left = (await claim(db(), ['sweep'], 'gone'))!;
    expect(await claim(db(), ['sweep'], 'me')).toBeNull();
    await abandon(id);
    expect(await claim(db(), ['sweep'], 'me')).toMatchObject({ id, attempts: 2, holder: 'me' });
    await end(db(), left, { state: 'failed', message: 'too late' });
    expect(await one(id)).toMatchObject({ state: 'running', holder: 'me' });
  });

  it('of an embedded database is free at once after a start', async () => {
    const id = await sweepOf(1);
    await claim(db(), ['sweep'], 'gone');
    await release(db(), undefined);
    expect(await claim(db(), ['sweep'], 'me')).toMatchObject({ id });
  });

  it('that stops its process each time is given up', async () => {
    const id = await enqueue(db(), { kind: 'import', payload: { courseId: 1, userId: 'u', upload: 'x' } });
    for (let i = 0; i < TRIES.import.most; i++) {
      await claim(db(), ['import'], 'gone');
      await abandon(id);
    }
    await workOff(db(), HANDLERS);
    expect(await one(id)).toMatchObject({
      state: 'failed',
      message: 'The server stopped each time it worked on this. Nothing was changed.',
    });
  });
});

describe('a job that fails', () => {
  it('is tried again after pauses that grow, and then ends with its reason', async () => {
    const id = await sweepOf(1, { key: 'a' });
    let tried = 0;
    const lasts: boolean[] = [];
    const handlers = doing('sweep', (_, { last }) => {
      tried++;
      lasts.push(last);
      throw new Later('not now');
    });
    const pauses: number[] = [];
    for (let i = 0; i < TRIES.sweep.most; i++) {
      await workOff(db(), handlers);
      const [row] = (
        (await db().orm.execute(
          sql`select extract(epoch from run_at - clock_timestamp()) as s from jobs where id = ${id}`,
        )) as unknown as { rows: { s: string }[] }
      ).rows;
      pauses.push(Number(row!.s));
      // Looking again at once does not begin it before its time.
      await workOff(db(), handlers);
      expect(tried).toBe(i + 1);
      if (i + 1 < TRIES.sweep.most) {
        expect(await one(id)).toMatchObject({ state: 'queued', attempts: i + 1, message: 'not now' });
        await due(id);
      }
    }
    const grown = pauses.slice(0, -1);
    expect(grown.every((p, i) => i === 0 || p > grown[i - 1]! * 1.5 || p > 14_000)).toBe(true);
    expect(lasts).toEqual([...Array<boolean>(TRIES.sweep.most - 1).fill(false), true]);
    expect(await one(id)).toMatchObject({ state: 'failed', message: 'not now' });
  });

  it('keeps its pause however often it is asked for', async () => {
    const id = await sweepOf(1, { key: 'a' });
    const job = (await claim(db(), ['sweep'], 'me'))!;
    await tryAgain(db(), job, 'not now');
    expect(await sweepOf(1, { key: 'a' })).toBe(id);
    expect(await claim(db(), ['sweep'], 'me')).toBeNull();
  });

  it('leaves its place to one that was asked for meanwhile', async () => {
    await sweepOf(1, { key: 'a' });
    const job = (await claim(db(), ['sweep'], 'me'))!;
    const next = await sweepOf(1, { key: 'a' });
    await tryAgain(db(), job, 'not now');
    expect((await all()).map((j) => j.id)).toEqual([next]);
  });

  it('because it was asked for something that cannot be says so at once', async () => {
    const id = await sweepOf(1);
    await workOff(
      db(),
      doing('sweep', () => {
        throw invalid('There is no such thing.');
      }),
    );
    expect(await one(id)).toMatchObject({ state: 'failed', attempts: 1, message: 'There is no such thing.' });
  });
});

describe('work on the figures of a course that fails again and again', () => {
  it('is said in the course until it gets through', async () => {
    const { courseId } = small.course;
    const fails = async () => figuresFail(db(), courseId);
    const id = await enqueue(db(), { kind: 'follow', payload: { courseId } });
    const failing = doing('follow', () => {
      throw new Error('no');
    });
    await workOff(db(), failing);
    expect(await fails()).toBe(false);
    await due(id);
    await workOff(db(), failing);
    expect(await fails()).toBe(true);
    expect(await figuresFail(db(), courseId + 1)).toBe(false);
    await due(id);
    await workOff(
      db(),
      doing('follow', () => null),
    );
    expect(await fails()).toBe(false);
  });
});

describe('the runner of a process', () => {
  it('works off what is queued while it runs, beside long work, until it is stopped', async () => {
    let release = () => {};
    const held = new Promise<void>((resolve) => (release = resolve));
    const done: Job['id'][] = [];
    const handlers = {
      ...doing('import', () => held),
      mail: (_: unknown, __: unknown, { job }: Working) => Promise.resolve(void done.push(job.id)),
    };
    const runner = await startRunner(db(), handlers);
    const long = await enqueue(db(), { kind: 'import', payload: { courseId: 1, userId: 'u', upload: 'x' } });
    const mail = await enqueue(db(), { kind: 'mail', payload: { messageId: 1 } });
    const isThere = async (id: string) => (await one(id)) !== undefined;
    await expect.poll(() => isThere(mail), { timeout: 600_000 }).toBe(false);
    expect(done).toEqual([mail]);
    release();
    await expect.poll(() => isThere(long), { timeout: 600_000 }).toBe(false);
    await runner.stop();
    const later = await enqueue(db(), { kind: 'mail', payload: { messageId: 2 } });
    expect(await one(later)).toMatchObject({ state: 'queued' });
  });

  it('forgets what ended long ago, failures later', async () => {
    const ids = [await sweepOf(1), await sweepOf(2), await sweepOf(3)];
    for (const [i, days] of [2, 2, 31].entries())
      await db()
        .orm.update(jobs)
        .set({
          state: i === 0 ? 'done' : 'failed',
          endedAt: sql`clock_timestamp() - ${days} * interval '1 day'`,
        })
        .where(eq(jobs.id, ids[i]!));
    await forgetEnded(db());
    expect((await all()).map((j) => j.id)).toEqual([ids[1]]);
  });
});
