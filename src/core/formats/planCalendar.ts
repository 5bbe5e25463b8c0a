import { createEvents, type EventAttributes } from 'ics';
import type { Instant, LocalDate, Minutes } from '../units';
import { addDays } from '../calendar/zone';
import { calendarText } from './talkCalendar';

/** An open step of a plan as a calendar gets it: on a day, at no time of it. */
export interface CalendarStep {
  /** The same for the life of the step, however often it is moved. */
  readonly uid: string;
  readonly on: LocalDate;
  readonly title: string;
  readonly minutes: Minutes;
  readonly course: string;
  readonly why: string;
  /** When and where a lesson is; null for a step that has a day only. */
  readonly lesson: { readonly at: Instant; readonly place: string } | null;
}

const parts = (day: LocalDate): [number, number, number] => {
  const [year, month, date] = day.split('-').map(Number);
  return [year!, month!, date!];
};

/** A span of time in UTC, as the library wants it. */
const timed = (at: Instant, minutes: Minutes) =>
  ({ start: at, startInputType: 'utc', startOutputType: 'utc', duration: { minutes } }) as const;

/**
 * The open steps of somebody's plans as one iCalendar feed (RFC 5545) of all-day events, lessons at their time; a calendar that fetches it again moves
 * what moved. Without a step it is an empty calendar.
 *
 * @throws if a date cannot be written; days of plans are checked before
 */
export function planCalendar(steps: readonly CalendarStep[], at: Instant): string {
  if (steps.length === 0)
    return ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Ready Lantern//Plans//EN', 'END:VCALENDAR', ''].join(
      '\r\n',
    );
  const { value, error } = createEvents(
    steps.map((s): EventAttributes & { readonly timestamp: Instant } => ({
      uid: s.uid,
      ...(s.lesson ? timed(s.lesson.at, s.minutes) : { start: parts(s.on), end: parts(addDays(s.on, 1)) }),
      ...(s.lesson?.place ? { location: calendarText(s.lesson.place) } : {}),
      title: calendarText(`${s.title} (${s.minutes} min)`),
      description: calendarText(`${s.course}${s.why ? `: ${s.why}` : ''}`),
      status: 'CONFIRMED',
      busyStatus: s.lesson ? 'BUSY' : 'FREE',
      productId: '-//Ready Lantern//Plans//EN',
      timestamp: at,
    })),
  );
  if (value == null) throw error ?? new Error('the plan could not be written as a calendar');
  return value;
}
