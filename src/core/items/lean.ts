import { groupBy } from '../groupBy';

/** A number with what stands behind it: “3.4 m”. */
export interface NumericAnswer {
  readonly value: number;
  readonly unit: string;
}

/** An answer as a number with its unit; null if it does not begin with one. */
export function numericAnswer(text: string): NumericAnswer | null {
  const found = /^\s*([+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+))\s*(\D.*)?$/.exec(text);
  if (!found) return null;
  return { value: Number(found[1]!.replace(',', '.')), unit: (found[2] ?? '').trim() };
}

/** Wrong answers from which on a lean is said, and those that are still few. */
const ENOUGH = 6;
const FEW = 3;
/** The chance that is small enough, and the share on one side that is worth a word. */
const CHANCE = 0.05;
const SHARE = 0.8;

/**
 * Two-sided sign test: how probable it is that so many of n fall on one side, or more, if both sides are as likely
 * (Conover 1999, Practical Nonparametric Statistics, 3.4). 1 for nothing.
 */
export function signTest(under: number, over: number): number {
  const n = under + over;
  const k = Math.min(under, over);
  let term = 0.5 ** n;
  let tail = 0;
  for (let i = 0; i <= k; i++) {
    tail += term;
    term *= (n - i) / (i + 1);
  }
  return Math.min(1, 2 * tail);
}

export interface Lean {
  readonly under: number;
  readonly over: number;
  /** Wrong answers whose number is right: only the unit is another, or missing. */
  readonly unitOnly: number;
  /** What can be said; null for nothing. */
  readonly says: 'under' | 'over' | 'few under' | 'few over' | null;
}

/**
 * Whether wrong numeric answers lean to one side of the right one. It is said from six on where the sign test gives at most
 * 0.05 and four fifths lie on one side; three to five all on one side are still few. Null where the answers are no numbers.
 *
 * @param right right answers of the item
 * @param wrong the first answers that are wrong, one for each student
 */
export function leanOf(right: readonly string[], wrong: readonly string[]): Lean | null {
  const keys = right.flatMap((r) => numericAnswer(r) ?? []);
  const values = wrong.flatMap((w) => numericAnswer(w) ?? []);
  if (keys.length === 0 || values.length < wrong.length / 2) return null;
  const least = Math.min(...keys.map((k) => k.value));
  const most = Math.max(...keys.map((k) => k.value));
  const under = values.filter((v) => v.value < least).length;
  const over = values.filter((v) => v.value > most).length;
  const unitOnly = values.filter((v) => keys.some((k) => k.value === v.value)).length;
  return said({ under, over, unitOnly });
}

/** What can be said of so many under and over. */
function said(of: Omit<Lean, 'says'>): Lean {
  const { under, over } = of;
  const n = under + over;
  const side = under >= over ? 'under' : 'over';
  const share = n === 0 ? 0 : Math.max(under, over) / n;
  if (n >= ENOUGH && signTest(under, over) <= CHANCE && share >= SHARE) return { ...of, says: side };
  return { ...of, says: n >= FEW && n < ENOUGH && share === 1 ? `few ${side}` : null };
}

/** How that is said. */
export function leanText({ under, over, unitOnly, says }: Lean): string | null {
  const n = under + over;
  const side = says?.endsWith('under') ? `under in ${under} of ${n}` : `over in ${over} of ${n}`;
  const parts = [
    ...(unitOnly > 0
      ? [`${unitOnly} ${unitOnly === 1 ? 'has' : 'have'} the right number and another unit, or none`]
      : []),
    ...(says == null
      ? []
      : [says.startsWith('few') ? `the others are ${side}, still few` : `wrong answers lean: ${side}`]),
  ];
  if (parts.length === 0) return null;
  const text = parts.join('; ');
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
}

/** A wrong first answer to an item that asks for a number, with what is right. */
export interface WrongNumber {
  readonly student: number;
  readonly answer: string;
  readonly right: readonly string[];
}

/**
 * Whose wrong numbers lean to one side across items, with how that is said: the rules are those of one item. Students in the
 * order in which they first occur.
 */
export function leansOfStudents(
  wrong: readonly WrongNumber[],
): { student: number; text: string; few: boolean }[] {
  return [...groupBy(wrong, (w) => w.student)].flatMap(([student, own]) => {
    const sides = own.map((w) => leanOf(w.right, [w.answer]));
    const sum = (pick: (l: Lean) => number) => sides.reduce((total, l) => total + (l ? pick(l) : 0), 0);
    const lean = said({ under: sum((l) => l.under), over: sum((l) => l.over), unitOnly: 0 });
    if (lean.says == null) return [];
    const [side, n] = [lean.says.endsWith('under') ? 'under' : 'over', lean.under + lean.over];
    const most = Math.max(lean.under, lean.over);
    return [{ student, text: `${side} in ${most} of ${n}`, few: lean.says.startsWith('few') }];
  });
}
