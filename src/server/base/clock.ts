import type { Instant } from '@/core/units';
import { parseInstant } from '@/core/calendar/instant';

let read: { readonly text: string; readonly at: Instant } | null = null;

/** The one clock that everything asks. LANTERN_NOW (an ISO instant) fixes it, for tests and pictures. */
export function now(): Instant {
  const fixed = process.env.LANTERN_NOW;
  if (!fixed) return Date.now();
  if (read?.text !== fixed) {
    const parsed = parseInstant(fixed);
    if (!parsed.ok) throw new Error(`LANTERN_NOW: ${parsed.reason}`);
    read = { text: fixed, at: parsed.value };
  }
  return read.at;
}

/** The time of day by the machine, whatever LANTERN_NOW says: for limits on how often somebody may try. */
export const timeOfDay = (): Instant => Date.now();

export const nowDate = (): Date => new Date(now());
