import { groups27, type Tails } from './groups27';

/** An item as it was answered: a score for each examinee, and their choices where it had options. */
export interface AnsweredItem {
  readonly item: string;
  /** Scores in the order of the examinees; an omitted item scores 0. */
  readonly scores: ArrayLike<number>;
  /** How many left it out. */
  readonly omitted: number;
  /** What each chose, null where they left it out; only for items with a key. */
  readonly choices?: readonly (string | null)[];
  /** The options that are right. */
  readonly keys?: readonly string[];
}

export interface OptionAnalysis {
  readonly option: string;
  readonly key: boolean;
  readonly count: number;
  /** Examinees of the upper and the lower group who chose it; fractions where the cut is shared. */
  readonly upper27: number;
  readonly lower27: number;
  /** Mean total of those who chose it; null if nobody did. */
  readonly meanTotal: number | null;
  /** Correlation of choosing it with the total, and with the total without this item; null without variance. */
  readonly rTotal: number | null;
  readonly rRest: number | null;
}

export interface ItemAnalysis {
  readonly item: string;
  /** Mean score; the share who got it right where scores are 0 and 1. */
  readonly difficulty: number | null;
  /** Of the sample. */
  readonly sd: number | null;
  /** Pearson's correlation with the total, and with the total of the other items; null without variance. */
  readonly itemTotal: number | null;
  readonly itemRest: number | null;
  /** Mean score of the upper 27 % less that of the lower 27 %. */
  readonly d27: number | null;
  readonly alphaIfDeleted: number | null;
  readonly omitted: number;
  readonly options: readonly OptionAnalysis[];
}

export interface TestAnalysis {
  /** Examinees, and items. */
  readonly n: number;
  readonly k: number;
  readonly mean: number | null;
  /** Of the sample. */
  readonly sd: number | null;
  /** Cronbach's alpha, by sample variances; null for one item, or totals that are all the same. */
  readonly alpha: number | null;
  /** Kuder-Richardson formula 20, by population variances; null unless every score is 0 or 1. */
  readonly kr20: number | null;
  /** Standard error of measurement: population sd x sqrt(1 - alpha). */
  readonly sem: number | null;
  readonly items: readonly ItemAnalysis[];
}

/** A spread of values no wider than this, of their size, is the rounding of a constant. */
const NOTHING = 1e-12;

interface Spread {
  readonly mean: number;
  /** Sum of squared deviations; exactly 0 where all are the same. */
  readonly squares: number;
}

function spreadOf(values: ArrayLike<number>): Spread {
  const n = values.length;
  let sum = 0;
  let least = Infinity;
  let most = -Infinity;
  for (let i = 0; i < n; i++) {
    const v = values[i]!;
    sum += v;
    if (v < least) least = v;
    if (v > most) most = v;
  }
  const mean = sum / n;
  if (most - least <= NOTHING * Math.max(Math.abs(most), Math.abs(least))) return { mean, squares: 0 };
  let squares = 0;
  for (let i = 0; i < n; i++) squares += (values[i]! - mean) ** 2;
  return { mean, squares };
}

/** A sum of squares that is nothing beside those it is the difference of. */
const orNothing = (squares: number, beside: number): number => (squares <= NOTHING * beside ? 0 : squares);

const ratio = (covariance: number, a: number, b: number): number | null =>
  a > 0 && b > 0 ? covariance / Math.sqrt(a * b) : null;

/** Cronbach 1951 (Psychometrika 16:297): k / (k - 1) x (1 - sum of variances / variance of the total). */
const alphaOf = (k: number, items: number, total: number): number | null =>
  k < 2 || total <= 0 ? null : (k / (k - 1)) * (1 - items / total);

/**
 * Item analysis of a test (Crocker & Algina 1986, ch. 14; Ebel & Frisbie 1991, ch. 13): difficulty, discrimination,
 * options, and how reliable the total is. Omitted items score 0. What is not defined is null.
 *
 * @param items all of the same examinees
 */
export function analyseItems(items: readonly AnsweredItem[]): TestAnalysis {
  const k = items.length;
  const n = items[0]?.scores.length ?? 0;
  const totals = totalsOf(items, n);
  if (n === 0)
    return { n, k, mean: null, sd: null, alpha: null, kr20: null, sem: null, items: items.map(unknown) };
  const total = spreadOf(totals);
  const groups = groups27(totals);
  const centred = new Float64Array(n);
  const difference = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    centred[i] = totals[i]! - total.mean;
    difference[i] = (groups.upper[i]! - groups.lower[i]!) / groups.size;
  }
  const found = items.map((item) => passOf(item, centred, difference, total.squares));
  const squares = found.reduce((sum, f) => sum + f.squares, 0);
  const alpha = alphaOf(k, squares, total.squares);
  return {
    n,
    k,
    mean: total.mean,
    sd: n < 2 ? null : Math.sqrt(total.squares / (n - 1)),
    alpha,
    kr20: found.every((f) => f.rightOrWrong)
      ? alphaOf(
          k,
          found.reduce((sum, f) => sum + n * f.mean * (1 - f.mean), 0),
          total.squares,
        )
      : null,
    sem: alpha == null ? null : Math.sqrt(total.squares / n) * Math.sqrt(1 - alpha),
    items: found.map((f, j): ItemAnalysis => {
      const item = items[j]!;
      return {
        item: item.item,
        difficulty: f.mean,
        sd: n < 2 ? null : Math.sqrt(f.squares / (n - 1)),
        itemTotal: ratio(f.withTotal, f.squares, total.squares),
        itemRest: ratio(f.withTotal - f.squares, f.squares, f.restSquares),
        d27: f.d27,
        alphaIfDeleted: alphaOf(k - 1, squares - f.squares, f.restSquares),
        omitted: item.omitted,
        options: optionsOf(item, totals, groups),
      };
    }),
  };
}

/** Totals of the examinees. Four items at a time: each total is read and written a quarter as often. */
export function totalsOf(items: readonly AnsweredItem[], n: number): Float64Array {
  const totals = new Float64Array(n);
  const whole = items.length - (items.length % 4);
  for (let j = 0; j < whole; j += 4) {
    const [a, b, c, d] = [items[j]!.scores, items[j + 1]!.scores, items[j + 2]!.scores, items[j + 3]!.scores];
    for (let i = 0; i < n; i++) totals[i]! += a[i]! + b[i]! + c[i]! + d[i]!;
  }
  for (const { scores } of items.slice(whole)) for (let i = 0; i < n; i++) totals[i]! += scores[i]!;
  return totals;
}

const unknown = ({ item }: AnsweredItem): ItemAnalysis => ({
  item,
  difficulty: null,
  sd: null,
  itemTotal: null,
  itemRest: null,
  d27: null,
  alphaIfDeleted: null,
  omitted: 0,
  options: [],
});

/** What one pass over an item finds. */
function passOf(
  { scores }: AnsweredItem,
  centred: Float64Array,
  difference: Float64Array,
  totalSquares: number,
) {
  const n = scores.length;
  // Deviations from any score there is keep the sums small, and are exactly 0 where all are the same.
  const first = scores[0]!;
  let sum = 0;
  let sumSquares = 0;
  let withTotal = 0;
  let d27 = 0;
  let rightOrWrong = true;
  for (let i = 0; i < n; i++) {
    const score = scores[i]!;
    const off = score - first;
    sum += off;
    sumSquares += off * off;
    withTotal += off * centred[i]!;
    d27 += off * difference[i]!;
    if (score * score !== score) rightOrWrong = false;
  }
  const squares = sumSquares === 0 ? 0 : sumSquares - (sum * sum) / n;
  // The variance of a difference; where nothing is left of it, the rest is a constant.
  const restSquares = orNothing(totalSquares + squares - 2 * withTotal, totalSquares + squares);
  return { mean: first + sum / n, squares, withTotal, d27, rightOrWrong, restSquares };
}

function optionsOf(
  { choices, keys = [], scores }: AnsweredItem,
  totals: Float64Array,
  groups: Tails,
): OptionAnalysis[] {
  if (!choices) return [];
  const named = new Set([...keys, ...choices.filter((c): c is string => c != null)]);
  const rest = totals.map((t, i) => t - scores[i]!);
  const byTotal = spreadOf(totals);
  const byRest = spreadOf(rest);
  return [...named]
    .sort((a, b) => (a < b ? -1 : a > b ? 1 : 0))
    .map((option) => {
      let [count, upper27, lower27, sum, sumRest] = [0, 0, 0, 0, 0];
      choices.forEach((choice, i) => {
        if (choice !== option) return;
        count++;
        upper27 += groups.upper[i]!;
        lower27 += groups.lower[i]!;
        sum += totals[i]! - byTotal.mean;
        sumRest += rest[i]! - byRest.mean;
      });
      const n = choices.length;
      // Of a choice: 1 for those who made it, 0 for the others.
      const squares = (count * (n - count)) / n;
      return {
        option,
        key: keys.includes(option),
        count,
        upper27,
        lower27,
        meanTotal: count === 0 ? null : byTotal.mean + sum / count,
        rTotal: ratio(sum, squares, byTotal.squares),
        rRest: ratio(sumRest, squares, byRest.squares),
      };
    });
}
