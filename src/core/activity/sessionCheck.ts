import { MINUTE_MS, type Instant, type Minutes } from '../units';
import { roleOf, ROLE, type EventKind } from '../course/kinds';

/** One event of a student and how long it lasted, as sessions have it (see `dwellTimes`). */
export interface CheckEvent {
  readonly at: Instant;
  readonly kind: EventKind;
  readonly activity: number | null;
  /** Milliseconds. */
  readonly dwell: number;
}

/** The time that a check is about; `running` while it goes on, with `until` now. */
export interface CheckPeriod {
  readonly from: Instant;
  readonly until: Instant;
  readonly running: boolean;
}

/** What somebody did with one activity in the period. */
export interface Piece {
  readonly activity: number;
  readonly minutes: Minutes;
  readonly views: number;
  /** Parts answered, posts, practice: what was contributed. */
  readonly contributions: number;
  readonly handedIn: boolean;
}

/** How somebody spent the period, who needs a word first. */
export const CHECK_STATES = [
  'nothing opened',
  'stopped',
  'stuck',
  'little time',
  'reading',
  'working',
  'done',
] as const;
export type CheckState = (typeof CHECK_STATES)[number];

/** What the states go by (our own rules). */
const STOPPED_AFTER: Minutes = 15;
const STUCK = { assignments: 3, minutes: 2 } as const;
const LITTLE_SHARE = 1 / 3;

export const CHECK_WORDS: Readonly<Record<CheckState, string>> = {
  'nothing opened': 'Opened nothing in this time.',
  stopped: `Nothing for ${STOPPED_AFTER} minutes or more.`,
  stuck: `Had ${STUCK.assignments} or more assignments open and answered or handed in nothing.`,
  'little time': 'On task for less than a third of the time.',
  reading: 'Read or watched; nothing was asked of them yet, or nothing answered.',
  working: 'Answered, practiced or handed in.',
  done: 'Handed in every assignment they opened.',
};

export interface Checked {
  readonly state: CheckState;
  readonly pieces: readonly Piece[];
  readonly minutes: Minutes;
  readonly last: Instant | null;
  readonly loggedIn: boolean;
}

/**
 * What one student did in a period: each activity with its minutes and what was contributed. Dwells are those of the
 * student's sessions, cut at both ends of the period: so a meeting has the same minutes here as in any other view.
 *
 * @param events those of the period and any before it whose dwell may reach into it, ascending
 * @param isAssignment whether an activity is handed in (pages and films only count as opened)
 */
export function checkStudent(
  events: readonly CheckEvent[],
  period: CheckPeriod,
  isAssignment: (activity: number) => boolean,
): Checked {
  type Running = { minutes: number; views: number; contributions: number; handedIn: boolean };
  const found = new Map<number, Running>();
  let minutes = 0;
  let last: Instant | null = null;
  for (const { at, kind, activity, dwell } of events) {
    const within = Math.min(at + dwell, period.until) - Math.max(at, period.from);
    const lasted = Math.max(0, within) / MINUTE_MS;
    minutes += lasted;
    // The end belongs to the period: what is recorded this very second counts.
    const inside = at >= period.from && at <= period.until;
    if (inside) last = at;
    if (activity == null || (!inside && lasted === 0)) continue;
    let piece = found.get(activity);
    if (!piece) found.set(activity, (piece = { minutes: 0, views: 0, contributions: 0, handedIn: false }));
    piece.minutes += lasted;
    if (!inside) continue;
    const role = roleOf(kind);
    if (role === ROLE.view) piece.views++;
    if (role === ROLE.contribution) piece.contributions++;
    if (kind === 'submit') piece.handedIn = true;
  }
  const pieces = [...found]
    .map(([activity, piece]): Piece => ({ activity, ...piece }))
    .sort((a, b) => b.minutes - a.minutes || a.activity - b.activity);
  const loggedIn = last != null;
  return { state: stateOf(pieces, minutes, last, period, isAssignment), pieces, minutes, last, loggedIn };
}

/** The state of a student, judged in this order: done, nothing, stopped, stuck, little, reading, working. */
function stateOf(
  pieces: readonly Piece[],
  minutes: Minutes,
  last: Instant | null,
  { from, until, running }: CheckPeriod,
  isAssignment: (activity: number) => boolean,
): CheckState {
  const assignments = pieces.filter((p) => isAssignment(p.activity));
  if (assignments.length > 0 && assignments.every((p) => p.handedIn)) return 'done';
  if (pieces.length === 0) return 'nothing opened';
  if (running && (last == null || until - last >= STOPPED_AFTER * MINUTE_MS)) return 'stopped';
  const contributed = pieces.some((p) => p.contributions > 0);
  const tried = assignments.filter((p) => p.minutes >= STUCK.minutes);
  if (tried.length >= STUCK.assignments && !contributed) return 'stuck';
  if (minutes < ((until - from) / MINUTE_MS) * LITTLE_SHARE) return 'little time';
  return contributed ? 'working' : 'reading';
}

/** What an activity takes where nothing else is known (common practice). */
export const USUAL_PIECE_MINUTES: Minutes = 15;

/** How many activities a period would allow, by what they usually take; at least one. */
export const piecesAllowed = (period: Minutes, usual: readonly Minutes[]): number => {
  const each = usual.length === 0 ? USUAL_PIECE_MINUTES : usual.reduce((a, b) => a + b, 0) / usual.length;
  return Math.max(1, Math.floor(period / Math.max(1, each)));
};

/** Minutes before a meeting ends at which a sign is given: the usual, and the most that can be asked for. */
export const SIGN_MINUTES = { usual: 10, most: 60 } as const;
