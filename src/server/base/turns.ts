import type { Steps } from '@/core/steps';
import { turn } from '@/data/turn';

/** How long one piece of work may keep everybody else waiting. */
const TURN_MS = 25;

/** Runs a long computation, and lets others have their turn in between. */
export async function inTurns<T>(steps: Steps<T>): Promise<T> {
  let since = performance.now();
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
    if (performance.now() - since < TURN_MS) continue;
    await turn();
    since = performance.now();
  }
}
