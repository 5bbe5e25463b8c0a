import { addDays, instantOf, localDate, weekday } from '../calendar/zone';
import type { Score } from '../course/gradebook';
import type { ActivityKind } from '../course/kinds';
import { dueFor, isSubmitted } from '../gradebook/status';
import type { Verdict } from '../rules/kleene';
import { DAY_MS, HOUR_MS, type Instant, type LocalDate } from '../units';
import type { LiveRule, Which } from './rule';

/** A student at whom a rule looks, once: `key` is the same whenever it is the same occasion. */
export interface Occasion {
  readonly student: number;
  readonly key: string;
  /** The assignment it is about, if it is one. */
  readonly work: number | null;
  readonly at: Instant;
}

/** An assignment as rules see it. */
export interface RuleWork {
  readonly id: number;
  readonly kind: ActivityKind;
  readonly due: Instant | null;
}

/** A grade that came in. */
export interface Grading {
  readonly student: number;
  readonly work: number;
  readonly at: Instant;
}

export const isMeant = (which: Which, { id, kind }: Pick<RuleWork, 'id' | 'kind'>): boolean =>
  'any' in which || ('work' in which ? which.work === id : which.kind === kind);

/** The occasions that grades give a rule, each once. */
export function onGrades(
  rule: LiveRule,
  works: ReadonlyMap<number, RuleWork>,
  gradings: readonly Grading[],
): Occasion[] {
  const { when } = rule;
  if (when.on !== 'graded') return [];
  return gradings.flatMap(({ student, work: id, at }) => {
    const work = works.get(id);
    return work && isMeant(when.which, work) ? [{ student, key: `graded ${id}`, work: id, at }] : [];
  });
}

/** When an assignment is due for a student. */
export interface DueMoment {
  readonly student: number;
  readonly work: number;
  readonly due: Instant;
}

/**
 * When assignments are due for students after `from` and up to `to`: by a date of their own, where they have one. Not of
 * who has handed in or is excused.
 *
 * @param as of when it was handed in
 */
export function duesBetween(
  works: readonly RuleWork[],
  students: readonly number[],
  scoreOf: (student: number, work: number) => Score | undefined,
  { from, to, asOf }: { readonly from: Instant; readonly to: Instant; readonly asOf: Instant },
): DueMoment[] {
  const found: DueMoment[] = [];
  for (const work of works)
    for (const student of students) {
      const score = scoreOf(student, work.id);
      const due = dueFor(work, score);
      if (due == null || due <= from || due > to || score?.excused || isSubmitted(score, asOf)) continue;
      found.push({ student, work: work.id, due });
    }
  return found;
}

/** The span in which something has to be due for a rule to look at it between two passes; null if it does not. */
export function dueSpan(
  { when }: Pick<LiveRule, 'when'>,
  { from, to }: { readonly from: Instant; readonly to: Instant },
): { readonly from: Instant; readonly to: Instant } | null {
  if (when.on !== 'due') return null;
  const ahead = when.hours * HOUR_MS;
  // What is due by now is no longer ahead: a pass that comes late does not remind of it.
  return { from: Math.max(from + ahead, to), to: to + ahead };
}

/** The occasions of what is due in so many hours. */
export function onDue(
  { when }: Pick<LiveRule, 'when'>,
  works: ReadonlyMap<number, RuleWork>,
  dues: readonly DueMoment[],
): Occasion[] {
  if (when.on !== 'due') return [];
  return dues.flatMap(({ student, work: id, due }) => {
    const work = works.get(id);
    if (!work || !isMeant(when.which, work)) return [];
    return [{ student, key: `due ${id}`, work: id, at: due - when.hours * HOUR_MS }];
  });
}

/** Most days that a weekly time is looked for behind: a pass that comes later than that has missed it. */
const LOOK_BACK_DAYS = 8;

/** The weekly times of a rule after `from` and up to `to`, by the clock of the course. */
export function weeklyTimes(
  { when }: Pick<LiveRule, 'when'>,
  { from, to }: { readonly from: Instant; readonly to: Instant },
  zone: string,
): Instant[] {
  if (when.on !== 'weekly') return [];
  const times: Instant[] = [];
  const first = Math.max(from, to - LOOK_BACK_DAYS * DAY_MS);
  for (let day = localDate(first, zone); day <= localDate(to, zone); day = addDays(day, 1)) {
    if (weekday(day) !== when.weekday) continue;
    const at = instantOf(day, when.minute, zone);
    if (at > from && at <= to) times.push(at);
  }
  return times;
}

/** Since when a condition holds of a student; one that held before the rule was switched on is spent from the start. */
export interface Hold {
  readonly since: LocalDate;
  readonly spent: boolean;
}

/**
 * Carries what holds over a day: who comes to match, who has matched long enough (an occasion, once each time), who no
 * longer does. Where it is not known, it stays as it was and is no occasion.
 *
 * @param day the day that is judged, which is over
 * @param first the first day that the rule looks at: who matches on it matched before, and is no occasion
 * @param at the instant of the pass
 */
export function stepHolds(
  rule: LiveRule,
  holds: ReadonlyMap<number, Hold>,
  verdicts: ReadonlyMap<number, Verdict>,
  { day, first, at }: { readonly day: LocalDate; readonly first: boolean; readonly at: Instant },
): { readonly holds: Map<number, Hold>; readonly occasions: Occasion[] } {
  const { when } = rule;
  const next = new Map<number, Hold>();
  const occasions: Occasion[] = [];
  if (when.on !== 'holds') return { holds: next, occasions };
  for (const [student, verdict] of verdicts) {
    const before = holds.get(student);
    if (verdict === false) continue;
    if (verdict === null) {
      if (before) next.set(student, before);
      continue;
    }
    const hold = before ?? { since: day, spent: first };
    const ripe = !hold.spent && day >= addDays(hold.since, when.days);
    if (ripe) occasions.push({ student, key: `since ${hold.since}`, work: null, at });
    next.set(student, ripe ? { ...hold, spent: true } : hold);
  }
  return { holds: next, occasions };
}

/** A step of a study plan, or a plan, as rules see it. */
export interface PlanMoment {
  readonly student: number;
  /** "overdue 12", "finished 4": the same step or plan has one. */
  readonly key: string;
  readonly at: Instant;
}

/** The occasions of steps that have come to be overdue, or plans that were finished, after `from` and up to `to`. */
export function onPlans(
  { when }: Pick<LiveRule, 'when'>,
  moments: readonly PlanMoment[],
  { from, to }: { readonly from: Instant; readonly to: Instant },
): Occasion[] {
  const head = when.on === 'step overdue' ? 'overdue ' : when.on === 'plan finished' ? 'finished ' : null;
  if (head == null) return [];
  return moments
    .filter((m) => m.key.startsWith(head) && m.at > from && m.at <= to)
    .map(({ student, key, at }) => ({ student, key, work: null, at }));
}
