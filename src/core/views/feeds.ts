import type { FeedFileState } from '../feeds/feed';
import type { FeedCounts, FeedForm } from '../forms/feed';
import type { Instant } from '../units';

/** A file that came by itself. */
export interface FeedFileLine {
  readonly id: number;
  readonly name: string;
  readonly at: Instant;
  readonly state: FeedFileState;
  /** What went in; null before that. */
  readonly counts: FeedCounts | null;
  /** Why somebody has to look at it first. */
  readonly reasons: readonly string[];
}

/** Files that come by themselves: how, when, and what came of it. */
export interface FeedLine {
  readonly id: number;
  readonly form: FeedForm & { readonly id: number };
  readonly on: boolean;
  /** The folder, the address or the link. */
  readonly place: string;
  readonly by: string;
  /** When it is looked for next; null while it is paused. */
  readonly next: Instant | null;
  /** Why nothing came, or why nothing goes in. */
  readonly why: string | null;
  /** When nothing came although it was time; null if something has come since. */
  readonly missedAt: Instant | null;
  /** The newest first. */
  readonly files: readonly FeedFileLine[];
}

/** What stands in Rounds about files that come by themselves. */
export interface FeedNotice {
  readonly id: number;
  readonly name: string;
  /** The file that somebody has to look at; null where nothing came. */
  readonly file: { readonly id: number; readonly name: string; readonly reasons: readonly string[] } | null;
  /** When something came last; null if nothing ever did. */
  readonly cameAt: Instant | null;
  readonly why: string | null;
}
