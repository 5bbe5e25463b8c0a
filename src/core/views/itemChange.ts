import type { Treatment } from '../items/treatment';
import type { Instant, Percent } from '../units';

/** How an item shall count. */
export interface ItemChangeAsked {
  readonly activityId: number;
  readonly item: string;
  readonly keys: readonly string[];
  readonly treatment: Treatment;
  /** The changes that whoever asks has seen of it. */
  readonly rev: number;
}

/** Whose grade and standing would move, and by how much. */
export interface ItemMove {
  readonly enrolmentId: number;
  readonly name: string;
  readonly from: number;
  readonly to: number;
  readonly standingFrom: Percent | null;
  readonly standingTo: Percent | null;
}

export interface ItemChangePreview {
  readonly maximum: number | null;
  /** The furthest first. */
  readonly moves: readonly ItemMove[];
}

/** A change of a key that was made. */
export interface ItemChangeMade {
  readonly id: number;
  readonly at: Instant;
  readonly by: string | null;
  readonly words: string;
  readonly moved: number;
  readonly undone: boolean;
  /** It is the latest that stands: it can be undone. */
  readonly canUndo: boolean;
}
