/** Opens the database before the first request, and settles what a stop left behind. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || process.env.NEXT_PHASE === 'phase-production-build') return;
  const { start } = await import('./server/start');
  await start();
}
