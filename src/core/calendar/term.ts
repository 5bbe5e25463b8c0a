import { DAY_MS, type Instant, type LocalDate } from '../units';
import { addDays, daysBetween, localDate, startOfDay } from './zone';

export interface Break {
  readonly name: string;
  /** First and last day, both included. */
  readonly from: LocalDate;
  readonly to: LocalDate;
}

/** A term: numbered calendar weeks (break weeks keep their number, so that columns and dates agree). */
export interface Term {
  readonly zone: string;
  /** First day of week 1. */
  readonly start: LocalDate;
  readonly weeks: number;
  readonly breaks: readonly Break[];
}

/** Number of the term week that holds a local day: 1 is the first; 0 and less before; more than `weeks` after. */
export function weekOfDate(term: Term, date: LocalDate): number {
  return Math.floor(daysBetween(term.start, date) / 7) + 1;
}

/** Number of the term week that holds an instant, in the term's zone. */
export function weekOf(term: Term, at: Instant): number {
  return weekOfDate(term, localDate(at, term.zone));
}

/** Whether an instant lies in the weeks of a term. */
export function isInTerm(term: Term, at: Instant): boolean {
  const week = weekOf(term, at);
  return week >= 1 && week <= term.weeks;
}

/** Days and instants of week `week`: `from` included, `until` excluded. */
export function weekSpan(
  term: Term,
  week: number,
): { first: LocalDate; last: LocalDate; from: Instant; until: Instant } {
  const first = addDays(term.start, (week - 1) * 7);
  return {
    first,
    last: addDays(first, 6),
    from: startOfDay(first, term.zone),
    until: startOfDay(addDays(first, 7), term.zone),
  };
}

/** True if the day falls in one of the term's breaks. */
export function isBreak(term: Term, date: LocalDate): boolean {
  return term.breaks.some((b) => date >= b.from && date <= b.to);
}

/** Breaks of a term without overlaps, in days since 1970: what is counted of them is counted once. */
const apart = new WeakMap<readonly Break[], readonly (readonly [first: number, last: number])[]>();

function breakDays(breaks: readonly Break[]): readonly (readonly [first: number, last: number])[] {
  const known = apart.get(breaks);
  if (known) return known;
  const found: [number, number][] = [];
  const sorted = breaks
    .map((b): [number, number] => [dayIndex(b.from), dayIndex(b.to)])
    .sort((a, b) => a[0] - b[0]);
  for (const [first, last] of sorted) {
    const before = found.at(-1);
    if (before && first <= before[1] + 1) before[1] = Math.max(before[1], last);
    else if (last >= first) found.push([first, last]);
  }
  apart.set(breaks, found);
  return found;
}

const dayIndex = (date: LocalDate): number => Math.round(Date.parse(`${date}T00:00:00Z`) / DAY_MS);

/** Teaching days (outside every break) after `from` up to and including `to`. */
export function teachingDaysBetween(
  { breaks }: Pick<Term, 'breaks'>,
  from: LocalDate,
  to: LocalDate,
): number {
  const [first, last] = [dayIndex(from) + 1, dayIndex(to)];
  let days = Math.max(0, last - first + 1);
  if (days > 0)
    for (const [a, b] of breakDays(breaks)) days -= Math.max(0, Math.min(b, last) - Math.max(a, first) + 1);
  return days;
}

/** Numbers of the weeks that lie wholly in a break. */
export function breakWeeks(term: Term): number[] {
  const weeks: number[] = [];
  for (let week = 1; week <= term.weeks; week++) {
    const { first } = weekSpan(term, week);
    // Five weekdays decide: a break from Monday to Friday takes the week.
    if ([0, 1, 2, 3, 4].every((d) => isBreak(term, addDays(first, d)))) weeks.push(week);
  }
  return weeks;
}
