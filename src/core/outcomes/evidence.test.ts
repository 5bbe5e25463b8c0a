import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ClassRecord, StudentRecord } from '../course/record';
import { finish } from '../steps';
import { DAY_MS } from '../units';
import {
  classMastery,
  independentResponses,
  sharedWeight,
  studentMastery,
  type AnswersOf,
  type LearningRecord,
  type OutcomePart,
} from './evidence';

const NOW = Date.parse('2026-11-25T10:00:00Z');
const AT = NOW - 1000;

const student = (id: number, percents: Readonly<Record<string, number>>, excused = false): StudentRecord => ({
  id,
  joined: '2026-09-28',
  days: [],
  scores: new Map(
    Object.entries(percents).map(([activity, points]) => [
      activity,
      { activity, points, excused, submitted: AT, returned: AT },
    ]),
  ),
});
const record = (...students: StudentRecord[]): ClassRecord => ({
  term: { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] },
  book: {
    policy: { missing: 'zero' },
    zone: 'Europe/Lisbon',
    categories: [{ id: 'c', weight: 1, dropLowest: 0 }],
    activities: ['chart', 'quiz', 'exam'].map((id) => ({ id, due: AT, category: 'c', points: 100 })),
  },
  works: [],
  students,
});
const covers = new Map([
  ['chart', ['fix']],
  ['quiz', ['tides']],
  ['exam', ['fix', 'tides', 'lights', 'buoys']],
]);
const outcomes = ['fix', 'tides', 'lights', 'buoys'].map((id) => ({ id }));
const learned = (
  r: ClassRecord,
  answers: AnswersOf = new Map(),
  list: readonly OutcomePart[] = outcomes,
  outside: LearningRecord['outside'] = new Map(),
) => finish(classMastery(r, list, covers, { answers, outside }, NOW)).students;

describe('what an answer weighs', () => {
  it('is less the more hang together: 8 count 8 / 2.05, by hand', () => {
    expect(independentResponses(1)).toBe(1);
    expect(independentResponses(8)).toBeCloseTo(3.902439, 6);
  });
  it('grows with every answer but never past 1 / 0.15', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), (n) => {
        expect(independentResponses(n + 1)).toBeGreaterThan(independentResponses(n));
        expect(independentResponses(n)).toBeLessThan(1 / 0.15);
      }),
    );
  });
  it('is shared among outcomes, at least 1.5 each; a parent has the sum of its parts, at most the whole', () => {
    expect(sharedWeight(4, ['a', 'b'], new Map())).toEqual(new Map(Object.entries({ a: 2, b: 2 })));
    const parents = new Map(Object.entries({ a: 'p', b: 'p', c: 'q', p: 'q' }));
    expect(Object.fromEntries(sharedWeight(4, ['a', 'b', 'c', 'd'], parents))).toEqual({
      a: 1.5,
      b: 1.5,
      c: 1.5,
      d: 1.5,
      p: 3,
      q: 4,
    });
    expect(sharedWeight(1, ['a', 'b'], new Map()).get('a')).toBe(1);
  });
});

describe('mastery of a class', () => {
  it('rests on returned grades where no answers are known: 4 for one outcome, 1.5 each for four', () => {
    const found = learned(record(student(1, { chart: 100, exam: 90 }))).get(1)!;
    expect(found.get('fix')!.effective).toBeCloseTo(5.5, 4);
    expect(found.get('lights')).toMatchObject({ level: 'too little data' });
    expect(found.get('lights')!.effective).toBeCloseTo(1.5, 4);
    expect(found.get('fix')!.level).toBe('secure');
  });
  it('takes answers in place of the grade, each attempt on its own', () => {
    const answers = new Map([
      [1, [0.5, 1].map((share) => ({ activity: 'quiz', responses: 8, worth: 8, share, at: AT }))],
    ]);
    const found = learned(record(student(1, { quiz: 0 })), answers)
      .get(1)!
      .get('tides')!;
    expect(found.effective).toBeCloseTo(2 * independentResponses(8), 4);
    // Flat prior of one student: (1 + 0.75 * w) / (2 + w).
    expect(found.mean).toBeCloseTo((1 + 0.75 * found.effective) / (2 + found.effective), 6);
  });
  it('knows nothing of an excused assignment, nor of one whose grade is not returned, answers or not', () => {
    const answers = [{ activity: 'quiz', responses: 8, worth: 8, share: 1, at: AT }];
    const waits = student(2, { quiz: 80 });
    const later: StudentRecord = {
      ...waits,
      scores: new Map([['quiz', { ...waits.scores.get('quiz')!, returned: NOW + DAY_MS }]]),
    };
    const found = learned(
      record(student(1, { quiz: 80 }, true), later),
      new Map([
        [1, answers],
        [2, answers],
      ]),
    );
    for (const id of [1, 2])
      expect(found.get(id)!.get('tides')).toMatchObject({ effective: 0, askedAt: null });
  });
  it('pools the evidence of parts in what they are part of', () => {
    const list = [{ id: 'all' }, ...outcomes.map((o) => ({ ...o, parent: 'all' }))];
    const found = learned(record(student(1, { chart: 80, exam: 80 })), new Map(), list).get(1)!;
    expect(found.get('all')!.effective).toBeCloseTo(8, 3);
  });
  it('counts answers after hints half', () => {
    const answers = (worth: number): AnswersOf =>
      new Map([[1, [{ activity: 'quiz', responses: 8, worth, share: 1, at: AT }]]]);
    const of = (worth: number) =>
      learned(record(student(1, {})), answers(worth))
        .get(1)!
        .get('tides')!;
    expect(of(4).effective).toBeCloseTo(of(8).effective / 2, 6);
  });
  it('takes what an outside test says by the weight it states, for what its outcome is part of, too', () => {
    const list = [{ id: 'all' }, ...outcomes.map((o) => ({ ...o, parent: 'all' }))];
    const outside = new Map([[1, [{ outcome: 'fix', share: 0.9, weight: 6, at: AT }]]]);
    const found = learned(record(student(1, {})), new Map(), list, outside).get(1)!;
    for (const id of ['fix', 'all']) expect(found.get(id)).toMatchObject({ level: 'secure', askedAt: AT });
    expect(found.get('fix')!.effective).toBeCloseTo(6, 3);
    expect(found.get('tides')!.level).toBe('too little data');
  });
  it('of one student against the priors of the class is what the class computation says', () => {
    const share = fc.integer({ min: 0, max: 100 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ chart: share, exam: share }), { minLength: 1, maxLength: 8 }),
        (all) => {
          const of = record(...all.map((percents, i) => student(i + 1, percents)));
          const learning = { answers: new Map(), outside: new Map() };
          const { students, priors } = finish(classMastery(of, outcomes, covers, learning, NOW));
          for (const s of of.students)
            expect(studentMastery(of, s, outcomes, covers, learning, priors, NOW)).toEqual(
              students.get(s.id),
            );
        },
      ),
    );
  });
  it('orders students as their shares do', () => {
    const found = learned(
      record(student(1, { chart: 30 }), student(2, { chart: 70 }), student(3, { chart: 95 })),
    );
    const means = [1, 2, 3].map((id) => found.get(id)!.get('fix')!.mean);
    expect(means).toEqual([...means].sort((a, b) => a - b));
  });
});
