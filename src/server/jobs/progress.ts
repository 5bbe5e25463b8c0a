import { turn } from '@/data/turn';

/**
 * Says how far a long piece of work is, and lets everybody else have their turn. Ends the work, by an error that rolls
 * its transaction back, if somebody has cancelled it.
 */
export type Progress = (step: string, done?: number, of?: number) => Promise<void>;

/** For work that nobody watches: others have their turn, and nobody cancels it. */
export const unwatched: Progress = turn;

/** Somebody has cancelled the work. */
export class Cancelled extends Error {}

/** Another process works on the job by now: whatever this one has in hand is dropped. */
export class Lost extends Error {}

/** Whether an error ends the job as a whole, rather than the part of it in which it was met. */
export const endsJob = (error: unknown): boolean => error instanceof Cancelled || error instanceof Lost;
