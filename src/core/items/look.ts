import { analyseItems, totalsOf, type ItemAnalysis, type TestAnalysis } from './analysis';
import { tails } from './groups27';
import { leanOf, leanText } from './lean';
import type { Sitting } from './sittings';

/** Students who must have sat a quiz before its items are judged. */
export const LEAST_SITTERS = 10;
/** Discrimination under which an item calls for a look (Ebel & Frisbie 1991: under 0.20 poor). */
export const POOR_D = 0.2;
/** Who must have got it wrong, and right, for how it tells them apart to mean anything. */
const LEAST_EITHER = 3;
/** Shares right beyond which an item cannot tell many apart, and need not: it is very easy, or very hard. */
const ONE_SIDED = [0.1, 0.9] as const;

/** An answer to an item, and who gave it. */
export interface AnswerLook {
  readonly answer: string;
  readonly right: boolean;
  readonly students: readonly number[];
  /** Share of each third by the total who gave it: lower, middle, upper. */
  readonly thirds: readonly [number, number, number];
}

export interface ItemLook extends ItemAnalysis {
  readonly answers: readonly AnswerLook[];
  /** What calls for a look, in a sentence; null for nothing. */
  readonly call: string | null;
  /** Where its wrong answers are numbers: whether they lean to one side, in a sentence; else null. */
  readonly lean: string | null;
}

export interface QuizLook extends Omit<TestAnalysis, 'items'> {
  readonly items: readonly ItemLook[];
}

const third = 1 / 3;
const percent = (share: number): string => `${Math.round(100 * share)} %`;

function callOf(item: ItemAnalysis, answers: readonly AnswerLook[], n: number): string | null {
  if (n < LEAST_SITTERS) return null;
  const best = (a: AnswerLook) => a.thirds[2];
  const right = answers.filter((a) => a.right).reduce((sum, a) => sum + best(a), 0);
  const beats = answers.filter((a) => !a.right && best(a) > right).sort((a, b) => best(b) - best(a))[0];
  if (beats)
    return `“${beats.answer}” was given by ${percent(best(beats))} of the best third, the right answer by ${percent(right)}: is the key right?`;
  const full = answers.reduce((sum, a) => sum + (a.right ? a.students.length : 0), 0);
  if (Math.min(full, n - full) < LEAST_EITHER) return null;
  if (item.itemRest != null && item.itemRest < 0)
    return `Those who do well on the other items do worse on this one: does it ask what it should?`;
  const isOneSided = item.difficulty! <= ONE_SIDED[0] || item.difficulty! >= ONE_SIDED[1];
  if (item.d27 != null && item.d27 < POOR_D && !isOneSided)
    return `It hardly tells the best from the weakest (discrimination ${item.d27.toFixed(2)}): is it clear what is asked?`;
  return null;
}

/**
 * A quiz item by item: its figures, who gave which answer by thirds of the total, and the few items that call for a look: a
 * wrong answer that beats the right one among the best third, a negative corrected correlation, or D under 0.2. Where
 * under three got it right or wrong, only the first is said; D is not asked for where nine of ten are right, or wrong.
 */
export function lookAtQuiz({ students, items }: Sitting): QuizLook {
  const { items: found, ...test } = analyseItems(items);
  const totals = totalsOf(items, students.length);
  const { lower, upper, size } =
    students.length > 0 ? tails(totals, third) : { lower: totals, upper: totals, size: 1 };
  return {
    ...test,
    items: found.map((item, j): ItemLook => {
      const { choices, keys = [] } = items[j]!;
      const answers = item.options
        .map(({ option }): AnswerLook => {
          const thirds: [number, number, number] = [0, 0, 0];
          const own: number[] = [];
          choices.forEach((choice, i) => {
            if (choice !== option) return;
            own.push(students[i]!);
            thirds[0] += lower[i]! / size;
            thirds[1] += Math.max(0, 1 - lower[i]! - upper[i]!) / size;
            thirds[2] += upper[i]! / size;
          });
          return { answer: option, right: keys.includes(option), students: own, thirds };
        })
        .sort((a, b) => b.students.length - a.students.length || (a.answer < b.answer ? -1 : 1));
      const wrong = answers.flatMap((a) => (a.right ? [] : a.students.map(() => a.answer)));
      const lean = leanOf(keys, wrong);
      return { ...item, answers, call: callOf(item, answers, students.length), lean: lean && leanText(lean) };
    }),
  };
}
