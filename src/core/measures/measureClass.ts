import { effortRelation } from '../activity/effort';
import { rhythm } from '../activity/rhythm';
import { addDays, localDate, startOfDay } from '../calendar/zone';
import { completion } from '../gradebook/completion';
import { standing, type Standing } from '../gradebook/standing';
import { isReturned } from '../gradebook/status';
import { gainAgainstClass } from '../gradebook/gain';
import { activityMedians, gradeTrend, type GradedWork } from '../gradebook/trend';
import { median, percentileRank } from '../statistics/quantile';
import type { Steps } from '../steps';
import { DAY_MS, type Instant, type LocalDate, type Minutes } from '../units';
import { worksSince, type ClassRecord, type StudentRecord } from '../course/record';
import { bookSince } from '../course/bookSince';
import type { StudentMeasures, WindowTime } from './studentMeasures';

/** Returned grades of a student by then, in order of when they were due. */
export function gradedWorks(record: ClassRecord, student: StudentRecord, asOf: Instant): GradedWork[] {
  const works: GradedWork[] = [];
  for (const activity of record.book.activities) {
    const score = student.scores.get(activity.id);
    if (!score || score.excused || activity.points <= 0 || !isReturned(score, asOf)) continue;
    works.push({
      activity: activity.id,
      at: activity.due ?? score.returned!,
      percent: (100 * score.points!) / activity.points,
    });
  }
  return works.sort((a, b) => a.at - b.at || (a.activity < b.activity ? -1 : 1));
}

/** Minutes on task from `from` to `to`, both included. */
export function minutesBetween(student: StudentRecord, from: LocalDate, to: LocalDate): Minutes {
  let seconds = 0;
  for (const day of student.days) if (day.date >= from && day.date <= to) seconds += day.seconds;
  return seconds / 60;
}

/** Days that end today in which the time of a class is held against itself. */
export interface TimeWindows {
  readonly recent: number;
  readonly effort: number;
}

/**
 * The measures of every student of a class as of an instant, by student id. Class medians and ranks are over the
 * same active students. Nothing from after the instant is looked at. A step is one student's standing, or the rest of
 * one student's measures.
 */
export function* measureClass(
  record: ClassRecord,
  { recent: recentDays, effort: effortDays }: TimeWindows,
  asOf: Instant,
): Steps<Map<number, StudentMeasures>> {
  const { term, students } = record;
  const today = localDate(asOf, term.zone);
  const fourWeeksAgo = asOf - 28 * DAY_MS;
  const works = students.map((s) => gradedWorks(record, s, asOf));
  const medians = activityMedians(works);
  const recent = windowTimes(record, recentDays, today);
  const effort = windowTimes(record, effortDays, today);
  const books = students.map((s) => bookSince(record, startOfDay(s.joined, term.zone)));
  const standings: Standing[] = [];
  for (const [i, student] of students.entries()) {
    standings.push(standing(books[i]!, student.scores, asOf));
    yield;
  }
  const activityKnown = students.some((s) => s.days[0] != null && s.days[0].date <= today);
  const ranked = standings.flatMap((s) => (s.standing == null ? [] : [s.standing]));

  const relation = effortRelation(
    students.map(({ id }, i) => ({
      id,
      minutes: effort[i]!.minutes,
      progress: standings[i]!.standing,
      whole: effort[i]!.whole,
    })),
  );

  const result = new Map<number, StudentMeasures>();
  for (const [i, student] of students.entries()) {
    const now = standings[i]!;
    const days = student.days.filter((d) => d.date <= today).map((d) => d.date);
    result.set(student.id, {
      activityKnown,
      rhythm: rhythm(days, student.joined, today, term),
      recentTime: recent[i]!,
      effortTime: effort[i]!,
      effortBand: relation.places.get(student.id) ?? null,
      completion: completion(worksSince(record, startOfDay(student.joined, term.zone)), student.scores, asOf),
      standing: now,
      gradedWorks: works[i]!.length,
      standingBefore: standing(books[i]!, student.scores, fourWeeksAgo).standing,
      standingRank: now.standing == null ? null : percentileRank(ranked, now.standing),
      trend: gradeTrend(works[i]!, medians),
      gain: gainAgainstClass(works[i]!, medians),
    });
    yield;
  }
  return result;
}

/** Minutes of each student in the last days, beside the median of those who were in the course on all of them. */
export function windowTimes({ students, term }: ClassRecord, days: number, until: LocalDate): WindowTime[] {
  const from = addDays(until, 1 - days);
  // Nobody was there before the term began.
  const first = from < term.start ? term.start : from;
  const times = students.map((s) => ({
    minutes: minutesBetween(s, from, until),
    whole: s.joined <= first,
  }));
  const classMedian = median(times.filter((t) => t.whole).map((t) => t.minutes)) ?? 0;
  return times.map((t) => ({ ...t, classMedian }));
}
