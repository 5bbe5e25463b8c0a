/** Starts a PostgreSQL server of its own on loopback, in a folder that goes with it. */
export function startPostgres(): Promise<{ readonly url: string; stop(): void }>;
