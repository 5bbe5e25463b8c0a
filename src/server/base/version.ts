import { UseCaseError } from './errors';

/** Somebody else has changed what a form was opened on; `theirs` is what it holds now. */
export class Conflict extends UseCaseError {
  constructor(readonly theirs: object) {
    super('conflict', 'This was changed while you were editing it. Nothing was saved.');
  }
}

/** A value in one way of writing: what is the same reads the same, whatever the order of its keys. */
const written = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) =>
    typeof inner === 'object' && inner !== null && !Array.isArray(inner)
      ? Object.fromEntries(
          Object.entries(inner)
            .filter(([, v]) => v !== undefined)
            .sort(([a], [b]) => (a < b ? -1 : 1)),
        )
      : inner,
  );

/**
 * Refuses to overwrite what others saved meanwhile. To be asked within the transaction that saves, once what is to be
 * changed is locked.
 *
 * @param was what the form held when it was opened: its version. Null is a form that was opened as new; left out by callers
 * that have read the state within the same transaction
 * @param stored what is stored now, by the names of the form
 * @throws Conflict unless they are the same
 */
export function refuseStale(was: object | null | undefined, stored: object): void {
  if (was === undefined) return;
  const opened =
    was && Object.fromEntries(Object.keys(stored).map((key) => [key, (was as Record<string, unknown>)[key]]));
  if (written(opened) !== written(stored)) throw new Conflict(stored);
}
