import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { and, eq, inArray, lt, or, sql, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { TOKEN_USES } from '@/core/messages/answerToken';
import { DAY_MS } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { jobs, type JobKind } from '@/data/schema';
import { isTaken } from '../base/failure';

const id = () => yup.number().integer().required();
const text = () => yup.string().required();

/** What each kind of job is told, checked when it is read again. */
export const PAYLOADS = {
  /** Sends the copies of a message that wait. */
  mail: yup.object({ messageId: id() }).required(),
  /** Reads an e-mail that came in, and brings it to whom it is for. */
  'mail in': yup
    .object({
      upload: text(),
      to: yup.array(yup.object({ use: yup.string().oneOf(TOKEN_USES).required(), id: id() })).required(),
    })
    .required(),
  /** Sends a letter. */
  letter: yup.object({ letterId: id() }).required(),
  /** Reminds somebody of their weekly time for a course, and sets the next. */
  review: yup.object({ courseId: id(), userId: text(), at: id() }).required(),
  /** Derives what came in live for a course. */
  follow: yup.object({ courseId: id() }).required(),
  evaluate: yup.object({ courseId: id() }).required(),
  /** Derives all of a course anew. */
  rebuild: yup.object({ courseId: id() }).required(),
  /** Brings staged files into a course. */
  import: yup.object({ courseId: id(), userId: text(), upload: text() }).required(),
  /** The same with every course of a package. */
  'import every': yup.object({ courseId: id(), userId: text(), upload: text() }).required(),
  /** Removes what nobody sees any more: old versions of derived rows, and what an import left that was stopped. */
  sweep: yup.object({ courseId: id() }).required(),
  /** Lets the rules of a course look, and sends what is to go by them. */
  rules: yup.object({ courseId: id() }).required(),
  /** Brings the study plans of a course up to date. */
  plans: yup.object({ courseId: id() }).required(),
  /** Goes through the weeks gone by for a rule that is not on yet. */
  'dry run': yup.object({ courseId: id(), userId: text(), rule: yup.mixed().required() }).required(),
  /** Brings in the files of a feed that wait; before that it looks for new ones, at its time or since somebody asks. */
  feed: yup
    .object({
      feedId: id(),
      at: yup.number().integer().nullable().defined(),
      looks: yup.boolean().required(),
    })
    .required(),
} as const satisfies Record<JobKind, yup.Schema>;
export type Payload<K extends JobKind> = yup.InferType<(typeof PAYLOADS)[K]>;

export type Job = typeof jobs.$inferSelect;

/** How often a kind is begun before it is given up, and how long it pauses after the first failure. */
export const TRIES: { readonly [K in JobKind]: { readonly most: number; readonly pauseMs: number } } = {
  // A mail server may be down for a day: thirteen times make more than one.
  mail: { most: 13, pauseMs: 10_000 },
  letter: { most: 13, pauseMs: 10_000 },
  'mail in': { most: 8, pauseMs: 2000 },
  review: { most: 8, pauseMs: 10_000 },
  follow: { most: 8, pauseMs: 2000 },
  evaluate: { most: 8, pauseMs: 2000 },
  rebuild: { most: 5, pauseMs: 5000 },
  // Somebody watches: a failure is shown at once. That the process stopped is not the files' fault, at first.
  import: { most: 40, pauseMs: 0 },
  'import every': { most: 40, pauseMs: 0 },
  sweep: { most: 8, pauseMs: 60_000 },
  rules: { most: 8, pauseMs: 2000 },
  plans: { most: 8, pauseMs: 2000 },
  'dry run': { most: 3, pauseMs: 0 },
  feed: { most: 8, pauseMs: 10_000 },
};

/** How long a process that is not heard of keeps a job. */
const LEASE_MS = 30_000;
export const HEARTBEAT_MS = 5000;

const inMs = (ms: number): SQL => sql`clock_timestamp() + ${ms} * interval '1 millisecond'`;
const due = sql`${jobs.runAt} <= clock_timestamp()`;
const abandoned = sql`${jobs.heldUntil} < clock_timestamp()`;

export interface Enqueued<K extends JobKind> {
  readonly kind: K;
  readonly payload: Payload<K>;
  readonly userId?: string | null;
  /** Jobs of one key that have not begun are one; it runs at the earliest of their times. */
  readonly key?: string;
  /** Jobs of one line run one after the other. */
  readonly line?: string;
  /** From now on. */
  readonly delayMs?: number;
  readonly step?: string;
}

/**
 * Puts a job into the queue, in the transaction of its cause: it is there if and only if the cause is. Returns its id,
 * or that of the one that stands for it. Call `wakeRunner` once the transaction is through.
 */
export async function enqueue<K extends JobKind>(
  { orm }: Access,
  { kind, payload, userId = null, key, line, delayMs = 0, step = '' }: Enqueued<K>,
): Promise<string> {
  const [row] = await orm
    .insert(jobs)
    .values({ id: randomUUID(), kind, payload, userId, key, line, step, runAt: inMs(delayMs) })
    .onConflictDoUpdate({
      target: jobs.key,
      targetWhere: sql`${jobs.state} = 'queued'`,
      // One that failed keeps its pause: whoever asks again and again does not shorten it.
      set: {
        runAt: sql`case when ${jobs.attempts} = 0 then least(${jobs.runAt}, excluded.run_at) else ${jobs.runAt} end`,
      },
    })
    .returning({ id: jobs.id });
  return row!.id;
}

/**
 * Takes the next job of some kinds that is due, or that its process has abandoned, for this one. Two processes never
 * get the same; null if there is none.
 */
export async function claim(
  db: Database,
  kinds: readonly JobKind[],
  holder: string,
  only?: string,
): Promise<Job | null> {
  const free = sql`(${jobs.line} is null or not exists (
    select 1 from jobs beside where beside.line = jobs.line and beside.state = 'running' and beside.id <> jobs.id))`;
  const next = db.orm
    .select({ id: jobs.id })
    .from(jobs)
    .where(
      and(
        inArray(jobs.kind, [...kinds]),
        only == null ? undefined : eq(jobs.id, only),
        or(and(eq(jobs.state, 'queued'), due, free), and(eq(jobs.state, 'running'), abandoned)),
      ),
    )
    .orderBy(jobs.runAt, jobs.id)
    .limit(1)
    .for('update', { skipLocked: true });
  try {
    const [job] = await db.orm
      .update(jobs)
      .set({ state: 'running', holder, heldUntil: inMs(LEASE_MS), attempts: sql`${jobs.attempts} + 1` })
      .where(inArray(jobs.id, next))
      .returning();
    return job ?? null;
  } catch (error) {
    // Another process took one of the same line in this very moment.
    if (isTaken(error)) return null;
    throw error;
  }
}

const held = (job: Job) => and(eq(jobs.id, job.id), eq(jobs.state, 'running'), eq(jobs.holder, job.holder!));

/** Whether a process that works on a job shall go on. */
export type Kept = 'go on' | 'cancelled' | 'lost';

/** Says that a job is still worked on, and how far. Returns whether it still is this process's, and shall go on. */
export async function keep(
  { orm }: Access,
  job: Job,
  how: Partial<Pick<Job, 'step' | 'done' | 'of'>> = {},
): Promise<Kept> {
  const [row] = await orm
    .update(jobs)
    .set({ ...how, heldUntil: inMs(LEASE_MS) })
    .where(held(job))
    .returning({ cancelled: jobs.cancelled });
  return row ? (row.cancelled ? 'cancelled' : 'go on') : 'lost';
}

/** Ends a job that this process holds. What went well and nobody asks after is forgotten at once. */
export async function end(
  { orm }: Access,
  job: Job,
  as: {
    readonly state: 'done' | 'failed' | 'cancelled';
    readonly result?: unknown;
    readonly message?: string;
  },
): Promise<void> {
  if (as.state === 'done' && job.userId == null) {
    await orm.delete(jobs).where(held(job));
    return;
  }
  await orm
    .update(jobs)
    .set({ ...as, key: null, line: null, endedAt: sql`clock_timestamp()`, heldUntil: null })
    .where(held(job));
}

/** Lets a job that failed be tried again after a pause, which grows; one that waits under its key already stands for it. */
export async function tryAgain(db: Database, job: Job, message: string): Promise<void> {
  const pause = Math.min(TRIES[job.kind].pauseMs * 4 ** (job.attempts - 1), DAY_MS / 6);
  const beside = sql`exists (select 1 from jobs other where other.key = ${job.key} and other.state = 'queued')`;
  try {
    const [row] = await db.orm
      .update(jobs)
      .set({ state: 'queued', runAt: inMs(pause), message, holder: null, heldUntil: null })
      .where(and(held(job), sql`not ${beside}`))
      .returning({ id: jobs.id });
    if (row) return;
  } catch (error) {
    if (!isTaken(error)) throw error;
  }
  await db.orm.delete(jobs).where(held(job));
}

/** Lets others have at once what a process that is gone still holds. */
export async function release({ orm }: Access, whose: SQL | undefined): Promise<void> {
  await orm
    .update(jobs)
    .set({ heldUntil: sql`clock_timestamp() - interval '1 second'` })
    .where(and(eq(jobs.state, 'running'), whose));
}

/** How many milliseconds there are until the next job of some kinds is due; null if none waits. */
export async function nextDue({ orm }: Access, kinds: readonly JobKind[]): Promise<number | null> {
  const at = sql`case when ${jobs.state} = 'queued' then ${jobs.runAt} else ${jobs.heldUntil} end`;
  const [row] = await orm
    .select({ ms: sql<string | null>`extract(epoch from min(${at}) - clock_timestamp()) * 1000` })
    .from(jobs)
    .where(and(inArray(jobs.kind, [...kinds]), inArray(jobs.state, ['queued', 'running'])));
  return row?.ms == null ? null : Number(row.ms);
}

/** How long ended jobs are kept; those that failed are looked for longer. */
const KEPT_DAYS = { done: 1, failed: 30 };

/** Forgets jobs that ended long ago. */
export async function forgetEnded({ orm }: Access): Promise<void> {
  const before = (days: number) => sql`clock_timestamp() - ${days} * interval '1 day'`;
  await orm
    .delete(jobs)
    .where(
      or(
        and(inArray(jobs.state, ['done', 'cancelled']), lt(jobs.endedAt, before(KEPT_DAYS.done))),
        and(eq(jobs.state, 'failed'), lt(jobs.endedAt, before(KEPT_DAYS.failed))),
      ),
    );
}

interface Runner {
  readonly wake: () => void;
}
/** On the global object: route handlers, actions and the start load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternRunner?: Runner };

/** Whether jobs are worked off in this process. */
export const hasRunner = (): boolean => holder.lanternRunner !== undefined;
export const setRunner = (runner: Runner | undefined): void => void (holder.lanternRunner = runner);

/** Says that something has come into the queue: it is looked at now rather than at the next look. */
export const wakeRunner = (): void => holder.lanternRunner?.wake();

const LOOK_EVERY_MS = 50;
/** How long somebody waits for a job that goes on without them. */
const PATIENCE_MS = 60_000;

/** Waits until a job has ended, or for a minute. */
export async function untilEnded({ orm }: Access, id: string): Promise<void> {
  for (const until = performance.now() + PATIENCE_MS; performance.now() < until;) {
    const [job] = await orm.select({ endedAt: jobs.endedAt }).from(jobs).where(eq(jobs.id, id));
    if (!job || job.endedAt != null) return;
    await pause(LOOK_EVERY_MS);
  }
}
