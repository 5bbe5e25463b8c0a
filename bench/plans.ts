import { addDays } from '@/core/calendar/zone';
import { schedule, type PlanToSchedule } from '@/core/plans/schedule';
import { bound, medianTime } from './measure';

const PLANS = 500;
const STEPS = 20;
const RUNS = 5;
const FROM = '2026-11-25';

/** Plans whose steps rest on others, with days off and dues; the same in every run. */
function plans(): PlanToSchedule[] {
  let state = 7;
  const next = (most: number) => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) % most;
  return Array.from({ length: PLANS }, () => ({
    from: FROM,
    minutesPerDay: 20 + next(41),
    daysOff: Array.from({ length: 8 }, (_, week) => addDays(FROM, 7 * week + next(7))),
    steps: Array.from({ length: STEPS }, (_, i) => ({
      id: `s${i}`,
      minutes: 5 + next(40),
      after: i === 0 || next(2) === 0 ? [] : [`s${next(i)}`],
      pinned: null,
      due: next(3) === 0 ? addDays(FROM, next(30)) : null,
      priority: next(3),
    })),
  }));
}

/** Scheduling the plans of a large class. */
export async function benchPlans(): Promise<void> {
  console.log(`${PLANS} plans of ${STEPS} steps`);
  const all = plans();
  const time = await medianTime(RUNS, () => all.map((p) => schedule(p)));
  bound('scheduling them', time / 1000, 1, 'at most', 'seconds');
}
