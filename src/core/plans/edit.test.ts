import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { designStep } from '../../../tests/support/plans';
import { readDesign, switchFault } from '../forms/design';
import type { PlanDesign } from './design';
import {
  emptyGroup,
  groupsInView,
  moveStep,
  newDesign,
  placeAfter,
  widestMiddle,
  withMark,
  withoutMark,
  withoutStep,
  withStep,
  type StepMove,
} from './edit';

const DESIGN = ['a', 'b', 'c'].reduce(
  (design, id) => withStep(design, 'lane-1', designStep(id)),
  newDesign('After the quiz', 1),
);
const layout = (design: PlanDesign) =>
  Object.fromEntries(groupsInView(design).map((g) => [g.id, g.steps.map((s) => s.id).join('')]));

describe('a design that is being written', () => {
  it('has its bands from the highest down, and steps that move along and across', () => {
    expect(layout(DESIGN)).toEqual({ 'lane-3': '', 'lane-2': '', 'lane-1': 'abc' });
    const moved = moveStep(DESIGN, { group: 'lane-1', step: 'a' }, 'lane-1', 2);
    expect(layout(moved)['lane-1']).toBe('bca');
    expect(layout(moveStep(DESIGN, { group: 'lane-1', step: 'c' }, 'lane-1', 0))['lane-1']).toBe('cab');
    expect(placeAfter(DESIGN, { group: 'lane-1', step: 'b' }, 'up')).toEqual({ group: 'lane-2', at: 0 });
    expect(placeAfter(DESIGN, { group: 'lane-1', step: 'b' }, 'down')).toBeNull();
    expect(placeAfter(DESIGN, { group: 'lane-1', step: 'a' }, 'earlier')).toBeNull();
    expect(layout(withoutStep(DESIGN, { group: 'lane-1', step: 'b' }))['lane-1']).toBe('ac');
  });
  it('keeps every step once, however it is moved', () => {
    const moves = fc.array(
      fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.constantFrom<StepMove>('earlier', 'later', 'up', 'down')),
    );
    fc.assert(
      fc.property(moves, (list) => {
        let design = DESIGN;
        for (const [id, move] of list) {
          const group = groupsInView(design).find((g) => g.steps.some((s) => s.id === id))!.id;
          const to = placeAfter(design, { group, step: id }, move);
          if (to) design = moveStep(design, { group, step: id }, to.group, to.at);
        }
        const all = groupsInView(design).flatMap((g) => g.steps.map((s) => s.id));
        expect(all.toSorted()).toEqual(['a', 'b', 'c']);
        expect(readDesign(design)).toEqual(design);
      }),
    );
  });
  it('gains and loses marks; what a lost one parted comes together', () => {
    const branch = withMark(DESIGN.branch!, 30, emptyGroup('lane-new'));
    expect([branch.marks, branch.lanes.map((l) => l.id)]).toEqual([
      [30, 50, 80],
      ['lane-1', 'lane-new', 'lane-2', 'lane-3'],
    ]);
    expect(withMark(branch, 50, emptyGroup('x'))).toBe(branch);
    const back = withoutMark(branch, 0);
    expect([back.marks, back.lanes.map((l) => l.steps.length)]).toEqual([
      [50, 80],
      [3, 0, 0],
    ]);
    expect(withoutMark(back, 7)).toBe(back);
    expect([widestMiddle([50, 80]), widestMiddle([]), widestMiddle([10, 30])]).toEqual([25, 50, 65]);
  });
  it('can be kept unfinished, but not switched on; what cannot be is refused in words', () => {
    expect(switchFault(DESIGN)).toBe('The band “50 to under 80 %” has no step.');
    expect(readDesign(newDesign('Two sections', null)).branch).toBeNull();
    expect(switchFault(newDesign('Two sections', null))).toBe('A section has no step.');
    const faulty = (change: (d: PlanDesign) => PlanDesign) => () => readDesign(change(DESIGN));
    const lane = (set: object) => (d: PlanDesign) => ({
      ...d,
      branch: { ...d.branch!, lanes: d.branch!.lanes.map((l, i) => (i === 0 ? { ...l, ...set } : l)) },
    });
    expect(faulty((d) => ({ ...d, branch: { ...d.branch!, marks: [50, 50] } }))).toThrow('no width');
    expect(faulty((d) => ({ ...d, branch: { ...d.branch!, marks: [50] } }))).toThrow('one lane more');
    expect(faulty(lane({ rule: { kind: 'any', n: 4 } }))).toThrow('Any 4 of 3 steps cannot be done.');
    expect(faulty(lane({ rule: { kind: 'one set' } }))).toThrow('a step in each');
    expect(faulty(lane({ steps: [{ ...designStep('a'), kind: 'lesson' }] }))).toThrow(
      'A lesson has no time.',
    );
    expect(faulty(lane({ steps: [{ ...designStep('a'), kind: 'activity' }] }))).toThrow(
      'A step has no activity.',
    );
    expect(faulty(lane({ steps: [designStep('a'), designStep('a')] }))).toThrow('one id');
    expect(faulty(lane({ steps: [{ ...designStep('a'), title: ' ' }] }))).toThrow('no title');
    expect(faulty((d) => ({ ...d, title: '' }))).toThrow('The title is empty.');
  });
});
