import { and, eq, inArray, sql } from 'drizzle-orm';
import * as yup from 'yup';
import { type Planning, toDate, type IntakeKind, placed } from './kind';
import { maybeText, maybeNumber, textFields, textField } from './fields';
import { sort } from '../sort';
import { type ReadOf } from '../readFiles';
import type { Placed } from '@/core/formats/classify';
import { categories, activities, outcomes, activityOutcomes } from '@/data/schema';
import { type CourseModel } from '@/data/queries/courseModel';
import { type Access } from '@/data/database';
import { keepUnsaid, ACTIVITY_FIELDS } from '@/core/formats/unsaid';
import { withValue } from '@/core/formats/table';
import { sameFields } from '@/core/formats/sameRecord';
import { type Changes, type Objection } from '@/core/formats/classify';
import { type ActivityRecord } from '@/core/course/records';
import { ACTIVITY_KINDS } from '@/core/course/kinds';
import { upsertMany, insertMany } from '@/data/write/bulk';

/** The activities of a course as the files write them, by id. */
export function storedActivities(course: CourseModel): Map<string, ActivityRecord> {
  const categoryOf = new Map(course.categories.map((c) => [c.id, c]));
  const outcomeOf = new Map(course.outcomes.map((o) => [String(o.id), o.externalId]));
  return new Map(
    course.activities.map((a): [string, ActivityRecord] => {
      const category = categoryOf.get(a.categoryId ?? -1);
      return [
        a.externalId,
        {
          id: a.externalId,
          title: a.title,
          kind: a.kind,
          category: category?.name ?? null,
          categoryWeight: category?.weight ?? null,
          dropLowest: category?.dropLowest ?? 0,
          points: a.points,
          opens: a.opensAt?.getTime() ?? null,
          due: a.dueAt?.getTime() ?? null,
          closes: a.closesAt?.getTime() ?? null,
          minutes: a.minutes,
          attempts: a.attemptsAllowed,
          outcomes: [...(course.covers.get(String(a.id)) ?? [])].map((id) => outcomeOf.get(id)!),
        },
      ];
    }),
  );
}

function planActivities(
  file: ReadOf<'activities'>,
  { course, outcomes: outcomeIds }: Planning,
): Promise<Changes<ActivityRecord>> {
  const existing = storedActivities(course);
  const categoryOf = new Map(course.categories.map((c) => [c.name, c]));
  const lacks = (column: string) => file.absent.includes(column);
  const whole = (read: ActivityRecord): ActivityRecord => {
    const value = keepUnsaid(read, existing.get(read.id), file.absent, ACTIVITY_FIELDS);
    const category = value.category == null ? undefined : categoryOf.get(value.category);
    if (!category) return value;
    return {
      ...value,
      categoryWeight: lacks('category_weight') ? category.weight : value.categoryWeight,
      dropLowest: lacks('drop_lowest') ? category.dropLowest : value.dropLowest,
    };
  };
  // A category has one weight; the first line that names it sets it.
  const weights = new Map<string, { weight: number | null; drop: number }>();
  const objection = (a: ActivityRecord): Objection => {
    const unknown = a.outcomes.find((o) => !outcomeIds.has(o));
    if (unknown) return { field: 'outcomes', reason: `there is no outcome “${unknown}”` };
    if (a.category == null) return null;
    const first = weights.get(a.category);
    if (!first) weights.set(a.category, { weight: a.categoryWeight, drop: a.dropLowest });
    else if (first.weight !== a.categoryWeight || first.drop !== a.dropLowest) {
      return {
        field: 'category_weight',
        reason: `differs from an earlier line of the category “${a.category}”`,
      };
    }
    return null;
  };
  const same = (a: ActivityRecord, b: ActivityRecord) =>
    sameFields({ ...a, outcomes: [...a.outcomes].sort() }, { ...b, outcomes: [...b.outcomes].sort() });
  return sort(
    file.rows.map((row) => withValue(row, whole(row.value))),
    file.rejected,
    {
      keyOf: (a) => a.id,
      keyField: 'activity_id',
      existing,
      same,
      objection,
      onDifference: 'change',
    },
  );
}

async function writeActivities(access: Access, course: CourseModel, rows: readonly Placed<ActivityRecord>[]) {
  const { orm } = access;
  const courseId = course.row.id;
  for (const { value } of rows) {
    if (value.category == null) continue;
    await orm
      .insert(categories)
      .values({
        courseId,
        name: value.category,
        weight: value.categoryWeight ?? 1,
        dropLowest: value.dropLowest,
      })
      .onConflictDoUpdate({
        target: [categories.courseId, categories.name],
        set: { weight: sql`excluded.weight`, dropLowest: sql`excluded.drop_lowest` },
      });
  }
  const stored = await orm.select().from(categories).where(eq(categories.courseId, courseId));
  const categoryOf = new Map(stored.map((c) => [c.name, c.id]));
  const places = new Map(course.activities.map((a) => [a.externalId, a.position]));
  const values = rows.map(({ value }, i) => ({
    courseId,
    externalId: value.id,
    title: value.title,
    kind: value.kind,
    categoryId: value.category == null ? null : categoryOf.get(value.category)!,
    points: value.points,
    opensAt: toDate(value.opens),
    dueAt: toDate(value.due),
    closesAt: toDate(value.closes),
    minutes: value.minutes == null ? null : Math.round(value.minutes),
    attemptsAllowed: value.attempts,
    position: places.get(value.id) ?? course.activities.length + i,
  }));
  await upsertMany(access, activities, [activities.courseId, activities.externalId], values);
  const ids = await orm
    .select({ id: activities.id, external: activities.externalId })
    .from(activities)
    .where(eq(activities.courseId, courseId));
  const activityOf = new Map(ids.map((a) => [a.external, a.id]));
  const outcomeRows = await orm.select().from(outcomes).where(eq(outcomes.courseId, courseId));
  const outcomeOf = new Map(outcomeRows.map((o) => [o.externalId, o.id]));
  const touched = rows.map((r) => activityOf.get(r.value.id)!);
  if (touched.length > 0)
    await orm.delete(activityOutcomes).where(inArray(activityOutcomes.activityId, touched));
  const links = rows.flatMap(({ value }) =>
    [...new Set(value.outcomes)].map((o) => ({
      activityId: activityOf.get(value.id)!,
      outcomeId: outcomeOf.get(o)!,
    })),
  );
  await insertMany(access, activityOutcomes, links);
}

async function removeWorks({ orm }: Access, ids: readonly number[]): Promise<number> {
  if (ids.length === 0) return 0;
  const none = ['events', 'scores', 'attempts', 'items', 'responses', 'plan_steps'].map(
    (table) =>
      sql`not exists (select 1 from ${sql.identifier(table)} t where t.activity_id = ${activities}.id)`,
  );
  const gone = await orm
    .delete(activities)
    .where(and(inArray(activities.id, [...ids]), ...none))
    .returning({ id: activities.id });
  return ids.length - gone.length;
}

export const activitiesKind: IntakeKind<'activities'> = {
  keyOf: (a) => a.id,
  schema: yup.object({
    id: textField(),
    title: textField(),
    kind: yup
      .string()
      .oneOf([...ACTIVITY_KINDS])
      .required(),
    category: maybeText(),
    categoryWeight: maybeNumber(),
    dropLowest: yup.number().required(),
    points: maybeNumber(),
    opens: maybeNumber(),
    due: maybeNumber(),
    closes: maybeNumber().default(null),
    minutes: maybeNumber(),
    attempts: maybeNumber(),
    outcomes: textFields(),
  }),
  stored: (_, course) => Promise.resolve(storedActivities(course)),
  plan: planActivities,
  write: (access, { course }, changes) => writeActivities(access, course, placed(changes)),
  remove: (access, { ids }, records) =>
    removeWorks(
      access,
      records.flatMap((a) => ids.activityOf.get(a.id) ?? []),
    ),
};
