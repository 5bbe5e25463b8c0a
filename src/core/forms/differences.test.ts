import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differences } from './differences';

describe('what differs between two versions of a form', () => {
  it('is named place by place, in words', () => {
    const mine = {
      id: 3,
      title: 'Mine',
      moreTime: 25,
      steps: [{ title: 'Read' }, { title: 'Try' }],
      open: true,
    };
    const theirs = { title: 'Theirs', moreTime: 25, steps: [{ title: 'Read' }], open: false };
    expect(differences(mine, theirs)).toEqual([
      { place: 'title', mine: 'Mine', theirs: 'Theirs' },
      { place: 'steps 2', mine: 'title: Try', theirs: 'empty' },
      { place: 'open', mine: 'yes', theirs: 'no' },
    ]);
  });
  it('of documents is their text', () => {
    const doc = (text: string) => ({ type: 'doc', content: [{ type: 'text', text }] });
    expect(differences({ doc: doc('One') }, { doc: doc('Two') })).toEqual([
      { place: 'doc', mine: 'One', theirs: 'Two' },
    ]);
  });
  it('is nothing exactly where both are the same', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
        const found = differences({ value: a }, { value: b });
        expect(found.length > 0).toBe(JSON.stringify(a) !== JSON.stringify(b) && !sameKeysOfTheirs(a, b));
      }),
    );
  });
});

/** Keys that only one's own version has say nothing about what is stored. */
function sameKeysOfTheirs(a: unknown, b: unknown): boolean {
  if (JSON.stringify(a) === JSON.stringify(b)) return true;
  const isThing = (v: unknown): v is Record<string, unknown> =>
    typeof v === 'object' && v !== null && !Array.isArray(v);
  if (isThing(a) && isThing(b) && a.type == null)
    return Object.keys(b).every((key) => sameKeysOfTheirs(a[key], b[key]));
  if (Array.isArray(a) && Array.isArray(b) && a.length > 0 && b.length > 0 && [...a, ...b].every(isThing))
    return a.length === b.length && a.every((item, i) => sameKeysOfTheirs(item, b[i]));
  return false;
}
