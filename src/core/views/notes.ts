import type { Instant, LocalDate } from '../units';

/** A remark; or a contact: a talk in person, a call, a letter. */
export const NOTE_KINDS = ['note', 'talk', 'call'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];

export interface NoteView {
  readonly id: number;
  readonly kind: NoteKind;
  readonly on: LocalDate;
  readonly text: string;
  readonly by: string;
  readonly at: Instant;
  /** Whether the viewer wrote it, and may take it out. */
  readonly own: boolean;
}
