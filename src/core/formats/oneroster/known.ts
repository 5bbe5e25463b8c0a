import type { ActivityRecord, RosterRecord } from '../../course/records';

export interface KnownCategory {
  readonly title: string;
  readonly weight: number;
  readonly dropLowest: number;
}

/**
 * What earlier packages said of a course, by the ids of their source: a delta refers to it without saying it again
 * (OneRoster 1.1 and 1.2 CSV: a delta file holds the rows that changed).
 */
export interface KnownCourse {
  /** The id of the course; null if no package has told it. */
  readonly course: string | null;
  /** Name of the section of each class; null for a class that stands for the whole course. */
  readonly classes: ReadonlyMap<string, string | null>;
  readonly categories: ReadonlyMap<string, KnownCategory>;
  readonly people: ReadonlyMap<string, RosterRecord>;
  readonly works: ReadonlyMap<string, ActivityRecord>;
  /** Classes and works of other courses, whose rows are none of this one's. */
  readonly elsewhere: { readonly classes: ReadonlySet<string>; readonly works: ReadonlySet<string> };
}

export const NOTHING_KNOWN: KnownCourse = {
  course: null,
  classes: new Map(),
  categories: new Map(),
  people: new Map(),
  works: new Map(),
  elsewhere: { classes: new Set(), works: new Set() },
};

/** The ids that a package gave to parts of a course: what a later delta goes on from. */
export interface SourceIds {
  readonly course: string;
  readonly classes: ReadonlyMap<string, string | null>;
  /** Title of each category. */
  readonly categories: ReadonlyMap<string, string>;
}
