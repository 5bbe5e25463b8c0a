import type { Verdict } from './kleene';

/** A number as a fraction: what its shortest decimal says, so that 0.1 is a tenth. */
function fraction(value: number): { readonly over: bigint; readonly under: bigint } {
  const [digits = '', exponent = '0'] = String(value).split('e');
  const [whole = '', decimals = ''] = digits.split('.');
  const shift = BigInt(Math.abs(Number(exponent)));
  const scaled = { over: BigInt(whole + decimals), under: 10n ** BigInt(decimals.length) };
  return Number(exponent) < 0
    ? { over: scaled.over, under: scaled.under * 10n ** shift }
    : { over: scaled.over * 10n ** shift, under: scaled.under };
}

/** So many per cent of a number, rounded up, in exact arithmetic; several shares are added first. */
export function shareUp(of: number, ...percents: readonly number[]): number {
  let [over, under] = [0n, 1n];
  for (const p of percents.map(fraction)) [over, under] = [over * p.under + p.over * under, under * p.under];
  const [top, bottom] = [BigInt(of) * over, under * 100n];
  return Number((top + bottom - 1n) / bottom);
}

/** How many of some numbers in order are under a number. */
function under(sorted: Float64Array, value: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Who is among the lowest (or highest) so many per cent of those with a value, ties together: with n values a student
 * is, if the number strictly lower is under n p / 100 rounded up. `after` leaves out those who are among the lowest of
 * that, so that 15 after 5 are the next fifteen. Of whom nothing is known, it is not known.
 */
export function placed(
  values: readonly (number | null)[],
  place: 'lowest' | 'highest',
  percent: number,
  after = 0,
): Verdict[] {
  // The highest are the lowest of what is turned round.
  const turn = place === 'lowest' ? 1 : -1;
  const sorted = Float64Array.from(values.flatMap((v) => (v == null ? [] : [v * turn]))).sort();
  const [from, to] = [shareUp(sorted.length, after), shareUp(sorted.length, after, percent)];
  return values.map((value) => {
    if (value == null) return null;
    const n = under(sorted, value * turn);
    return n < to && n >= from;
  });
}
