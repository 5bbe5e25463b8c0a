import { analyseItems, type AnsweredItem } from '@/core/items/analysis';
import { bound, medianTime } from './measure';

const STUDENTS = 5000;
const ITEMS = 100;
const RUNS = 60;

/** Answers to a test, right or wrong; the same in every run. */
function answers(): AnsweredItem[] {
  let state = 7;
  const next = () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
  const ability = Float64Array.from({ length: STUDENTS }, next);
  return Array.from({ length: ITEMS }, (_, j) => ({
    item: `q${j}`,
    scores: Float64Array.from(ability, (a) => (next() < 0.2 + 0.6 * a ? 1 : 0)),
    omitted: 0,
  }));
}

/** One pass over the matrix: totals, and the mean and deviation of each item. */
function pass(items: readonly AnsweredItem[]): number {
  const totals = new Float64Array(STUDENTS);
  let seen = 0;
  for (const { scores } of items) {
    let sum = 0;
    let squares = 0;
    for (let i = 0; i < STUDENTS; i++) {
      const score = scores[i]!;
      totals[i]! += score;
      sum += score;
      squares += score * score;
    }
    seen += sum / STUDENTS + Math.sqrt(Math.max(0, squares / STUDENTS - (sum / STUDENTS) ** 2));
  }
  return seen + totals[0]!;
}

/** Item analysis of 5,000 students by 100 items against one pass over the same matrix. */
export async function benchItems(): Promise<void> {
  console.log(`Item analysis of ${STUDENTS.toLocaleString('en')} students by ${ITEMS} items`);
  const items = answers();
  const once = await medianTime(RUNS, () => pass(items));
  const all = await medianTime(RUNS, () => analyseItems(items));
  console.log(`  one pass ${once.toFixed(2)} ms, the analysis ${all.toFixed(2)} ms`);
  bound('the analysis against one pass', all / once, 3, 'at most');
}
