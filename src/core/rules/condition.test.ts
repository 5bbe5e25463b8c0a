import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Subject } from '../measures/measure';
import type { StudentMeasures } from '../measures/studentMeasures';
import { judge, matching, type Condition } from './condition';
import type { Verdict } from './kleene';

/** A student of whom the standing alone is known, or not even that. */
const student = (id: number, standing: number | null, over: Partial<Subject> = {}): Subject => ({
  id,
  measured: { standing: { standing }, gradedWorks: 5 } as StudentMeasures,
  ...over,
});
const classOf = (...standings: (number | null)[]) => standings.map((s, i) => student(i + 1, s));
const under = (than: number): Condition => ({ measure: 'standing', is: '<', than });
/** Conditions that are true, false and not known of everybody. */
const T: Condition = { all: [] };
const F: Condition = { any: [] };
const U: Condition = { measure: 'days', is: '<', than: 1 };
const nobody: Subject = { id: 1, measured: null };
const one = (condition: Condition, of: Subject = nobody): Verdict => judge(condition, [of])[0]!;

describe('three values', () => {
  // Kleene 1952, section 64: the strong tables of "and", "or" and "not".
  const values = [T, F, U] as const;
  const AND: Verdict[][] = [
    [true, false, null],
    [false, false, false],
    [null, false, null],
  ];
  const OR: Verdict[][] = [
    [true, true, true],
    [true, false, null],
    [true, null, null],
  ];
  it('are joined as in Kleene’s tables', () => {
    expect(values.map((a) => values.map((b) => one({ all: [a, b] })))).toEqual(AND);
    expect(values.map((a) => values.map((b) => one({ any: [a, b] })))).toEqual(OR);
    expect(values.map((a) => one({ not: a }))).toEqual([false, true, null]);
  });
  it('obey De Morgan, however deep', () => {
    const { tree } = fc.letrec<{ tree: Condition }>((tie) => ({
      tree: fc.oneof(
        { depthSize: 'small' },
        fc.constantFrom(T, F, U, under(50)),
        fc.array(tie('tree'), { maxLength: 3 }).map((all): Condition => ({ all })),
        fc.array(tie('tree'), { maxLength: 3 }).map((any): Condition => ({ any })),
        tie('tree').map((not): Condition => ({ not })),
      ),
    }));
    const students = classOf(40, 60, null);
    fc.assert(
      fc.property(fc.array(tree, { maxLength: 4 }), (parts) => {
        const not = parts.map((part): Condition => ({ not: part }));
        expect(judge({ not: { all: parts } }, students)).toEqual(judge({ any: not }, students));
        expect(judge({ not: { any: parts } }, students)).toEqual(judge({ all: not }, students));
      }),
    );
  });
});

describe('a threshold', () => {
  it('leaves out of both sides whom it does not know', () => {
    expect(matching(under(60), classOf(59, 60, null))).toEqual({ match: [1], unknown: [3] });
    expect(matching({ not: under(60) }, classOf(59, 60, null))).toEqual({ match: [2], unknown: [3] });
  });
  it('does not know what rests on too little', () => {
    const least = (n: number) => one({ ...under(60), least: n } as Condition, student(1, 10));
    expect([5, 6].map(least)).toEqual([true, null]);
  });
  it.each([
    ['<', [true, false, false]],
    ['<=', [true, true, false]],
    ['=', [false, true, false]],
    ['>=', [false, true, true]],
    ['>', [false, false, true]],
  ] as const)('compares by %s', (is, expected) => {
    expect(judge({ measure: 'standing', is, than: 50 }, classOf(49, 50, 51))).toEqual(expected);
  });
});

describe('a place in the class', () => {
  const lowest = (percent: number, after?: number): Condition => ({
    measure: 'standing',
    place: 'lowest',
    percent,
    after,
  });
  const twenty = classOf(...Array.from({ length: 20 }, (_, i) => 50 + i));
  // Tiers of attendance: the lowest 5 %, and the next 15 % (common practice); 1 and 3 of 20.
  it('is the lowest five per cent, and the next fifteen', () => {
    expect(matching(lowest(5), twenty).match).toEqual([1]);
    expect(matching(lowest(15, 5), twenty).match).toEqual([2, 3, 4]);
  });
  it('rounds up, keeps ties together, and counts only whom it knows', () => {
    expect(matching(lowest(5), classOf(3, 1, 2)).match).toEqual([2]);
    expect(matching(lowest(10), classOf(1, 1, 1, 9)).match).toEqual([1, 2, 3]);
    expect(matching(lowest(50), classOf(null, 1, 2))).toEqual({ match: [2], unknown: [1] });
    expect(matching({ measure: 'standing', place: 'highest', percent: 34 }, classOf(1, 9, 5)).match).toEqual([
      2, 3,
    ]);
  });
  it('leaves nobody between two bands and nobody in both', () => {
    const values = fc.array(fc.option(fc.integer({ min: 0, max: 9 })), { maxLength: 30 });
    fc.assert(
      fc.property(values, fc.integer({ min: 0, max: 100 }), (standings, cut) => {
        const students = classOf(...standings);
        const first = matching(lowest(cut), students);
        const rest = matching(lowest(100 - cut, cut), students);
        const known = students.filter((_, i) => standings[i] != null).map((s) => s.id);
        expect([...first.match, ...rest.match].sort((a, b) => a - b)).toEqual(known);
        expect(first.unknown).toEqual(rest.unknown);
      }),
    );
  });
});

describe('a change', () => {
  it('holds a student against their own past, and does not know whom it did not know then', () => {
    const fell: Condition = { measure: 'standing', since: 28, is: '<=', than: -8 };
    const was = (now: number, before: number | null) =>
      student(1, now, { past: (days) => (days === 28 ? student(1, before).measured : null) });
    expect([
      one(fell, was(70, 78)),
      one(fell, was(70, 77)),
      one(fell, was(70, null)),
      one(fell, student(1, 70)),
    ]).toEqual([true, false, null, null]);
  });
});
