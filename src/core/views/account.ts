import type { Instant } from '../units';

/** A browser in which somebody is signed in. */
export interface DeviceView {
  readonly id: string;
  /** "Firefox on Windows". */
  readonly name: string;
  readonly since: Instant;
  /** About when it was last used: noted once a day. */
  readonly lastUsed: Instant;
  readonly isThis: boolean;
}

/** One's own account. */
export interface AccountView {
  readonly name: string;
  readonly email: string;
  /** Where one goes back to. */
  readonly home: string;
  /** This one first, then the latest used. */
  readonly devices: readonly DeviceView[];
}
