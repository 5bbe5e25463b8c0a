import type { Instant } from '../units';

/** A key by which another system sends statements. */
export interface CredentialView {
  readonly id: number;
  readonly label: string;
  readonly key: string;
  readonly by: string | null;
  readonly at: Instant;
  readonly revokedAt: Instant | null;
}

/** A new key with its secret, which is shown once. */
export interface NewCredential {
  readonly key: string;
  readonly secret: string;
  readonly endpoint: string;
}

/** Statements of one source that are dated more than a day after they came: kept, and counted for nobody. */
export interface AheadView {
  /** The key they came by, or that they came in a file. */
  readonly source: string;
  readonly statements: number;
  readonly furthest: Instant;
}

/** Somebody whose rows wait until it is known who they are. */
export interface WaitingPerson {
  /** As the source names them. */
  readonly person: string;
  readonly name: string | null;
  readonly rows: number;
  readonly since: Instant;
  /** Enrolments whose name or address is like it, the likeliest first. */
  readonly likely: readonly number[];
}
