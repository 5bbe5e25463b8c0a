import { counted, oneDigit } from '../format';
import type { Percent } from '../units';

/**
 * The band that a score lies in, by number from the lowest: a score on a mark goes up, and the highest is open above 100 %
 * (half-open intervals; 0 upward, without gap or overlap).
 *
 * @param marks ascending, in per cent
 */
export const bandOf = (score: Percent, marks: readonly Percent[]): number =>
  marks.filter((mark) => score >= mark).length;

/** What is wrong with marks, in words; null if nothing is. */
export function marksFault(marks: readonly Percent[]): string | null {
  for (const [i, mark] of marks.entries()) {
    if (!(mark > 0 && mark <= 100))
      return `A mark lies above 0 and at 100 % at most; ${oneDigit(mark)} % does not.`;
    const before = marks[i - 1];
    if (before != null && before === mark)
      return `Two marks at ${oneDigit(mark)} % leave a band of no width between them.`;
    if (before != null && before > mark)
      return `The marks have to rise: ${oneDigit(mark)} % follows ${oneDigit(before)} %.`;
  }
  return null;
}

/** A band in words, in per cent and in points where the maximum is known: "50 to under 80 % (10 to under 16 points)". */
export function bandWords(band: number, marks: readonly Percent[], most: number | null): string {
  const [from, to] = [marks[band - 1], marks[band]];
  const words = (factor: number, unit: string) => {
    const at = (mark: Percent) => oneDigit(mark * factor);
    if (from == null) return to == null ? `any number of ${unit}` : `under ${at(to)} ${unit}`;
    return to == null ? `${at(from)} ${unit} and over` : `${at(from)} to under ${at(to)} ${unit}`;
  };
  if (from == null && to == null) return 'any score';
  return most ? `${words(1, '%')} (${words(most / 100, 'points')})` : words(1, '%');
}

/** Students under whom a band says nothing about what helps. */
const LEAST_JUDGED = 5;

/** What there is to say of how many are in a band; null for nothing. */
export function bandNote(students: number, graded: number): string | null {
  if (graded === 0) return null;
  if (students === 0) return `None of ${counted(graded, 'result')} lies here.`;
  return students < LEAST_JUDGED
    ? `${counted(students, 'student')}: too few to judge whether these steps help.`
    : null;
}
