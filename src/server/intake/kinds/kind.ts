import type * as yup from 'yup';
import type { Changes } from '@/core/formats/classify';
import type { FileKind, RecordOf, RosterRecord } from '@/core/course/records';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import type { CourseModel } from '@/data/queries/courseModel';
import type { FileIds } from '@/data/queries/fileIds';
import type { ReadOf } from '../readFiles';

/** Points at most by work, as they will be once the import is taken. */
export type Maxima = ReadonlyMap<string, number | null>;

/** Whether a record of that key waits already, and is the same. */
export type Waits = (kind: FileKind) => (key: string, value: unknown) => boolean;

/** What deciding about rows needs to know: the course, and what the kinds before have come to. */
export interface Planning {
  readonly access: Access;
  readonly course: CourseModel;
  readonly userId: string | null;
  readonly now: Instant;
  /** Ids that there will be. */
  readonly outcomes: ReadonlySet<string>;
  readonly students: ReadonlySet<string>;
  readonly maxima: Maxima;
  readonly people: ReadonlyMap<string, RosterRecord>;
  readonly waits: Waits;
}

/** Where records are written: the course, and the ids of its people and activities by those of the files. */
export interface Place {
  readonly course: CourseModel;
  readonly ids: FileIds;
}

/**
 * A kind of record, as the intake takes it: how one is told from another, what stands, what a file would do, how that is
 * written, and how it is taken out again.
 */
export interface IntakeKind<K extends FileKind> {
  readonly keyOf: (record: RecordOf[K]) => string;
  /** A record as it is kept in the database, checked when it is read back. */
  readonly schema: yup.Schema<RecordOf[K]>;
  /** What stands, by key: of the course, or of one of its students. */
  readonly stored: (
    access: Access,
    course: CourseModel,
    enrolmentId?: number,
  ) => Promise<ReadonlyMap<string, RecordOf[K]>>;
  readonly plan: (file: ReadOf<K>, about: Planning) => Promise<Changes<RecordOf[K]>>;
  readonly write: (access: Access, place: Place, changes: Changes<RecordOf[K]>) => Promise<void>;
  /** Takes records out; returns how many stay, since something rests on them by now. */
  readonly remove: (access: Access, place: Place, records: readonly RecordOf[K][]) => Promise<number>;
}

/** Parts of a key in one text. */
export const keyText = (...parts: readonly (string | number | null)[]): string => parts.join('\u0000');

export const toDate = (at: Instant | null) => (at == null ? null : new Date(at));

/** Rows that a plan writes, with their places in the file. */
export const placed = <T>({ added, changed }: Changes<T>) => [...added, ...changed];
