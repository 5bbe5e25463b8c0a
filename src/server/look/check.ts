import { and, gte, lte, sql } from 'drizzle-orm';
import {
  checkStudent,
  piecesAllowed,
  USUAL_PIECE_MINUTES,
  type CheckEvent,
  type CheckPeriod,
  type Checked,
} from '@/core/activity/sessionCheck';
import { sessionize } from '@/core/activity/sessions';
import { usualMinutes } from '@/core/activity/usualMinutes';
import { isResource, type ActivityKind } from '@/core/course/kinds';
import { MINUTE_MS, type Minutes } from '@/core/units';
import type { OwnCheck } from '@/core/views/session';
import type { Access } from '@/data/database';
import type { CourseModel } from '@/data/queries/courseModel';
import { toColumns, type DerivableEvent } from '@/data/queries/eventColumns';
import { idsIn } from '@/data/queries/idsIn';
import { readTypical } from '@/data/queries/typicalDwells';
import { seenEvents } from '@/data/schema';
import type { Snapshot } from '../snapshot/snapshot';

/** What each of some students did in a period: the session check, and a student's own view of it. */
export async function checksOf(
  access: Access,
  snapshot: Snapshot,
  ids: readonly number[],
  period: CheckPeriod,
): Promise<Map<number, OwnCheck & Pick<Checked, 'loggedIn'>>> {
  if (ids.length === 0) return new Map();
  const course = await snapshot.model();
  const kindOf = new Map(course.activities.map((a) => [a.id, a.kind]));
  const activityOf = new Map(course.activities.map((a) => [a.id, a]));
  const usual = usualMinutes<ActivityKind>((await snapshot.workDays()).values(), (id) => kindOf.get(id));
  const usualOf = (id: number): Minutes => {
    const activity = activityOf.get(id)!;
    return usual.get(activity.kind) ?? activity.minutes ?? USUAL_PIECE_MINUTES;
  };
  const length = (period.until - period.from) / MINUTE_MS;
  const events = await eventsAround(access, course, ids, period);
  return new Map(
    ids.map((id, s) => {
      const found = checkStudent(events[s]!, period, (a) => !isResource(kindOf.get(a)!));
      return [
        id,
        {
          ...found,
          pieces: found.pieces.map(({ activity, ...piece }) => ({
            ...piece,
            activityId: activity,
            title: activityOf.get(activity)!.title,
            planned: activityOf.get(activity)!.minutes,
          })),
          fit: piecesAllowed(
            length,
            found.pieces.map((p) => usualOf(p.activity)),
          ),
        },
      ];
    }),
  );
}

/** Events of a period with their dwells, by place of the student: cut like everybody's sessions. */
async function eventsAround(
  access: Access,
  course: CourseModel,
  ids: readonly number[],
  { from, until }: CheckPeriod,
): Promise<CheckEvent[][]> {
  const gapMinutes = course.row.sessionGapMinutes;
  // What began before may last into the period; what follows it ends what is in it.
  const rows: DerivableEvent[] = await access.orm
    .select({
      enrolmentId: seenEvents.enrolmentId,
      // As a number at once: thousands of dates are slow to make.
      at: sql<number>`extract(epoch from ${seenEvents.at}) * 1000`.mapWith(Number),
      kind: seenEvents.kind,
      activityId: seenEvents.activityId,
      duration: seenEvents.durationS,
    })
    .from(seenEvents)
    .where(
      and(
        idsIn(seenEvents.enrolmentId, ids),
        gte(seenEvents.at, new Date(from - gapMinutes * MINUTE_MS)),
        lte(seenEvents.at, new Date(until + gapMinutes * MINUTE_MS)),
      ),
    );
  const columns = toColumns(course, rows, ids);
  const typical = await readTypical(access, ids);
  const { order, dwells } = sessionize(columns, { gapMinutes, last: 'own', typical });
  return ids.map((_, s) => {
    const own: CheckEvent[] = [];
    for (let p = order.offsets[s]!; p < order.offsets[s + 1]!; p++) {
      const place = columns.activity[order.rows[p]!]!;
      own.push({
        at: order.at[p]!,
        kind: rows[order.rows[p]!]!.kind,
        activity: place < 0 ? null : course.activities[place]!.id,
        dwell: dwells.dwell[p]!,
      });
    }
    return own;
  });
}
