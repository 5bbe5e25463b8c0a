import { and, asc, eq, inArray, lte, sql } from 'drizzle-orm';
import { isSubmitted } from '@/core/gradebook/status';
import { groupBy } from '@/core/groupBy';
import { goesAt, heldBy, type Held } from '@/core/unasked/guards';
import type { SendInput } from '@/core/views/compose';
import type { Access, Database } from '@/data/database';
import { idsIn } from '@/data/queries/idsIn';
import { ruleCourseOf, rulesOf, type RuleRow } from '@/data/queries/rules';
import { occasions, recipients } from '@/data/schema';
import { checkedText, filledCopies, storeMessage, type OwnCopy } from '../act/copies';
import type { Viewer } from '../access/viewer';
import { now, nowDate } from '../base/clock';
import type { CourseRow } from '@/data/queries/courseModel';
import { UseCaseError } from '../base/errors';
import { queueRules } from '../derive/outdated';
import { wakeRunner } from '../jobs/queue';
import { letGo, queueMail } from '../mail/dispatch';
import { snapshotOf } from '../snapshot/snapshot';
import { ownerOf, runningCourse } from '../access/owner';
import { readersOf } from './readers';
import { pauseRule } from './switches';

type Ready = typeof occasions.$inferSelect;

/**
 * Sends what the rules of a course have to go: one message a rule and assignment, a copy for each. Whether anything keeps
 * a rule from writing is asked once more at this moment. The message and what became of its occasions are written in one
 * transaction, so that each goes once, whatever stops in between.
 */
export async function sendReady(db: Database, courseId: number): Promise<void> {
  const course = await runningCourse(db, courseId);
  if (!course) return;
  const at = now();
  const ready = await db.orm
    .select()
    .from(occasions)
    .where(
      and(
        eq(occasions.courseId, courseId),
        eq(occasions.state, 'to go'),
        lte(occasions.goesAt, new Date(at)),
      ),
    )
    .orderBy(asc(occasions.id));
  if (ready.length > 0) {
    const all = await rulesOf(db, courseId);
    for (const rule of all) {
      const own = ready.filter((o) => o.ruleId === rule.id);
      if (own.length === 0) continue;
      const owner = await ownerOf(db, rule.userId, courseId);
      if (!owner) {
        await pauseRule(db, rule.id, 'Whoever it writes for does not teach this course any more.');
        continue;
      }
      // What was about an assignment that is gone says nothing any more.
      const gone = own.filter((o) => o.activityId == null && /^(graded|due) /.test(o.key));
      if (gone.length > 0)
        await settle(
          db,
          gone.map((o) => o.id),
          { state: 'held', why: 'the assignment is gone' },
        );
      const rest = own.filter((o) => !gone.includes(o));
      try {
        // What somebody approved goes in their name; the rest in that of whom the rule is.
        for (const [approver, approved] of groupBy(rest, (o) => o.settledBy)) {
          const sender = (approver != null && (await ownerOf(db, approver, courseId))) || owner;
          for (const [, batch] of groupBy(approved, (o) => o.activityId))
            await sendBatch(db, course, sender, rule, batch);
        }
      } catch (error) {
        // What keeps its text from being written keeps this rule, and no other.
        if (!(error instanceof UseCaseError)) throw error;
        await pauseRule(db, rule.id, error.message);
      }
    }
    wakeRunner();
  }
  const [later] = await db.orm
    .select({ at: sql<Date | null>`min(${occasions.goesAt})`.mapWith(occasions.goesAt) })
    .from(occasions)
    .where(and(eq(occasions.courseId, courseId), eq(occasions.state, 'to go')));
  if (later?.at) await queueRules(db, courseId, Math.max(0, later.at.getTime() - now()));
}

/** The message that goes to the students of some occasions of a rule. */
export const messageOf = (
  { name, parts: { then, about } }: Pick<RuleRow, 'name' | 'parts'>,
  key: string,
  activityId: number | null,
  students: readonly number[],
): SendInput => ({
  key,
  subject: then.subject,
  doc: then.doc,
  reason: `rule: ${name}`,
  about,
  activityId,
  recipients: students.map((enrolmentId) => ({ enrolmentId, plan: null })),
});

async function sendBatch(
  db: Database,
  course: CourseRow,
  owner: Viewer,
  rule: RuleRow,
  batch: readonly Ready[],
): Promise<void> {
  const { parts } = rule;
  const activityId = batch[0]!.activityId;
  const snapshot = await snapshotOf(course);
  const { term } = await snapshot.model();
  const scores = await snapshot.scores();
  const { guards } = await ruleCourseOf(db, course.id);
  // One student can have two occasions of a rule, as with two steps; one message holds the other back.
  const input = messageOf(rule, `rule-${batch[0]!.id}`, activityId, [
    ...new Set(batch.map((o) => o.enrolmentId)),
  ]);
  const { copies } = await filledCopies(owner, course, checkedText(input), { proposes: parts.then.withPlan });
  const copyOf = new Map(copies.map((c) => [c.person.enrolmentId, c]));
  await db.transaction(async (tx) => {
    const mine = await tx.orm
      .select()
      .from(occasions)
      .where(
        and(
          inArray(
            occasions.id,
            batch.map((o) => o.id),
          ),
          eq(occasions.state, 'to go'),
        ),
      )
      .orderBy(asc(occasions.id))
      .for('update');
    const at = now();
    const readers = await readersOf(
      tx,
      course.id,
      mine.map((o) => o.enrolmentId),
      at,
    );
    const goes: { occasion: Ready; copy: OwnCopy }[] = [];
    const taken = new Set<number>();
    const quiet = goesAt(at, guards, term.zone);
    for (const occasion of mine) {
      const score =
        activityId == null ? undefined : scores.get(occasion.enrolmentId)?.get(String(activityId));
      const copy = copyOf.get(occasion.enrolmentId);
      if (quiet > at) {
        // The clock was changed, or the quiet hours were: it goes when they are over.
        await tx.orm
          .update(occasions)
          .set({ goesAt: new Date(quiet) })
          .where(eq(occasions.id, occasion.id));
        continue;
      }
      const why: Held | null = taken.has(occasion.enrolmentId)
        ? 'about the same'
        : (heldBy(
            { at, course: course.id, about: parts.about },
            readers(occasion.enrolmentId, occasion.id),
            guards,
            term,
            activityId == null
              ? null
              : {
                  excused: score?.excused === true,
                  handedIn: isSubmitted(score, at),
                  reminds: parts.when.on === 'due',
                },
          ) ?? (copy ? null : 'no text'));
      if (why == null) {
        taken.add(occasion.enrolmentId);
        goes.push({ occasion, copy: copy! });
      } else await settle(tx, [occasion.id], { state: 'held', why });
    }
    if (goes.length === 0) return;
    const messageId = await storeMessage(tx, owner, course, {
      input,
      copies: goes.map((g) => g.copy),
      goesAt: null,
      along: { offersTalk: parts.then.offersTalk, saysWhy: true, lookAgainOn: null },
      byRule: true,
    });
    // The key is taken: this batch has gone.
    if (messageId == null) return;
    const sent = await tx.orm
      .select({ id: recipients.id, enrolmentId: recipients.enrolmentId })
      .from(recipients)
      .where(
        and(
          eq(recipients.messageId, messageId),
          idsIn(
            recipients.enrolmentId,
            goes.map((g) => g.occasion.enrolmentId),
          ),
        ),
      );
    const recipientOf = new Map(sent.map((r) => [r.enrolmentId, r.id]));
    for (const { occasion } of goes)
      await settle(tx, [occasion.id], {
        state: 'sent',
        recipientId: recipientOf.get(occasion.enrolmentId) ?? null,
      });
    await letGo(tx, messageId);
    await queueMail(tx, messageId);
  });
}

/** Writes what became of occasions. */
export async function settle(
  { orm }: Access,
  ids: readonly number[],
  as: Partial<typeof occasions.$inferInsert>,
): Promise<void> {
  await orm
    .update(occasions)
    .set({ ...as, settledAt: nowDate() })
    .where(inArray(occasions.id, [...ids]));
}
