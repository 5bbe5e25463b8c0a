/** Milliseconds that one run takes. */
export async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Median of some times (the upper one of an even number). */
export const median = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)]!;

/** Median of several runs after one that does not count. */
export async function medianTime(runs: number, work: () => unknown): Promise<number> {
  await work();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) times.push(await timed(work));
  return median(times);
}

export const ms = (time: number): string => `${Math.round(time).toLocaleString('en')} ms`;

let missed = 0;

/** Says how a ratio stands to its bound, and remembers a miss. */
export function bound(
  name: string,
  value: number,
  limit: number,
  kind: 'at least' | 'at most',
  unit = 'times',
): void {
  const kept = kind === 'at least' ? value >= limit : value <= limit;
  if (!kept) missed++;
  console.log(`  ${kept ? 'kept  ' : 'MISSED'} ${name}: ${value.toFixed(2)} ${unit}, ${kind} ${limit}`);
}

export const misses = (): number => missed;
