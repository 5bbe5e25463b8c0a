import { windowText, type Window } from '../calendar/window';
import type { ActivityKind } from '../course/kinds';
import { EVERYONE, type Audience } from '../people/audience';
import type { Instant, LocalDate } from '../units';

/** Everyone, the section of that id, those in the selection tray, or a monitoring group (`m` and its id). */
export type GroupChoice = 'all' | 'selection' | number | `m${number}`;

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
  /** Monitoring groups that the viewer answers for, with their members in this course. */
  readonly groups: readonly {
    readonly id: number;
    readonly name: string;
    readonly members: readonly number[];
  }[];
  readonly kinds: readonly ActivityKind[];
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
        : (groups.find((g) => `m${g.id}` === group)?.members ?? []),
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
    typeof group === 'number'
      ? sections.find((s) => s.id === group)
      : groups.find((g) => `m${g.id}` === group);
  return found?.name ?? null;
}
