import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { truth } from '../../../tests/support/reference';
import { DAY_MS, WEEK_MS } from '../units';
import { completion } from './completion';
import type { Gradebook, GradedActivity, Score } from '../course/gradebook';
import { dropLowest, neededOnRest, standing } from './standing';
import { workStatus } from './status';
import { activityMedians, gradeTrend, type GradedWork } from './trend';

const NOW = Date.parse('2026-11-25T10:00:00Z');
const PAST = NOW - DAY_MS;
const FUTURE = NOW + DAY_MS;

const activity = (id: string, over: Partial<GradedActivity> = {}): GradedActivity => ({
  id,
  category: 'c',
  points: 100,
  due: PAST,
  ...over,
});
const score = (id: string, points: number | null, over: Partial<Score> = {}): Score => ({
  activity: id,
  points,
  excused: false,
  submitted: PAST,
  returned: points == null ? null : PAST,
  ...over,
});
const book = (activities: GradedActivity[], over: Partial<Gradebook> = {}): Gradebook => ({
  policy: { missing: 'zero' },
  zone: 'UTC',
  categories: [{ id: 'c', weight: 100, dropLowest: 0 }],
  activities,
  ...over,
});
const scores = (...list: Score[]) => new Map(list.map((s) => [s.activity, s]));

interface GradesTruth {
  plain: number;
  missingRenormalised: number;
  missingAsZero: number;
  dropLowestEqual: number;
  dropTwoLowest: number;
  dropLowestByPercent: number;
}

describe('standing, against grades worked by hand (tests/reference/weighted-grades)', () => {
  const expected = truth<GradesTruth>('weighted-grades');
  const threeCategories = [20, 30, 50].map((weight, i) => ({ id: `c${i}`, weight, dropLowest: 0 }));
  const oneEach = [0, 1, 2].map((i) => activity(`a${i}`, { category: `c${i}` }));
  const weighted = (missing: 'zero' | 'ignore') =>
    book(oneEach, { categories: threeCategories, policy: { missing } });

  it('weights categories', () => {
    const all = scores(score('a0', 80), score('a1', 90), score('a2', 70));
    expect(standing(weighted('zero'), all, NOW).standing).toBeCloseTo(expected.plain, 12);
  });
  it('gives the weight of an empty category to the others, or counts missing as zero', () => {
    const two = scores(score('a0', 80), score('a1', 90));
    expect(standing(weighted('ignore'), two, NOW).standing).toBeCloseTo(expected.missingRenormalised, 12);
    expect(standing(weighted('zero'), two, NOW).standing).toBeCloseTo(expected.missingAsZero, 12);
  });
  it.each([
    [1, expected.dropLowestEqual],
    [2, expected.dropTwoLowest],
  ])('drops the %d lowest', (drop, percent) => {
    const five = [60, 70, 80, 90, 100];
    const b = book(
      five.map((_, i) => activity(`a${i}`)),
      { categories: [{ id: 'c', weight: 1, dropLowest: drop }] },
    );
    expect(standing(b, scores(...five.map((p, i) => score(`a${i}`, p))), NOW).standing).toBeCloseTo(
      percent,
      12,
    );
  });
  it('drops by per cent, not by points', () => {
    const maxima = [10, 50, 10, 100];
    const b = book(
      maxima.map((points, i) => activity(`a${i}`, { points })),
      { categories: [{ id: 'c', weight: 1, dropLowest: 1 }] },
    );
    const got = scores(...[5, 40, 8, 30].map((p, i) => score(`a${i}`, p)));
    expect(standing(b, got, NOW).standing).toBeCloseTo(100 * expected.dropLowestByPercent, 12);
  });
});

describe('dropping', () => {
  const work = (id: string, points: number, maximum: number) => ({ id, points, maximum });
  const ids = (list: { id: string }[]) => list.map((w) => w.id).sort();
  it('never drops the last one', () => expect(ids(dropLowest([work('a', 1, 10)], 3))).toEqual(['a']));
  it('of equal per cents drops the smaller maximum, then the smaller id', () => {
    expect(ids(dropLowest([work('a', 10, 20), work('b', 5, 10), work('z', 9, 10)], 1))).toEqual(['a', 'z']);
    expect(ids(dropLowest([work('b', 5, 10), work('a', 5, 10), work('z', 9, 10)], 1))).toEqual(['b', 'z']);
  });
  it('leaves extra credit alone', () => {
    expect(ids(dropLowest([work('x', 1, 0), work('a', 1, 10), work('b', 9, 10)], 2))).toEqual(['b', 'x']);
  });
});

describe('what counts', () => {
  const at = (s: Score | null, over: Partial<GradedActivity> = {}, missing: 'zero' | 'ignore' = 'zero') =>
    standing(book([activity('a', over)], { policy: { missing } }), s ? scores(s) : scores(), NOW);

  it('only grades returned by then', () => {
    expect(at(score('a', 70)).standing).toBe(70);
    expect(at(score('a', 70, { returned: FUTURE })).standing).toBeNull();
    expect(at(score('a', 70, { returned: NOW })).standing).toBe(70);
  });
  it('never what is excused', () => expect(at(score('a', 0, { excused: true })).standing).toBeNull());
  it('missing as the policy says, and only once it is due', () => {
    expect(at(null).standing).toBe(0);
    expect(at(null, {}, 'ignore').standing).toBeNull();
    expect(at(null, { due: FUTURE }).standing).toBeNull();
    expect(at(null, { due: null }).standing).toBeNull();
    expect(at(score('a', null)).standing).toBeNull();
  });
  it('the possible grades fill what is open, and leave a zero a zero', () => {
    expect(at(score('a', null))).toEqual({ standing: null, lowestPossible: 0, highestPossible: 100 });
    expect(at(null)).toEqual({ standing: 0, lowestPossible: 0, highestPossible: 0 });
    expect(at(null, {}, 'ignore')).toEqual({ standing: null, lowestPossible: 0, highestPossible: 100 });
    expect(at(score('a', 70))).toEqual({ standing: 70, lowestPossible: 70, highestPossible: 70 });
  });
  it('extra credit adds without a maximum', () => {
    const b = book([activity('a'), activity('x', { points: 5, extraCredit: true })]);
    expect(standing(b, scores(score('a', 80), score('x', 5)), NOW).standing).toBe(85);
    expect(standing(b, scores(score('a', 80)), NOW)).toEqual({
      standing: 80,
      lowestPossible: 80,
      highestPossible: 85,
    });
  });
  it('takes the late penalty off for each started day, up to the most', () => {
    const late = (hours: number) =>
      standing(
        book([activity('a')], { policy: { missing: 'zero', latePenalty: { perDay: 10, most: 25 } } }),
        scores(score('a', 80, { submitted: PAST + hours * 3_600_000 })),
        NOW,
      ).standing;
    const expected = [80, 70, 70, 60, 55];
    [0, 1, 24, 25, 400].forEach((hours, i) => expect(late(hours)).toBeCloseTo(expected[i]!, 9));
  });
});

describe('what is needed on the rest', () => {
  const b = book([activity('a'), activity('b', { due: FUTURE })]);
  const half = scores(score('a', 50));
  it('reaches the target when reached', () => {
    expect(neededOnRest(b, half, NOW, 70)).toBeCloseTo(90, 6);
    expect(neededOnRest(b, half, NOW, 20)).toBe(0);
    expect(neededOnRest(b, half, NOW, 90)).toBe(Infinity);
    expect(neededOnRest(book([activity('a')]), half, NOW, 70)).toBeNull();
  });
});

const arbitraryBook = fc.record({
  missing: fc.constantFrom<'zero' | 'ignore'>('zero', 'ignore'),
  drop: fc.integer({ min: 0, max: 3 }),
  works: fc.array(
    fc.record({
      category: fc.constantFrom('c', 'd'),
      points: fc.integer({ min: 1, max: 50 }),
      due: fc.constantFrom(PAST, FUTURE, null),
      share: fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { nil: null }),
      excused: fc.boolean(),
      known: fc.boolean(),
    }),
    { minLength: 1, maxLength: 12 },
  ),
});

describe('properties', () => {
  const build = ({
    missing,
    drop,
    works,
  }: typeof arbitraryBook extends fc.Arbitrary<infer T> ? T : never) => ({
    book: book(
      works.map((w, i) => activity(`a${i}`, { category: w.category, points: w.points, due: w.due })),
      {
        policy: { missing },
        categories: [
          { id: 'c', weight: 30, dropLowest: drop },
          { id: 'd', weight: 70, dropLowest: 0 },
        ],
      },
    ),
    scores: scores(
      ...works.flatMap((w, i) =>
        w.known ? [score(`a${i}`, w.share == null ? null : w.share * w.points, { excused: w.excused })] : [],
      ),
    ),
  });
  it('lowest and highest possible enclose each other, within 0 to 100', () => {
    fc.assert(
      fc.property(arbitraryBook, (input) => {
        const made = build(input);
        const s = standing(made.book, made.scores, NOW);
        fc.pre(s.lowestPossible != null && s.highestPossible != null);
        expect(s.lowestPossible).toBeLessThanOrEqual(s.highestPossible! + 1e-9);
        expect(s.lowestPossible).toBeGreaterThanOrEqual(-1e-9);
        expect(s.highestPossible).toBeLessThanOrEqual(100 + 1e-9);
      }),
    );
  });
  it('full points on all that is open give the highest possible grade', () => {
    fc.assert(
      fc.property(arbitraryBook, (input) => {
        const made = build(input);
        const highest = standing(made.book, made.scores, NOW).highestPossible;
        const needed = highest == null ? null : neededOnRest(made.book, made.scores, NOW, highest - 1e-7);
        if (needed != null) expect(needed).toBeLessThanOrEqual(100);
      }),
    );
  });
  it('done is never over expected, and missing fills the gap', () => {
    fc.assert(
      fc.property(arbitraryBook, (input) => {
        const made = build(input);
        const c = completion(made.book.activities, made.scores, NOW);
        expect(c.done + c.missing.length).toBe(c.expected);
      }),
    );
  });
});

describe('completion', () => {
  it('counts late as done, leaves out what has no date or is excused, and lets one be ahead', () => {
    const works = [
      { id: 'late', due: PAST },
      { id: 'missing', due: PAST - DAY_MS },
      { id: 'excused', due: PAST },
      { id: 'early', due: FUTURE },
      { id: 'undated', due: null },
      { id: 'on paper', due: PAST },
    ];
    const got = scores(
      score('late', null, { submitted: PAST + 1000 }),
      score('excused', null, { excused: true, submitted: null }),
      score('early', null),
      score('undated', null),
      score('on paper', 10, { submitted: null }),
    );
    expect(completion(works, got, NOW)).toEqual({
      done: 2,
      expected: 3,
      missing: ['missing'],
      pace: 1,
      undated: 1,
    });
  });
});

describe('status', () => {
  it.each([
    ['excused', PAST, score('a', null, { excused: true })],
    ['graded', PAST, score('a', 5)],
    ['late', PAST, score('a', null, { submitted: PAST + 1 })],
    ['awaiting grade', PAST, score('a', null)],
    ['missing', PAST, undefined],
    ['not yet due', FUTURE, undefined],
    ['no due date', null, undefined],
  ])('%s', (expected, due, s) => expect(workStatus({ due, graded: true }, s, NOW)).toBe(expected));
  it('submitted, where nothing is graded', () =>
    expect(workStatus({ due: PAST, graded: false }, score('a', null), NOW)).toBe('submitted'));
});

describe('trend of grades', () => {
  const works = (percents: number[]): GradedWork[] =>
    percents.map((percent, i) => ({ activity: `a${i}`, at: PAST + i * WEEK_MS, percent }));
  it('says too little under four works', () => expect(gradeTrend(works([9, 8, 7]), new Map())).toBeNull());
  it('is flat against the class where everyone fell alike', () => {
    const fallen = [80, 75, 70, 65, 60];
    const medians = activityMedians([
      works(fallen),
      works(fallen.map((p) => p + 10)),
      works(fallen.map((p) => p - 10)),
    ]);
    const trend = gradeTrend(works(fallen.map((p) => p - 10)), medians)!;
    expect(trend.perWeek).toBeCloseTo(-5, 9);
    expect(trend.relativePerWeek).toBeCloseTo(0, 9);
    expect(trend.test.p).toBe(1);
  });
  it('sees who falls while the class stays', () => {
    const medians = new Map([0, 1, 2, 3, 4, 5].map((i): [string, number] => [`a${i}`, 70]));
    const trend = gradeTrend(works([90, 84, 80, 71, 66, 60]), medians)!;
    expect(trend.relativePerWeek).toBeLessThan(-5);
    expect(trend.test.p).toBeLessThan(0.02);
  });
});
