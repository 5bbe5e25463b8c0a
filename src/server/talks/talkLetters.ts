import { eq } from 'drizzle-orm';
import { weekdayAndTime } from '@/core/format';
import { talkCalendar, methodOf, type CalendarTalk } from '@/core/formats/talkCalendar';
import { DAY_MS, HOUR_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import type { TalkRow } from '@/data/queries/talks';
import { enrolments, persons, user } from '@/data/schema';
import { now } from '../base/clock';
import { config } from '../base/config';
import { dropLetters, writeLetters, type NewLetter } from '../mail/letters';
import { fullName } from '../snapshot/roster';
import { shownEmail } from '@/data/queries/shownEmail';

/** Who takes part in a talk. */
interface Parties {
  readonly student: {
    readonly personId: number;
    readonly name: string;
    readonly email: string | null;
    /** The address that those who teach may see. */
    readonly shown: string | null;
  };
  readonly staff: { readonly userId: string; readonly name: string; readonly email: string };
}

export async function partiesOf({ orm }: Access, talk: TalkRow): Promise<Parties> {
  const [found] = await orm
    .select({ person: persons, place: enrolments, user })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .innerJoin(user, eq(user.id, talk.userId))
    .where(eq(enrolments.id, talk.enrolmentId));
  const { person, place, user: staff } = found!;
  return {
    student: {
      personId: person.id,
      name: fullName(person),
      email: person.email,
      shown: shownEmail(person, place),
    },
    staff: { userId: staff.id, name: staff.name, email: staff.email },
  };
}

/** The calendar file of a talk for the student, or for whose talk it is. */
export function calendarOf(
  course: Pick<CourseRow, 'code'>,
  talk: TalkRow,
  { student, staff }: Parties,
  to: 'student' | 'staff',
): { readonly text: string; readonly method: ReturnType<typeof methodOf> } {
  const event: CalendarTalk = {
    uid: talk.uid,
    sequence: talk.sequence,
    startsAt: talk.startsAt.getTime(),
    endsAt: talk.endsAt.getTime(),
    title: `Talk with ${to === 'student' ? staff.name : student.name} (${course.code})`,
    place: talk.place,
    changedAt: talk.changedAt.getTime(),
    organizer: staff,
    attendee: to === 'student' && student.email ? { name: student.name, email: student.email } : null,
    cancelled: talk.cancelledAt != null,
  };
  return { text: talkCalendar(event), method: methodOf(event) };
}

const HEAD = { booked: 'Talk', moved: 'Moved: talk', cancelled: 'Cancelled: talk' } as const;

/** How long before a talk both are reminded; of one that is closer, an hour before. */
const REMIND_MS = DAY_MS;
const LATE_REMIND_MS = HOUR_MS;

function remindAt(startsAt: Instant): Instant | null {
  return [startsAt - REMIND_MS, startsAt - LATE_REMIND_MS].find((at) => at > now()) ?? null;
}

/**
 * Tells both of a talk by e-mail, with the file for their calendar, and sets the reminders; what was to be said of it
 * before and has not gone is dropped. In the transaction of the change.
 */
export async function tellOfTalk(
  tx: Access,
  course: CourseRow,
  talk: TalkRow,
  what: 'booked' | 'moved' | 'cancelled',
): Promise<void> {
  await dropLetters(tx, talk.id);
  const parties = await partiesOf(tx, talk);
  const { student, staff } = parties;
  const startsAt = talk.startsAt.getTime();
  const when = weekdayAndTime(startsAt, course.zone);
  const reminder = what === 'cancelled' ? null : remindAt(startsAt);
  const letters = (['student', 'staff'] as const).flatMap((side): NewLetter[] => {
    const self = side === 'student' ? student : staff;
    const other = side === 'student' ? staff : { name: student.name, email: student.shown };
    if (!self.email) return [];
    const home =
      side === 'student' ? `${config().baseUrl}/home` : `${config().baseUrl}/c/${course.code}/talks`;
    const lines = [
      `${when}, ${talk.place}`,
      ...(talk.why ? [`“${talk.why}”`] : []),
      what === 'cancelled'
        ? `The talk does not take place. ${side === 'student' ? 'You can take another time at' : 'Your talks:'} ${home}`
        : `${side === 'student' ? 'Move or cancel it at' : 'Your talks:'} ${home}`,
    ];
    const shared = {
      courseId: course.id,
      talkId: talk.id,
      enrolmentId: talk.enrolmentId,
      to: { ...self, email: self.email },
      ...(other.email ? { replyTo: other.email } : {}),
    };
    const key = `${talk.uid.split('@')[0]}.${talk.sequence}.${side}`;
    const subject = `${HEAD[what]} with ${other.name}, ${when}`;
    return [
      {
        ...shared,
        key,
        subject,
        body: lines.join('\n\n'),
        calendar: calendarOf(course, talk, parties, side),
      },
      ...(reminder == null
        ? []
        : [
            {
              ...shared,
              key: `${key}.reminder`,
              subject: `Reminder: talk with ${other.name}, ${when}`,
              body: lines.join('\n\n'),
              goesAt: reminder,
            },
          ]),
    ];
  });
  await writeLetters(tx, letters);
}
