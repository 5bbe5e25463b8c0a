import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { setTimeout as pause } from 'node:timers/promises';
import type { Access, Database } from '@/data/database';
import { JOB_KINDS, type JobKind } from '@/data/schema';
import { inBackground, turn } from '@/data/turn';
import { UseCaseError } from '../base/errors';
import { reportFailure } from '../base/failure';
import { Cancelled, Lost, type Progress } from './progress';
import {
  claim,
  end,
  forgetEnded,
  HEARTBEAT_MS,
  keep,
  nextDue,
  PAYLOADS,
  release,
  setRunner,
  TRIES,
  tryAgain,
  type Job,
  type Kept,
  type Payload,
} from './queue';

/** How one job is done. What it returns is kept as its result. */
export type Handler<K extends JobKind> = (
  db: Database,
  payload: Payload<K>,
  job: Working,
) => Promise<unknown>;
export type AllHandlers = { readonly [K in JobKind]: Handler<K> };

/** A job in hand. */
export interface Working {
  readonly job: Job;
  /** Whether this is the last time that it is tried. */
  readonly last: boolean;
  readonly progress: Progress;
  /** For the transaction that ends it: an error if another process works on it by now, or somebody cancelled it. */
  readonly stillMine: (tx: Access) => Promise<void>;
}

/** The work did not get through for now; it is tried again after a pause, and the message says why. */
export class Later extends Error {}

/** What takes long: it gives way to everybody, and keeps nothing waiting that does not. */
const LONG: readonly JobKind[] = ['import', 'import every', 'rebuild', 'sweep', 'dry run', 'feed'];

/** Kinds that are worked off one after the other. */
const LANES: readonly (readonly JobKind[])[] = [
  ['mail', 'letter', 'review'],
  ['follow', 'evaluate', 'rules', 'plans'],
  ['mail in'],
  LONG,
];

/** How often the queue is looked at for what another process put into it. */
const LOOK_MS = 1000;
const FORGET_EVERY_MS = 3_600_000;
/** How often a job says how far it is. */
const SAY_EVERY_MS = 250;
/** How long others have the thread to themselves after each step. */
const BREATH_MS = 1;

const GIVEN_UP = 'The server stopped each time it worked on this. Nothing was changed.';
const FAILED = 'Something went wrong here. Nothing was changed; try again.';

function endIf(stop: Kept): void {
  if (stop === 'cancelled') throw new Cancelled();
  if (stop === 'lost') throw new Lost();
}

/** Works one claimed job off. */
async function work(db: Database, handlers: AllHandlers, job: Job): Promise<void> {
  const { most } = TRIES[job.kind];
  if (job.attempts > most) return end(db, job, { state: 'failed', message: job.message ?? GIVEN_UP });
  if (job.cancelled) return end(db, job, { state: 'cancelled' });
  let said = performance.now();
  let stop: Kept = 'go on';
  const say = async (how: Parameters<typeof keep>[2]) => {
    said = performance.now();
    stop = await keep(db, job, how);
  };
  const beat = setInterval(() => {
    // A beat that fails is followed by another.
    if (performance.now() - said >= HEARTBEAT_MS) void say({}).catch(() => undefined);
  }, HEARTBEAT_MS);
  const progress: Progress = async (step, done = 0, of = 0) => {
    if (performance.now() - said >= SAY_EVERY_MS) await say({ step, done, of });
    await turn();
    // To answer a request takes many turns of the event loop, not one.
    await pause(BREATH_MS);
    endIf(stop);
  };
  const stillMine = async (tx: Access) => endIf(await keep(tx, job));
  try {
    const payload = PAYLOADS[job.kind].validateSync(job.payload, { strict: true });
    const handle = handlers[job.kind] as Handler<JobKind>;
    const doIt = () => handle(db, payload, { job, last: job.attempts >= most, progress, stillMine });
    const result = await (LONG.includes(job.kind) ? inBackground(doIt) : doIt());
    await end(db, job, { state: 'done', result: result ?? null });
  } catch (error) {
    if (error instanceof Lost) return;
    if (error instanceof Cancelled) return await end(db, job, { state: 'cancelled' });
    if (error instanceof UseCaseError) return await end(db, job, { state: 'failed', message: error.message });
    const said =
      error instanceof Later ? error.message : (reportFailure(`a job (${job.kind})`, error) ?? FAILED);
    if (job.attempts >= most || TRIES[job.kind].pauseMs === 0)
      await end(db, job, { state: 'failed', message: said });
    else await tryAgain(db, job, said);
  } finally {
    clearInterval(beat);
  }
}

/** Works off what is due in the queue, until nothing is. For processes without a runner: the command line, tests. */
export async function workOff(
  db: Database,
  handlers: AllHandlers,
  kinds: readonly JobKind[] = JOB_KINDS,
): Promise<void> {
  const holder = `${hostname()} ${process.pid} ${randomUUID()}`;
  for (;;) {
    const job = await claim(db, kinds, holder);
    if (!job) return;
    await work(db, handlers, job);
  }
}

export interface Runner {
  /** Begins nothing more, and waits for what runs. */
  readonly stop: () => Promise<void>;
}

/** Begins to work the queue off in this process, beside everything else. */
export async function startRunner(db: Database, handlers: AllHandlers): Promise<Runner> {
  const holder = `${hostname()} ${process.pid} ${randomUUID()}`;
  // The folder of an embedded database belongs to one process: whoever held a job there is gone.
  if (db.kind === 'embedded') await release(db, undefined);
  let stopped = false;
  const wakers = new Set<() => void>();
  let woken = 0;
  const wake = () => {
    woken++;
    for (const w of wakers) w();
  };
  const lane = async (kinds: readonly JobKind[]) => {
    let forgot = performance.now();
    while (!stopped) {
      const before = woken;
      let rest = LOOK_MS;
      try {
        const job = await claim(db, kinds, holder);
        if (job) {
          await work(db, handlers, job);
          continue;
        }
        if (performance.now() - forgot > FORGET_EVERY_MS) {
          forgot = performance.now();
          await forgetEnded(db);
        }
        const due = await nextDue(db, kinds);
        if (due != null) rest = Math.min(LOOK_MS, Math.max(20, due));
      } catch (error) {
        reportFailure('the queue of jobs', error);
      }
      if (stopped) break;
      if (woken !== before) continue;
      await new Promise<void>((resolve) => {
        const on = () => {
          clearTimeout(timer);
          wakers.delete(on);
          resolve();
        };
        const timer = setTimeout(on, rest);
        wakers.add(on);
      });
    }
  };
  const lanes = LANES.map(lane);
  setRunner({ wake });
  return {
    stop: async () => {
      stopped = true;
      setRunner(undefined);
      wake();
      await Promise.all(lanes);
    },
  };
}
