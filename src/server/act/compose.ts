import { and, asc, eq, inArray, like, or } from 'drizzle-orm';
import { type AlongForm } from '@/core/forms/message';
import { idsIn } from '@/data/queries/idsIn';
import { localDate } from '@/core/calendar/zone';
import { messages, plans, recipients } from '@/data/schema';
import { now } from '../base/clock';
import { courseHead } from '../snapshot/courseHead';
import { database } from '../base/database';
import { type CourseRow } from '@/data/queries/courseModel';
import { invalid, notFound } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { wakeRunner } from '../jobs/queue';
import { letGo, queueMail } from '../mail/dispatch';
import { planActivities } from './plans';
import {
  checkedText,
  copiesOf,
  recipientFacts,
  storeMessage,
  type Chosen,
  type OwnCopy,
  type Text,
} from './copies';
import { removeFromTray, selectAgain } from './tray';
import { requireCourse, type Viewer } from '../access/viewer';
import { LIMITS } from '@/core/messages/limits';
import { DAY_MS, type Instant } from '@/core/units';
import { templatesOf } from '@/data/queries/templates';
import { config } from '../base/config';
import { classTraits } from '../snapshot/traits';
import type { ComposeView, SendInput, Sent } from '@/core/views/compose';
import { snapshotOf } from '../snapshot/snapshot';
import { checkFollowUp, openAgain } from './followUps';
import { offerable } from '../talks/slots';

/** Everything the page that composes needs about the people it writes to. */
export async function composeView(
  viewer: Viewer,
  code: string,
  chosen: readonly Chosen[],
): Promise<ComposeView> {
  const course = await ensureEvaluated(await requireCourse(viewer, 'act', code));
  const people = await recipientFacts(viewer, course, chosen);
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const traits = await classTraits(snapshot);
  return {
    about: traits.about,
    order: traits.people.map((p) => p.enrolmentId),
    templates: await templatesOf(await database(), course.id, viewer.userId, traits.about),
    course: courseHead(course),
    today: localDate(now(), course.zone),
    recipients: people,
    activities: planActivities(model).map(({ id, title, minutes }) => ({ id, title, minutes })),
    talks: await offerable(viewer, course),
  };
}

/**
 * Sends one individual message to each recipient, with their plan, and marks them as handled in Rounds; of several texts,
 * each to its own recipients. All of it or nothing. E-mail copies are queued in the same transaction and go out
 * afterwards.
 *
 * @param inputs the texts, each with a key of its own; the first key stands for all of them
 * @param at when they go; now if left out, which can still be called back for a moment
 * @param along what goes with all of them; nothing if left out
 */
export async function sendMessages(
  viewer: Viewer,
  code: string,
  inputs: readonly SendInput[],
  at: Instant | null = null,
  along: AlongForm = NOTHING_ALONG,
): Promise<Sent> {
  const course = await requireCourse(viewer, 'act', code);
  const ids = inputs.flatMap((i) => i.recipients.map((r) => r.enrolmentId));
  if (ids.length === 0) throw invalid('There is nobody to write to. Select at least one student.');
  if (ids.length > LIMITS.recipients) throw invalid(`At most ${LIMITS.recipients} students at once.`);
  if (new Set(ids).size !== ids.length) throw invalid('Somebody is among the recipients twice.');
  const texts = inputs.map(checkedText);
  const keys = inputs.map((i) => i.key);
  const already = await sentBefore(keys, viewer, course);
  if (already) return already;
  if (at != null && at <= now()) throw invalid('The time at which it is to go has passed.');
  if (at != null && at > now() + MOST_AHEAD_DAYS * DAY_MS)
    throw invalid(`A message can wait for at most ${MOST_AHEAD_DAYS} days.`);
  checkFollowUp(course, along.lookAgainOn);
  if (along.offersTalk && (await offerable(viewer, course)).free === 0)
    throw invalid('You have no free times to offer; give some under Talks, or send it without.');
  const delayMs = at == null ? config().callBackS * 1000 : at - now();
  const goesAt = delayMs > 0 ? now() + delayMs : null;
  const prepared: (Text & { readonly copies: readonly OwnCopy[] })[] = [];
  for (const text of texts) prepared.push({ ...text, copies: await copiesOf(viewer, course, text) });

  const db = await database();
  const messageId = await db.transaction(async (tx) => {
    const made: number[] = [];
    for (const { input, copies } of prepared) {
      const id = await storeMessage(tx, viewer, course, { input, copies, goesAt, along });
      // Somebody was faster with the same key: what they sent stands, and nothing of this.
      if (id == null && made.length > 0) throw invalid('Reload the page and send again.');
      if (id == null) return null;
      made.push(id);
    }
    await removeFromTray(tx, viewer, course, ids);
    for (const id of made) {
      if (delayMs === 0) await letGo(tx, id);
      await queueMail(tx, id, delayMs);
    }
    return made[0]!;
  });
  if (messageId == null) return (await sentBefore(keys, viewer, course))!;
  wakeRunner();
  return { messageId, messages: inputs.length, recipients: ids.length, goesAt, again: false };
}

const NOTHING_ALONG: AlongForm = { offersTalk: false, saysWhy: false, lookAgainOn: null };

/** What was sent under these keys before; null if nothing was. */
async function sentBefore(keys: readonly string[], viewer: Viewer, course: CourseRow): Promise<Sent | null> {
  const { orm } = await database();
  const rows = await orm
    .select()
    .from(messages)
    .where(inArray(messages.key, [...keys]))
    .orderBy(asc(messages.id));
  if (rows.length === 0) return null;
  if (rows.some((row) => row.userId !== viewer.userId || row.courseId !== course.id))
    throw invalid('Reload the page and send again.');
  const copies = await orm
    .select({ id: recipients.id })
    .from(recipients)
    .where(
      idsIn(
        recipients.messageId,
        rows.map((r) => r.id),
      ),
    );
  const waits = rows.find((r) => r.goneAt == null)?.goesAt;
  return {
    messageId: rows[0]!.id,
    messages: rows.length,
    recipients: copies.length,
    goesAt: waits?.getTime() ?? null,
    again: true,
  };
}

/** Days that a message may wait until it goes. */
const MOST_AHEAD_DAYS = 120;

/**
 * Calls messages back that have not gone yet, with their plans and what they answered; whoever was written to is selected
 * again. All of them, or none if one has gone.
 */
export async function callBack(viewer: Viewer, code: string, messageId: number): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  return db.transaction(async (tx) => {
    const { orm } = tx;
    const [asked] = await orm
      .select({ key: messages.key, userId: messages.userId })
      .from(messages)
      .where(and(eq(messages.id, messageId), eq(messages.courseId, course.id)));
    if (!asked) throw notFound('message in this course');
    if (asked.userId !== viewer.userId) throw invalid('Only whoever wrote a message calls it back.');
    // The texts of one composition share its key.
    const [first] = asked.key.split('.');
    const batch = await orm
      .select({ id: messages.id, goneAt: messages.goneAt })
      .from(messages)
      .where(or(eq(messages.key, first!), like(messages.key, `${first}.%`)))
      .for('update');
    if (batch.some((m) => m.goneAt != null)) throw invalid('It has gone by now, and is in their hands.');
    const ids = batch.map((m) => m.id);
    const copies = await orm
      .select({ id: recipients.id, enrolmentId: recipients.enrolmentId, message: messages })
      .from(recipients)
      .innerJoin(messages, eq(messages.id, recipients.messageId))
      .where(idsIn(recipients.messageId, ids));
    await orm.delete(plans).where(
      idsIn(
        plans.recipientId,
        copies.map((c) => c.id),
      ),
    );
    await openAgain(
      tx,
      viewer,
      copies.map((c) => c.enrolmentId),
      copies[0]!.message.createdAt,
    );
    await orm.delete(messages).where(idsIn(messages.id, ids));
    await selectAgain(
      tx,
      viewer,
      course.id,
      copies.map(({ enrolmentId, message: { reason, about, activityId, item } }) => ({
        enrolmentId,
        reason,
        about,
        activityId,
        item,
      })),
    );
    return copies.length;
  });
}
