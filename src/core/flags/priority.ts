import type { FlagKind } from './indicators';
import type { FlagLevel } from './level';
import { FLAG_KINDS } from './indicators';

/** What the order of the queue is made from. */
export interface Queued {
  readonly name: string;
  readonly flags: readonly { readonly kind: FlagKind; readonly level: FlagLevel }[];
  /** Teaching days since last seen. */
  readonly silence: number;
  readonly standing: number | null;
}

/** The rule of `comparePriority` in words, shown beside the queue. */
export const PRIORITY_RULE =
  'First who has most flags at “act”, then most flags at “watch”, then the longest silence, then the lowest standing, then by name.';

const flagsAt = (queued: Queued, level: FlagLevel) => queued.flags.filter((f) => f.level === level).length;

/** Order of the queue: see `PRIORITY_RULE`. Negative if `a` comes first. */
export function comparePriority(a: Queued, b: Queued): number {
  return (
    flagsAt(b, 'act') - flagsAt(a, 'act') ||
    flagsAt(b, 'watch') - flagsAt(a, 'watch') ||
    b.silence - a.silence ||
    (a.standing ?? 101) - (b.standing ?? 101) ||
    a.name.localeCompare(b.name)
  );
}

/** Flags in the order in which a student's reasons are listed: act before watch, then the fixed order of kinds. */
export function compareFlags(
  a: { readonly kind: FlagKind; readonly level: FlagLevel },
  b: { readonly kind: FlagKind; readonly level: FlagLevel },
): number {
  if (a.level !== b.level) return a.level === 'act' ? -1 : 1;
  return FLAG_KINDS.indexOf(a.kind) - FLAG_KINDS.indexOf(b.kind);
}
