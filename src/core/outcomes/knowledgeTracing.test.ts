import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { knowledgeAfter, knownNow } from './knowledgeTracing';

interface Reference {
  readonly result: { readonly byHand: readonly { readonly obs: number; readonly next_: number }[] };
}

describe('knowledge tracing', () => {
  it('is what the equations of Corbett and Anderson (1995) give, by R and the first steps by hand', () => {
    const { result } = JSON.parse(readFileSync('tests/reference/bkt.json', 'utf8')) as Reference;
    const found = knowledgeAfter(
      result.byHand.map((s) => s.obs === 1),
      { known: 0.4, learn: 0.1, slip: 0.3, guess: 0.2 },
    );
    result.byHand.forEach((s, i) => expect(found[i]).toBeCloseTo(s.next_, 12));
  });
  it('is not said of one step, nor counts what is not scored or came too quickly', () => {
    const step = (score: number | null, tooQuick = false) => ({ score, tooQuick });
    expect(knownNow([step(1), step(null), step(0, true)])).toBeNull();
    expect(knownNow([step(0), step(0, true), step(1)])).toBe(knowledgeAfter([false, true])[1]);
  });
  it('rises with a right answer more than with a wrong one, and stays a probability', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { maxLength: 12 }), (before) => {
        const after = (right: boolean) => knowledgeAfter([...before, right]).at(-1)!;
        expect(after(true)).toBeGreaterThan(after(false));
        for (const p of knowledgeAfter(before)) {
          expect(p).toBeGreaterThan(0);
          expect(p).toBeLessThan(1);
        }
      }),
    );
  });
});
