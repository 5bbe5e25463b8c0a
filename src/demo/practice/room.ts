import type { Instant } from '@/core/units';
import type { Scenario } from '../scenario';
import { PracticeStudent, type SentStatement } from './student';

export interface RoomOptions {
  readonly seed: number;
  readonly start: Instant;
  readonly students: number;
  /** So many times faster than life. */
  readonly pace: number;
}

/** Simulated students at work. The same options give the same statements, whenever they are asked for. */
export class PracticeRoom {
  private readonly students: PracticeStudent[];

  constructor(
    made: Pick<Scenario, 'students' | 'activities' | 'gradebook'>,
    { seed, start, students, pace }: RoomOptions,
  ) {
    // The steady ones only: the hard cases of the course stay as they are told.
    const present = made.students.filter(
      ({ roster, habit }) => roster.status === 'active' && habit.name === 'steady',
    );
    const open = made.activities.filter((a) => a.opens == null || a.opens <= start);
    this.students = present.slice(0, students).map((student, i) => {
      const handedIn = made.gradebook
        .filter((g) => g.student === student.roster.id && g.submitted != null)
        .map((g) => g.activity);
      return new PracticeStudent(student, open, handedIn, seed * 1000 + i, start, pace);
    });
  }

  /** Everything done up to an instant since the last call, in order of time. */
  until(at: Instant): SentStatement[] {
    const done: { at: Instant; statement: SentStatement }[] = [];
    for (const student of this.students) {
      while (student.next <= at) {
        const when = student.next;
        done.push({ at: when, statement: student.step() });
      }
    }
    return done.sort((a, b) => a.at - b.at).map((d) => d.statement);
  }
}
