import type { Picked } from '@/core/acts/pick';
import { dueFor, isReturned } from '@/core/gradebook/status';
import { weakestOutcomes } from '@/core/plans/propose';
import { textForm, type AlongForm, type StepForm } from '@/core/forms/message';
import { faultOf } from '@/core/forms/rules';
import type { Access } from '@/data/database';
import { localDate } from '@/core/calendar/zone';
import { mergeValues } from '@/core/messages/fields';
import { parseTemplate, render } from '@/core/messages/template';
import { messages, recipients } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import type { CourseModel, CourseRow } from '@/data/queries/courseModel';
import { isResource } from '@/core/course/kinds';
import { weekdayAndTime } from '@/core/format';
import { materialOf } from '@/core/unasked/material';
import { invalid } from '../base/errors';
import { checkPlan, openSteps, proposedPlans, storePlans } from './plans';
import { outcomeTitles } from '../snapshot/outcomeTitles';
import { roster } from '../snapshot/roster';
import { type Viewer } from '../access/viewer';
import { COOL_DOWN_DAYS } from '@/core/messages/limits';
import { conditionsIn, type MessageDoc } from '@/core/messages/doc';
import { readDoc } from '@/core/messages/docSchema';
import { docText } from '@/core/messages/docText';
import { fillDoc } from '@/core/messages/fillDoc';
import { faultsIn } from '@/core/people/savedAudience';
import type { Selection } from '@/core/rules/selection';
import { DAY_MS, type Instant } from '@/core/units';
import { answersTo } from '@/data/queries/responses';
import { withoutCopies } from '@/data/queries/withoutCopies';
import { writtenSame } from '@/data/queries/writtenSame';
import { classTraits } from '../snapshot/traits';
import type { ComposeRecipient, SendInput } from '@/core/views/compose';
import { titlesOf, openReasons } from '../snapshot/reasons';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { recordActs } from './acts';

/** Somebody to write to, and why. */
export interface Chosen extends Picked {
  readonly enrolmentId: number;
}

/** What there is to say to some students, and why they are written to. */
export async function recipientFacts(
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
    chosen.map(({ enrolmentId, reason, about, activityId, item }): [number, Picked] => {
      // Without a reason of its own the weightiest flag says what it is about.
      const flag = reasons.get(enrolmentId)?.[0]?.kind;
      return [
        enrolmentId,
        {
          reason: reason || (flag ?? 'written to alone'),
          about: about === 'other' ? (flag ?? 'other') : about,
          activityId,
          item,
        },
      ];
    }),
  );
  const proposals = await proposedPlans(snapshot, pickedOf);
  const open = await openSteps(snapshot, ids);
  const measuredOf = await snapshot.measures();
  const scores = await snapshot.scores();
  const learned = await snapshot.masteries();
  const opened = await snapshot.opened();
  const db = await database();
  const answerOf = await givenAnswers(db, [...pickedOf.values()]);
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
              due: dueWords(dueFor({ due: activity.dueAt?.getTime() ?? null }, score), course.zone),
              notOpened: notOpened(model, activity.id, opened.get(id)),
              answer: answerOf(id, picked),
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

/** What those who were selected for an item answered to it at first; null where they answered nothing. */
async function givenAnswers(access: Access, picked: readonly Picked[]) {
  const asked = new Map(
    picked.flatMap((p) => (p.item == null || p.activityId == null ? [] : [[`${p.activityId} ${p.item}`, p]])),
  );
  const answers = new Map<string, string>();
  for (const { activityId, item } of asked.values())
    for (const a of await answersTo(access, activityId!))
      if (a.item === item && a.attempt === 1)
        answers.set(`${a.student} ${activityId} ${item}`, a.answer.trim());
  return (student: number, { activityId, item }: Picked): string | null =>
    answers.get(`${student} ${activityId} ${item}`) || null;
}

const dueWords = (due: Instant | null, zone: string): string | null =>
  due == null ? null : weekdayAndTime(due, zone);

/** Pages and practice that an assignment rests on and that a message names: more than a few nobody reads. */
const MOST_NAMED = 4;

/** Pages and practice for an assignment that somebody has not opened, by their titles, in the order of the course. */
function notOpened(model: CourseModel, work: number, opened: ReadonlySet<number> | undefined): string[] {
  const material = materialOf(work, model.covers);
  return model.activities
    .filter((a) => material.has(a.id) && (isResource(a.kind) || a.kind === 'practice') && !opened?.has(a.id))
    .slice(0, MOST_NAMED)
    .map((a) => a.title);
}

/** A text and those who get it, checked. */
export interface Text {
  readonly input: SendInput;
  readonly doc: MessageDoc;
}

export function checkedText(input: SendInput): Text {
  if (input.recipients.length === 0) throw invalid('There is nobody to write one of the texts to.');
  for (const text of [input, ...input.recipients.flatMap((r) => r.own ?? [])]) {
    const fault = faultOf(textForm, { subject: text.subject, doc: text.doc });
    if (fault) throw invalid(fault);
  }
  return { input, doc: readDoc(input.doc) };
}

/** What one recipient gets. */
export interface OwnCopy {
  readonly person: ComposeRecipient;
  readonly plan: readonly StepForm[] | null;
  readonly subject: string;
  readonly doc: MessageDoc;
}

/** The copies of a text, filled in for each who gets one; an error in words if that fails for anybody. */
export async function copiesOf(viewer: Viewer, course: CourseRow, text: Text): Promise<OwnCopy[]> {
  const { copies, faults } = await filledCopies(viewer, course, text);
  const [fault] = faults.values();
  if (fault) throw invalid(fault);
  return copies;
}

/**
 * The same, with whom it fails for apart, by enrolment.
 *
 * @param proposes gives each the plan that is proposed for them, in place of one that was written
 */
export async function filledCopies(
  viewer: Viewer,
  course: CourseRow,
  { input, doc }: Text,
  { proposes = false } = {},
): Promise<{ readonly copies: OwnCopy[]; readonly faults: ReadonlyMap<number, string> }> {
  const { reason, about, activityId, item = null } = input;
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  if (activityId != null && !model.activities.some((a) => a.id === activityId))
    throw invalid('There is no such assignment in this course.');
  const chosen = input.recipients.map((r) => ({
    enrolmentId: r.enrolmentId,
    reason,
    about,
    activityId,
    item,
  }));
  const people = await recipientFacts(viewer, course, chosen);
  if (people.length !== chosen.length) throw invalid('Somebody among the recipients is not in this course.');
  const today = localDate(now(), course.zone);
  const inputOf = new Map(input.recipients.map((r) => [r.enrolmentId, r]));
  const texts = [doc, ...input.recipients.flatMap((r) => (r.own ? [readDoc(r.own.doc)] : []))];
  const holds = await conditionsOf(snapshot, texts);
  const faults = new Map<number, string>();
  const copies = people.flatMap((person): OwnCopy[] => {
    const { plan: written = null, own } = inputOf.get(person.enrolmentId) ?? {};
    const plan = proposes ? proposedSteps(person) : written;
    if (written) checkPlan(model, person.name, written, today);
    const values = { ...person.values, 'next step': plan?.[0]?.title ?? person.values['next step'] };
    const subject = render(parseTemplate((own ?? input).subject).parts, values);
    const filled = fillDoc(own ? readDoc(own.doc) : doc, values, (where) => holds(where, person.enrolmentId));
    const [hole] = [...subject.holes, ...filled.holes];
    const fault = !person.active
      ? `${person.name} is no longer active in this course. Remove them and send again.`
      : hole
        ? `“${hole}” is empty for ${person.name}. Add a text for that case, like {${hole} | …}, or remove the student.`
        : docText(filled.doc).trim() === ''
          ? `Nothing of the message is shown to ${person.name}. Remove them, or a condition.`
          : null;
    if (fault) faults.set(person.enrolmentId, fault);
    return fault ? [] : [{ person, plan, subject: subject.text, doc: filled.doc }];
  });
  return { copies, faults };
}

/** A proposed plan as steps; null if nothing is proposed. */
const proposedSteps = ({ plan }: ComposeRecipient): StepForm[] | null =>
  plan.length === 0
    ? null
    : plan.map(({ activity, title, minutes, on, why }) => ({
        activityId: activity == null ? null : Number(activity),
        title,
        minutes,
        on,
        why,
      }));

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
export async function storeMessage(
  tx: Access,
  viewer: Viewer,
  course: CourseRow,
  {
    input,
    copies,
    goesAt,
    along: { offersTalk, saysWhy, lookAgainOn },
    byRule = false,
  }: {
    readonly input: SendInput;
    readonly copies: readonly OwnCopy[];
    readonly goesAt: Instant | null;
    readonly along: AlongForm;
    /** A rule writes it, and nobody looked at the student. */
    readonly byRule?: boolean;
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
      item: input.item,
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
      answers: byRule ? [] : person.reasons,
      kind: byRule ? 'by rule' : plan ? 'planned' : 'messaged',
      reason: input.reason,
      followUpOn: lookAgainOn ?? undefined,
      recipientId: recipientOf.get(person.enrolmentId)!,
    })),
  );
  return message.id;
}
