import type { Answer } from './act';
import { addDays } from '../calendar/zone';
import type { LocalDate } from '../units';
import type { FlagKind } from '../flags/indicators';
import type { FlagLevel } from '../flags/level';

/** The latest answer to one student's flags. */
export interface Mark {
  readonly action: Answer;
  readonly on: LocalDate;
  /** For `put off`: the day on which the student comes back into the queue. */
  readonly until: LocalDate | null;
  /** The flags that were open then. */
  readonly covered: readonly { readonly kind: FlagKind; readonly level: FlagLevel }[];
}

/** Days after which an answered student who is still flagged comes back. */
export const ROUND_DAYS = 7;

/** The furthest a student can be put off: a term. */
export const MOST_PUT_OFF_DAYS = 120;

/** The day on which an answered student comes back if nothing new happens. */
export function returnsOn(mark: Mark): LocalDate {
  return mark.action === 'put off' && mark.until != null ? mark.until : addDays(mark.on, ROUND_DAYS);
}

/**
 * Whether a mark still answers the flags that are open. It does until its date (the one chosen, or a week on), unless
 * something new came: a flag of another kind, or one that rose from watch to act.
 */
export function isAnswered(
  mark: Mark | null,
  flags: readonly { readonly kind: FlagKind; readonly level: FlagLevel }[],
  today: LocalDate,
): boolean {
  if (!mark || today >= returnsOn(mark)) return false;
  return flags.every((flag) =>
    mark.covered.some((c) => c.kind === flag.kind && (c.level === 'act' || flag.level === 'watch')),
  );
}
