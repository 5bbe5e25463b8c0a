import { and, asc, eq, inArray, like, or } from 'drizzle-orm';
import type { Picked } from '@/core/acts/pick';
import { isReturned } from '@/core/gradebook/status';
import { weakestOutcomes } from '@/core/plans/propose';
import { textForm, type AlongForm, type StepForm } from '@/core/forms/message';
import { faultOf } from '@/core/forms/rules';
import type { Access } from '@/data/database';
import { idsIn } from '@/data/queries/idsIn';
import { localDate } from '@/core/calendar/zone';
import { mergeValues } from '@/core/messages/fields';
import { parseTemplate, render } from '@/core/messages/template';
import { messages, plans, recipients } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { now, nowDate } from '../base/clock';
import { courseHead } from '../snapshot/courseHead';
import { database } from '../base/database';
import { type CourseRow } from '@/data/queries/courseModel';
import { invalid, notFound } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { wakeRunner } from '../jobs/queue';
import { letGo, queueMail } from '../mail/dispatch';
import { checkPlan, openSteps, planActivities, proposedPlans, storePlans } from './plans';
import { outcomeTitles } from '../snapshot/outcomeTitles';
import { roster } from '../snapshot/roster';
import { removeFromTray, selectAgain } from './tray';
import { requireCourse, type Viewer } from '../access/viewer';
import { COOL_DOWN_DAYS, LIMITS } from '@/core/messages/limits';
import { conditionsIn, type MessageDoc } from '@/core/messages/doc';
import { readDoc } from '@/core/messages/docSchema';
import { docText } from '@/core/messages/docText';
import { fillDoc } from '@/core/messages/fillDoc';
import { faultsIn } from '@/core/people/savedAudience';
import type { Selection } from '@/core/rules/selection';
import { DAY_MS, type Instant } from '@/core/units';
import { templatesOf } from '@/data/queries/templates';
import { withoutCopies } from '@/data/queries/withoutCopies';
import { writtenSame } from '@/data/queries/writtenSame';
import { config } from '../base/config';
import { classTraits } from '../snapshot/traits';
import type { ComposeRecipient, ComposeView, SendInput, Sent } from '@/core/views/compose';
import { titlesOf, openReasons } from '../snapshot/reasons';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { recordActs } from './acts';
import { checkFollowUp, openAgain } from './followUps';
import { offerable } from '../talks/slots';

/** Somebody to write to, and why. */
export interface Chosen extends Picked {
  readonly enrolmentId: number;
}

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

async function recipientFacts(
  viewer: Viewer,
  course: CourseRow,
  chosen: readonly Chosen[],
): Promise<ComposeRecipient[]> {
  const ids = chosen.map((c) => c.enrolmentId);
  const people = await roster(course.id, ids);
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const titleOf = titlesOf(model);
  const reasons = await openReasons(snapshot, ids);
  const pickedOf = new Map(
    chosen.map(({ enrolmentId, reason, about, activityId }): [number, Picked] => {
      // Without a reason of its own the weightiest flag says what it is about.
      const flag = reasons.get(enrolmentId)?.[0]?.kind;
      return [
        enrolmentId,
        {
          reason: reason || (flag ?? 'written to alone'),
          about: about === 'other' ? (flag ?? 'other') : about,
          activityId,
        },
      ];
    }),
  );
  const proposals = await proposedPlans(snapshot, pickedOf);
  const open = await openSteps(snapshot, ids);
  const measuredOf = await snapshot.measures();
  const scores = await snapshot.scores();
  const learned = await snapshot.masteries();
  const db = await database();
  const same = await writtenSame(db, course.id, pickedOf, now() - COOL_DOWN_DAYS * DAY_MS);
  const quiet = await withoutCopies(
    db,
    people.map((p) => p.personId),
  );
  return people.map((person) => {
    const id = person.enrolmentId;
    const m = measuredOf.get(id);
    const plan = proposals.get(id) ?? [];
    const picked = pickedOf.get(id)!;
    const activity = model.activities.find((a) => a.id === picked.activityId);
    const score = activity && scores.get(id)?.get(String(activity.id));
    const known = (learned.get(id) ?? []).map((o) => ({ ...o, id: String(o.outcomeId) }));
    const weakest = weakestOutcomes(known).find((o) => o.level !== 'too little data');
    const missing = m?.completion.missing ?? [];
    return {
      enrolmentId: id,
      name: person.name,
      section: person.section,
      email: person.email,
      active: person.status === 'active',
      picked,
      reasons: reasons.get(id) ?? [],
      values: mergeValues({
        givenName: person.given,
        courseTitle: course.title,
        missingTitles: missing.map(titleOf),
        measured: m ?? null,
        nextStep: open.get(id)?.title ?? plan[0]?.title ?? null,
        assignment: activity
          ? {
              title: activity.title,
              score:
                score?.points != null && isReturned(score, now())
                  ? `${score.points}${activity.points == null ? '' : ` of ${activity.points}`}`
                  : null,
            }
          : null,
        outcomes: activity ? outcomeTitles(model, activity.id) : weakest ? [weakest.title] : [],
        instructorName: viewer.name,
      }),
      plan,
      missing: missing.map(Number),
      givenName: person.given,
      mailCopies: !quiet.has(person.personId),
      lastSame: same.get(id) ?? null,
    };
  });
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

interface Text {
  readonly input: SendInput;
  readonly doc: MessageDoc;
}

function checkedText(input: SendInput): Text {
  if (input.recipients.length === 0) throw invalid('There is nobody to write one of the texts to.');
  for (const text of [input, ...input.recipients.flatMap((r) => r.own ?? [])]) {
    const fault = faultOf(textForm, { subject: text.subject, doc: text.doc });
    if (fault) throw invalid(fault);
  }
  return { input, doc: readDoc(input.doc) };
}

const NOTHING_ALONG: AlongForm = { offersTalk: false, saysWhy: false, lookAgainOn: null };

/** What one recipient gets. */
interface OwnCopy {
  readonly person: ComposeRecipient;
  readonly plan: readonly StepForm[] | null;
  readonly subject: string;
  readonly doc: MessageDoc;
}

async function copiesOf(viewer: Viewer, course: CourseRow, { input, doc }: Text): Promise<OwnCopy[]> {
  const { reason, about, activityId } = input;
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  if (activityId != null && !model.activities.some((a) => a.id === activityId))
    throw invalid('There is no such assignment in this course.');
  const chosen = input.recipients.map((r) => ({ enrolmentId: r.enrolmentId, reason, about, activityId }));
  const people = await recipientFacts(viewer, course, chosen);
  if (people.length !== chosen.length) throw invalid('Somebody among the recipients is not in this course.');
  const gone = people.find((p) => !p.active);
  if (gone) throw invalid(`${gone.name} is no longer active in this course. Remove them and send again.`);
  const today = localDate(now(), course.zone);
  const inputOf = new Map(input.recipients.map((r) => [r.enrolmentId, r]));
  const texts = [doc, ...input.recipients.flatMap((r) => (r.own ? [readDoc(r.own.doc)] : []))];
  const holds = await conditionsOf(snapshot, texts);
  return people.map((person) => {
    const { plan = null, own } = inputOf.get(person.enrolmentId) ?? {};
    if (plan) checkPlan(model, person.name, plan, today);
    const values = { ...person.values, 'next step': plan?.[0]?.title ?? person.values['next step'] };
    const subject = render(parseTemplate((own ?? input).subject).parts, values);
    const filled = fillDoc(own ? readDoc(own.doc) : doc, values, (where) => holds(where, person.enrolmentId));
    const hole = [...subject.holes, ...filled.holes][0];
    if (hole) {
      throw invalid(
        `“${hole}” is empty for ${person.name}. Add a text for that case, like {${hole} | …}, or remove the student.`,
      );
    }
    if (docText(filled.doc).trim() === '')
      throw invalid(`Nothing of the message is shown to ${person.name}. Remove them, or a condition.`);
    return { person, plan, subject: subject.text, doc: filled.doc };
  });
}

/** Tells of the students of a class whether the conditions of some texts hold of them; of what is gone, that is an error. */
async function conditionsOf(
  snapshot: Snapshot,
  docs: readonly MessageDoc[],
): Promise<(where: Selection, enrolmentId: number) => boolean> {
  const conditions = docs.flatMap(conditionsIn);
  if (conditions.length === 0) return () => false;
  const traits = await classTraits(snapshot);
  const [fault] = conditions.flatMap((where) => faultsIn(where, traits.about));
  if (fault) throw invalid(`A paragraph depends on what is not there: ${fault}`);
  const known = new Map<string, ReadonlySet<number>>();
  for (const where of conditions)
    known.set(
      JSON.stringify(where),
      new Set((await traits.members({ where, added: [], removed: [] })).match),
    );
  return (where, id) => known.get(JSON.stringify(where))?.has(id) ?? false;
}

/** Stores one message with its copies, plans and acts; null if its key is taken. */
async function storeMessage(
  tx: Access,
  viewer: Viewer,
  course: CourseRow,
  {
    input,
    copies,
    goesAt,
    along: { offersTalk, saysWhy, lookAgainOn },
  }: {
    readonly input: SendInput;
    readonly copies: readonly OwnCopy[];
    readonly goesAt: Instant | null;
    readonly along: AlongForm;
  },
): Promise<number | null> {
  const [message] = await tx.orm
    .insert(messages)
    .values({
      courseId: course.id,
      userId: viewer.userId,
      key: input.key,
      subject: input.subject,
      body: docText(readDoc(input.doc)),
      doc: input.doc,
      reason: input.reason,
      about: input.about,
      activityId: input.activityId,
      createdAt: nowDate(),
      goesAt: goesAt == null ? null : new Date(goesAt),
      offersTalk,
      saysWhy,
    })
    .onConflictDoNothing({ target: messages.key })
    .returning({ id: messages.id });
  if (!message) return null;
  const made = await insertMany(
    tx,
    recipients,
    copies.map(({ person, subject, doc }) => ({
      messageId: message.id,
      enrolmentId: person.enrolmentId,
      subject,
      body: docText(doc),
      doc,
      email: person.email,
      mailState: !person.email
        ? ('no address' as const)
        : person.mailCopies
          ? ('queued' as const)
          : ('turned off' as const),
    })),
    { returning: [recipients.id, recipients.enrolmentId] },
  );
  const recipientOf = new Map(made.map((r) => [Number(r.enrolment_id), Number(r.id)]));
  await storePlans(
    tx,
    viewer,
    copies.flatMap(({ person: { enrolmentId }, plan }) =>
      plan ? [{ enrolmentId, recipientId: recipientOf.get(enrolmentId)!, steps: plan }] : [],
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
      followUpOn: lookAgainOn ?? undefined,
      recipientId: recipientOf.get(person.enrolmentId)!,
    })),
  );
  return message.id;
}

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
      copies.map(({ enrolmentId, message: { reason, about, activityId } }) => ({
        enrolmentId,
        reason,
        about,
        activityId,
      })),
    );
    return copies.length;
  });
}
