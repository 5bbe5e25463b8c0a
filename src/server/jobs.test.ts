import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ended } from '../../tests/support/job';
import { turn } from '@/data/turn';
import { cancelJob, jobOf, startJob } from './jobs';

/** Keeps the thread for some milliseconds, as the embedded database does. */
const busyFor = (ms: number) => {
  const until = performance.now() + ms;
  while (performance.now() < until);
};

/** Answers like an application does: after a good many turns of the event loop. */
const server = createServer((request, response) => {
  void (async () => {
    for (let i = 0; i < 40; i++) await turn();
    cancelJob('ines', request.url!.slice(1));
    response.end('heard');
  })();
});
beforeAll(() => new Promise<void>((resolve) => server.listen(0, resolve)));
afterAll(() => server.close());

describe('a job that keeps the thread busy', () => {
  it('hears a request to cancel it before it has ended', async () => {
    const { port } = server.address() as AddressInfo;
    const steps: number[] = [];
    const id = startJob('ines', 'Beginning', async (progress) => {
      for (let i = 0; i < 30; i++) {
        busyFor(20);
        steps.push(i);
        await progress('Working', i, 30);
      }
      return 'done';
    });
    const said = fetch(`http://localhost:${port}/${id}`).then((answer) => answer.text());
    await expect(ended('ines', id)).rejects.toThrow('cancelled');
    expect(await said).toBe('heard');
    expect(steps.length).toBeLessThan(30);
    expect(jobOf('ines', id)).toMatchObject({ state: 'cancelled', step: 'Working' });
  });

  it('is nobody else’s', () => {
    const id = startJob('ines', 'Beginning', () => Promise.resolve('done'));
    expect(() => jobOf('teodor', id)).toThrow('no such job');
    expect(() => cancelJob('teodor', id)).toThrow('no such job');
  });
});
