import { createEvent, type EventAttributes } from 'ics';
import type { Instant } from '../units';

/** A talk as a calendar gets it. */
export interface CalendarTalk {
  /** The same for the life of the talk, however often it is moved. */
  readonly uid: string;
  /** Counts its changes; a calendar takes the highest. */
  readonly sequence: number;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly title: string;
  readonly place: string;
  /** When it was last changed, for DTSTAMP and LAST-MODIFIED. */
  readonly changedAt: Instant;
  readonly organizer: { readonly name: string; readonly email: string };
  /** Who was invited; null in the organizer's own calendar. */
  readonly attendee: { readonly name: string; readonly email: string } | null;
  readonly cancelled: boolean;
}

/** How the file is meant (RFC 5546): an invitation or its cancelling for a guest, what stands for the organizer. */
export type CalendarMethod = 'REQUEST' | 'CANCEL' | 'PUBLISH';

export const methodOf = ({
  attendee,
  cancelled,
}: Pick<CalendarTalk, 'attendee' | 'cancelled'>): CalendarMethod =>
  attendee == null ? 'PUBLISH' : cancelled ? 'CANCEL' : 'REQUEST';

/** Minutes before a talk at which the calendar reminds of it. */
const ALARM_MINUTES = 30;

/** A line of a calendar without what would break it: control characters. */
export const calendarText = (text: string): string =>
  [...text]
    .filter((c) => c >= ' ' && c !== '\u007f')
    .join('')
    .trim();

/** A quoted name (RFC 5545, 3.1) cannot hold a quotation mark. */
const quotable = (text: string): string => calendarText(text).replaceAll('"', '’');

/**
 * A talk as an iCalendar file of one event (RFC 5545), its times in UTC.
 *
 * @throws if a date cannot be written; the callers' are checked before
 */
export function talkCalendar(talk: CalendarTalk): string {
  const event: EventAttributes & { readonly timestamp: Instant } = {
    uid: talk.uid,
    sequence: talk.sequence,
    start: talk.startsAt,
    startInputType: 'utc',
    startOutputType: 'utc',
    end: talk.endsAt,
    endInputType: 'utc',
    endOutputType: 'utc',
    title: calendarText(talk.title),
    location: calendarText(talk.place),
    status: talk.cancelled ? 'CANCELLED' : 'CONFIRMED',
    method: methodOf(talk),
    productId: '-//Ready Lantern//Talks//EN',
    timestamp: talk.changedAt,
    lastModified: talk.changedAt,
    organizer: { name: quotable(talk.organizer.name), email: talk.organizer.email },
    ...(talk.attendee
      ? {
          attendees: [
            {
              name: quotable(talk.attendee.name),
              email: talk.attendee.email,
              partstat: 'ACCEPTED',
              role: 'REQ-PARTICIPANT',
            },
          ],
        }
      : {}),
    ...(talk.cancelled
      ? {}
      : {
          alarms: [
            {
              action: 'display',
              description: calendarText(talk.title),
              trigger: { minutes: ALARM_MINUTES, before: true },
            },
          ],
        }),
  };
  const { error, value } = createEvent(event);
  if (value == null) throw error ?? new Error('The calendar file could not be made.');
  return value;
}
