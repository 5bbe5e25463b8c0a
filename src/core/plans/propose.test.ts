import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Term } from '../calendar/term';
import { isBreak } from '../calendar/term';
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
const base = { term, from: '2026-11-26' };

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

describe('dates of steps', () => {
  const minutes = (list: number[]) => list.map((m) => ({ minutes: m }));
  it('fill a day before the next, and leave breaks free', () => {
    expect(scheduleSteps(minutes([30, 30, 20, 90, 10]), '2026-11-07', term, 60).map((s) => s.on)).toEqual([
      '2026-11-07',
      '2026-11-07',
      '2026-11-08',
      '2026-11-16',
      '2026-11-17',
    ]);
  });
  it('never come before the first day, go back, fall in a break or overfill a day', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 120 }), { maxLength: 20 }),
        fc.integer({ min: 0, max: 60 }),
        (list, offset) => {
          const from = new Date(Date.UTC(2026, 9, 1 + offset)).toISOString().slice(0, 10);
          const steps = scheduleSteps(minutes(list), from, term, 60);
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
