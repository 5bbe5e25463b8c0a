import { measureOf, type MeasureKey } from '../measures/registry';
import type { Asked, Subject } from '../measures/measure';
import type { Percent } from '../units';

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

/** True, false, or not known: what is not known is neither. */
export type Verdict = boolean | null;

const COMPARE: Readonly<Record<Comparison, (a: number, b: number) => boolean>> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '=': (a, b) => a === b,
  '>=': (a, b) => a >= b,
  '>': (a, b) => a > b,
};

/**
 * Judges a condition of every student of a class at once, in their order, by Kleene's strong three-valued logic
 * (Introduction to Metamathematics, 1952, section 64): of `all` one false makes false, else one unknown makes unknown;
 * `any` is its mirror image; the contrary of unknown is unknown. Of nothing, `all` is true and `any` false.
 *
 * @param scope days and kind chosen on screen, for measures that need them
 */
export function judge(
  condition: Condition,
  students: readonly Subject[],
  scope: Pick<Asked, 'window' | 'kind'> = {},
): Verdict[] {
  if ('all' in condition) return joined(condition.all, students, scope, false);
  if ('any' in condition) return joined(condition.any, students, scope, true);
  if ('not' in condition) return judge(condition.not, students, scope).map((v) => (v == null ? null : !v));
  const values = students.map((s) => valueOf(condition, s, scope));
  if ('place' in condition) return placed(values, condition);
  const against = (now: number | null, i: number): Verdict => {
    const was = 'since' in condition ? pastOf(condition, students[i]!, scope) : 0;
    return now == null || was == null ? null : COMPARE[condition.is](now - was, condition.than);
  };
  return values.map(against);
}

/** `strong` is what one part suffices for: true of `any`, false of `all`. */
function joined(
  parts: readonly Condition[],
  students: readonly Subject[],
  scope: Pick<Asked, 'window' | 'kind'>,
  strong: boolean,
): Verdict[] {
  const judged = parts.map((part) => judge(part, students, scope));
  return students.map((_, i) => {
    const own = judged.map((verdicts) => verdicts[i] ?? null);
    if (own.includes(strong)) return strong;
    return own.includes(null) ? null : !strong;
  });
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

/**
 * Who is among the lowest so many per cent of those with a value, ties together: with n values a student is, if the
 * number strictly lower is under n p / 100 rounded up. `after` leaves out those who are among the lowest of that, so
 * that 15 after 5 are the next fifteen.
 */
function placed(values: readonly (number | null)[], { place, percent, after = 0 }: Place): Verdict[] {
  const known = values.filter((v) => v != null);
  const beyond = (value: number) => known.filter((v) => (place === 'lowest' ? v < value : v > value)).length;
  const under = (share: Percent) => Math.ceil((known.length * share) / 100);
  return values.map((value) => {
    if (value == null) return null;
    const n = beyond(value);
    return n < under(percent + after) && n >= under(after);
  });
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
