import type { Changes, Objection } from '@/core/formats/classify';
import type { ActivityRecord, OutcomeRecord } from '@/core/course/records';
import { sameFields } from '@/core/formats/sameRecord';
import { withValue } from '@/core/formats/table';
import { ACTIVITY_FIELDS, keepUnsaid, OUTCOME_FIELDS } from '@/core/formats/unsaid';
import { outcomeCircle, type LinkedOutcome } from '@/core/outcomes/prerequisites';
import type { CourseModel } from '@/data/queries/courseModel';
import type { CourseFiles } from './readFiles';
import { sort } from './sort';

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

export function planOutcomes(
  course: CourseModel,
  file: NonNullable<CourseFiles['outcomes']>,
): Promise<Changes<OutcomeRecord>> {
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

export function planActivities(
  course: CourseModel,
  file: NonNullable<CourseFiles['activities']>,
  outcomeIds: ReadonlySet<string>,
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
