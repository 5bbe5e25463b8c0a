import type { FlagKind } from '../flags/indicators';
import type { FlagLevel } from '../flags/level';

/** Acts that answer a student's flags in Rounds. */
export const ANSWERS = ['put off', 'seen', 'messaged', 'planned'] as const;
export type Answer = (typeof ANSWERS)[number];

/** A remark; or a contact: a talk in person, a call, a letter. */
export const NOTE_KINDS = ['note', 'talk', 'call'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];

/**
 * What somebody can do about a student. `paired` asks another student to help; `by rule` is what a rule wrote in their
 * name, which answers no flags: whoever looks in Rounds decides that.
 */
export type ActKind = Answer | NoteKind | 'paired' | 'by rule';

/** A flag that an act answers, as it stood then; its id stays the same from evaluation to evaluation. */
export interface ActAnswer {
  /** Null where the flag went before flags kept their ids. */
  readonly flag: number | null;
  readonly kind: FlagKind;
  readonly level: FlagLevel;
}
