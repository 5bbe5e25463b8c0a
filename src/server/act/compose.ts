import { eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import { mergeValues } from '@/core/messages/fields';
import { parseTemplate, render, type TemplatePart } from '@/core/messages/template';
import { messages, recipients } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { now, nowDate } from '../base/clock';
import { courseHead } from '../snapshot/courseHead';
import { database } from '../base/database';
import { type CourseRow } from '@/data/queries/courseModel';
import { invalid } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { wakeRunner } from '../jobs/queue';
import { queueMail } from '../mail/dispatch';
import { checkPlan, planActivities, proposedPlans, storePlans } from './plans';
import { roster } from '../snapshot/roster';
import { removeFromTray } from './tray';
import { requireCourse, type Viewer } from '../access/viewer';
import { LIMITS } from '@/core/messages/limits';
import type { ComposeRecipient, ComposeView, SendInput, Sent } from '@/core/views/compose';
import { titlesOf, openReasons } from '../snapshot/reasons';
import { snapshotOf } from '../snapshot/snapshot';
import { recordActs } from './acts';

/** Everything the page that composes needs about the people it writes to. */
export async function composeView(
  viewer: Viewer,
  code: string,
  ids: readonly number[],
): Promise<ComposeView> {
  const course = await ensureEvaluated(await requireCourse(viewer, 'act', code));
  const people = await recipientFacts(viewer, course, ids);
  const kinds = people.map((p) => p.reasons.map((r) => r.kind));
  const shared = kinds[0]?.find((kind) => kinds.every((list) => list.includes(kind))) ?? null;
  const model = await (await snapshotOf(course)).model();
  return {
    course: courseHead(course),
    today: localDate(now(), course.zone),
    recipients: people,
    sharedReason: shared,
    activities: planActivities(model).map(({ id, title, minutes }) => ({ id, title, minutes })),
  };
}

async function recipientFacts(
  viewer: Viewer,
  course: CourseRow,
  ids: readonly number[],
): Promise<ComposeRecipient[]> {
  const people = await roster(course.id, ids);
  const snapshot = await snapshotOf(course);
  const titleOf = titlesOf(await snapshot.model());
  const reasons = await openReasons(snapshot, ids);
  const proposals = await proposedPlans(snapshot, ids);
  const measuredOf = await snapshot.measures();
  return people.map((person) => {
    const m = measuredOf.get(person.enrolmentId);
    const plan = proposals.get(person.enrolmentId) ?? [];
    return {
      enrolmentId: person.enrolmentId,
      name: person.name,
      section: person.section,
      email: person.email,
      active: person.status === 'active',
      reasons: reasons.get(person.enrolmentId) ?? [],
      values: mergeValues({
        givenName: person.given,
        courseTitle: course.title,
        missingTitles: (m?.completion.missing ?? []).map(titleOf),
        measured: m ?? null,
        nextStep: plan[0]?.title ?? null,
        instructorName: viewer.name,
      }),
      plan,
    };
  });
}

function parsed(what: string, source: string): TemplatePart[] {
  const { parts, errors } = parseTemplate(source);
  const first = errors[0];
  if (first) throw invalid(`${what}, line ${first.line}: ${first.reason}`);
  return parts;
}

/**
 * Sends one individual message to each recipient, with their plan, and marks them as answered in Rounds: all of it or
 * nothing. E-mail copies are queued in the same transaction and go out afterwards.
 */
export async function sendMessage(viewer: Viewer, code: string, input: SendInput): Promise<Sent> {
  const course = await requireCourse(viewer, 'act', code);
  const ids = input.recipients.map((r) => r.enrolmentId);
  if (ids.length === 0) throw invalid('There is nobody to write to. Select at least one student.');
  if (ids.length > LIMITS.recipients) throw invalid(`At most ${LIMITS.recipients} students at once.`);
  if (new Set(ids).size !== ids.length) throw invalid('Somebody is among the recipients twice.');
  if (input.subject.trim() === '') throw invalid('The subject is empty.');
  if (input.body.trim() === '') throw invalid('The message is empty.');
  if (input.subject.length > LIMITS.subject)
    throw invalid(`The subject is longer than ${LIMITS.subject} characters.`);
  if (input.body.length > LIMITS.body) {
    throw invalid(`The message is longer than ${LIMITS.body.toLocaleString('en')} characters.`);
  }
  if (/[\r\n]/.test(input.subject)) throw invalid('The subject must be one line.');
  const subject = parsed('Subject', input.subject);
  const body = parsed('Message', input.body);
  const already = await sentBefore(input.key, viewer, course);
  if (already) return already;

  const people = await recipientFacts(viewer, course, ids);
  if (people.length !== ids.length) throw invalid('Somebody among the recipients is not in this course.');
  const gone = people.find((p) => !p.active);
  if (gone) throw invalid(`${gone.name} is no longer active in this course. Remove them and send again.`);
  const model = await (await snapshotOf(course)).model();
  const today = localDate(now(), course.zone);
  const planOf = new Map(input.recipients.map((r) => [r.enrolmentId, r.plan]));
  const copies = people.map((person) => {
    const plan = planOf.get(person.enrolmentId) ?? null;
    if (plan) checkPlan(model, person.name, plan, today);
    const values = { ...person.values, 'next step': plan?.[0]?.title ?? person.values['next step'] };
    const texts = { subject: render(subject, values), body: render(body, values) };
    const hole = [...texts.subject.holes, ...texts.body.holes][0];
    if (hole) {
      throw invalid(
        `“${hole}” is empty for ${person.name}. Add a text for that case, like {${hole} | …}, or remove the student.`,
      );
    }
    return { person, plan, subject: texts.subject.text, body: texts.body.text };
  });

  const db = await database();
  const messageId = await db.transaction(async (tx) => {
    const [message] = await tx.orm
      .insert(messages)
      .values({
        courseId: course.id,
        userId: viewer.userId,
        key: input.key,
        subject: input.subject,
        body: input.body,
        reason: input.reason,
        createdAt: nowDate(),
      })
      .onConflictDoNothing({ target: messages.key })
      .returning({ id: messages.id });
    if (!message) return null;
    const made = await insertMany(
      tx,
      recipients,
      copies.map(({ person, subject, body }) => ({
        messageId: message.id,
        enrolmentId: person.enrolmentId,
        subject,
        body,
        email: person.email,
        mailState: person.email ? ('queued' as const) : ('no address' as const),
      })),
      { returning: [recipients.id, recipients.enrolmentId] },
    );
    const recipientOf = new Map(made.map((r) => [Number(r.enrolment_id), Number(r.id)]));
    await storePlans(
      tx,
      viewer,
      copies.flatMap(({ person, plan }) =>
        plan
          ? [
              {
                enrolmentId: person.enrolmentId,
                recipientId: recipientOf.get(person.enrolmentId)!,
                steps: plan,
              },
            ]
          : [],
      ),
    );
    await recordActs(
      tx,
      course,
      viewer,
      copies.map(({ person, plan }) => ({
        enrolmentId: person.enrolmentId,
        answers: person.reasons,
        kind: plan ? 'planned' : 'messaged',
        reason: input.reason,
        recipientId: recipientOf.get(person.enrolmentId)!,
      })),
    );
    await removeFromTray(tx, viewer, course, ids);
    await queueMail(tx, message.id);
    return message.id;
  });
  if (messageId == null) return (await sentBefore(input.key, viewer, course))!;
  wakeRunner();
  return { messageId, recipients: ids.length, again: false };
}

async function sentBefore(key: string, viewer: Viewer, course: CourseRow): Promise<Sent | null> {
  const { orm } = await database();
  const [row] = await orm.select().from(messages).where(eq(messages.key, key));
  if (!row) return null;
  if (row.userId !== viewer.userId || row.courseId !== course.id)
    throw invalid('Reload the page and send again.');
  const copies = await orm
    .select({ id: recipients.id })
    .from(recipients)
    .where(eq(recipients.messageId, row.id));
  return { messageId: row.id, recipients: copies.length, again: true };
}
