import { localDate } from '@/core/calendar/zone';
import { goalProgress, nextGoal, type GoalProgress } from '@/core/outcomes/goals';
import type { Instant } from '@/core/units';
import { readGoals, type StoredGoal } from '@/data/queries/goals';
import { database } from '../base/database';
import type { Snapshot } from './snapshot';

const NONE: ReadonlySet<number> = new Set();

/** The goals of a course, and how far each student is with one. */
export async function goalsIn(snapshot: Snapshot, at: Instant) {
  const { row } = await snapshot.model();
  const goals = await readGoals(await database(), row.id);
  // Without a goal nobody asks for them.
  const learned = goals.length === 0 ? new Map<number, never[]>() : await snapshot.masteries();
  const today = localDate(at, row.zone);
  const secureOf = (student: number) =>
    new Set((learned.get(student) ?? []).flatMap((m) => (m.level === 'secure' ? [m.outcomeId] : [])));
  const progressOf = (goal: StoredGoal, student: number): GoalProgress =>
    goalProgress(goal, secureOf(student), goal.atStart.get(student) ?? NONE, today);
  return {
    goals,
    progressOf,
    /** How far a student is with the goal of theirs, or of everybody, that is due next; null without one. */
    nextOf: (student: number): GoalProgress | null => {
      const next = nextGoal(
        goals.filter((g) => g.student == null || g.student === student),
        today,
      );
      return next && progressOf(next, student);
    },
  };
}
