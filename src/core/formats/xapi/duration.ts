import { no, ok, type Result } from '../../result';
import type { Seconds } from '../../units';
import { shorten } from '../../calendar/instant';

const PATTERN =
  /^P(?:(\d+(?:[.,]\d+)?)W|(?:(\d+(?:[.,]\d+)?)Y)?(?:(\d+(?:[.,]\d+)?)M)?(?:(\d+(?:[.,]\d+)?)D)?(?:T(?:(\d+(?:[.,]\d+)?)H)?(?:(\d+(?:[.,]\d+)?)M)?(?:(\d+(?:[.,]\d+)?)S)?)?)$/;
const MINUTE = 60;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
/** Weeks, years, months, days, hours, minutes, seconds. Years and months are nominal: 365 and 30 days. */
const UNITS = [7 * DAY, 365 * DAY, 30 * DAY, DAY, HOUR, MINUTE, 1];
/** Longest text of a duration: any figure that means something is far shorter. */
const LONGEST = 1000;
/** No sitting lasts longer than this: a bigger figure is a slip of the source, or about something else. */
export const LONGEST_SITTING: Seconds = 1_000_000;

/**
 * Reads an ISO 8601 duration (section 5.5.2.2: PnW or PnYnMnDTnHnMnS, a fraction in the last part) as seconds,
 * rounded to the hundredth that xAPI compares by (1.0.3, part two, 4.6). Negative ones are refused. It may be of any
 * size, `Infinity` where no number holds it: whether anybody can have worked that long is for others to ask.
 */
export function parseDuration(text: string): Result<Seconds> {
  const match = text.length <= LONGEST ? PATTERN.exec(text) : null;
  const parts = match?.slice(1) ?? [];
  if (!match || parts.every((p) => p == null) || text.endsWith('T')) {
    return no(`“${shorten(text)}” is not a duration like PT1H30M`);
  }
  const last = parts.findLastIndex((p) => p != null);
  if (parts.some((p, i) => p != null && i !== last && /[.,]/.test(p)))
    return no(`“${shorten(text)}” has a fraction before its last part`);
  const seconds = parts.reduce(
    (sum, p, i) => sum + (p == null ? 0 : Number(p.replace(',', '.')) * UNITS[i]!),
    0,
  );
  return ok(Math.round(seconds * 100) / 100);
}

/** Writes seconds as a duration: `PT90.5S`. */
export const formatDuration = (seconds: Seconds): string => `PT${Math.round(seconds * 100) / 100}S`;
