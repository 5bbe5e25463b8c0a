import { count } from '../format';
import type { Percent } from '../units';

/** What a template can say of a recipient. */
export const MERGE_FIELDS = [
  'first name',
  'course',
  'what is missing',
  'days since last login',
  'standing',
  'next step',
  'instructor',
] as const;
export type MergeField = (typeof MERGE_FIELDS)[number];
export type MergeValues = Readonly<Record<MergeField, string | null>>;

export const isMergeField = (name: string): name is MergeField =>
  (MERGE_FIELDS as readonly string[]).includes(name);

export interface MergeFacts {
  readonly givenName: string;
  readonly courseTitle: string;
  readonly missingTitles: readonly string[];
  /** Calendar days; null if never seen. */
  readonly daysSince: number | null;
  readonly standing: Percent | null;
  readonly nextStep: string | null;
  readonly instructorName: string;
}

/** "A", "A and B", "A, B and C". */
export function listInWords(items: readonly string[]): string {
  if (items.length < 2) return items[0] ?? '';
  return `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;
}

/** The text of each merge field; null where there is nothing to say, so that the fallback is used. */
export function mergeValues(facts: MergeFacts): MergeValues {
  return {
    'first name': facts.givenName,
    course: facts.courseTitle,
    'what is missing': facts.missingTitles.length > 0 ? listInWords(facts.missingTitles) : null,
    'days since last login': facts.daysSince == null ? null : count(facts.daysSince, 'day'),
    standing: facts.standing == null ? null : `${Math.round(facts.standing)} %`,
    'next step': facts.nextStep,
    instructor: facts.instructorName,
  };
}
