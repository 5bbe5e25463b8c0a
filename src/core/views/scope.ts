import { windowText, type Window } from '../calendar/window';
import type { ActivityKind } from '../course/kinds';
import { EVERYONE, type Audience } from '../people/audience';
import type { Instant, LocalDate } from '../units';

/** A monitoring group (`m` and its id), or a saved audience (`a` and its id). */
export type NamedGroup = `m${number}` | `a${number}`;
/** Everyone, the section of that id, those in the selection tray, or people under a name of their own. */
export type GroupChoice = 'all' | 'selection' | number | NamedGroup;

/** What a view covers: which days, whose, which kind of activity. */
export interface Scope {
  readonly window: Window;
  readonly group: GroupChoice;
  readonly kind: ActivityKind | null;
}

/** A scope as an address says it. */
export interface ScopeText {
  readonly w: string;
  readonly g: string;
  readonly k: string;
}

/** Writes a scope for an address. */
export const scopeText = ({ window, group, kind }: Scope): ScopeText => ({
  w: windowText(window.choice),
  g: String(group),
  k: kind ?? 'all',
});

/** The scope with what its controls need. */
export interface ScopeView extends Scope {
  /** Whether an address without a scope comes back to this one. */
  readonly isKept: boolean;
  readonly sections: readonly { readonly id: number; readonly name: string }[];
  /**
   * Monitoring groups that the viewer answers for, and the saved audiences of the course. Who is in an audience is
   * found where it is looked at; else null.
   */
  readonly groups: readonly {
    readonly key: NamedGroup;
    readonly name: string;
    readonly members: readonly number[] | null;
  }[];
  readonly kinds: readonly ActivityKind[];
  /** Whether the viewer has folded the term ribbon away. */
  readonly folded: boolean;
  readonly picked: number;
  readonly today: LocalDate;
  readonly now: Instant;
  readonly zone: string;
  readonly termStart: LocalDate;
}

/** The group looked at, among the people of a course. */
export function groupAudience(
  { group, groups }: Pick<ScopeView, 'group' | 'groups'>,
  people: readonly { readonly enrolmentId: number; readonly sectionId: number | null }[],
  selection: readonly number[],
): Audience {
  if (group === 'all') return EVERYONE;
  if (group === 'selection') return { people: selection };
  return {
    people:
      typeof group === 'number'
        ? people.filter((p) => p.sectionId === group).map((p) => p.enrolmentId)
        : (groups.find((g) => g.key === group)?.members ?? []),
  };
}

/** What the group looked at is called; null for the whole course. */
export function groupName({
  group,
  groups,
  sections,
}: Pick<ScopeView, 'group' | 'groups' | 'sections'>): string | null {
  if (group === 'all') return null;
  if (group === 'selection') return 'the selection';
  const found =
    typeof group === 'number' ? sections.find((s) => s.id === group) : groups.find((g) => g.key === group);
  return found?.name ?? null;
}
