/**
 * How often a property draws: on a PostgreSQL server a third of what it draws on the embedded database, where each was
 * drawn already; what differs there is the engine, and not the rule.
 */
export const runs = (n: number): number => (process.env.LANTERN_TEST_SERVER ? Math.ceil(n / 3) : n);
