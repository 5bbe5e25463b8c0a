import { createHash } from 'node:crypto';
import { lookAtQuiz } from '@/core/items/look';
import { sittingOf } from '@/core/items/sittings';
import { describe, expect, it } from 'vitest';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { isBreak, weekOf } from '@/core/calendar/term';
import { groupBy } from '@/core/groupBy';
import { classMastery } from '@/core/outcomes/evidence';
import { MASTERY_LEVELS } from '@/core/outcomes/mastery';
import { finish } from '@/core/steps';
import { HOUR_MS } from '@/core/units';
import { demoTerm } from './course';
import { scenarioFiles } from './files';
import { scenario } from './scenario';

const NOW = Date.parse('2026-11-25T10:00:00Z');
const made = scenario({ now: NOW });

const active = made.students.filter((s) => s.roster.status === 'active');

describe('the demo course is one that could be', () => {
  const quizzes = new Set(made.activities.filter((a) => a.kind === 'quiz').map((a) => a.id));
  it('has as many right answers as an attempt at a quiz has points', () => {
    const right = new Map<string, number>();
    for (const r of made.responses) {
      const key = `${r.student} ${r.activity} ${r.attempt}`;
      right.set(key, (right.get(key) ?? 0) + r.score!);
    }
    const scored = made.attempts.filter((a) => quizzes.has(a.activity) && a.points != null);
    expect(scored.length).toBeGreaterThan(500);
    for (const a of scored) expect(right.get(`${a.student} ${a.activity} ${a.number}`)).toBe(a.points);
  });
  it('has an item whose key is wrong, which the best find, and one that asks for a number', () => {
    const ids = new Map(made.students.map((st, i) => [st.roster.id, i]));
    const quiz = lookAtQuiz(
      sittingOf(
        made.responses.flatMap((r) =>
          r.activity === 'quiz-streams' ? [{ ...r, student: ids.get(r.student)! }] : [],
        ),
      ),
    );
    const item = (name: string) => quiz.items.find((i) => i.item === name)!;
    expect(item('item 7').call).toMatch(/^“C” was given by .* is the key right\?$/);
    expect(item('item 8').lean).toMatch(/another unit, or none; wrong answers lean: under/);
    expect(quiz.items.filter((i) => i.call != null).length).toBeLessThanOrEqual(4);
  });
  it('has nobody answer a quiz or an exam that they do not hand in', () => {
    const handedIn = new Set(made.gradebook.map((g) => `${g.student} ${g.activity}`));
    const answered = made.events.filter((e) => e.kind === 'attempt');
    expect(answered.length).toBeGreaterThan(1000);
    for (const e of answered) expect(handedIn).toContain(`${e.student} ${e.activity}`);
  });
  it('has everybody spend time on what they hand in', () => {
    const first = new Map<string, number>();
    for (const e of made.events) {
      const key = `${e.student} ${e.activity}`;
      if (!first.has(key)) first.set(key, e.at);
    }
    for (const g of made.gradebook)
      if (g.submitted != null)
        expect(g.submitted - first.get(`${g.student} ${g.activity}`)!).toBeGreaterThan(60_000);
  });
  const answersOf = (student: string) =>
    [...groupBy(made.responses, (r) => `${r.student} ${r.activity} ${r.attempt}`).values()]
      .filter(([first]) => first!.student === student)
      .map((list) => ({
        activity: list[0]!.activity!,
        responses: list.length,
        worth: list.length,
        share: list.reduce((sum, r) => sum + r.score!, 0) / list.length,
        at: list.at(-1)!.at,
      }));
  it('shows all four levels of mastery, and an outcome that a quarter of those known have not reached', () => {
    const points = new Map(made.activities.map((a) => [a.id, a.points]));
    const learned = finish(
      classMastery(
        {
          term: made.term,
          works: [],
          book: {
            policy: { missing: 'zero' },
            zone: made.term.zone,
            categories: [],
            activities: made.activities.flatMap((a) =>
              points.get(a.id) == null ? [] : [{ id: a.id, due: a.due, category: '', points: a.points! }],
            ),
          },
          students: active.map(({ roster }, id) => ({
            id,
            joined: made.term.start,
            days: [],
            scores: new Map(
              made.gradebook.filter((g) => g.student === roster.id).map((g) => [g.activity, g]),
            ),
          })),
        },
        made.outcomes,
        new Map(made.activities.map((a) => [a.id, a.outcomes])),
        { answers: new Map(active.map(({ roster }, id) => [id, answersOf(roster.id)])), outside: new Map() },
        NOW,
      ),
    );
    const levels = (outcome: string) => [...learned.students.values()].map((m) => m.get(outcome)!.level);
    expect(new Set(made.outcomes.flatMap((o) => levels(o.id)))).toEqual(new Set(MASTERY_LEVELS));
    const heights = levels('heights').filter((l) => l !== 'too little data');
    expect(heights.filter((l) => l === 'not yet').length).toBeGreaterThan(0.25 * heights.length);
  });
});

describe('the demo course', () => {
  it('is the same from the same seed and instant', () => {
    const digest = (s: typeof made) =>
      createHash('sha256')
        .update(Object.values(scenarioFiles(s)).join(''))
        .digest('hex');
    expect(digest(scenario({ now: NOW }))).toBe(digest(made));
    expect(digest(scenario({ now: NOW, seed: 7 }))).not.toBe(digest(made));
  });
  it('has the size that was promised', () => {
    expect(active).toHaveLength(72);
    expect(new Set(active.map((s) => s.roster.section)).size).toBe(3);
    expect(made.events.length).toBeGreaterThanOrEqual(100_000);
    const graded = made.activities.filter((a) => a.category != null);
    expect([graded.length, new Set(graded.map((a) => a.category)).size]).toEqual([30, 5]);
    expect(made.activities.filter((a) => a.points == null).length).toBeGreaterThan(0);
    expect(made.outcomes).toHaveLength(10);
  });
  it.each(['2026-01-15', '2026-04-02', '2026-07-20', '2026-11-25', '2027-02-28'])(
    'stands in week 9 on %s',
    (day) => {
      const now = Date.parse(`${day}T12:00:00Z`);
      const term = demoTerm(now);
      expect(weekOf(term, now)).toBe(9);
      expect(term.weeks).toBe(15);
    },
  );
  it('holds a change of clocks in the weeks gone by, in November', () => {
    const { term } = made;
    const lengths = Array.from({ length: 56 }, (_, d) => {
      const day = addDays(term.start, d);
      return (startOfDay(addDays(day, 1), term.zone) - startOfDay(day, term.zone)) / HOUR_MS;
    });
    expect(lengths.some((h) => h !== 24)).toBe(true);
  });
  it('holds the hard cases', () => {
    const by = (name: string) => made.students.filter((s) => s.habit.name === name);
    const eventsOf = (id: string) => made.events.filter((e) => e.student === id);
    const scoresOf = (id: string) => made.gradebook.filter((g) => g.student === id);
    const mean = (id: string) => {
      const shares = scoresOf(id).flatMap((g) => {
        const points = made.activities.find((a) => a.id === g.activity)!.points;
        return g.points == null || points == null ? [] : [g.points / points];
      });
      return shares.reduce((t, s) => t + s, 0) / shares.length;
    };
    const [withdrawn] = made.students.filter((s) => s.roster.status === 'withdrawn');
    expect(
      eventsOf(withdrawn!.roster.id).every((e) => e.at < startOfDay(withdrawn!.roster.left!, made.term.zone)),
    ).toBe(true);
    const [late] = by('late joiner');
    expect(eventsOf(late!.roster.id)[0]!.at).toBeGreaterThanOrEqual(
      startOfDay(late!.roster.joined!, made.term.zone),
    );
    const [strong] = by('strong and stopped');
    expect(mean(strong!.roster.id)).toBeGreaterThan(0.8);
    expect(NOW - eventsOf(strong!.roster.id).at(-1)!.at).toBeGreaterThan(8 * 24 * HOUR_MS);
    const effort = by('effort without progress')[0]!;
    expect(eventsOf(effort.roster.id).length).toBeGreaterThan(made.events.length / 73);
    expect(mean(effort.roster.id)).toBeLessThan(0.65);
    expect(made.activities.some((a) => a.category != null && a.due == null)).toBe(true);
    expect(made.students.some((s) => s.roster.email?.includes('@gone.'))).toBe(true);
    const names = made.students.map((s) => `${s.roster.given} ${s.roster.family}`);
    expect(names.some((n) => /[^\u0000-\u007f]/.test(n))).toBe(true);
    expect(Math.min(...names.map((n) => n.length))).toBeLessThanOrEqual(6);
    expect(Math.max(...names.map((n) => n.length))).toBeGreaterThan(30);
    const exam = made.gradebook
      .filter((g) => g.activity === 'exam-middle' && g.points != null)
      .map((g) => g.points!);
    expect(exam.reduce((t, p) => t + p, 0) / exam.length).toBeLessThan(65);
    expect(isBreak(made.term, addDays(made.term.start, 45))).toBe(true);
  });
  it('never hands in before being there, nor grades what was not handed in', () => {
    for (const g of made.gradebook) {
      if (g.points != null)
        expect(g.submitted != null && g.graded! > g.submitted && g.returned! >= g.graded!).toBe(true);
    }
    const submits = new Set(
      made.events.filter((e) => e.kind === 'submit').map((e) => `${e.student} ${e.activity} ${e.at}`),
    );
    for (const g of made.gradebook)
      if (g.submitted != null) expect(submits).toContain(`${g.student} ${g.activity} ${g.submitted}`);
  });
});
