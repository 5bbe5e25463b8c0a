import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planOf, planStep } from '../../../tests/support/plans';
import type { StepView } from './plan';
import type { Term } from '../calendar/term';
import { isBreak } from '../calendar/term';
import { planPace } from './pace';
import { tickedPlan, type StepFacts } from './ticks';
import { proposePlan, scheduleSteps, weakestOutcomes, type PlanActivity, type PlanOutcome } from './propose';

const term: Term = {
  zone: 'Europe/Lisbon',
  start: '2026-09-28',
  weeks: 15,
  breaks: [{ name: 'Reading week', from: '2026-11-09', to: '2026-11-15' }],
};
const activity = (id: string, outcomes: string[] = [], minutes = 20): PlanActivity => ({
  id,
  title: `Title ${id}`,
  minutes,
  outcomes,
});
const outcome = (id: string, mean: number, level: PlanOutcome['level'] = 'developing'): PlanOutcome => ({
  id,
  title: `Outcome ${id}`,
  mean,
  level,
});
const base = { term, from: '2026-11-26', pace: { minutesPerDay: 60, gentle: false } };

describe('a proposed plan', () => {
  const resources = [
    activity('r1', ['o1']),
    activity('r2', ['o2']),
    activity('r3', ['o3']),
    activity('r1b', ['o1']),
  ];
  it('puts a resource before each missing work whose outcome is weak, then goes over the weakest others', () => {
    const plan = proposePlan({
      ...base,
      missing: [activity('w1', ['o1']), activity('w2', ['o9'])],
      resources,
      outcomes: [outcome('o1', 0.5), outcome('o2', 0.4), outcome('o3', 0.9, 'secure')],
    });
    expect(plan.map((s) => s.activity)).toEqual(['r1', 'w1', 'w2', 'r2']);
    expect(plan[1]!.why).toBe('Not handed in yet');
  });
  it('is empty where nothing is missing and all is secure', () => {
    expect(
      proposePlan({ ...base, missing: [], resources, outcomes: [outcome('o1', 0.9, 'secure')] }),
    ).toEqual([]);
  });
  it('takes outcomes of which little is known last', () => {
    const sorted = weakestOutcomes([
      outcome('a', 0.1, 'too little data'),
      outcome('b', 0.6),
      outcome('c', 0.3, 'not yet'),
    ]);
    expect(sorted.map((o) => o.id)).toEqual(['c', 'b', 'a']);
  });
  it('never repeats a resource, and stays short', () => {
    const missing = ['w1', 'w2', 'w3', 'w4', 'w5', 'w6', 'w7'].map((id) => activity(id, ['o1']));
    const plan = proposePlan({ ...base, missing, resources, outcomes: [outcome('o1', 0.2)] });
    expect(plan).toHaveLength(6);
    expect(new Set(plan.map((s) => s.activity)).size).toBe(6);
  });
});

describe('a plan for a reason', () => {
  const resources = [activity('r1', ['o1'], 12), activity('r2', ['o2'])];
  const outcomes = [outcome('o1', 0.5), outcome('o2', 0.4)];
  const missing = [activity('w1', ['o9']), activity('w2', ['o9'])];
  it('begins with the assignment it is about', () => {
    const focus = { kind: 'missing', activity: missing[1]! } as const;
    const plan = proposePlan({ ...base, missing, resources, outcomes, focus });
    expect(plan.map((s) => s.activity).slice(0, 2)).toEqual(['w2', 'w1']);
  });
  it('goes over the outcomes of one that went badly first, and says so', () => {
    const focus = { kind: 'low score', activity: activity('quiz', ['o2', 'o1']) } as const;
    const plan = proposePlan({ ...base, missing, resources, outcomes, focus });
    expect(plan.map((s) => s.activity)).toEqual(['r1', 'r2', 'w1', 'w2']);
    expect(plan[1]!.why).toBe('Goes over Outcome o2, asked in Title quiz');
  });
  it('has one short step on the first day after a silence', () => {
    const gentle = { minutesPerDay: 45, gentle: true };
    const plan = proposePlan({ ...base, pace: gentle, missing, resources, outcomes });
    expect(plan[0]).toMatchObject({ activity: 'r1', minutes: 12, on: '2026-11-26' });
    expect(plan.slice(1).every((s) => s.on > '2026-11-26')).toBe(true);
    const long = proposePlan({ ...base, pace: gentle, missing, resources: [], outcomes: [] });
    expect(long[0]).toMatchObject({ title: 'Begin Title w1', minutes: 15, on: '2026-11-26' });
    expect(long[1]).toMatchObject({ title: 'Title w1', on: '2026-11-27' });
  });
});

describe('the pace of a plan', () => {
  it('is the usual minutes of an active day, from 20 to 60, and gentle after a week of silence', () => {
    const of = (days: number[], since: number | null) => planPace(days, since);
    expect(of([10, 35, 90], 6)).toEqual({ minutesPerDay: 35, gentle: false });
    expect([of([5], 7), of([200], 1), of([], null)]).toEqual([
      { minutesPerDay: 20, gentle: true },
      { minutesPerDay: 60, gentle: false },
      { minutesPerDay: 30, gentle: true },
    ]);
  });
});

describe('steps that tick themselves', () => {
  const step = (id: number, activityId: number | null, over: Partial<StepView> = {}) =>
    planStep({ id, activityId, ...over });
  const facts = (handedIn: number | null, minutes: number, passed = false): StepFacts => ({
    handedIn: () => (handedIn == null ? null : { at: handedIn, passed }),
    lastAttempt: () => handedIn,
    spentSince: () => ({ minutes, at: 5000 }),
    isAssignment: (a) => a < 10,
    dayOf: () => '2026-11-26',
  });
  const done = (s: StepView, f: StepFacts) => tickedPlan(planOf([s], { at: 1000 }), f).steps[0]!;
  it('are what was handed in or passed, and what was opened in full', () => {
    expect(done(step(1, 3), facts(4000, 0))).toMatchObject({ doneAt: 4000, byItself: 'handed in' });
    expect(done(step(1, 3), facts(4000, 0, true))).toMatchObject({ doneAt: 4000, byItself: 'passed' });
    expect(done(step(1, 3), facts(null, 99)).doneAt).toBeNull();
    expect(done(step(1, 11), facts(null, 16))).toMatchObject({ doneAt: 5000, byItself: 'opened in full' });
    expect(done(step(1, 11), facts(null, 15.9))).toMatchObject({ doneAt: null, begun: true });
    expect(done(step(1, null), facts(4000, 99)).doneAt).toBeNull();
    expect(done(step(1, 3, { doneAt: 2000 }), facts(4000, 0))).toEqual({
      ...step(1, 3, { doneAt: 2000 }),
      optional: false,
    });
  });
  it('are a further attempt only once it was made after the plan', () => {
    const further = step(1, 3, { further: true });
    expect(done(further, facts(900, 0)).doneAt).toBeNull();
    expect(done(further, facts(1001, 0))).toMatchObject({ doneAt: 1001, byItself: 'tried again' });
  });
});

describe('dates of steps', () => {
  const minutes = (list: number[]) => list.map((m) => ({ minutes: m }));
  it('fill a day before the next, and leave breaks free', () => {
    const off = scheduleSteps(minutes([30, 30]), '2026-11-25', term, {
      minutesPerDay: 30,
      weekdaysOff: [4, 5],
    });
    // Thursday and Friday are days off.
    expect(off.map((s) => s.on)).toEqual(['2026-11-25', '2026-11-28']);
    expect(
      scheduleSteps(minutes([30, 30, 20, 90, 10]), '2026-11-07', term, { minutesPerDay: 60 }).map(
        (s) => s.on,
      ),
    ).toEqual(['2026-11-07', '2026-11-07', '2026-11-08', '2026-11-16', '2026-11-17']);
  });
  it('never come before the first day, go back, fall in a break or overfill a day', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 120 }), { maxLength: 20 }),
        fc.integer({ min: 0, max: 60 }),
        (list, offset) => {
          const from = new Date(Date.UTC(2026, 9, 1 + offset)).toISOString().slice(0, 10);
          const steps = scheduleSteps(minutes(list), from, term, { minutesPerDay: 60 });
          const perDay = new Map<string, number[]>();
          steps.forEach((s, i) => {
            expect(s.on >= from && !isBreak(term, s.on)).toBe(true);
            if (i > 0) expect(s.on >= steps[i - 1]!.on).toBe(true);
            perDay.set(s.on, [...(perDay.get(s.on) ?? []), s.minutes]);
          });
          for (const day of perDay.values()) {
            const total = day.reduce((t, m) => t + m, 0);
            expect(total <= 60 || day.length === 1).toBe(true);
          }
        },
      ),
    );
  });
});
