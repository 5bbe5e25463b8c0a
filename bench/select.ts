import { select, type SelectColumn, type Selection } from '@/core/rules/selection';
import { bound, ms, timed } from './measure';

const STUDENTS = 20_000;
const PARTS = 20;
const RUNS = 15;

/** A column of whole numbers up to a hundred, of which one in ten is not known; the same in every run. */
function column(seed: number): SelectColumn {
  let state = seed;
  const next = () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
  const numbers = Array.from({ length: STUDENTS }, () => (next() < 0.1 ? null : Math.floor(next() * 101)));
  return { numbers, texts: numbers.map((n) => (n == null ? null : String(n))) };
}

/** The same as the condition, by one loop over the columns, as one would write it for this condition alone. */
function byHand(columns: readonly SelectColumn[], limits: readonly number[]): (boolean | null)[] {
  const half = PARTS / 2;
  const result = new Array<boolean | null>(STUDENTS);
  for (let i = 0; i < STUDENTS; i++) {
    let all: boolean | null = true;
    for (let p = 0; p < half && all !== false; p++) {
      const value = columns[p]!.numbers[i];
      if (value == null) all = null;
      else if (value < limits[p]!) all = false;
    }
    let any: boolean | null = false;
    for (let p = half; p < PARTS && any !== true; p++) {
      const value = columns[p]!.numbers[i];
      if (value == null) any = null;
      else if (value >= limits[p]!) any = true;
    }
    result[i] = all === true || any === true ? true : all === null || any === null ? null : false;
  }
  return result;
}

/** A condition of twenty parts of 20,000 students against a loop written for it, both over the same columns. */
export async function benchSelect(): Promise<void> {
  console.log(`A condition of ${PARTS} parts, ${STUDENTS.toLocaleString('en')} students`);
  const columns = Array.from({ length: PARTS }, (_, p) => column(p + 1));
  const limits = Array.from({ length: PARTS }, (_, p) => (p < PARTS / 2 ? 5 + p : 80 + p));
  const tests = (from: number, to: number): Selection[] =>
    limits.slice(from, to).map((value, i) => ({ measure: `m${from + i}`, is: '>=', value }));
  const half = PARTS / 2;
  const selection: Selection = { any: [{ all: tests(0, half) }, { any: tests(half, PARTS) }] };
  const columnOf = (name: string) => columns[Number(name.slice(1))]!;
  const ours = () => select(selection, columnOf, STUDENTS);
  const theirs = () => byHand(columns, limits);
  if (JSON.stringify(ours()) !== JSON.stringify(theirs())) throw new Error('the two select others');
  // One after the other, so that both meet the machine in the same mood; of each the median counts.
  const times: [number, number][] = [];
  for (let run = 0; run < RUNS; run++) times.push([await timed(ours), await timed(theirs)]);
  const middle = (side: 0 | 1) => times.map((t) => t[side]).sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
  console.log(`  ${ms(middle(0))} and by hand ${ms(middle(1))}`);
  bound('the condition, to the loop by hand', middle(0) / middle(1), 3, 'at most');
}
