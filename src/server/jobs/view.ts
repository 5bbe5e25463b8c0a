import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import type { JobView } from '@/core/views/job';
import { turn } from '@/data/turn';
import { reportFailure } from './failure';
import { notFound, UseCaseError } from './errors';

/**
 * Says how far a long piece of work is, and lets everybody else have their turn. Ends the work, by an error that rolls
 * its transaction back, if somebody has cancelled it.
 */
export type Progress = (step: string, done?: number, of?: number) => Promise<void>;

/** How long others have the thread to themselves after each step. */
const BREATH_MS = 3;

/** For work that nobody watches: others have their turn, and nobody cancels it. */
export const unwatched: Progress = turn;

class Cancelled extends Error {}

/** Whether a piece of work ended because somebody cancelled it. */
export const isCancelled = (error: unknown): boolean => error instanceof Cancelled;

interface Job {
  readonly userId: string;
  view: JobView<unknown>;
  cancelled: boolean;
  endedAt: number | null;
}

/** On the global object: route handlers and actions load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternJobs?: Map<string, Job> };
const jobs = (): Map<string, Job> => (holder.lanternJobs ??= new Map());

/** How long the end of a job can be asked for. */
const KEPT_MS = 10 * 60_000;

/** Begins a piece of work off the request that asks for it. Returns the id to ask for it by. */
export function startJob<T>(userId: string, step: string, work: (progress: Progress) => Promise<T>): string {
  const at = performance.now();
  for (const [id, old] of jobs()) if (old.endedAt != null && at - old.endedAt > KEPT_MS) jobs().delete(id);
  const id = randomUUID();
  const job: Job = {
    userId,
    view: { state: 'running', step, done: 0, of: 0, value: null, message: null },
    cancelled: false,
    endedAt: null,
  };
  jobs().set(id, job);
  const progress: Progress = async (now, done = 0, of = 0) => {
    job.view = { ...job.view, step: now, done, of };
    // Requests that came meanwhile are answered first. To answer one takes many turns of the event loop, not one.
    await pause(BREATH_MS);
    if (job.cancelled) throw new Cancelled();
  };
  const end = (view: Partial<JobView<unknown>>) => {
    job.view = { ...job.view, ...view };
    job.endedAt = performance.now();
  };
  // Not before the answer to the request is on its way.
  setImmediate(() => {
    work(progress).then(
      (value) => end({ state: 'done', value }),
      (error: unknown) => {
        if (error instanceof Cancelled) return end({ state: 'cancelled' });
        const known = error instanceof UseCaseError;
        const said = known ? error.message : reportFailure('a job', error);
        end({
          state: 'failed',
          message: said ?? 'Something went wrong here. Nothing was changed; try again.',
        });
      },
    );
  });
  return id;
}

/** How a job of this user stands. */
export function jobOf(userId: string, id: string): JobView<unknown> {
  return own(userId, id).view;
}

/** Asks a job of this user to stop at its next step; what it did is taken back. */
export function cancelJob(userId: string, id: string): JobView<unknown> {
  const job = own(userId, id);
  job.cancelled = true;
  return job.view;
}

function own(userId: string, id: string): Job {
  const job = jobs().get(id);
  if (job?.userId !== userId)
    throw notFound('job of yours; if the server was started again, nothing went in');
  return job;
}
