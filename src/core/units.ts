/** An instant: milliseconds since 1970-01-01T00:00:00Z. Always UTC; zones are only applied when cutting into days. */
export type Instant = number;
/** A calendar day in some stated zone, as `YYYY-MM-DD`. */
export type LocalDate = string;
export type Seconds = number;
export type Minutes = number;
/** 0 to 100. */
export type Percent = number;

export const SECOND_MS = 1000;
export const MINUTE_MS = 60 * SECOND_MS;
export const HOUR_MS = 60 * MINUTE_MS;
export const DAY_MS = 24 * HOUR_MS;
export const WEEK_MS = 7 * DAY_MS;
