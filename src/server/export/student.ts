import { and, eq, inArray, isNotNull, or, sql } from 'drizzle-orm';
import { writeCsv } from '@/core/formats/csv';
import { fileTable } from '@/core/formats/writeCourseFiles';
import {
  acts,
  aliases,
  answerSteps,
  attempts,
  attendance,
  dayTotals,
  documents,
  enrolments,
  erasures,
  events,
  flags,
  goals,
  importChanges,
  imports,
  itemQuestions,
  measures,
  outsideResults,
  notes,
  occasions,
  persons,
  planSteps,
  plans,
  proposals,
  recipients,
  replies,
  talks,
  agreements,
  checkIns,
  helpings,
  letters,
  referrals,
  requirements,
  responses,
  scoreChanges,
  scores,
  statements,
  studyTimes,
  accommodations,
  assignedActivities,
  user,
  waiting,
} from '@/data/schema';
import type { Access } from '@/data/database';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel } from '@/data/queries/courseModel';
import { setupChanged } from '../derive/setupChanged';
import { ensureEvaluated } from '../derive/evaluation';
import { wakeRunner } from '../jobs/queue';
import { sweepAttachments } from '../xapi/attachments';
import { sha1 } from '../xapi/people';
import { mayIn, requireEnrolment, requireCourse, type Viewer } from '../access/viewer';
import { LEDGER_KINDS } from '@/core/course/records';
import { unstage } from '../staging/staging';
import { whatWaitedOf } from '../intake/waited';
import { studentRecords, eventRecords } from './course';
import type { ExportedFile } from './export';
import { zip } from '../base/zip';
import { underLock } from '@/data/write/underLock';
import { shownEmail } from '@/data/queries/shownEmail';

const json = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`;

/** The names by which statements may call a person. */
const actorKeys = (
  person: { externalId: string; email: string | null },
  known: readonly string[],
): string[] => [
  ...known,
  ...(person.email
    ? [`mbox:${person.email.toLowerCase()}`, `sha1:${sha1(`mailto:${person.email.toLowerCase()}`)}`]
    : []),
];

async function personOf(courseId: number, enrolmentId: number) {
  const { orm } = await database();
  const [row] = await orm
    .select({ person: persons, enrolment: enrolments })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.id, enrolmentId));
  const { person, enrolment } = row!;
  const known = await orm
    .select({ value: aliases.value })
    .from(aliases)
    .where(and(eq(aliases.courseId, courseId), eq(aliases.personId, person.id)));
  return {
    person,
    enrolment,
    keys: actorKeys(
      person,
      known.map((k) => k.value),
    ),
  };
}

/** Statements about a person: under one of their names, or with an account that carries their id. */
const statementsOf = (courseId: number, externalId: string, keys: readonly string[]) =>
  and(
    eq(statements.courseId, courseId),
    or(
      inArray(statements.actor, [...keys, `id:${externalId}`]),
      sql`${statements.statement} #>> '{actor,account,name}' = ${externalId}`,
    ),
  );

/** What was said and done about a student, for those who may read their conversation. */
async function saidAndDone({ orm }: Access, enrolmentId: number): Promise<Record<string, string>> {
  return {
    'acts.json': json(await orm.select().from(acts).where(eq(acts.enrolmentId, enrolmentId))),
    'rules.json': json(await orm.select().from(occasions).where(eq(occasions.enrolmentId, enrolmentId))),
    'notes.json': json(await orm.select().from(notes).where(eq(notes.enrolmentId, enrolmentId))),
    'messages.json': json(await orm.select().from(recipients).where(eq(recipients.enrolmentId, enrolmentId))),
    'answers.json': json(await orm.select().from(replies).where(eq(replies.enrolmentId, enrolmentId))),
    'talks.json': json(await orm.select().from(talks).where(eq(talks.enrolmentId, enrolmentId))),
    'agreements.json': json(
      await orm.select().from(agreements).where(eq(agreements.enrolmentId, enrolmentId)),
    ),
    'check-ins.json': json(await orm.select().from(checkIns).where(eq(checkIns.enrolmentId, enrolmentId))),
    'helping.json': json(
      await orm
        .select()
        .from(helpings)
        .where(or(eq(helpings.helpedId, enrolmentId), eq(helpings.helperId, enrolmentId))),
    ),
    'letters.json': json(await orm.select().from(letters).where(eq(letters.enrolmentId, enrolmentId))),
  };
}

/** Everything that a course has on record about one student, in open formats, for a request to see it. */
export async function studentArchive(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
): Promise<ExportedFile> {
  const course = await requireCourse(viewer, 'export', code);
  await requireEnrolment(course, enrolmentId);
  // A lead is shown no conversation, so it is in no archive of theirs either.
  const mayAct = await mayIn(viewer, 'act', course.id);
  const db = await database();
  const { orm } = db;
  const { person, enrolment, keys } = await personOf(course.id, enrolmentId);
  const records = await studentRecords(db, course.id, enrolmentId);
  const csv = (table: ReturnType<typeof fileTable>) => writeCsv(table.head, table.rows);
  const planRows = await orm.select().from(plans).where(eq(plans.enrolmentId, enrolmentId));
  const body = zip({
    'about.json': json({
      course: `${course.code} ${course.title}`,
      made: nowDate(),
      student: {
        id: person.externalId,
        given: person.given,
        family: person.family,
        email: shownEmail(person, enrolment),
        status: enrolment.status,
        joined: enrolment.joinedOn,
        left: enrolment.leftOn,
        otherNames: keys,
      },
    }),
    'gradebook.csv': csv(fileTable('gradebook', records.gradebook)),
    ...Object.fromEntries(
      LEDGER_KINDS.map((kind) => [`${kind}.csv`, csv(fileTable(kind, records[kind] as never))]),
    ),
    'events.csv': csv(fileTable('events', await eventRecords(db, course.id, enrolmentId))),
    'grade-changes.json': json(
      await orm.select().from(scoreChanges).where(eq(scoreChanges.enrolmentId, enrolmentId)),
    ),
    'item-answers.json': json(
      await orm.select().from(answerSteps).where(eq(answerSteps.enrolmentId, enrolmentId)),
    ),
    'questions.json': json(
      await orm.select().from(itemQuestions).where(eq(itemQuestions.enrolmentId, enrolmentId)),
    ),
    'study-times.json': json(
      await orm.select().from(studyTimes).where(eq(studyTimes.enrolmentId, enrolmentId)),
    ),
    'assigned.json': json(
      await orm.select().from(assignedActivities).where(eq(assignedActivities.enrolmentId, enrolmentId)),
    ),
    'accommodations.json': json(
      await orm.select().from(accommodations).where(eq(accommodations.enrolmentId, enrolmentId)),
    ),
    'goals.json': json(await orm.select().from(goals).where(eq(goals.enrolmentId, enrolmentId))),
    'days.json': json(await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, enrolmentId))),
    'measures.json': json(await orm.select().from(measures).where(eq(measures.enrolmentId, enrolmentId))),
    'flags.json': json(await orm.select().from(flags).where(eq(flags.enrolmentId, enrolmentId))),
    ...(mayAct ? await saidAndDone(db, enrolmentId) : {}),
    'plans.json': json({
      plans: planRows,
      steps: planRows.length
        ? await orm
            .select()
            .from(planSteps)
            .where(
              inArray(
                planSteps.planId,
                planRows.map((p) => p.id),
              ),
            )
        : [],
    }),
    'proposals.json': json(await orm.select().from(proposals).where(eq(proposals.personId, person.id))),
    'documents.json': json(
      (
        await orm
          .select()
          .from(documents)
          .where(and(eq(documents.courseId, course.id), inArray(documents.agent, keys)))
      ).map(({ content, key: _, ...about }) => ({
        ...about,
        base64: Buffer.from(content).toString('base64'),
      })),
    ),
    'statements.json': json(
      (
        await orm
          .select({ statement: statements.statement })
          .from(statements)
          .where(statementsOf(course.id, person.externalId, keys))
      ).map((s) => s.statement),
    ),
  });
  return { name: `${code}-${person.externalId}.zip`, type: 'application/zip', body };
}

/**
 * Takes the records of a student out of what imports keep for taking them back, and their names out of what imports are
 * listed as; what is of others stays.
 */
async function forgetImported(
  { orm }: Access,
  courseId: number,
  student: string,
  keys: readonly string[],
): Promise<void> {
  const kept = await orm
    .select({ change: importChanges })
    .from(importChanges)
    .innerJoin(imports, eq(imports.id, importChanges.importId))
    .where(eq(imports.courseId, courseId));
  const names = new Set([student, ...keys]);
  const list = (value: unknown): unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);
  const isTheirs = (kind: string, record: unknown) =>
    typeof record === 'object' &&
    record !== null &&
    (('student' in record && record.student === student) ||
      ('person' in record && [...keys, student].some((key) => key === record.person)) ||
      (kind === 'roster' && 'id' in record && record.id === student));
  for (const { change } of kept) {
    const [before, after] = [list(change.before), list(change.after)];
    const others = after.flatMap((record, i) => (isTheirs(change.kind, record) ? [] : [i]));
    if (others.length === after.length) continue;
    for (const record of after) if (isTheirs(change.kind, record) && isNamed(record)) names.add(record.name);
    await orm
      .update(importChanges)
      .set({ before: others.map((i) => before[i] ?? null), after: others.map((i) => after[i]) })
      .where(eq(importChanges.id, change.id));
  }
  // Listed under the second until matches could be taken back.
  const labels = new Set([...names].flatMap((name) => [whatWaitedOf(name), `statements of ${name}`]));
  const listed = await orm
    .select({ id: imports.id, files: imports.files })
    .from(imports)
    .where(eq(imports.courseId, courseId));
  for (const { id, files } of listed) {
    if (!files.some((f) => labels.has(f.file))) continue;
    const unnamed = files.map((f) => (labels.has(f.file) ? { ...f, file: whatWaitedOf('somebody') } : f));
    await orm.update(imports).set({ files: unnamed }).where(eq(imports.id, id));
  }
}

const isNamed = (record: unknown): record is { readonly name: string } =>
  typeof record === 'object' && record !== null && 'name' in record && typeof record.name === 'string';

/**
 * Erases what a course has on record about one student; if they are in no other course, who they are and their
 * account too. Cannot be undone. The log keeps when, by whom and how many rows, and nothing of the student.
 */
export async function eraseStudent(viewer: Viewer, code: string, enrolmentId: number): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, enrolmentId);
  const db = await database();
  const { person, keys } = await personOf(course.id, enrolmentId);
  const kept = await db.orm
    .select({ id: replies.uploadId })
    .from(replies)
    .where(and(eq(replies.enrolmentId, enrolmentId), isNotNull(replies.uploadId)));
  const total = await underLock(db, course.id, async (tx) => {
    const { orm } = tx;
    const counts: Record<string, number> = {};
    for (const [name, table] of Object.entries({
      events,
      scores,
      attempts,
      attendance,
      referrals,
      requirements,
      responses,
      outsideResults,
      itemQuestions,
      notes,
      recipients,
      replies,
      talks,
      agreements,
      checkIns,
      plans,
      flags,
    })) {
      const [row] = await orm
        .select({ n: sql<number>`count(*)`.mapWith(Number) })
        .from(table)
        .where(eq(table.enrolmentId, enrolmentId));
      counts[name] = row!.n;
    }
    const gone = await orm
      .delete(statements)
      .where(statementsOf(course.id, person.externalId, keys))
      .returning({ id: statements.id });
    counts.statements = gone.length;
    await sweepAttachments(tx, course.id);
    const shelved = await orm
      .delete(documents)
      .where(and(eq(documents.courseId, course.id), inArray(documents.agent, keys)))
      .returning({ id: documents.id });
    counts.documents = shelved.length;
    await orm
      .delete(waiting)
      .where(and(eq(waiting.courseId, course.id), inArray(waiting.person, [...keys, person.externalId])));
    await orm.delete(aliases).where(and(eq(aliases.courseId, course.id), eq(aliases.personId, person.id)));
    // What an import put there, kept for taking it back, names the student too.
    await forgetImported(tx, course.id, person.externalId, keys);
    await orm.delete(enrolments).where(eq(enrolments.id, enrolmentId));
    const elsewhere = await orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.personId, person.id))
      .limit(1);
    if (elsewhere.length === 0) {
      await orm.delete(user).where(eq(user.personId, person.id));
      await orm.delete(persons).where(eq(persons.id, person.id));
    }
    await orm.insert(erasures).values({ courseId: course.id, userId: viewer.userId, at: nowDate(), counts });
    await setupChanged(tx, course.id);
    // The class's typical dwells were partly theirs.
    await deriveActivity(tx, await loadCourseModel(tx, course.id), null);
    return Object.values(counts).reduce((sum, n) => sum + n, 0);
  });
  // E-mails of theirs that could not be read.
  for (const { id } of kept) await unstage(id!);
  wakeRunner();
  await ensureEvaluated({ ...course, evaluatedAt: null });
  return total;
}
