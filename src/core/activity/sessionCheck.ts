import { MINUTE_MS, SECOND_MS, type Instant, type Minutes, type Seconds } from '../units';
import { roleOf, ROLE, type EventKind } from '../course/kinds';

/** One event of a student in the period of a check. */
export interface CheckEvent {
  readonly at: Instant;
  readonly kind: EventKind;
  readonly activity: number | null;
  readonly duration: Seconds | null;
}

/** How far a piece of work got in the period. */
export const ADVANCES = ['opened', 'worked on', 'handed in'] as const;
export type Advance = (typeof ADVANCES)[number];

export interface Piece {
  readonly activity: number;
  readonly minutes: Minutes;
  readonly views: number;
  readonly contributions: number;
  readonly advance: Advance;
}

/** `nothing opened`: a conversation; `lost or stuck`: several opened and none advanced. */
export const CHECK_STATES = ['nothing opened', 'lost or stuck', 'working', 'done'] as const;
export type CheckState = (typeof CHECK_STATES)[number];

export const CHECK_WORDS: Readonly<Record<CheckState, string>> = {
  'nothing opened': 'Opened nothing in this time: talk to them before anything else.',
  'lost or stuck': 'Opened several pieces and got on with none: lost, or stuck.',
  working: 'At work on something.',
  done: 'Handed in what they opened.',
};

/** What a piece takes where nothing else is known (common practice). */
export const USUAL_PIECE_MINUTES = 15;
/** From so many opened pieces without any advance on, somebody is lost rather than reading. */
const SEVERAL = 2;

export interface Checked {
  readonly state: CheckState;
  readonly pieces: readonly Piece[];
  readonly minutes: Minutes;
  readonly last: Instant | null;
  readonly loggedIn: boolean;
}

/**
 * What one student did in a period: each piece with its minutes and how far it got. A dwell runs to the next event,
 * at most the session limit and the end of the period, or the stated duration if shorter; the last event of all runs
 * to the end of the period, at most `USUAL_PIECE_MINUTES`.
 *
 * @param events those of the period, ascending
 * @param until end of the period; not after now
 * @param isWork whether an activity is handed in (pages and films only count as opened)
 */
export function checkStudent(
  events: readonly CheckEvent[],
  until: Instant,
  gapMinutes: Minutes,
  isWork: (activity: number) => boolean,
): Checked {
  type Running = { minutes: number; views: number; contributions: number; submitted: boolean };
  const pieces = new Map<number, Running>();
  let total = 0;
  events.forEach((event, i) => {
    const next = events[i + 1];
    const most = (next ? gapMinutes : USUAL_PIECE_MINUTES) * MINUTE_MS;
    const toNext = (next?.at ?? until) - event.at;
    // A gap over the limit ended the sitting: nobody knows how long the last thing took.
    const ran = next && (toNext > most || next.kind === 'login') ? 0 : Math.min(toNext, most);
    const stated = event.duration == null ? Infinity : event.duration * SECOND_MS;
    const minutes = Math.max(0, Math.min(ran, stated)) / MINUTE_MS;
    total += minutes;
    if (event.activity == null) return;
    const piece = pieces.get(event.activity) ?? {
      minutes: 0,
      views: 0,
      contributions: 0,
      submitted: false,
    };
    piece.minutes += minutes;
    const role = roleOf(event.kind);
    if (role === ROLE.view) piece.views++;
    if (role === ROLE.contribution) piece.contributions++;
    if (event.kind === 'submit') piece.submitted = true;
    pieces.set(event.activity, piece);
  });
  const list = [...pieces].map(([activity, p]): Piece => ({
    activity,
    minutes: p.minutes,
    views: p.views,
    contributions: p.contributions,
    advance: p.submitted ? 'handed in' : p.contributions > 0 ? 'worked on' : 'opened',
  }));
  list.sort((a, b) => b.minutes - a.minutes || a.activity - b.activity);
  return {
    state: stateOf(list, isWork),
    pieces: list,
    minutes: total,
    last: events.at(-1)?.at ?? null,
    loggedIn: events.length > 0,
  };
}

function stateOf(pieces: readonly Piece[], isWork: (activity: number) => boolean): CheckState {
  if (pieces.length === 0) return 'nothing opened';
  const works = pieces.filter((p) => isWork(p.activity));
  if (works.length > 0 && works.every((p) => p.advance === 'handed in')) return 'done';
  if (pieces.length >= SEVERAL && pieces.every((p) => p.advance === 'opened')) return 'lost or stuck';
  return 'working';
}

/** How many pieces a period would allow, by the estimated minutes of each or the usual ones. */
export const piecesAllowed = (period: Minutes, estimated: Minutes | null): number =>
  Math.max(1, Math.floor(period / (estimated ?? USUAL_PIECE_MINUTES)));
