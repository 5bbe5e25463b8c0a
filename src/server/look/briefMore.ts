import { localDate } from '@/core/calendar/zone';
import { trendSentence } from '@/core/gradebook/trendWords';
import type { BriefMore, BriefView } from '@/core/views/brief';
import { accommodationOf } from '@/data/queries/accommodations';
import { besideOf } from '@/data/queries/beside';
import { now } from '../base/clock';
import { database } from '../base/database';
import { assignmentsOf } from './assignments';
import { joinedAt } from '../snapshot/cellStatus';
import { notesOf } from '@/data/queries/acts';
import { contactsOf } from '@/data/queries/contacts';
import { helpingsOf } from '@/data/queries/support';
import type { Viewer } from '../access/viewer';
import { happenedSince } from '../follow/happenedSince';
import { type Snapshot } from '../snapshot/snapshot';

/** Notes, assignments, and what happened since the last talk: what only the page of a student shows. */
export async function moreOf(viewer: Viewer, snapshot: Snapshot, brief: BriefView): Promise<BriefMore> {
  const { row: course } = await snapshot.model();
  const written = await notesOf(await database(), viewer.userId, brief.student.enrolmentId);
  const talk = written.find((n) => n.kind !== 'note');
  return {
    notes: written,
    contacts: (await contactsOf(await database(), course, brief.student.enrolmentId)).reverse(),
    helpings: await helpingsOf(await database(), viewer.userId, brief.student.enrolmentId),
    sinceTalk: talk
      ? { on: talk.on, by: talk.by, ...(await happenedSince(snapshot, brief.student.enrolmentId, talk.on)) }
      : null,
    assignments: await assignmentsOf(
      snapshot,
      brief.student.enrolmentId,
      joinedAt(await snapshot.model(), brief.student),
    ),
    beside: await besideOf(await database(), brief.student.enrolmentId),
    accommodation: {
      enrolmentId: brief.student.enrolmentId,
      ...(await accommodationOf(await database(), brief.student.enrolmentId)),
    },
    today: localDate(now(), course.zone),
    standingTrend: trendSentence(brief.measures?.trend ?? null),
  };
}
