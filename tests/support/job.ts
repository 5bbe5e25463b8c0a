import { jobOf } from '@/server/jobs';

/** Waits for the end of a job and gives what came of it; a job that did not get there is an error. */
export async function ended<T>(userId: string, job: string): Promise<T> {
  for (;;) {
    const view = jobOf(userId, job);
    if (view.state === 'done') return view.value as T;
    if (view.state !== 'running') throw new Error(view.message ?? view.state);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
}
