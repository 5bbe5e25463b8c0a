import { isBreak, type Term } from '../calendar/term';
import { addDays, daysBetween, instantOf } from '../calendar/zone';
import { MINUTE_MS, type Instant, type LocalDate, type Minutes } from '../units';

/** How often times come again. */
export const REPEATS = ['once', 'weekly', 'every two weeks'] as const;
export type Repeat = (typeof REPEATS)[number];

/** Times at which an instructor can be seen: a stretch of a day, cut into talks of one length. */
export interface TalkTimes {
  readonly repeat: Repeat;
  readonly firstOn: LocalDate;
  /** The last day on which they can come; the first, for times that come once. */
  readonly lastOn: LocalDate;
  /** Minutes after midnight, in the course's zone. */
  readonly from: number;
  readonly until: number;
  /** Length of a talk. */
  readonly minutes: Minutes;
  /** How many students can come at once. */
  readonly seats: number;
  /** Days on which they do not take place. */
  readonly except: readonly LocalDate[];
}

/** A stretch in which a talk can take place. */
export interface Slot {
  readonly on: LocalDate;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
}

/** A talk that is booked. */
export interface Booked {
  readonly startsAt: Instant;
  readonly endsAt: Instant;
}

/** How far ahead a student sees times, and how long before it begins one can still be taken. */
export const AHEAD_DAYS = 21;
export const LEAD_MINUTES = 30;

const EVERY_DAYS: Readonly<Record<Repeat, number>> = { once: 1, weekly: 7, 'every two weeks': 14 };

/** The days from `from` to `to`, both included, on which times take place: no break of the term, no exception. */
export function daysOfTimes(times: TalkTimes, term: Term, from: LocalDate, to: LocalDate): LocalDate[] {
  const every = EVERY_DAYS[times.repeat];
  const last = times.repeat === 'once' ? times.firstOn : times.lastOn < to ? times.lastOn : to;
  const behind = Math.max(0, Math.ceil(daysBetween(times.firstOn, from) / every));
  const days: LocalDate[] = [];
  for (
    let day = addDays(times.firstOn, (times.repeat === 'once' ? 0 : behind) * every);
    day <= last && day <= to;
    day = addDays(day, every)
  )
    if (day >= from && !times.except.includes(day) && !isBreak(term, day)) days.push(day);
  return days;
}

/**
 * The talks that fit into times on the days from `from` to `to`, one after the other from their start; what is left over
 * at the end is too short for one. By the wall clock of the term's zone: on a day on which the clock changes, a talk that
 * would begin in the skipped hour is left out.
 */
export function slotsOf(times: TalkTimes, term: Term, from: LocalDate, to: LocalDate): Slot[] {
  return daysOfTimes(times, term, from, to).flatMap((on) => {
    const slots: Slot[] = [];
    for (let at = times.from; at + times.minutes <= times.until; at += times.minutes) {
      const startsAt = instantOf(on, at, term.zone);
      const before = slots.at(-1);
      if (before && startsAt < before.endsAt) continue;
      slots.push({ on, startsAt, endsAt: startsAt + times.minutes * MINUTE_MS });
    }
    return slots;
  });
}

const overlap = (a: Booked, b: Booked) => a.startsAt < b.endsAt && b.startsAt < a.endsAt;

/**
 * How many more students can take a slot: none if the instructor is in another talk that overlaps it, else the seats that
 * are left of this one.
 *
 * @param booked the talks of the instructor, in whatever course
 */
export function seatsLeft(slot: Slot, seats: number, booked: readonly Booked[]): number {
  const beside = booked.filter((b) => overlap(b, slot));
  const same = beside.filter((b) => b.startsAt === slot.startsAt && b.endsAt === slot.endsAt);
  return same.length < beside.length ? 0 : Math.max(0, seats - same.length);
}
