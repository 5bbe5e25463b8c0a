import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { ended, startJob } from '../../../tests/support/job';
import { cancelJob, jobOf } from './view';

const small = withSmallCourse();
const me = () => small.course.instructor.userId;
const stranger = () => small.course.stranger.userId;

describe('a job', () => {
  it('says how far it is, hears that it shall stop, and stops', async () => {
    let steps = 0;
    const { id, end } = await startJob(me(), async (progress) => {
      while (steps < 1_000_000) await progress('Working', ++steps, 1_000_000);
    });
    await expect.poll(async () => (await jobOf(me(), id)).done, { timeout: 600_000 }).toBeGreaterThan(0);
    expect(await jobOf(me(), id)).toMatchObject({ state: 'running', step: 'Working', of: 1_000_000 });
    await cancelJob(me(), id);
    await end;
    expect(await jobOf(me(), id)).toMatchObject({ state: 'cancelled' });
    expect(steps).toBeLessThan(1_000_000);
  });

  it('is nobody else’s', async () => {
    const { id, end } = await startJob(me(), () => Promise.resolve('done'));
    await expect(jobOf(stranger(), id)).rejects.toThrow('no such job of yours');
    await expect(cancelJob(stranger(), id)).rejects.toThrow('no such job of yours');
    await end;
    expect(await ended(me(), id)).toBe('done');
    await expect(jobOf(me(), 'none')).rejects.toThrow('no such job of yours');
  });

  it('says in words for the person why it failed, and nothing else', async () => {
    const { id, end } = await startJob(me(), () => Promise.reject(new Error('s1 has a secret')));
    await end;
    expect(await jobOf(me(), id)).toMatchObject({
      state: 'failed',
      message: 'Something went wrong here. Nothing was changed; try again.',
    });
  });
});
