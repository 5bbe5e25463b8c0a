import { and, eq, isNotNull, ne, or } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { DAY_MS, type Instant, type LocalDate } from '@/core/units';
import type { CardPerson, CardView } from '@/core/views/card';
import type { QueueRow } from '@/core/views/rounds';
import { ANSWERED_OPENING, BACK_OPENING, OPENINGS } from '@/core/weekly/openings';
import { groupsToTeach, weakOutcomes } from '@/core/weekly/weakOutcomes';
import { notes } from '@/data/schema';
import { unreadReplies } from '@/data/queries/replies';
import { database } from '../base/database';
import { type Viewer } from '../access/viewer';
import { openView, type Opened } from './frame';
import { allRows, answered } from './rounds';

/** People to speak to, and groups, that fit a phone. */
const MOST_PEOPLE = 3;
const MOST_GROUPS = 3;
/** An absence of so many days, of which somebody has come back within the last few. */
const ABSENCE_DAYS = 7;
const BACK_DAYS = 3;

/** The card for the next meeting: of the section asked for, else of the one that meets first. */
export async function cardView(viewer: Viewer, code: string, asked: number | undefined): Promise<CardView> {
  const opened = await openView(viewer, code, { g: 'all' }, { evaluated: true });
  const { course, scope, row } = opened;
  const { now, today } = scope;
  const next = course.sections
    .flatMap((s) => {
      const meeting = (course.meetingsOfSection.get(s.id) ?? []).find((m) => m.until > now);
      return meeting ? [{ section: s, ...meeting }] : [];
    })
    .sort((a, b) => a.from - b.from);
  const section =
    course.sections.find((s) => s.id === asked) ?? next[0]?.section ?? course.sections[0] ?? null;
  const meeting = next.find((m) => m.section.id === section?.id) ?? null;
  const after = (course.meetingsOfSection.get(section?.id ?? -1) ?? []).find(
    (m) => m.from > (meeting?.until ?? now),
  );
  const people = opened.people.filter((p) => p.sectionId === section?.id);
  const learned = await opened.snapshot.masteries();
  const learners = people.map((p) => ({
    ...p,
    outcomes: new Map((learned.get(p.enrolmentId) ?? []).map((m) => [m.outcomeId, m.level])),
  }));
  const weak = weakOutcomes(course.outcomes, learners, 0);
  const back = await backOf(
    opened,
    people.map((p) => p.enrolmentId),
  );
  const names = new Map(people.map((p) => [p.enrolmentId, p.name]));
  return {
    today,
    sections: course.sections.map(({ id, name }) => ({ id, name })),
    section: section && { id: section.id, name: section.name },
    meeting: meeting && { from: meeting.from, until: meeting.until, running: meeting.from <= now },
    nextDay: after ? localDate(after.from, row.zone) : addDays(today, 7),
    people: await speakTo(
      opened,
      new Set(names.keys()),
      back.map((b) => b.id),
    ),
    outcome: weak[0] ? { title: weak[0].title, behind: weak[0].behind.length, of: weak[0].known } : null,
    groups: groupsToTeach(weak)
      .slice(0, MOST_GROUPS)
      .map((g) => ({ outcome: g.outcome, names: g.members.map((m) => m.name) })),
    back: back.map(({ id, days }) => ({ enrolmentId: id, name: names.get(id)!, days })),
  };
}

/** Whom to speak to: those whose answer nobody has read, then those who wait in Rounds, in its order. */
async function speakTo(
  opened: Opened,
  ofSection: ReadonlySet<number>,
  back: readonly number[],
): Promise<CardPerson[]> {
  const { today } = opened.scope;
  const unread = await unreadReplies(await database(), opened.row.id);
  const { everyone } = await allRows(opened);
  const spoken = await spokenToOn(opened.row.id, today);
  const rows = everyone.filter((r) => ofSection.has(r.enrolmentId) && !spoken.has(r.enrolmentId));
  const said = rows.filter((r) => unread.has(r.enrolmentId));
  const waits = rows.filter((r) => r.level !== 'steady' && !answered(r, today) && !said.includes(r));
  return [...said, ...waits].slice(0, MOST_PEOPLE).map((r) => person(r, unread, back));
}

/** Who was spoken to on a day, or was not there when somebody tried. */
async function spokenToOn(courseId: number, on: LocalDate): Promise<ReadonlySet<number>> {
  const { orm } = await database();
  const rows = await orm
    .select({ id: notes.enrolmentId })
    .from(notes)
    .where(
      and(
        eq(notes.courseId, courseId),
        eq(notes.on, on),
        or(ne(notes.kind, 'note'), isNotNull(notes.result)),
      ),
    );
  return new Set(rows.map((r) => r.id));
}

function person(
  { enrolmentId, name, reasons }: QueueRow,
  unread: ReadonlyMap<number, number>,
  back: readonly number[],
): CardPerson {
  const first = reasons[0];
  const isBack = back.includes(enrolmentId);
  return {
    enrolmentId,
    name,
    why: unread.has(enrolmentId) ? 'An answer of theirs is not read yet.' : (first?.head ?? ''),
    opening: unread.has(enrolmentId)
      ? ANSWERED_OPENING
      : isBack
        ? BACK_OPENING
        : first
          ? OPENINGS[first.kind]
          : BACK_OPENING,
  };
}

/** Who was here in the last days after an absence, the longest first. */
async function backOf(
  { snapshot, scope: { now } }: Opened,
  ids: readonly number[],
): Promise<{ readonly id: number; readonly days: number }[]> {
  const sessions = await snapshot.sessions();
  return ids
    .flatMap((id) => {
      const own = (sessions.get(id) ?? []).map((s): [Instant, Instant] => [s.from, s.until]);
      const gaps = own.flatMap(([from], i) => {
        const days = i === 0 ? 0 : Math.floor((from - own[i - 1]![1]) / DAY_MS);
        return from > now - BACK_DAYS * DAY_MS && days >= ABSENCE_DAYS ? [days] : [];
      });
      return gaps.length > 0 ? [{ id, days: Math.max(...gaps) }] : [];
    })
    .sort((a, b) => b.days - a.days);
}
