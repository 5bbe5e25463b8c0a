/** Lengths that a message may have, in characters. */
export const LIMITS = { subject: 200, body: 20_000, recipients: 2000 } as const;

/** Days in which nobody is written to about the same again, unless whoever writes says so. */
export const COOL_DOWN_DAYS = 7;
