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

/** Computes once, when it is first asked for. */
function lazily<T>(compute: () => T): () => T {
  let known: { readonly value: T } | null = null;
  return () => (known ??= { value: compute() }).value;
}

/** A class at an instant: what its students' measures have in common, each found when it is first asked for. */
class ClassFigures {
  readonly today: LocalDate;
  readonly works = lazily(() => this.record.students.map((s) => gradedWorks(this.record, s, this.asOf)));
  readonly medians = lazily(() => activityMedians(this.works()));
  readonly recent = lazily(() => windowTimes(this.record, this.windows.recent, this.today));
  readonly effort = lazily(() => windowTimes(this.record, this.windows.effort, this.today));
  readonly activityKnown = lazily(() =>
    this.record.students.some((s) => s.days[0] != null && s.days[0].date <= this.today),
  );
  readonly ranked = lazily(() => this.record.students.flatMap((_, i) => this.standing(i).standing ?? []));
  readonly relation = lazily(() =>
    effortRelation(
      this.record.students.map(({ id }, i) => ({
        id,
        minutes: this.effort()[i]!.minutes,
        progress: this.standing(i).standing,
        whole: this.effort()[i]!.whole,
      })),
    ),
  );
  readonly #standings: Standing[] = [];

  constructor(
    readonly record: ClassRecord,
    readonly windows: TimeWindows,
    readonly asOf: Instant,
  ) {
    this.today = localDate(asOf, record.term.zone);
  }

  standing(i: number): Standing {
    return (this.#standings[i] ??= this.standingAt(i, this.asOf));
  }

  standingAt(i: number, at: Instant): Standing {
    const student = this.record.students[i]!;
    const book = bookSince(this.record, startOfDay(student.joined, this.record.term.zone));
    return standing(book, student.scores, at);
  }
}

/** The measures of one student of a class, each found when it is first asked for. */
class LazyMeasures implements StudentMeasures {
  readonly #of: ClassFigures;
  readonly #i: number;
  readonly #rhythm = lazily(() => {
    const { days, joined } = this.#student;
    const { today, record } = this.#of;
    const active = days.filter((d) => d.date <= today).map((d) => d.date);
    return rhythm(active, joined, today, record.term);
  });

  constructor(of: ClassFigures, i: number) {
    this.#of = of;
    this.#i = i;
  }

  get #student(): StudentRecord {
    return this.#of.record.students[this.#i]!;
  }
  get activityKnown() {
    return this.#of.activityKnown();
  }
  get rhythm() {
    return this.#rhythm();
  }
  get recentTime() {
    return this.#of.recent()[this.#i]!;
  }
  get effortTime() {
    return this.#of.effort()[this.#i]!;
  }
  get effortBand() {
    return this.#of.relation().places.get(this.#student.id) ?? null;
  }
  get completion() {
    const { record, asOf } = this.#of;
    const { joined, scores } = this.#student;
    return completion(worksSince(record, startOfDay(joined, record.term.zone)), scores, asOf);
  }
  get standing() {
    return this.#of.standing(this.#i);
  }
  get gradedWorks() {
    return this.#of.works()[this.#i]!.length;
  }
  get standingBefore() {
    return this.#of.standingAt(this.#i, this.#of.asOf - 28 * DAY_MS).standing;
  }
  get standingRank() {
    const own = this.standing.standing;
    return own == null ? null : percentileRank(this.#of.ranked(), own);
  }
  get trend() {
    return gradeTrend(this.#of.works()[this.#i]!, this.#of.medians());
  }
  get gain() {
    return gainAgainstClass(this.#of.works()[this.#i]!, this.#of.medians());
  }
}

/**
 * The measures of the students of a class as of an instant, by student id, each computed when it is first asked for:
 * for who asks for few of them, at many instants.
 */
export function lazyMeasures(
  record: ClassRecord,
  windows: TimeWindows,
  asOf: Instant,
): ReadonlyMap<number, StudentMeasures> {
  const all = new ClassFigures(record, windows, asOf);
  return new Map(record.students.map((s, i) => [s.id, new LazyMeasures(all, i)]));
}

/**
 * The measures of every student of a class as of an instant, by student id. Class medians and ranks are over the
 * same active students. Nothing from after the instant is looked at. A step is one student's standing, or the rest of
 * one student's measures.
 */
export function* measureClass(
  record: ClassRecord,
  windows: TimeWindows,
  asOf: Instant,
): Steps<Map<number, StudentMeasures>> {
  const all = new ClassFigures(record, windows, asOf);
  for (const [i] of record.students.entries()) {
    all.standing(i);
    yield;
  }
  const result = new Map<number, StudentMeasures>();
  for (const [i, { id }] of record.students.entries()) {
    const m = new LazyMeasures(all, i);
    result.set(id, {
      activityKnown: m.activityKnown,
      rhythm: m.rhythm,
      recentTime: m.recentTime,
      effortTime: m.effortTime,
      effortBand: m.effortBand,
      completion: m.completion,
      standing: m.standing,
      gradedWorks: m.gradedWorks,
      standingBefore: m.standingBefore,
      standingRank: m.standingRank,
      trend: m.trend,
      gain: m.gain,
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
