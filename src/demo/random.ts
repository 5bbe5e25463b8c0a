/** Chance from a seed: the same seed gives the same course on every machine. */
export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  /** Whole number from `least` to `most`, both included. */
  whole(least: number, most: number): number;
  pick<T>(items: readonly T[]): T;
  chance(p: number): boolean;
  /** Standard normal. */
  normal(): number;
  /** Exponential with the given mean. */
  wait(mean: number): number;
}

/** The generator mulberry32 (public domain), 32 bits of state: plenty for sample data, and nothing else. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    whole: (least, most) => least + Math.floor(next() * (most - least + 1)),
    pick: (items) => items[Math.floor(next() * items.length)]!,
    chance: (p) => next() < p,
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    wait: (mean) => -mean * Math.log(1 - next()),
  };
}
