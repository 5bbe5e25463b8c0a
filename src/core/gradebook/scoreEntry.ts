import { no, ok, type Result } from '../result';

/**
 * A score as it was typed: a number with a point or a comma as decimal sign, or nothing for "no grade". A comma before
 * exactly three digits could be either sign and is refused rather than guessed.
 *
 * @param maximum points of the work; more than that is refused
 */
export function parseScore(text: string, maximum: number | null): Result<number | null> {
  const typed = text.trim();
  if (typed === '') return ok(null);
  if (maximum == null) return no('this assignment has no points');
  if (/^\d{1,3}(,\d{3})+$/.test(typed))
    return no(`“${typed}” could be read in two ways; write it without a comma`);
  if (!/^\d{1,6}([.,]\d{1,4})?$/.test(typed)) return no(`“${typed.slice(0, 20)}” is not a number of points`);
  const points = Number(typed.replace(',', '.'));
  if (points > maximum) return no(`${points} is above the maximum of ${maximum}`);
  return ok(points);
}
