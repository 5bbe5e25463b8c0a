import { isBreak, type Term } from '../calendar/term';
import { addDays, weekday } from '../calendar/zone';
import type { MasteryLevel } from '../outcomes/mastery';
import type { LocalDate, Minutes } from '../units';
import { GENTLE_MINUTES, type PlanPace } from './pace';

export interface PlanActivity {
  readonly id: string;
  readonly title: string;
  readonly minutes: Minutes;
  readonly outcomes: readonly string[];
}

export interface PlanOutcome {
  readonly id: string;
  readonly title: string;
  readonly mean: number;
  readonly level: MasteryLevel;
}

export interface PlanStep {
  readonly activity: string | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
  /** Why the step is there, for the student to read. */
  readonly why: string;
}

/** What a plan is about, beside what is missing anyhow: an assignment that is not handed in, or went badly. */
export interface PlanFocus {
  readonly kind: 'missing' | 'low score';
  readonly activity: PlanActivity;
}

export interface PlanInput {
  /** Missing assignments, the longest overdue first. */
  readonly missing: readonly PlanActivity[];
  /** Ungraded pages, films and articles in course order, without those opened in full. */
  readonly resources: readonly PlanActivity[];
  readonly outcomes: readonly PlanOutcome[];
  readonly focus?: PlanFocus | null;
  /** First day on which a step may fall. */
  readonly from: LocalDate;
  readonly term: Term;
  readonly pace: PlanPace;
  readonly mostSteps?: number;
}

/** More steps than this are not begun (common practice). */
export const USUAL_STEPS = 6;
/** Assignments without an estimate are taken as half an hour (common practice). */
export const USUAL_MINUTES: Minutes = 30;

/** Outcomes with the least mastery first; secure ones left out, and those of which too little is known last. */
export function weakestOutcomes(outcomes: readonly PlanOutcome[]): PlanOutcome[] {
  const unknown = (o: PlanOutcome) => (o.level === 'too little data' ? 1 : 0);
  return outcomes
    .filter((o) => o.level !== 'secure')
    .sort((a, b) => unknown(a) - unknown(b) || a.mean - b.mean || (a.id < b.id ? -1 : 1));
}

/**
 * A plan for one student, from the reason it is made for: the assignment it is about first, or a resource for each
 * outcome of one that went badly; then each missing assignment, the longest overdue first, with one resource before it
 * where its outcome is not yet secure; then a resource for each of the two weakest outcomes that no step has touched.
 * No resource twice. Empty if nothing is missing and every outcome is secure.
 */
export function proposePlan(input: PlanInput): PlanStep[] {
  const { focus, pace } = input;
  const most = input.mostSteps ?? USUAL_STEPS;
  const weak = weakestOutcomes(input.outcomes);
  const steps: Omit<PlanStep, 'on'>[] = [];
  const used = new Set<string>();
  const touched = new Set<string>();
  const addResource = (outcome: Pick<PlanOutcome, 'id' | 'title'>, why = `Goes over ${outcome.title}`) => {
    const resource = input.resources.find((r) => !used.has(r.id) && r.outcomes.includes(outcome.id));
    touched.add(outcome.id);
    if (!resource) return;
    used.add(resource.id);
    steps.push(step(resource, why));
  };
  if (focus?.kind === 'low score')
    for (const outcome of input.outcomes.filter((o) => focus.activity.outcomes.includes(o.id)))
      addResource(outcome, `Goes over ${outcome.title}, asked in ${focus.activity.title}`);
  const first = focus?.kind === 'missing' ? focus.activity.id : null;
  const missing = [...input.missing].sort((a, b) => Number(b.id === first) - Number(a.id === first));
  for (const work of missing) {
    const outcome = weak.find((o) => work.outcomes.includes(o.id) && !touched.has(o.id));
    if (outcome) addResource(outcome);
    for (const id of work.outcomes) touched.add(id);
    steps.push(step(work, 'Not handed in yet'));
  }
  for (const outcome of weak.filter((o) => !touched.has(o.id)).slice(0, 2)) addResource(outcome);
  const chosen = steps.slice(0, most);
  if (!pace.gentle || chosen.length === 0) return scheduleSteps(chosen, input.from, input.term, pace);
  const gentle = gentleStart(chosen).slice(0, most);
  const [begin] = scheduleSteps(gentle.slice(0, 1), input.from, input.term, pace);
  return [begin!, ...scheduleSteps(gentle.slice(1), addDays(begin!.on, 1), input.term, pace)];
}

/** The steps with a short one first: one that is short by itself, else a beginning of the first. */
function gentleStart<S extends Omit<PlanStep, 'on'>>(steps: readonly S[]): readonly S[] {
  const short = steps.findIndex((s) => s.minutes <= GENTLE_MINUTES);
  if (short >= 0) return [steps[short]!, ...steps.filter((_, i) => i !== short)];
  const [first] = steps;
  const begin = { ...first!, title: `Begin ${first!.title}`, minutes: GENTLE_MINUTES, why: 'A short start' };
  return [{ ...begin, activity: null }, ...steps];
}

const step = (activity: PlanActivity, why: string) => ({
  activity: activity.id,
  title: activity.title,
  minutes: activity.minutes,
  why,
});

/**
 * Puts steps on days in order, filling each day up to its minutes (a longer step has a day of its own). Break days
 * and the student's days off are left free. Pure in its input; dates never before `from`.
 */
export function scheduleSteps<S extends { readonly minutes: Minutes }>(
  steps: readonly S[],
  from: LocalDate,
  term: Term,
  { minutesPerDay, weekdaysOff = [] }: Pick<PlanPace, 'minutesPerDay' | 'weekdaysOff'>,
): (S & { on: LocalDate })[] {
  let day = skipOff(from, term, weekdaysOff);
  let filled = 0;
  return steps.map((s) => {
    if (filled > 0 && filled + s.minutes > minutesPerDay) {
      day = skipOff(addDays(day, 1), term, weekdaysOff);
      filled = 0;
    }
    filled += s.minutes;
    return { ...s, on: day };
  });
}

function skipOff(date: LocalDate, term: Term, weekdaysOff: readonly number[]): LocalDate {
  let day = date;
  while (isBreak(term, day) || weekdaysOff.includes(weekday(day))) day = addDays(day, 1);
  return day;
}
