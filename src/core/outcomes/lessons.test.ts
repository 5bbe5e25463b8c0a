import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { classByOutcome, type OutcomeLearner, type TaughtOutcome } from './classByOutcome';
import { cutEven, learningPairs, lessonGroups, LESSON, nextToLearn } from './lessons';
import { MASTERY_LEVELS, type MasteryLevel } from './mastery';

const outcome = (id: number, before: number[] = [], parentId: number | null = null): TaughtOutcome => ({
  id,
  title: `outcome ${id}`,
  parentId,
  before,
});
const at = (level: MasteryLevel, mean: number) => ({
  level,
  mean,
  low: Math.max(0, mean - 0.1),
  askedAt: level === 'too little data' ? null : 1,
});
const learner = (id: number, ...of: [level: MasteryLevel, mean: number][]): OutcomeLearner => ({
  id,
  outcomes: new Map(of.map(([level, mean], i) => [i + 1, at(level, mean)])),
});
const three = [outcome(1), outcome(2, [1]), outcome(3)];

describe('where a class stands', () => {
  it('is lowest first among what is known, then what is not, then what nobody was asked', () => {
    const found = classByOutcome(
      [outcome(1), outcome(2), outcome(3), outcome(4)],
      [
        learner(1, ['secure', 0.9], ['not yet', 0.3], ['too little data', 0.5]),
        learner(2, ['developing', 0.65], ['not yet', 0.4], ['too little data', 0.5]),
      ],
    );
    expect(found.map((o) => o.id)).toEqual([2, 1, 3, 4]);
    expect(found[0]).toMatchObject({ middle: 0.35, taught: true });
    expect(found[0]!.counts).toEqual({ secure: 0, developing: 0, 'not yet': 2, 'too little data': 0 });
    expect(found[3]).toMatchObject({ middle: null, taught: false });
  });
  it('says who is already weak in what comes before', () => {
    const [heights] = classByOutcome(three, [
      learner(1, ['not yet', 0.3], ['not yet', 0.2], ['secure', 0.9]),
      learner(2, ['secure', 0.9], ['not yet', 0.2], ['secure', 0.9]),
    ]);
    expect(heights).toMatchObject({ id: 2, weakBefore: [{ id: 1, students: 1 }] });
  });
});

describe('what comes next', () => {
  it('is the weakest of those whose prerequisites are there', () => {
    expect(nextToLearn(learner(1, ['not yet', 0.3], ['not yet', 0.1], ['not yet', 0.4]), three)).toBe(1);
    expect(nextToLearn(learner(1, ['developing', 0.6], ['not yet', 0.1], ['not yet', 0.4]), three)).toBe(2);
    expect(nextToLearn(learner(1, ['too little data', 0.5], ['not yet', 0.1], ['secure', 0.9]), three)).toBe(
      2,
    );
    expect(nextToLearn(learner(1, ['secure', 0.9], ['developing', 0.6], ['secure', 0.9]), three)).toBeNull();
  });
  it('is a part, never the whole', () => {
    const tree = [outcome(1), outcome(2, [], 1)];
    expect(nextToLearn(learner(1, ['not yet', 0.1], ['not yet', 0.3]), tree)).toBe(2);
  });
});

const cohort = fc
  .array(
    fc.array(fc.tuple(fc.constantFrom(...MASTERY_LEVELS), fc.double({ min: 0, max: 1, noNaN: true })), {
      minLength: 3,
      maxLength: 3,
    }),
    { maxLength: 40 },
  )
  .map((list) => list.map((of, i) => learner(i, ...of)));

describe('groups and pairs', () => {
  it('have three to six, each student once, and leave out nobody who needs something', () => {
    fc.assert(
      fc.property(cohort, (all) => {
        const { groups, alone } = lessonGroups(three, all);
        const members = [...groups, ...alone].flatMap((g) => g.members.map((m) => m.id));
        expect(new Set(members).size).toBe(members.length);
        expect([...members].sort()).toEqual(
          all.flatMap((l) => (nextToLearn(l, three) == null ? [] : l.id)).sort(),
        );
        for (const g of groups) {
          expect(g.members.length).toBeGreaterThanOrEqual(LESSON.least);
          expect(g.members.length).toBeLessThanOrEqual(LESSON.most);
          for (const m of g.members) expect(nextToLearn(m, three)).toBe(g.outcome);
        }
        for (const g of alone) expect(g.members.length).toBeLessThan(LESSON.least);
      }),
    );
  });
  it('pair somebody secure and steady with somebody who is not there, nobody twice', () => {
    fc.assert(
      fc.property(cohort, fc.integer({ min: 1, max: 3 }), (all, each) => {
        const steady = (l: OutcomeLearner) => l.id % each === 0;
        const pairs = learningPairs(three, all, steady);
        const ids = pairs.flatMap((p) => [p.helper.id, p.helped.id]);
        expect(new Set(ids).size).toBe(ids.length);
        for (const p of pairs) {
          expect(p.helper.outcomes.get(p.outcome)!.level).toBe('secure');
          expect(steady(p.helper)).toBe(true);
          expect(nextToLearn(p.helped, three)).toBe(p.outcome);
          expect(nextToLearn(p.helper, three)).toBeNull();
        }
      }),
    );
  });
  it('put whoever is furthest behind beside whoever is surest', () => {
    const all = [
      learner(1, ['not yet', 0.4], ['secure', 0.9], ['secure', 0.9]),
      learner(2, ['not yet', 0.2], ['secure', 0.9], ['secure', 0.9]),
      learner(3, ['secure', 0.8], ['secure', 0.9], ['secure', 0.9]),
      learner(4, ['secure', 0.95], ['secure', 0.9], ['secure', 0.9]),
    ];
    expect(learningPairs(three, all, () => true).map((p) => [p.helper.id, p.helped.id])).toEqual([
      [4, 2],
      [3, 1],
    ]);
    expect(learningPairs(three, all, () => false)).toEqual([]);
  });
  it('cut as even as can be', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), (n) => {
        const sizes = cutEven(
          Array.from({ length: n }, (_, i) => i),
          6,
        ).map((g) => g.length);
        expect(Math.max(...sizes)).toBeLessThanOrEqual(6);
        expect(Math.max(...sizes) - Math.min(...sizes)).toBeLessThanOrEqual(1);
        expect(sizes.reduce((a, b) => a + b)).toBe(n);
      }),
    );
  });
});
