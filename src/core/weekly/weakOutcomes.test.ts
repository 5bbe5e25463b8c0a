import fc from 'fast-check';
import { expect, test } from 'vitest';
import { MASTERY_LEVELS, type MasteryLevel } from '../outcomes/mastery';
import { groupsToTeach, weakOutcomes } from './weakOutcomes';

const outcomes = [
  { id: 1, title: 'Fixing' },
  { id: 2, title: 'Heights' },
];
const learner = (id: number, fixing: MasteryLevel, heights: MasteryLevel) => ({
  id,
  outcomes: new Map([
    [1, fixing],
    [2, heights],
  ]),
});

test('the weakest comes first, and who is in the group of one is not in that of another', () => {
  const all = [
    learner(1, 'not yet', 'not yet'),
    learner(2, 'not yet', 'secure'),
    learner(3, 'not yet', 'not yet'),
    learner(4, 'secure', 'not yet'),
    learner(5, 'too little data', 'secure'),
  ];
  const weak = weakOutcomes(outcomes, all);
  expect(weak.map((o) => [o.title, o.behind.length, o.known])).toEqual([
    ['Fixing', 3, 4],
    ['Heights', 3, 5],
  ]);
  // Of those behind with heights only one is left, and nobody is taught alone.
  expect(groupsToTeach(weak).map((g) => [g.outcome, g.members.map((m) => m.id)])).toEqual([
    ['Fixing', [1, 2, 3]],
  ]);
});

test('each is in at most one group, which has two to six', () => {
  const level = fc.constantFrom(...MASTERY_LEVELS);
  fc.assert(
    fc.property(fc.array(fc.tuple(level, level), { maxLength: 40 }), (levels) => {
      const all = levels.map(([a, b], i) => learner(i, a, b));
      const members = groupsToTeach(weakOutcomes(outcomes, all, 0)).map((g) => g.members.length);
      const ids = groupsToTeach(weakOutcomes(outcomes, all, 0)).flatMap((g) => g.members.map((m) => m.id));
      expect(new Set(ids).size).toBe(ids.length);
      for (const n of members) {
        expect(n).toBeGreaterThanOrEqual(2);
        expect(n).toBeLessThanOrEqual(6);
      }
    }),
  );
});
