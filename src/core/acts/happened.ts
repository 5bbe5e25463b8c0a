import type { Minutes, Percent } from '../units';

/** What has happened to a student since an instant. */
export interface Happened {
  /** Days with anything recorded, and time on task in them. */
  readonly days: number;
  readonly minutes: Minutes;
  /** Titles of what was handed in, and of what came back. */
  readonly handedIn: readonly string[];
  readonly returned: readonly { readonly title: string; readonly percent: Percent }[];
  /** Steps of plans ticked. */
  readonly ticked: number;
  /** Flags opened since that are still open, as they read, and kinds of those closed since. */
  readonly opened: readonly string[];
  readonly closed: readonly string[];
}
