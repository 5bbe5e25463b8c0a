import { asc, eq } from 'drizzle-orm';
import * as yup from 'yup';
import type { Goal } from '@/core/outcomes/goals';
import type { Access } from '@/data/database';
import { goals } from '@/data/schema';

/** A goal, with whom it is for and where they began. */
export interface StoredGoal extends Goal {
  /** Null for everybody. */
  readonly student: number | null;
  /** Outcomes of it that were secure when it was set, by student. */
  readonly atStart: ReadonlyMap<number, ReadonlySet<number>>;
}

const startSchema = yup.array(yup.number().required()).required();

/** The goals of a course, the one due first first. */
export async function readGoals({ orm }: Access, courseId: number): Promise<StoredGoal[]> {
  const rows = await orm
    .select()
    .from(goals)
    .where(eq(goals.courseId, courseId))
    .orderBy(asc(goals.by), asc(goals.id));
  return rows.map((r) => ({
    id: r.id,
    outcomes: r.outcomeIds,
    from: r.from,
    by: r.by,
    student: r.enrolmentId,
    atStart: new Map(
      Object.entries(r.atStart).map(([id, ids]) => [Number(id), new Set(startSchema.validateSync(ids))]),
    ),
  }));
}
