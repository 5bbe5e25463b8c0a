import { describe, expect, it } from 'vitest';
import { finish, type Steps } from '@/core/steps';
import { inTurns } from './turns';

function* sum(steps: number, busy: () => void): Steps<number> {
  let total = 0;
  for (let i = 1; i <= steps; i++) {
    busy();
    total += i;
    yield;
  }
  return total;
}

/** Keeps the processor for some milliseconds. */
const busyFor = (ms: number) => () => {
  const until = performance.now() + ms;
  while (performance.now() < until);
};

describe('a long computation in turns', () => {
  it('gives what it gives without a pause', async () => {
    expect(finish(sum(100, () => undefined))).toBe(5050);
    expect(await inTurns(sum(100, () => undefined))).toBe(5050);
    expect(await inTurns(sum(0, () => undefined))).toBe(0);
  });
  it('lets others have their turn, and does not when it is short', async () => {
    let turns = 0;
    const count = () => {
      turns++;
      next = setImmediate(count);
    };
    let next = setImmediate(count);
    await inTurns(sum(20, busyFor(10)));
    clearImmediate(next);
    // 200 ms of work with a turn about every 25 ms.
    expect(turns).toBeGreaterThanOrEqual(4);
    turns = 0;
    next = setImmediate(count);
    await inTurns(sum(20, () => undefined));
    clearImmediate(next);
    expect(turns).toBe(0);
  });
  it('ends with the error of the computation', async () => {
    const broken = sum(3, () => {
      throw new Error('broken');
    });
    await expect(inTurns(broken)).rejects.toThrow('broken');
  });
});
