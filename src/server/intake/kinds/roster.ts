import { and, eq, sql } from 'drizzle-orm';
import * as yup from 'yup';
import { LEDGER_KINDS } from '@/core/course/records';
import { type Planning, type IntakeKind, placed } from './kind';
import { maybeText, textField } from './fields';
import { sort, changed } from '../sort';
import { type ReadOf } from '../readFiles';
import type { Placed } from '@/core/formats/classify';
import { peopleOfOthers } from '../../access/reliedOn';
import { persons, enrolments, sections, user } from '@/data/schema';
import { idsIn } from '@/data/queries/idsIn';
import { type CourseModel } from '@/data/queries/courseModel';
import { type Access } from '@/data/database';
import { keepUnsaid, ROSTER_FIELDS } from '@/core/formats/unsaid';
import { sameFields } from '@/core/formats/sameRecord';
import { type Changes } from '@/core/formats/classify';
import { type RosterRecord } from '@/core/course/records';
import { ENROLMENT_STATUSES } from '@/core/course/kinds';
import { insertMany, upsertMany } from '@/data/write/bulk';

/** The roster of a course as the files write it, by id. */
export async function storedRoster({ orm }: Access, course: CourseModel): Promise<Map<string, RosterRecord>> {
  const sectionName = new Map(course.sections.map((s) => [s.id, s.name]));
  const rows = await orm
    .select({ person: persons, enrolment: enrolments })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  return new Map(
    rows.map(({ person, enrolment }) => [
      person.externalId,
      {
        id: person.externalId,
        given: person.given,
        family: person.family,
        email: person.email,
        section: sectionName.get(enrolment.sectionId ?? -1) ?? null,
        status: enrolment.status,
        joined: enrolment.joinedOn,
        left: enrolment.leftOn,
      },
    ]),
  );
}

async function planRoster(
  file: ReadOf<'roster'>,
  { access, userId, people: existing }: Planning,
): Promise<Changes<RosterRecord>> {
  const strangers = await peopleOfOthers(
    access,
    userId,
    file.rows.map((r) => r.value.id),
  );
  const whole = (r: RosterRecord) => keepUnsaid(r, existing.get(r.id), file.absent, ROSTER_FIELDS);
  return sort(await changed(file.rows, whole), file.rejected, {
    keyOf: (r) => r.id,
    keyField: 'student_id',
    existing,
    same: sameFields,
    objection: (r) => {
      const known = strangers.get(r.id);
      if (known && (known.given !== r.given || known.family !== r.family || known.email !== r.email)) {
        return {
          field: 'student_id',
          reason: 'belongs to somebody with another name or address in a course that is not yours',
        };
      }
      return r.left && r.joined && r.left < r.joined ? { field: 'left', reason: 'is before joined' } : null;
    },
    onDifference: 'change',
  });
}

async function writeRoster(access: Access, course: CourseModel, rows: readonly Placed<RosterRecord>[]) {
  const { orm } = access;
  const courseId = course.row.id;
  const names = new Set(rows.flatMap((r) => (r.value.section == null ? [] : [r.value.section])));
  for (const name of names) {
    await orm.insert(sections).values({ courseId, name, meetings: [] }).onConflictDoNothing();
  }
  const stored = await orm.select().from(sections).where(eq(sections.courseId, courseId));
  const sectionOf = new Map(stored.map((s) => [s.name, s.id]));
  const people = rows.map(({ value }) => ({
    externalId: value.id,
    given: value.given,
    family: value.family,
    email: value.email,
  }));
  const written = await insertMany(access, persons, people, {
    conflict: sql`on conflict (external_id) do update
      set given = excluded.given, family = excluded.family, email = excluded.email`,
    returning: [persons.id, persons.externalId],
  });
  const personOf = new Map(written.map((p) => [String(p.external_id), Number(p.id)]));
  const places = rows.map(({ value }) => ({
    courseId,
    personId: personOf.get(value.id)!,
    sectionId: value.section == null ? null : sectionOf.get(value.section)!,
    status: value.status,
    joinedOn: value.joined,
    leftOn: value.left,
  }));
  await upsertMany(access, enrolments, [enrolments.courseId, enrolments.personId], places);
}

/** Takes people out who have nothing but their place; returns how many have more, and stay. */
async function removePeople({ orm }: Access, ids: readonly number[]): Promise<number> {
  if (ids.length === 0) return 0;
  const resting = ['events', 'scores', ...LEDGER_KINDS, 'recipients', 'replies', 'notes', 'plans', 'acts'];
  const none = resting.map(
    (table) =>
      sql`not exists (select 1 from ${sql.identifier(table)} t where t.enrolment_id = ${enrolments}.id)`,
  );
  const gone = await orm
    .delete(enrolments)
    .where(and(idsIn(enrolments.id, ids), ...none))
    .returning({ personId: enrolments.personId });
  const candidates = gone.map((g) => g.personId);
  if (candidates.length > 0) {
    await orm
      .delete(persons)
      .where(
        and(
          idsIn(persons.id, candidates),
          sql`not exists (select 1 from ${enrolments} e where e.person_id = ${persons}.id)`,
          sql`not exists (select 1 from ${user} u where u.person_id = ${persons}.id)`,
        ),
      );
  }
  return ids.length - gone.length;
}

export const rosterKind: IntakeKind<'roster'> = {
  keyOf: (r) => r.id,
  schema: yup.object({
    id: textField(),
    given: textField(),
    family: textField(),
    email: maybeText(),
    section: maybeText(),
    status: yup
      .string()
      .oneOf([...ENROLMENT_STATUSES])
      .required(),
    joined: maybeText(),
    left: maybeText(),
  }),
  stored: storedRoster,
  plan: planRoster,
  write: (access, { course }, changes) => writeRoster(access, course, placed(changes)),
  remove: (access, { ids }, records) =>
    removePeople(
      access,
      records.flatMap((r) => ids.enrolmentOf.get(r.id) ?? []),
    ),
};
