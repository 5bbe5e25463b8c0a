import { addDays, localDate } from '../calendar/zone';
import { keysIn, selectColumn, type TraitCells } from '../people/savedAudience';
import { select, type ColumnTest, type Selection } from '../rules/selection';
import type { Verdict } from '../rules/kleene';
import type { Instant, LocalDate } from '../units';
import { canJudge, needsEvents } from './fresh';
import { isStale } from '../course/stale';
import {
  dueSpan,
  onDue,
  onGrades,
  onPlans,
  stepHolds,
  weeklyTimes,
  type DueMoment,
  type Grading,
  type Hold,
  type Occasion,
  type PlanMoment,
  type RuleWork,
} from './occasions';
import type { LiveRule } from './rule';

/** A class as rules see it at an instant: what came since the last pass, and what can be asked of whom. */
export interface Look {
  /** Up to when the last pass looked, and until when this one does. */
  readonly from: Instant;
  readonly at: Instant;
  readonly zone: string;
  readonly dataUntil: Instant | null;
  /** The active students. */
  readonly students: readonly number[];
  readonly works: readonly RuleWork[];
  readonly gradings: readonly Grading[];
  readonly planMoments: readonly PlanMoment[];
  /** What is due for whom after an instant and up to another. */
  readonly dues: (from: Instant, to: Instant) => Promise<readonly DueMoment[]>;
  /** The cells of a trait, one for each occasion in their order. */
  readonly cells: (key: string, of: readonly Occasion[]) => Promise<TraitCells>;
}

/** What a rule remembers from pass to pass. */
export interface RuleState {
  readonly holds: ReadonlyMap<number, Hold>;
  /** The last day that was judged for what holds; null before the first. */
  readonly judged: LocalDate | null;
}
export const NEW_RULE: RuleState = { holds: new Map(), judged: null };

/** A number that an occasion rested on. */
export interface Fact {
  readonly key: string;
  readonly value: string | number | null;
}
export interface FoundOccasion extends Occasion {
  readonly facts: readonly Fact[];
}

export interface Found {
  readonly occasions: readonly FoundOccasion[];
  readonly state: RuleState;
  /** Occasions of which it is not known whether the condition holds: nothing is done. */
  readonly unknown: number;
  /** The data are too old for it. */
  readonly stale: boolean;
}

/**
 * Looks at a class for a rule: the occasions at which its condition holds. Each occasion is judged in the one pass in
 * which it falls; what is not known then is not made up for later. Grades count only if they were returned after the
 * rule was switched on.
 */
export async function lookAt(rule: LiveRule, state: RuleState, look: Look): Promise<Found> {
  const from = Math.max(look.from, rule.since);
  if (rule.when.on === 'holds') return holding(rule, state, look);
  const all = { from, to: look.at };
  const works = new Map(look.works.map((w) => [w.id, w]));
  const span = dueSpan(rule, all);
  const dues = span ? await look.dues(span.from, span.to) : [];
  const asked: Occasion[] = [
    ...onGrades(
      rule,
      works,
      look.gradings.filter((g) => g.at > rule.since),
    ),
    ...onDue(rule, works, dues),
    ...onPlans(rule, look.planMoments, all),
    ...weeklyTimes(rule, all, look.zone).flatMap((at) =>
      look.students.map((student) => ({ student, key: `week ${localDate(at, look.zone)}`, work: null, at })),
    ),
  ];
  if (asked.length === 0) return { occasions: [], state, unknown: 0, stale: false };
  if (needsEvents(rule.when, rule.where) && isStale(look.dataUntil, look.at))
    return { occasions: [], state, unknown: asked.length, stale: true };
  const { verdicts, factsOf } = await judged(rule.where, asked, look);
  return {
    occasions: asked.flatMap((o, i) => (verdicts[i] ? [{ ...o, facts: factsOf(i) }] : [])),
    state,
    unknown: verdicts.filter((v) => v === null).length,
    stale: false,
  };
}

/** The day before is judged once, of everybody. */
async function holding(rule: LiveRule, state: RuleState, look: Look): Promise<Found> {
  const day = addDays(localDate(look.at, look.zone), -1);
  const nothing = { occasions: [], state, unknown: 0, stale: false };
  // A clock that was set back judges nothing twice.
  if (state.judged != null && state.judged >= day) return nothing;
  const can = needsEvents(rule.when, rule.where) ? canJudge(look.dataUntil, look.at, look.zone) : 'yes';
  if (can === 'wait') return nothing;
  if (can === 'stale') return { ...nothing, unknown: look.students.length, stale: true };
  const everybody = everyoneAt(look);
  const { verdicts, factsOf } = await judged(rule.where, everybody, look);
  const stepped = stepHolds(rule, state.holds, new Map(everybody.map((o, i) => [o.student, verdicts[i]!])), {
    day,
    first: state.judged == null,
    at: look.at,
  });
  const rowOf = new Map(everybody.map((o, i) => [o.student, i]));
  return {
    occasions: stepped.occasions.map((o) => ({ ...o, facts: factsOf(rowOf.get(o.student)!) })),
    state: { holds: stepped.holds, judged: day },
    unknown: verdicts.filter((v) => v === null).length,
    stale: false,
  };
}

const everyoneAt = (look: Look): Occasion[] =>
  look.students.map((student) => ({ student, key: '', work: null, at: look.at }));

/** Judges a condition of each occasion; places in the class are those among all its students. */
async function judged(where: Selection, of: readonly Occasion[], look: Look) {
  const columns = new Map<string, TraitCells>();
  for (const key of keysIn(where)) columns.set(key, await look.cells(key, of));
  const known = [...columns];
  let places = 0;
  const put = async (part: Selection): Promise<Selection> => {
    if ('all' in part) return { all: await inTurn(part.all, put) };
    if ('any' in part) return { any: await inTurn(part.any, put) };
    if ('not' in part) return { not: await put(part.not) };
    if (part.is !== 'lowest' && part.is !== 'highest') return part;
    const name = `place ${places++}`;
    columns.set(name, await placesOf(part, of, look));
    return { measure: name, is: '=', value: 'yes' };
  };
  const plain = await put(where);
  const verdicts: Verdict[] = select(plain, (key) => selectColumn(columns.get(key)!), of.length);
  const factsOf = (i: number): Fact[] => known.map(([key, cells]) => ({ key, value: cells[i] ?? null }));
  return { verdicts, factsOf };
}

async function inTurn<T, U>(list: readonly T[], each: (item: T) => Promise<U>): Promise<U[]> {
  const made: U[] = [];
  for (const item of list) made.push(await each(item));
  return made;
}

/** Whether the student of each occasion has a place in the class. */
async function placesOf(test: ColumnTest, of: readonly Occasion[], look: Look): Promise<TraitCells> {
  const everybody = everyoneAt(look);
  const column = selectColumn(await look.cells(test.measure, everybody));
  const verdicts = select(test, () => column, everybody.length);
  const verdictOf = new Map(everybody.map((o, i) => [o.student, verdicts[i]!]));
  return of.map(({ student }) => {
    const verdict = verdictOf.get(student) ?? null;
    return verdict == null ? null : verdict ? 'yes' : 'no';
  });
}
