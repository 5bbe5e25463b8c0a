import { AsyncLocalStorage } from 'node:async_hooks';
import { setTimeout as pause } from 'node:timers/promises';

/** Whether the work under way is such that nobody waits for it. */
const background = new AsyncLocalStorage<boolean>();

/** Does work that gives way to everybody else: between its steps it waits until the database is asked for nothing. */
export const inBackground = <T>(work: () => Promise<T>): Promise<T> => background.run(true, work);

/** Does work that gives way to nobody, as long as others wait for what it holds. */
export const inForeground = <T>(work: () => Promise<T>): Promise<T> => background.run(false, work);

/** On the global object: the database is one a process, however often this module is loaded. */
const holder = globalThis as typeof globalThis & { lanternAsked?: { now: number; last: number } };
const asked = () => (holder.lanternAsked ??= { now: 0, last: -Infinity });

/** Counts a question to the embedded database as one that somebody waits for, unless it is asked in the background. */
export async function counted<T>(ask: () => Promise<T>): Promise<T> {
  if (background.getStore()) return ask();
  const all = asked();
  all.now++;
  try {
    return await ask();
  } finally {
    all.now--;
    all.last = performance.now();
  }
}

/** A page asks several times, one after the other: so long after an answer another question may come. */
const QUIET_MS = 12;
/** However much the database is asked, work in the background goes on after this time. */
const LONGEST_MS = 120;
const LOOK_EVERY_MS = 2;

/**
 * Lets requests that came meanwhile have their turn. The embedded database works on the thread that answers them; work
 * in the background waits until nobody asks it for anything.
 */
export async function turn(): Promise<void> {
  await new Promise((resolve) => setImmediate(resolve));
  if (!background.getStore()) return;
  const all = asked();
  const isQuiet = () => all.now === 0 && performance.now() - all.last >= QUIET_MS;
  for (const until = performance.now() + LONGEST_MS; !isQuiet() && performance.now() < until;)
    await pause(LOOK_EVERY_MS);
}
