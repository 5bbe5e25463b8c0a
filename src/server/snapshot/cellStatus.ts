import { startOfDay } from '@/core/calendar/zone';
import { workStatus, type CellStatus } from '@/core/gradebook/status';
import type { Instant } from '@/core/units';
import type { RosterEntry } from '@/core/views/rosterEntry';
import type { ActivityRow, CourseModel } from '@/data/queries/courseModel';
import type { FullScore } from '@/data/queries/scores';

/** Where one student's work stands, as of an instant. */
export function cellStatus(
  activity: ActivityRow,
  score: FullScore | undefined,
  joined: Instant | null,
  asOf: Instant,
): CellStatus {
  const work = { due: activity.dueAt?.getTime() ?? null, graded: activity.points != null };
  const status = workStatus(work, score, asOf);
  const before = joined != null && work.due != null && work.due < joined && score?.due == null;
  return before && status === 'missing' ? 'before joining' : status;
}

export const joinedAt = (course: CourseModel, person: RosterEntry): Instant | null =>
  person.joined == null ? null : startOfDay(person.joined, course.term.zone);
