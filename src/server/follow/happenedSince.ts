import { startOfDay } from '@/core/calendar/zone';
import type { Happened } from '@/core/acts/happened';
import type { Instant, LocalDate } from '@/core/units';
import { plansOf } from '@/data/queries/plans';
import { now } from '../base/clock';
import { database } from '../base/database';
import { openReasons } from '../snapshot/reasons';
import { loadScores } from '@/data/queries/scores';
import type { Snapshot } from '../snapshot/snapshot';

/**
 * What has happened to a student of a course since a day, up to now: the one answer that the brief, a follow-up and an
 * effect read.
 */
export async function happenedSince(
  snapshot: Snapshot,
  enrolmentId: number,
  on: LocalDate,
): Promise<Happened> {
  const db = await database();
  const course = await snapshot.model();
  const from = startOfDay(on, course.term.zone);
  const until = now();
  const within = (at: Instant | null | undefined) => at != null && at >= from && at <= until;
  const days = ((await snapshot.days()).get(enrolmentId) ?? []).filter((d) => d.date >= on);
  // Of somebody who has left, too: the snapshot holds the scores of those who are active.
  const own = (await loadScores(db, course.row.id, [enrolmentId])).get(enrolmentId);
  const scoreOf = (id: number) => own?.get(String(id));
  const past = ((await snapshot.flags()).get(enrolmentId) ?? []).filter((f) => f.closedOn != null);
  const open = (await openReasons(snapshot, [enrolmentId])).get(enrolmentId) ?? [];
  return {
    days: days.length,
    minutes: days.reduce((sum, d) => sum + d.seconds, 0) / 60,
    handedIn: course.activities.filter((a) => within(scoreOf(a.id)?.submitted)).map((a) => a.title),
    returned: course.activities.flatMap((a) => {
      const score = scoreOf(a.id);
      return score && within(score.returned) && score.points != null && a.points
        ? [{ title: a.title, percent: (100 * score.points) / a.points }]
        : [];
    }),
    ticked: (await plansOf(db, [enrolmentId])).flatMap((p) => p.steps).filter((s) => within(s.doneAt)).length,
    opened: open.filter((r) => r.openedOn >= on).map((r) => r.head),
    closed: past.filter((f) => f.closedOn! >= on).map((f) => f.kind),
  };
}
