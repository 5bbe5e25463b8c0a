import { weekOf, weekSpan } from '../calendar/term';
import { startOfDay } from '../calendar/zone';
import { completion } from '../gradebook/completion';
import { standing } from '../gradebook/standing';
import { median, middleHalf } from '../statistics/quantile';
import type { Steps } from '../steps';
import type { Instant, Percent, Seconds } from '../units';
import { bookSince } from '../course/bookSince';
import { worksSince, type ClassRecord } from '../course/record';

/** One term week of a student: the row behind the four strips. */
export interface StudentWeek {
  readonly student: number;
  readonly week: number;
  readonly days: number;
  readonly seconds: Seconds;
  readonly inClassSeconds: Seconds;
  /** As of the end of the week, or now in the week that runs. */
  readonly done: number;
  readonly expected: number;
  readonly standing: Percent | null;
}

export interface ClassWeek {
  readonly week: number;
  readonly medianSeconds: Seconds;
  /** Middle half of the standings; null while fewer than half the class have one. */
  readonly standing: { readonly low: Percent; readonly median: Percent; readonly high: Percent } | null;
}

/**
 * The weeks from 1 to that of `asOf` (at most the last of the term), of every student and of the class. A step is one
 * week of one student.
 */
export function* weeklyPicture(
  record: ClassRecord,
  asOf: Instant,
): Steps<{ students: StudentWeek[]; course: ClassWeek[] }> {
  const { term } = record;
  const current = Math.min(term.weeks, weekOf(term, asOf));
  const students: StudentWeek[] = [];
  const course: ClassWeek[] = [];
  const views = record.students.map((student) => {
    const joinedAt = startOfDay(student.joined, term.zone);
    return { student, book: bookSince(record, joinedAt), works: worksSince(record, joinedAt) };
  });
  for (let week = 1; week <= current; week++) {
    const { first, last, until } = weekSpan(term, week);
    const then = Math.min(until - 1, asOf);
    const rows: StudentWeek[] = [];
    for (const { student, book, works } of views) {
      let days = 0;
      let seconds = 0;
      let inClassSeconds = 0;
      for (const day of student.days) {
        if (day.date < first || day.date > last) continue;
        days++;
        seconds += day.seconds;
        inClassSeconds += day.inClassSeconds;
      }
      const { done, expected } = completion(works, student.scores, then);
      rows.push({
        student: student.id,
        week,
        days,
        seconds,
        inClassSeconds,
        done,
        expected,
        standing: standing(book, student.scores, then).standing,
      });
      yield;
    }
    students.push(...rows);
    const standings = rows.flatMap((r) => (r.standing == null ? [] : [r.standing]));
    course.push({
      week,
      medianSeconds: median(rows.map((r) => r.seconds)) ?? 0,
      standing: 2 * standings.length >= rows.length ? middleHalf(standings) : null,
    });
  }
  return { students, course };
}
