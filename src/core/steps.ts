/**
 * A long computation that can be left between its steps: it yields now and then, and returns what it computed. The
 * caller decides what happens meanwhile, so the computation itself knows neither clock nor event loop.
 */
export type Steps<T> = Generator<void, T, void>;

/** Runs a computation to its end without a pause. */
export function finish<T>(steps: Steps<T>): T {
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}
