import { describe, expect, it } from 'vitest';
import { coverageOf, withParts } from './coverage';

describe('coverage', () => {
  it('is the share of the items that were seen, apart from how well they went', () => {
    expect(
      coverageOf([
        { items: 10, seen: 10, right: 4 },
        { items: 10, seen: 0, right: 0 },
      ]),
    ).toEqual({ seen: 0.5, right: 0.4 });
    expect(coverageOf([{ items: 3, seen: 0, right: 0 }])).toEqual({ seen: 0, right: null });
    expect(coverageOf([])).toBeNull();
  });
  it('of an outcome is that of its parts, too, whatever their order, and ends where they go in a circle', () => {
    const tree = [
      { id: 3, parentId: 2 },
      { id: 2, parentId: 1 },
      { id: 1, parentId: null },
      { id: 4, parentId: 5 },
      { id: 5, parentId: 4 },
    ];
    expect([...withParts(1, tree)].sort()).toEqual([1, 2, 3]);
    expect([...withParts(4, tree)].sort()).toEqual([4, 5]);
  });
});
