import type { NoteKind } from '../acts/act';
import type { Instant, LocalDate } from '../units';

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
