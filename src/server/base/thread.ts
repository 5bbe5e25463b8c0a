import { fileURLToPath } from 'node:url';
import { Worker, type WorkerOptions } from 'node:worker_threads';

/**
 * Begins a thread. Built by the framework its file is JavaScript, which only an expression in place names; run by tools it
 * is the source itself, which the thread is told how to read.
 *
 * @param built makes the thread of what was built
 * @param source the file of the thread
 */
export function beginThread(built: () => Worker, source: URL, options: WorkerOptions): Worker {
  if (process.env.NEXT_RUNTIME) return built();
  return new Worker(`require('tsx/cjs'); require(${JSON.stringify(fileURLToPath(source))});`, {
    ...options,
    eval: true,
  });
}
