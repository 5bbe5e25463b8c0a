import { desc, eq, inArray } from 'drizzle-orm';
import { factWords } from '@/core/unasked/factWords';
import { HELD, HELD_SAYS } from '@/core/unasked/guards';
import type { OccasionLine } from '@/core/views/rules';
import type { OccasionRow } from '@/data/queries/rules';
import { recipients, rules } from '@/data/schema';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';

/** Occasions as they are read: of whom, about what, and what became of them. */
export async function occasionLines(
  db: Database,
  course: CourseRow,
  list: readonly OccasionRow[],
): Promise<OccasionLine[]> {
  if (list.length === 0) return [];
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const { about } = await classTraits(snapshot, { only: [] });
  const titleOf = new Map(model.activities.map((a) => [a.id, a.title]));
  const people = new Map(
    (
      await roster(
        course.id,
        list.map((o) => o.enrolmentId),
      )
    ).map((p) => [p.enrolmentId, p.name]),
  );
  const names = await db.orm
    .select({ id: rules.id, name: rules.name })
    .from(rules)
    .where(eq(rules.courseId, course.id))
    .orderBy(desc(rules.id));
  const ruleOf = new Map(names.map((r) => [r.id, r.name]));
  const sent = await db.orm
    .select({ id: recipients.id, messageId: recipients.messageId })
    .from(recipients)
    .where(
      inArray(
        recipients.id,
        list.flatMap((o) => (o.recipientId == null ? [] : [o.recipientId])),
      ),
    );
  const messageOfCopy = new Map(sent.map((r) => [r.id, r.messageId]));
  return list.map((o) => {
    const held = HELD.find((h) => h === o.why);
    return {
      id: o.id,
      ruleId: o.ruleId,
      rule: ruleOf.get(o.ruleId) ?? '',
      enrolmentId: o.enrolmentId,
      name: people.get(o.enrolmentId) ?? '',
      at: o.at.getTime(),
      assignment:
        o.activityId == null
          ? null
          : { id: o.activityId, title: titleOf.get(o.activityId) ?? 'an assignment' },
      facts: factWords(o.facts, about),
      state: o.state,
      why: held ? HELD_SAYS[held] : o.why,
      goesAt: o.goesAt?.getTime() ?? null,
      messageId: o.recipientId == null ? null : (messageOfCopy.get(o.recipientId) ?? null),
    };
  });
}
