import { and, inArray, sql } from 'drizzle-orm';
import * as yup from 'yup';
import { type Planning, type IntakeKind, placed } from './kind';
import { maybeText, textFields, textField } from './fields';
import { sort } from '../sort';
import { type ReadOf } from '../readFiles';
import type { Placed } from '@/core/formats/classify';
import { outcomes } from '@/data/schema';
import { type CourseModel } from '@/data/queries/courseModel';
import { type Access } from '@/data/database';
import { type LinkedOutcome, outcomeCircle } from '@/core/outcomes/prerequisites';
import { keepUnsaid, OUTCOME_FIELDS } from '@/core/formats/unsaid';
import { withValue } from '@/core/formats/table';
import { sameFields } from '@/core/formats/sameRecord';
import { type Changes, type Objection } from '@/core/formats/classify';
import { type OutcomeRecord } from '@/core/course/records';
import { upsertMany } from '@/data/write/bulk';

/** The outcomes of a course as the files write them, by id. */
export function storedOutcomes(course: CourseModel): Map<string, OutcomeRecord> {
  const idOf = new Map(course.outcomes.map((o) => [o.id, o.externalId]));
  return new Map(
    course.outcomes.map((o) => [
      o.externalId,
      {
        id: o.externalId,
        title: o.title,
        prerequisites: o.prerequisites,
        parent: o.parentId == null ? null : (idOf.get(o.parentId) ?? null),
      },
    ]),
  );
}

function planOutcomes(file: ReadOf<'outcomes'>, { course }: Planning): Promise<Changes<OutcomeRecord>> {
  const existing = storedOutcomes(course);
  const rows = file.rows.map((row) =>
    withValue(row, keepUnsaid(row.value, existing.get(row.value.id), file.absent, OUTCOME_FIELDS)),
  );
  const ids = new Set([...existing.keys(), ...rows.map((r) => r.value.id)]);
  // What the file says anew replaces what stood; a row that would close a circle stays out, and the next are asked again.
  const named = new Set(rows.map((r) => r.value.id));
  const links = new Map<string, LinkedOutcome>([...existing].filter(([id]) => !named.has(id)));
  const objection = (o: OutcomeRecord): Objection => {
    const unknown = o.prerequisites.find((p) => !ids.has(p) || p === o.id);
    if (unknown) return { field: 'prerequisites', reason: `there is no other outcome “${unknown}”` };
    if (o.parent != null && (!ids.has(o.parent) || o.parent === o.id))
      return { field: 'part_of', reason: `there is no other outcome “${o.parent}”` };
    links.set(o.id, o);
    const circle = outcomeCircle(links, [o.id]);
    if (!circle) return null;
    const before = existing.get(o.id);
    if (before) links.set(o.id, before);
    else links.delete(o.id);
    return {
      field: circle.among === 'parents' ? 'part_of' : 'prerequisites',
      reason: `would go in a circle: ${circle.ids.join(' → ')}`,
    };
  };
  return sort(rows, file.rejected, {
    keyOf: (o) => o.id,
    keyField: 'outcome_id',
    existing,
    same: sameFields,
    objection,
    onDifference: 'change',
  });
}

async function writeOutcomes(access: Access, course: CourseModel, rows: readonly Placed<OutcomeRecord>[]) {
  const places = new Map(course.outcomes.map((o) => [o.externalId, o.position]));
  const values = rows.map(({ value }, i) => ({
    courseId: course.row.id,
    externalId: value.id,
    title: value.title,
    prerequisites: [...value.prerequisites],
    position: places.get(value.id) ?? course.outcomes.length + i,
  }));
  await upsertMany(access, outcomes, [outcomes.courseId, outcomes.externalId], values);
  // Once all are there: a part may stand before its whole.
  const ids = sql.param(rows.map((r) => r.value.id));
  const parents = sql.param(rows.map((r) => r.value.parent));
  await access.orm.execute(sql`update ${outcomes} set parent_id = whole.id
    from unnest(${ids}::text[], ${parents}::text[]) as said(id, parent)
    left join ${outcomes} as whole on whole.course_id = ${course.row.id} and whole.external_id = said.parent
    where ${outcomes.courseId} = ${course.row.id} and ${outcomes.externalId} = said.id`);
}

/** Takes outcomes out that nothing covers, tests, has as a part of it or comes after; returns how many stay. */
async function removeOutcomes({ orm }: Access, ids: readonly number[]): Promise<number> {
  let left = [...ids];
  // The lowest go first: what only they rest on can go after them.
  while (left.length > 0) {
    const gone = await orm
      .delete(outcomes)
      .where(
        and(
          inArray(outcomes.id, left),
          sql`not exists (select 1 from activity_outcomes c where c.outcome_id = ${outcomes}.id)`,
          sql`not exists (select 1 from tests r where r.outcome_id = ${outcomes}.id)`,
          sql`not exists (select 1 from outcomes part where part.parent_id = ${outcomes}.id)`,
          sql`not exists (select 1 from outcomes later where later.course_id = ${outcomes}.course_id
            and later.prerequisites ? ${outcomes}.external_id)`,
        ),
      )
      .returning({ id: outcomes.id });
    if (gone.length === 0) break;
    const taken = new Set(gone.map((g) => g.id));
    left = left.filter((id) => !taken.has(id));
  }
  return left.length;
}

export const outcomesKind: IntakeKind<'outcomes'> = {
  keyOf: (o) => o.id,
  schema: yup.object({
    id: textField(),
    title: textField(),
    prerequisites: textFields(),
    parent: maybeText().default(null),
  }),
  stored: (_, course) => Promise.resolve(storedOutcomes(course)),
  plan: planOutcomes,
  write: (access, { course }, changes) => writeOutcomes(access, course, placed(changes)),
  remove: (access, { course }, records) => {
    const idOf = new Map(course.outcomes.map((o) => [o.externalId, o.id]));
    return removeOutcomes(
      access,
      records.flatMap((o) => idOf.get(o.id) ?? []),
    );
  },
};
