import { dayNumber, type WorkDays } from '../activity/workDays';
import { addDays, localDate } from '../calendar/zone';
import type { Instant, LocalDate, Minutes } from '../units';
import { median } from '../statistics/quantile';
import type { RuleWork } from './occasions';

/** Days before the hand-in that count where no assignment of its kind was due before. */
const USUAL_DAYS = 14;
/** Students with a time from whom on a median says something. */
const LEAST_STUDENTS = 5;

/** The activities that share an outcome with an assignment, without itself: what it rests on. */
export function materialOf(work: number, covers: ReadonlyMap<string, readonly string[]>): Set<number> {
  const own = new Set(covers.get(String(work)) ?? []);
  return new Set(
    [...covers].flatMap(([id, outcomes]) =>
      Number(id) !== work && outcomes.some((o) => own.has(o)) ? [Number(id)] : [],
    ),
  );
}

/**
 * The days in which time on its material counts: from the day after the last assignment of its kind was due (else 14
 * days before) to that of the hand-in, or of its own due date where it was not handed in.
 */
export function materialDays(
  work: RuleWork,
  works: readonly RuleWork[],
  handedIn: Instant | null,
  at: Instant,
  zone: string,
): { readonly from: LocalDate; readonly to: LocalDate } {
  const until = Math.min(handedIn ?? work.due ?? at, at);
  const before = works
    .filter((w) => w.id !== work.id && w.kind === work.kind && w.due != null && w.due < (work.due ?? until))
    .map((w) => w.due!);
  const to = localDate(until, zone);
  const from =
    before.length > 0 ? addDays(localDate(Math.max(...before), zone), 1) : addDays(to, -USUAL_DAYS);
  return { from: from < to ? from : to, to };
}

/** Minutes of a student on some activities in some days. */
export function minutesOn(
  own: WorkDays | undefined,
  activities: ReadonlySet<number>,
  { from, to }: { readonly from: LocalDate; readonly to: LocalDate },
): Minutes {
  let seconds = 0;
  const [first, last] = [dayNumber(from), dayNumber(to)];
  for (let i = 0; i < (own?.count ?? 0); i++) {
    const day = own!.day[i]!;
    if (day >= first && day <= last && activities.has(own!.activity[i]!)) seconds += own!.seconds[i]!;
  }
  return seconds / 60;
}

/** The median that a student's time on the material is held against; null under five students, or where it is none. */
export function medianMinutes(minutes: readonly Minutes[]): Minutes | null {
  if (minutes.length < LEAST_STUDENTS) return null;
  const found = median(minutes);
  return found == null || found <= 0 ? null : found;
}
