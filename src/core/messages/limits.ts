/** Lengths that a message may have, in characters. */
export const LIMITS = { subject: 200, body: 20_000, recipients: 2000 } as const;
