import type { Instant, Seconds } from '../units';

/** One recorded action. */
export interface StudentEvent {
  readonly id: string | null;
  readonly student: string;
  readonly at: Instant;
  /** Kind of activity or action, for the typical dwell; any word. `login` starts a session. */
  readonly kind: string;
  /** Stated duration, or null. */
  readonly duration: Seconds | null;
}

/** Events as columns, for courses of a million of them. Rows in any order. */
export interface EventColumns {
  readonly count: number;
  /** Students are numbered 0 .. studentCount - 1. */
  readonly studentCount: number;
  readonly student: Int32Array;
  readonly at: Float64Array;
  /** Number of the kind, 0 .. 255: events of one kind share a typical dwell. */
  readonly kind: Uint8Array;
  /** 1 for a login. */
  readonly login: Uint8Array;
  /** Stated durations in seconds, NaN where none is stated; null if none is stated at all. */
  readonly duration: Float64Array | null;
  /** What each row counts as (`ROLE`); absent where nobody asks. */
  readonly role?: Uint8Array;
}

/**
 * Drops events whose id occurred before (the first in order of instant, then of content, is kept); events without id
 * are all kept. The result does not depend on the order of the input.
 */
export function dropDuplicates<E extends StudentEvent>(events: readonly E[]): E[] {
  const kept = new Map<string, E>();
  const rest: E[] = [];
  const key = (e: E) => `${e.student}\u0000${e.kind}\u0000${e.duration ?? ''}`;
  for (const event of events) {
    if (event.id == null) {
      rest.push(event);
      continue;
    }
    const other = kept.get(event.id);
    if (!other || event.at < other.at || (event.at === other.at && key(event) < key(other))) {
      kept.set(event.id, event);
    }
  }
  return [...kept.values(), ...rest];
}

/** Events as columns, with the names of the students (ascending) that the numbers stand for. */
export function toColumns(events: readonly StudentEvent[]): { columns: EventColumns; students: string[] } {
  const students = [...new Set(events.map((e) => e.student))].sort();
  const numberOf = new Map(students.map((s, i) => [s, i]));
  const kinds = new Map<string, number>();
  const columns = {
    count: events.length,
    studentCount: students.length,
    student: new Int32Array(events.length),
    at: new Float64Array(events.length),
    kind: new Uint8Array(events.length),
    login: new Uint8Array(events.length),
    duration: new Float64Array(events.length).fill(NaN),
  };
  // Kinds are numbered by name, so that the numbers, which break ties, do not depend on the order of the input.
  for (const kind of [...new Set(events.map((e) => e.kind))].sort())
    kinds.set(kind, Math.min(255, kinds.size));
  events.forEach((event, i) => {
    columns.student[i] = numberOf.get(event.student)!;
    columns.at[i] = event.at;
    columns.kind[i] = kinds.get(event.kind)!;
    columns.login[i] = event.kind === 'login' ? 1 : 0;
    if (event.duration != null) columns.duration[i] = event.duration;
  });
  return { columns, students };
}
