import type { LocalDate } from '../units';
import type { Crossing } from './crossings';

/** An open flag of one student. */
export interface OpenFlag extends Crossing {
  readonly openedOn: LocalDate;
  /** Day of the first evaluation back inside the threshold, while the flag waits for a second; else null. */
  readonly insideSince: LocalDate | null;
}

export interface ClosedFlag extends OpenFlag {
  readonly closedOn: LocalDate;
}

/**
 * Carries a student's flags over one evaluation. A flag opens when its threshold is crossed and closes at the second
 * evaluation, on another day, that finds it back inside, so that it does not flap. Evaluating a day again changes
 * nothing but the numbers.
 */
export function stepFlags(
  open: readonly OpenFlag[],
  crossed: readonly Crossing[],
  on: LocalDate,
): { open: OpenFlag[]; closed: ClosedFlag[] } {
  const stillOpen: OpenFlag[] = [];
  const closed: ClosedFlag[] = [];
  for (const crossing of crossed) {
    const before = open.find((flag) => flag.kind === crossing.kind);
    stillOpen.push({ ...crossing, openedOn: before?.openedOn ?? on, insideSince: null });
  }
  for (const flag of open) {
    if (crossed.some((c) => c.kind === flag.kind)) continue;
    if (flag.insideSince != null && on > flag.insideSince) closed.push({ ...flag, closedOn: on });
    else stillOpen.push({ ...flag, insideSince: flag.insideSince ?? on });
  }
  return { open: stillOpen, closed };
}
