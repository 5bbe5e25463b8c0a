import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { truth } from '../../../tests/support/reference';
import { addDays } from '../calendar/zone';
import { recallOf } from './recall';
import { schedule, type PlanStep, type PlanToSchedule } from './schedule';

const step = (id: string, over: Partial<PlanStep> = {}): PlanStep => ({
  id,
  minutes: 20,
  after: [],
  pinned: null,
  due: null,
  priority: 0,
  ...over,
});
const plan = (steps: PlanStep[], over: Partial<PlanToSchedule> = {}): PlanToSchedule => ({
  from: '2026-11-25',
  minutesPerDay: 40,
  daysOff: [],
  steps,
  ...over,
});
const days = (p: PlanToSchedule) => {
  const done = schedule(p);
  if (!done.ok) throw new Error(done.reason);
  return done.value.map((s) => `${s.id} ${s.on.slice(8)}${s.late ? ' late' : ''}`);
};
const refused = (p: PlanToSchedule) => {
  const done = schedule(p);
  return done.ok ? null : done.reason;
};

describe('a schedule', () => {
  it('fills days up to their minutes, earlier due first, then priority, then id', () => {
    expect(
      days(plan([step('c'), step('b', { priority: 1 }), step('a', { due: '2026-11-30' }), step('d')])),
    ).toEqual(['a 25', 'b 25', 'c 26', 'd 26']);
  });
  it('leaves days off out, gives a long step a day of its own, and reserves what is pinned', () => {
    const steps = [
      step('long', { minutes: 90 }),
      step('pin', { pinned: '2026-11-26', minutes: 30 }),
      step('x'),
    ];
    expect(days(plan(steps, { daysOff: ['2026-11-25'] }))).toEqual(['pin 26', 'long 27', 'x 28']);
  });
  it('puts nothing ahead of its prerequisites, on the same day either, and says what is late', () => {
    expect(days(plan([step('a', { after: ['z'], due: '2026-11-20' }), step('z')]))).toEqual([
      'z 25',
      'a 25 late',
    ]);
    expect(days(plan([step('a', { after: ['p'] }), step('p', { pinned: '2026-12-01' })]))).toEqual([
      'p 01',
      'a 01',
    ]);
  });
  it('refuses what cannot be, naming it', () => {
    expect(refused(plan([step('a', { after: ['b'] })]))).toBe(
      '“b”, a prerequisite of the step “a”, is not in the plan',
    );
    expect(refused(plan([step('a', { after: ['b'] }), step('b', { after: ['a'] })]))).toMatch(
      /circle: “[ab]”, “[ab]”/,
    );
    expect(refused(plan([step('a', { after: ['a'] })]))).toMatch(/circle/);
    expect(refused(plan([step('a', { pinned: '2026-11-24' })]))).toMatch(/before the plan begins/);
    expect(refused(plan([step('a', { pinned: '2026-11-26' })], { daysOff: ['2026-11-26'] }))).toMatch(
      /a day off/,
    );
    expect(
      refused(plan([step('a', { pinned: '2026-11-25', after: ['b'] }), step('b', { pinned: '2026-11-26' })])),
    ).toMatch(/ahead of its prerequisite “b”/);
    expect(refused(plan([step('a'), step('a')]))).toBe('the step “a” is there twice');
  });
  it('of steps as long as a day is the order of a reference: the smallest free name each time', () => {
    // igraph 1.3.5 (tests/reference/prerequisites.json), on a graph of 40 outcomes.
    const lines = readFileSync(
      join(import.meta.dirname, '../../../tests/reference/prerequisites-dag.csv'),
      'utf8',
    );
    const before = new Map<string, string[]>();
    for (const line of lines.trim().split(/\r?\n/).slice(1)) {
      const [a, b] = line.split(',') as [string, string];
      before.set(b, [...(before.get(b) ?? []), a]);
      before.set(a, before.get(a) ?? []);
    }
    const { lexicographicKahn } = truth<{ lexicographicKahn: string[] }>('prerequisites');
    const done = schedule(plan([...before].map(([id, after]) => step(id, { minutes: 40, after }))));
    expect(done.ok && done.value.map((s) => s.id)).toEqual(lexicographicKahn);
  });

  const anyPlan = fc
    .array(
      fc.record({
        minutes: fc.integer({ min: 0, max: 90 }),
        back: fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 2 }),
        pinned: fc.option(fc.integer({ min: 0, max: 20 }), { freq: 6 }),
        due: fc.option(fc.integer({ min: -3, max: 20 })),
        priority: fc.integer({ min: 0, max: 2 }),
      }),
      { maxLength: 14 },
    )
    .chain((list) =>
      fc.record({
        off: fc.uniqueArray(fc.integer({ min: 0, max: 12 }), { maxLength: 5 }),
        steps: fc.constant(list),
        perDay: fc.integer({ min: 10, max: 60 }),
      }),
    )
    .map(({ off, steps, perDay }) => {
      const from = '2026-11-25';
      return plan(
        steps.map((s, i) =>
          step(`s${i}`, {
            minutes: s.minutes,
            after: [...new Set(s.back.flatMap((b) => (i - b >= 0 ? [`s${i - b}`] : [])))],
            pinned: s.pinned == null ? null : addDays(from, s.pinned),
            due: s.due == null ? null : addDays(from, s.due),
            priority: s.priority,
          }),
        ),
        { from, minutesPerDay: perDay, daysOff: off.map((d) => addDays(from, d)) },
      );
    });

  it('keeps every rule, by a checker of its own', () => {
    fc.assert(
      fc.property(anyPlan, (p) => {
        const done = schedule(p);
        if (!done.ok) {
          expect(done.reason).toMatch(/is pinned to/);
          return;
        }
        const at = new Map(done.value.map((s, i) => [s.id, { ...s, place: i }]));
        expect(at.size).toBe(p.steps.length);
        for (const s of p.steps) {
          const own = at.get(s.id)!;
          expect(own.on >= p.from).toBe(true);
          expect(p.daysOff).not.toContain(own.on);
          if (s.pinned) expect(own.on).toBe(s.pinned);
          expect(own.late).toBe(s.due != null && own.on > s.due);
          for (const a of s.after) expect(at.get(a)!.place).toBeLessThan(own.place);
        }
        for (const day of new Set(done.value.map((s) => s.on))) {
          const there = p.steps.filter((s) => at.get(s.id)!.on === day);
          const free = there.filter((s) => s.pinned == null);
          const sum = there.reduce((t, s) => t + s.minutes, 0);
          // Only pins, or one step by itself, may be more than a day has.
          if (free.length > 0 && there.length > 1) expect(sum).toBeLessThanOrEqual(p.minutesPerDay);
        }
      }),
    );
  });
});

describe('what is still known', () => {
  const DAY = 86_400_000;
  const answers = (...right: boolean[]) => right.map((r, i) => ({ at: i * DAY, right: r }));
  it('is the formula at each half-life of the reference (Settles & Meeder 2016)', () => {
    const { recall } = truth<{ recall: { halfLifeDays: number; elapsedDays: number; p: number }[] }>(
      'half-life',
    );
    // Half-lives that answers lead to: one wrong answer leaves 1 day.
    for (const { halfLifeDays, elapsedDays, p } of recall) {
      if (halfLifeDays !== 1) continue;
      expect(recallOf([{ at: 0, right: false }], elapsedDays * DAY)!.recall).toBeCloseTo(p, 14);
    }
  });
  it('doubles its half-life with each right answer and halves it with each wrong one, within 1 to 90 days', () => {
    const after = (...right: boolean[]) => recallOf(answers(...right), 100 * DAY)!.halfLifeDays;
    expect(after(true)).toBe(2);
    expect(after(false)).toBe(1);
    expect(after(true, true, true, false)).toBe(4);
    expect(after(...Array.from({ length: 9 }, () => true))).toBe(90);
    expect(after(...Array.from({ length: 9 }, () => true), false)).toBe(45);
  });
  it('leaves out what is still to come, and is due under 0.7', () => {
    expect(recallOf([{ at: 5, right: true }], 4)).toBeNull();
    const { recall, due } = recallOf([{ at: 0, right: true }], 2 * DAY)!;
    expect([recall, due]).toEqual([0.5, true]);
    expect(recallOf([{ at: 0, right: true }], DAY)!.due).toBe(false);
  });
});
