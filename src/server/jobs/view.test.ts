import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { ended, startJob } from '../../../tests/support/job';
import { cancelJob, jobOf } from './view';

const small = withSmallCourse();
const me = () => small.course.instructor.userId;
const stranger = () => small.course.stranger.userId;

/** Something that a job waits for. */
function gate() {
  let open = () => {};
  const passed = new Promise<void>((resolve) => (open = resolve));
  return { open, passed };
}

describe('a job', () => {
  it('says how far it is, hears that it shall stop, and stops', async () => {
    const [begun, go] = [gate(), gate()];
    const steps: number[] = [];
    const { id, end } = await startJob(me(), async (progress) => {
      for (let i = 1; i < 1000; i++) {
        // A job says how far it is a few times a second.
        await new Promise((resolve) => setTimeout(resolve, 20));
        steps.push(i);
        await progress('Working', i, 1000);
        if (i === 30) {
          begun.open();
          await go.passed;
        }
      }
    });
    await begun.passed;
    const view = await jobOf(me(), id);
    expect(view).toMatchObject({ state: 'running', step: 'Working', of: 1000 });
    expect(view.done).toBeGreaterThan(0);
    await cancelJob(me(), id);
    go.open();
    await end;
    expect(await jobOf(me(), id)).toMatchObject({ state: 'cancelled' });
    expect(steps.length).toBeLessThan(999);
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
