import { measureOf, type MeasureKey } from '../measures/registry';
import type { Asked, Subject } from '../measures/measure';
import type { Percent } from '../units';
import { contrary, joined, judgedBefore, verdictsOf, type Judge, type Verdict } from './kleene';
import { placed } from './place';

/** How a figure is compared. */
export type Comparison = '<' | '<=' | '=' | '>=' | '>';

/** What a measure is asked for, and how much it must rest on: with less evidence it is not known. */
interface Figure extends Omit<Asked, 'window' | 'kind'> {
  readonly measure: MeasureKey;
  readonly least?: number;
}

/** A figure against a number. */
export interface Threshold extends Figure {
  readonly is: Comparison;
  readonly than: number;
}

/** A figure by its place in the class: among the lowest (or highest) so many per cent, or the next after some. */
export interface Place extends Figure {
  readonly place: 'lowest' | 'highest';
  readonly percent: Percent;
  readonly after?: Percent;
}

/** A figure less what it was for the same student so many days ago. */
export interface Change extends Figure {
  readonly since: number;
  readonly is: Comparison;
  readonly than: number;
}

/** What students are chosen, flagged or written to by. */
export type Condition =
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly not: Condition }
  | Threshold
  | Place
  | Change;

const COMPARE: Readonly<Record<Comparison, (a: number, b: number) => boolean>> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '=': (a, b) => a === b,
  '>=': (a, b) => a >= b,
  '>': (a, b) => a > b,
};

/**
 * Judges a condition of every student of a class at once, in their order, by Kleene's three-valued logic (`joined`).
 *
 * @param scope days and kind chosen on screen, for measures that need them
 */
export function judge(
  condition: Condition,
  students: readonly Subject[],
  scope: Pick<Asked, 'window' | 'kind'> = {},
): Verdict[] {
  return verdictsOf(judgeOf(condition, students, scope), students.length);
}

function judgeOf(
  condition: Condition,
  students: readonly Subject[],
  scope: Pick<Asked, 'window' | 'kind'>,
): Judge {
  const parts = (list: readonly Condition[]) => list.map((part) => judgeOf(part, students, scope));
  if ('all' in condition) return joined('all', parts(condition.all));
  if ('any' in condition) return joined('any', parts(condition.any));
  if ('not' in condition) return contrary(judgeOf(condition.not, students, scope));
  if ('place' in condition) {
    const values = students.map((s) => valueOf(condition, s, scope));
    return judgedBefore(placed(values, condition.place, condition.percent, condition.after));
  }
  return (row) => {
    const student = students[row]!;
    const now = valueOf(condition, student, scope);
    const was = 'since' in condition ? pastOf(condition, student, scope) : 0;
    return now == null || was == null ? null : COMPARE[condition.is](now - was, condition.than);
  };
}

function valueOf(figure: Figure, of: Subject, scope: Pick<Asked, 'window' | 'kind'>): number | null {
  const measure = measureOf(figure.measure);
  const asked = { ...scope, days: figure.days, flag: figure.flag };
  if (figure.least != null && (measure.evidence?.(of, asked) ?? 0) < figure.least) return null;
  return measure.value(of, asked);
}

/** The figure as it was: the same student, as found then. */
function pastOf(change: Change, of: Subject, scope: Pick<Asked, 'window' | 'kind'>): number | null {
  const measured = of.past?.(change.since) ?? null;
  return measured && valueOf(change, { id: of.id, measured }, scope);
}

/** Who matches a condition, and of whom it is not known: "9 match, 3 not known". */
export function matching(
  condition: Condition,
  students: readonly Subject[],
  scope: Pick<Asked, 'window' | 'kind'> = {},
): { readonly match: number[]; readonly unknown: number[] } {
  const verdicts = judge(condition, students, scope);
  const ids = (wanted: Verdict) => students.filter((_, i) => verdicts[i] === wanted).map((s) => s.id);
  return { match: ids(true), unknown: ids(null) };
}
