import { setTimeout as pause } from 'node:timers/promises';
import { database } from '@/server/base/database';
import { jobOf } from '@/server/jobs/view';
import type { Progress } from '@/server/jobs/progress';
import { enqueue, hasRunner } from '@/server/jobs/queue';
import { workOff as workOffBy } from '@/server/jobs/runner';
import { HANDLERS, workOff } from '@/server/work';

/** Waits for the end of a job and gives what came of it; a job that did not get there is an error. */
export async function ended<T>(userId: string, job: string): Promise<T> {
  if (!hasRunner()) await workOff(await database());
  for (;;) {
    const view = await jobOf(userId, job);
    if (view.state === 'done') return view.value as T;
    if (view.state !== 'running') throw new Error(view.message ?? view.state);
    await pause(5);
  }
}

/** A job of a user's that does some work, begun at once. */
export async function startJob(
  userId: string,
  work: (progress: Progress) => Promise<unknown>,
): Promise<{ readonly id: string; readonly end: Promise<void> }> {
  const db = await database();
  const payload = { courseId: 0, userId, upload: 'none' };
  const id = await enqueue(db, { kind: 'import', payload, userId, step: 'Beginning' });
  const handlers = {
    ...HANDLERS,
    import: (_: unknown, __: unknown, job: { progress: Progress }) => work(job.progress),
  };
  return { id, end: workOffBy(db, handlers, ['import']) };
}
