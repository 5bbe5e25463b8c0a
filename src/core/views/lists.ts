import type { EnrolmentStatus } from '../course/kinds';
import type { Instant, LocalDate, Percent } from '../units';
import type { CellStatus } from '../gradebook/status';
import type { ViewFrame } from './frame';

/** Lists of assignments by status. */
export const WORK_LISTS = ['missing', 'late', 'awaiting', 'excused'] as const;
export type WorkList = (typeof WORK_LISTS)[number];
/** Lists of people: everybody, addresses, who was not there in the window, who came or went. */
export const PEOPLE_LISTS = ['roster', 'contacts', 'not-seen', 'joined-left'] as const;
export type PeopleList = (typeof PEOPLE_LISTS)[number];
export const LISTS = [...WORK_LISTS, ...PEOPLE_LISTS] as const;
export type ListName = (typeof LISTS)[number];
export const isPeopleList = (list: ListName): list is PeopleList => PEOPLE_LISTS.some((l) => l === list);

/** One student's work on a list. */
export interface WorkLine {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  readonly title: string;
  readonly due: Instant | null;
  readonly submitted: Instant | null;
  readonly status: CellStatus;
  readonly points: number | null;
  readonly maximum: number | null;
  /** Days since it was due (missing), late by (late), or waiting since (awaiting). */
  readonly days: number | null;
}

export interface RosterLine {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly email: string | null;
  readonly section: string | null;
  readonly status: EnrolmentStatus;
  readonly joined: LocalDate | null;
  readonly left: LocalDate | null;
  readonly lastSeen: LocalDate | null;
  readonly missing: number | null;
  readonly standing: Percent | null;
}

export interface ListsView extends ViewFrame {
  readonly list: ListName;
  readonly dueInWindow: boolean;
  readonly counts: Readonly<Record<ListName, number>>;
  readonly works: readonly WorkLine[];
  readonly people: readonly RosterLine[];
}
