import { describe, expect, it } from 'vitest';
import { planStep } from '../../../tests/support/plans';
import { DAY_MS } from '../units';
import { planProgress } from './progress';

const AT = 100 * DAY_MS;
const steps = (...done: (number | null)[]) => ({
  steps: done.map((days, id) => planStep({ id, doneAt: days == null ? null : AT - days * DAY_MS })),
});

describe('how a plan goes', () => {
  it.each([
    [[null, null], 'not begun'],
    [[5, null], 'going on'],
    [[9, 1, null], 'going on'],
    [[5.01, null], 'stuck'],
    [[30, 20], 'through'],
  ] as const)('with steps done %j days ago is %s', (done, is) => {
    expect(planProgress(steps(...done), AT)).toBe(is);
  });
});
