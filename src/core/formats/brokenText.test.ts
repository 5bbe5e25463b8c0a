import { describe, expect, it } from 'vitest';
import { holdsBroken } from './brokenText';

describe('broken text', () => {
  it.each([
    ['a\u0000', true],
    ['\ud800', true],
    ['\ud83d\ude00', false],
    [{ a: ['b', { c: '\u0000' }] }, true],
    [{ 'a\u0000': 1 }, true],
    [[1, null, true, { a: 'b' }], false],
  ])('%j: %s', (value, broken) => expect(holdsBroken(value)).toBe(broken));

  it('is found however deep, and the search ends where a value holds itself', () => {
    let deep: unknown = 'a\u0000';
    for (let i = 0; i < 200_000; i++) deep = [deep];
    expect(holdsBroken(deep)).toBe(true);
    const ring: Record<string, unknown> = { a: 'b' };
    ring.self = ring;
    expect(holdsBroken(ring)).toBe(false);
  });
});
