import { listed } from '../format';
import { measureOf, type MeasureKey } from '../measures/registry';
import type { StudentMeasures } from '../measures/studentMeasures';

/** What a template can say of a recipient. */
export const MERGE_FIELDS = [
  'first name',
  'course',
  'what is missing',
  'days since last login',
  'standing',
  'next step',
  'assignment',
  'score',
  'outcome',
  'due',
  'not opened yet',
  'my answer',
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
  /** As of the last evaluation. */
  readonly measured: StudentMeasures | null;
  readonly nextStep: string | null;
  /** The assignment that they were selected for, if it is one, and their points in it once they are returned. */
  readonly assignment: {
    readonly title: string;
    readonly score: string | null;
    /** When it is due for them, in words. */
    readonly due: string | null;
    /** Pages and practice for it that they have not opened. */
    readonly notOpened: readonly string[];
    /** What they answered to the item that they were selected for. */
    readonly answer: string | null;
  } | null;
  /** The outcomes of that assignment, else the one they need most. */
  readonly outcomes: readonly string[];
  readonly instructorName: string;
}

/** A measure of a recipient as a text says it; null where it is not known. */
function inWords(key: MeasureKey, { measured }: MergeFacts): string | null {
  const { value, words } = measureOf(key);
  const known = value({ id: 0, measured }, {});
  return known == null ? null : words(known);
}

/** The text of each merge field; null where there is nothing to say, so that the fallback is used. */
export function mergeValues(facts: MergeFacts): MergeValues {
  return {
    'first name': facts.givenName,
    course: facts.courseTitle,
    'what is missing': facts.missingTitles.length > 0 ? listed(facts.missingTitles) : null,
    'days since last login': inWords('daysSince', facts),
    standing: inWords('standing', facts),
    'next step': facts.nextStep,
    assignment: facts.assignment?.title ?? null,
    score: facts.assignment?.score ?? null,
    outcome: facts.outcomes.length > 0 ? listed(facts.outcomes) : null,
    due: facts.assignment?.due ?? null,
    'not opened yet': facts.assignment?.notOpened.length ? listed(facts.assignment.notOpened) : null,
    'my answer': facts.assignment?.answer ?? null,
    instructor: facts.instructorName,
  };
}
