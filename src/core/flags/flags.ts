import type { LocalDate } from '../units';
import type { Crossing } from './crossings';
import type { FlagKind } from './indicators';

/** An open flag of one student. */
export interface OpenFlag extends Crossing {
  readonly openedOn: LocalDate;
  /** The first local day back inside the threshold, while the flag waits for a second; else null. */
  readonly insideSince: LocalDate | null;
  /** The same as the last day that is over left it: how a day ends nobody knows before. */
  readonly insideBefore: LocalDate | null;
}

export interface ClosedFlag extends OpenFlag {
  readonly closedOn: LocalDate;
}

/**
 * Carries a student's flags over one local day. A flag opens when its threshold is crossed and closes on the second
 * local day back inside, so that it does not flap. What is found on a day that is not over holds until the next
 * evaluation only: each begins from how the last day that is over ended. So a flag closes on the same day however often
 * one evaluates.
 *
 * @param open flags that were open when the day began, or opened in it
 * @param crossed thresholds that are crossed as of the evaluation
 * @param unknown kinds of which nothing is known on this day: their flags stay as they are, and none opens
 * @param over whether the day is over; a day is evaluated once as that, and any number of times before
 */
export function stepFlags(
  open: readonly OpenFlag[],
  crossed: readonly Crossing[],
  on: LocalDate,
  over: boolean,
  unknown: readonly FlagKind[] = [],
): { open: OpenFlag[]; closed: ClosedFlag[] } {
  const stillOpen: OpenFlag[] = [];
  const closed: ClosedFlag[] = [];
  for (const crossing of crossed) {
    if (unknown.includes(crossing.kind)) continue;
    const before = open.find((flag) => flag.kind === crossing.kind);
    const insideBefore = over ? null : (before?.insideBefore ?? null);
    stillOpen.push({ ...crossing, openedOn: before?.openedOn ?? on, insideSince: null, insideBefore });
  }
  for (const flag of open) {
    if (unknown.includes(flag.kind)) {
      stillOpen.push({ ...flag, insideSince: flag.insideBefore });
      continue;
    }
    if (crossed.some((c) => c.kind === flag.kind)) continue;
    const since = flag.insideBefore;
    if (since != null && on > since) closed.push({ ...flag, insideSince: since, closedOn: on });
    else stillOpen.push({ ...flag, insideSince: since ?? on, insideBefore: over ? (since ?? on) : since });
  }
  return { open: stillOpen, closed };
}
