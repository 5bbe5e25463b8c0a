import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { designStep, lane, planOf, planPart, planStep } from '../../../tests/support/plans';
import { changeOf } from './change';
import type { PlanDesign } from './design';
import { optionalSteps, withExpected } from './expected';
import { laneKey, mergeSteps, wantedAgain, wantedFrom, type HandOutFacts, type WantedStep } from './handOut';
import { ownView } from './ownView';
import type { PlanView, StepView } from './plan';
import { sectionMark } from './preCheck';
import { restsOnBy } from './restsOn';

const DESIGN: PlanDesign = {
  title: 'After the tides quiz',
  purpose: '',
  preCheckId: null,
  sections: [],
  branch: {
    quizId: 1,
    attempt: 'best',
    marks: [50, 80],
    lanes: [
      lane(
        'low',
        designStep('film', { kind: 'activity', activityId: 10 }),
        designStep('again', { kind: 'attempt', activityId: 1, title: '' }),
      ),
      lane(
        'middle',
        designStep('page', { kind: 'activity', activityId: 11 }),
        designStep('read', { kind: 'activity', activityId: 10 }),
      ),
      lane('top', designStep('more', { kind: 'practice', outcomeId: 5 })),
    ],
  },
  handOut: 'by itself',
};
const FACTS: HandOutFacts = {
  score: { percent: 40 },
  mark: () => null,
  preCheckOpen: false,
  activity: (id) => (id === 99 ? null : { id, title: `Activity ${id}`, minutes: 15 }),
  practice: () => null,
  outcomeTitle: (id) => (id === 5 ? 'Tides' : null),
  goOver: [{ id: 12, title: 'Tide tables', minutes: 12 }],
};
const titles = (facts: Partial<HandOutFacts>, design = DESIGN) =>
  wantedFrom(design, { ...FACTS, ...facts })?.steps.map((s) => s.title);

describe('what a student gets from a design', () => {
  it('is the lane of their score; before another attempt what to go over', () => {
    expect(titles({})).toEqual(['Activity 10', 'Tide tables', 'Another attempt at Activity 1']);
    expect(titles({ score: { percent: 50 } })).toEqual(['Activity 11', 'Activity 10']);
    expect(titles({ score: { percent: 101 } })).toEqual(['Practice: Tides']);
  });
  it('is nothing while the score waits or if it is excused, and leaves out what is gone', () => {
    expect(titles({ score: 'waits' })).toBeUndefined();
    expect(titles({ score: 'excused' })).toBeUndefined();
    expect(titles({ activity: (id) => (id === 10 ? null : FACTS.activity(id)) })).not.toContain(
      'Activity 10',
    );
  });
  it('is its sections once the pre-check is taken, each with its mark', () => {
    const section = {
      ...lane('s', designStep('one'), designStep('two')),
      outcomeId: 5,
      purpose: 'To read a table',
      items: [],
    };
    const design = { ...DESIGN, preCheckId: 3, sections: [section] };
    expect(titles({ preCheckOpen: true, score: 'waits' }, design)).toBeUndefined();
    const wanted = wantedFrom(design, { ...FACTS, score: 'waits', mark: () => 'to skim' })!;
    expect(wanted.parts).toMatchObject([{ title: 'Tides', purpose: 'To read a table', mark: 'to skim' }]);
    expect(wanted.steps.map((s) => s.title)).toEqual(['one', 'two']);
  });
});

describe('a plan whose score has changed', () => {
  const stored = (w: readonly WantedStep[], over: (i: number) => Partial<StepView> = () => ({})) =>
    w.map((s, i) => planStep({ ...s, id: i + 1, further: s.further === true, ...over(i) }));
  const plan = (steps: StepView[], parts: PlanView['parts']): PlanView => ({
    id: 1,
    enrolmentId: 1,
    by: '',
    at: 0,
    designId: 1,
    title: '',
    said: null,
    saidAt: null,
    parts,
    steps,
  });
  const low = wantedFrom(DESIGN, FACTS)!;
  const middle = wantedFrom(DESIGN, { ...FACTS, score: { percent: 60 } })!;
  it('keeps what was done or begun, drops what was not, and knows the same activity again', () => {
    const current = stored(low.steps, (i) => (i === 1 ? { begun: true } : {}));
    const merged = mergeSteps(current, middle.steps);
    expect(merged.add.map((s) => s.title)).toEqual(['Activity 11']);
    expect(merged.keep.map((k) => [k.id, k.as?.part ?? null])).toEqual([
      [1, laneKey('middle')],
      [2, null],
    ]);
    expect(merged.remove).toEqual([3]);
  });
  it('keeps what it named to go over, whatever was opened since, until the lane is another', () => {
    const now = plan(stored(low.steps), low.parts);
    const later = { ...FACTS, goOver: [{ id: 13, title: 'Another page', minutes: 9 }] };
    expect(wantedAgain(DESIGN, now, later)?.steps.map((s) => s.title)).toContain('Tide tables');
    expect(changeOf(now, wantedAgain(DESIGN, now, later), { percent: 40 })).toBeNull();
    const bare = plan(stored(low.steps.filter((s) => s.title !== 'Tide tables')), low.parts);
    expect(wantedAgain(DESIGN, bare, later)?.steps.map((s) => s.title)).not.toContain('Another page');
    const before = plan(stored(middle.steps), middle.parts);
    expect(wantedAgain(DESIGN, before, later)?.steps.map((s) => s.title)).toContain('Another page');
  });
  it('says why, changes nothing if nothing changed, and waits if the score was taken away', () => {
    const now = plan(stored(low.steps), low.parts);
    expect(changeOf(now, low, { percent: 40 })).toBeNull();
    expect(changeOf(now, middle, { percent: 60 })?.why).toBe('your score is now 60 %');
    expect(changeOf(now, wantedFrom(DESIGN, { ...FACTS, score: 'waits' }), 'waits')).toBeNull();
  });
  it('comes to the same whatever scores were in between, but for what was done', () => {
    const wantedAt = (percent: number) => wantedFrom(DESIGN, { ...FACTS, score: { percent } })!;
    const apply = (steps: StepView[], wanted: readonly WantedStep[]): StepView[] => {
      const { keep, add } = mergeSteps(steps, wanted);
      const byId = new Map(steps.map((s) => [s.id, s]));
      const kept = keep.map(({ id, as }) => ({ ...byId.get(id)!, ...as, further: as?.further === true }));
      const next = Math.max(0, ...steps.map((s) => s.id)) + 1;
      return [...kept, ...add.map((w, i) => planStep({ ...w, id: next + i, further: w.further === true }))];
    };
    fc.assert(
      fc.property(
        fc.array(fc.record({ percent: fc.integer({ min: 0, max: 120 }), ticks: fc.nat(5) }), {
          minLength: 1,
          maxLength: 6,
        }),
        (history) => {
          let steps: StepView[] = [];
          for (const { percent, ticks } of history) {
            const before = steps;
            steps = apply(steps, wantedAt(percent).steps);
            // What was done is there still.
            for (const s of before.filter((b) => b.doneAt != null))
              expect(steps.find((t) => t.id === s.id)?.doneAt).toBe(s.doneAt);
            expect(mergeSteps(steps, wantedAt(percent).steps)).toMatchObject({ add: [], remove: [] });
            steps = steps.map((s, i) => (i === ticks ? { ...s, doneAt: 7 } : s));
          }
          const last = wantedAt(history.at(-1)!.percent).steps;
          for (const w of last)
            expect(steps.filter((s) => s.part === w.part && s.designStep === w.designStep)).toHaveLength(1);
        },
      ),
    );
  });
});

describe('what of a part is expected', () => {
  const own = (...done: (boolean | 'begun')[]) =>
    done.map((d, i) =>
      planStep({
        id: i,
        part: 'lane 1',
        set: i < 2 ? 'a' : 'b',
        doneAt: d === true ? 1 : null,
        begun: d === 'begun',
      }),
    );
  const optional = (rule: Parameters<typeof planPart>[0], ...done: (boolean | 'begun')[]) =>
    [...optionalSteps(planPart(rule), own(...done))].map((s) => s.id);
  it('is all of it, any so many, or the set that somebody began', () => {
    expect(optional({}, false, false)).toEqual([]);
    expect(optional({ rule: { kind: 'any', n: 1 } }, false, false, false)).toEqual([1, 2]);
    expect(optional({ rule: { kind: 'any', n: 2 } }, false, true, 'begun')).toEqual([0]);
    expect(optional({ rule: { kind: 'one set' } }, false, false, false, false)).toEqual([2, 3]);
    expect(optional({ rule: { kind: 'one set' } }, false, false, 'begun', false)).toEqual([0, 1]);
  });
  it('is nothing of what is known, and the first of what is to skim', () => {
    expect(optional({ mark: 'known' }, false, true)).toEqual([0]);
    expect(optional({ mark: 'to skim' }, false, false, false)).toEqual([1, 2]);
  });
  it('is a step whose part is gone', () => {
    expect(withExpected([], own(false))[0]!.optional).toBe(false);
  });
});

describe('a pre-check', () => {
  const scores = new Map([
    ['1', 1],
    ['2', 0.6],
    ['3', 0],
  ]);
  it('says of a section that it is known from 80 %, to skim from 50 %', () => {
    expect(sectionMark(['1'], scores)).toBe('known');
    expect(sectionMark(['1', '2'], scores)).toBe('known');
    expect(sectionMark([], scores)).toBe('to skim');
    expect(sectionMark(['3'], scores)).toBe('to study');
    expect(sectionMark(['9'], scores)).toBeNull();
  });
});

describe('a plan as its student gets it', () => {
  it('says nowhere in which band they are, and keeps its parts apart', () => {
    const part = planPart({ key: laneKey('low'), title: 'What comes next for you' });
    const plan = ownView(
      planOf([planStep({ id: 1, part: part.key, designStep: 'low-1' }), planStep({ id: 2 })], {
        parts: [part],
      }),
    );
    expect(JSON.stringify(plan)).not.toContain('low');
    expect(plan.steps.map((s) => s.part)).toEqual([plan.parts[0]!.key, null]);
  });
});

describe('what rests on what', () => {
  it('follows prerequisites however far, and ends in a circle', () => {
    const before = new Map([
      ['c', ['b']],
      ['b', ['a']],
      ['x', ['y']],
      ['y', ['x']],
    ]);
    const rests = restsOnBy(before, (id) => [['a', 'b', 'c', 'x'][id]!]);
    expect([rests(2, 0), rests(0, 2), rests(2, 2), rests(3, 3)]).toEqual([true, false, false, false]);
  });
});
