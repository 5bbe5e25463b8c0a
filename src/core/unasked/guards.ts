import type { About } from '../acts/pick';
import { addDays, instantOf, localDate, minuteOfDay, startOfDay } from '../calendar/zone';
import { weekSpan, type Term } from '../calendar/term';
import { DAY_MS, WEEK_MS, type Instant } from '../units';
import { clockText } from '../calendar/clock';

/** What keeps rules from writing too often, and at night. */
export interface Guards {
  /** Days in which nobody gets a second message about the same. */
  readonly coolDownDays: number;
  /** Most messages by rules that anybody gets in seven days, of all their courses together. */
  readonly mostAWeek: number;
  /** Minutes after midnight between which nothing goes out, over midnight where the first is later. */
  readonly quietFrom: number;
  readonly quietTo: number;
}

/** Common practice; every course can change them. */
export const DEFAULT_GUARDS: Guards = {
  coolDownDays: 7,
  mostAWeek: 2,
  quietFrom: 20 * 60,
  quietTo: 7 * 60,
};

/** A message that a person got, or is to get, in any of their courses. */
export interface WrittenTo {
  readonly at: Instant;
  readonly course: number;
  readonly about: About;
  /** By a rule. */
  readonly unasked: boolean;
}

/** Why a rule did not write. */
export const HELD = [
  'outside the term',
  'left the course',
  'excused',
  'handed in',
  'pause',
  'about the same',
  'one a day',
  'enough this week',
  'no text',
] as const;
export type Held = (typeof HELD)[number];

/** What a rule is about to write. */
export interface ToWrite {
  readonly at: Instant;
  readonly course: number;
  readonly about: About;
}

/** What is known of the one it would write to. */
export interface WhoReads {
  readonly active: boolean;
  /** They said that something is in the way; until then rules leave them alone. */
  readonly pausedUntil: Instant | null;
  /** What they were written, in whatever course. */
  readonly written: readonly WrittenTo[];
}

/** Where the assignment stands that it is about. */
export interface WorkNow {
  readonly excused: boolean;
  readonly handedIn: boolean;
}

/**
 * What keeps a rule from writing to somebody at an instant; null if nothing does.
 *
 * @param work the assignment it is about; `reminds` if it asks to hand it in
 */
export function heldBy(
  { at, course, about }: ToWrite,
  { active, pausedUntil, written }: WhoReads,
  guards: Guards,
  term: Term,
  work: (WorkNow & { readonly reminds: boolean }) | null,
): Held | null {
  if (at < startOfDay(term.start, term.zone) || at >= weekSpan(term, term.weeks).until)
    return 'outside the term';
  if (!active) return 'left the course';
  if (work?.excused) return 'excused';
  if (work?.reminds && work.handedIn) return 'handed in';
  if (pausedUntil != null && at < pausedUntil) return 'pause';
  const since = at - guards.coolDownDays * DAY_MS;
  if (written.some((w) => w.about === about && w.at > since && w.at <= at)) return 'about the same';
  const unasked = written.filter((w) => w.unasked && w.at <= at);
  const today = localDate(at, term.zone);
  if (unasked.some((w) => w.course === course && localDate(w.at, term.zone) === today)) return 'one a day';
  if (unasked.filter((w) => w.at > at - WEEK_MS).length >= guards.mostAWeek) return 'enough this week';
  return null;
}

/** Whether an instant lies in the quiet hours of a course. */
export function isQuiet(at: Instant, { quietFrom, quietTo }: Guards, zone: string): boolean {
  if (quietFrom === quietTo) return false;
  const minute = minuteOfDay(at, zone);
  return quietFrom < quietTo
    ? minute >= quietFrom && minute < quietTo
    : minute >= quietFrom || minute < quietTo;
}

/** When something that is decided at an instant goes: at once, or when the quiet hours are over by the clock there. */
export function goesAt(at: Instant, guards: Guards, zone: string): Instant {
  if (!isQuiet(at, guards, zone)) return at;
  const today = localDate(at, zone);
  const morning = instantOf(today, guards.quietTo, zone);
  return morning > at ? morning : instantOf(addDays(today, 1), guards.quietTo, zone);
}

/** Why a rule held back, as the instructor reads it. */
export const HELD_SAYS: Readonly<Record<Held, string>> = {
  'outside the term': 'outside the term',
  'left the course': 'has left the course',
  excused: 'the assignment was excused',
  'handed in': 'handed in meanwhile',
  pause: 'said that something is in the way; rules pause for a week',
  'about the same': 'got a message about the same within the cool-down',
  'one a day': 'got a message by a rule of this course that day',
  'enough this week': 'had got enough messages by rules that week',
  'no text': 'a field of the text was empty for them',
};

/** The limits in a line, for the log. */
export const guardsWords = ({ coolDownDays, mostAWeek, quietFrom, quietTo }: Guards): string =>
  `${coolDownDays} days between two messages about the same thing, at most ${mostAWeek} a week, quiet from ${clockText(quietFrom)} to ${clockText(quietTo)}`;
