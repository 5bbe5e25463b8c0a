import type { Window } from '../calendar/window';
import type { ActivityKind } from '../formats/courseFiles';
import type { Instant, LocalDate } from '../units';

/** Everyone, the section of that id, or those in the selection tray. */
export type GroupChoice = 'all' | 'selection' | number;

/** What a view covers: which days, whose, which kind of activity. */
export interface Scope {
  readonly window: Window;
  readonly group: GroupChoice;
  readonly kind: ActivityKind | null;
}

/** The scope with what its controls need. */
export interface ScopeView extends Scope {
  readonly sections: readonly { readonly id: number; readonly name: string }[];
  readonly kinds: readonly ActivityKind[];
  readonly picked: number;
  readonly today: LocalDate;
  readonly now: Instant;
  readonly zone: string;
  readonly termStart: LocalDate;
}
