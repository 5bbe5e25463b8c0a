import type { ActivityForm, CategoryForm, CourseForm, OutcomeForm, SectionForm } from '@/core/forms/setup';
import type { ActivityRow, CourseModel, CourseRow } from '@/data/queries/courseModel';

/** What the forms of the set-up hold of a course as it is stored: what is shown, and the version that saving compares with. */
export const courseFormOf = (row: CourseRow): CourseForm => ({
  title: row.title,
  termName: row.termName,
  zone: row.zone,
  termStart: row.termStart,
  termWeeks: row.termWeeks,
  breaks: row.breaks,
  unitId: row.unitId,
  missing: row.policy.missing,
  attempts: row.attemptPolicy,
});

export const sectionFormOf = ({
  id,
  name,
  meetings,
  exceptions,
}: CourseModel['sections'][number]): SectionForm => ({ id, name, meetings, exceptions });

export const categoryFormOf = ({
  id,
  name,
  weight,
  dropLowest,
}: CourseModel['categories'][number]): CategoryForm => ({ id, name, weight, dropLowest });

export const activityFormOf = (course: CourseModel, a: ActivityRow): ActivityForm => ({
  id: a.id,
  title: a.title,
  kind: a.kind,
  categoryId: a.categoryId,
  points: a.points,
  opens: a.opensAt?.getTime() ?? null,
  due: a.dueAt?.getTime() ?? null,
  closes: a.closesAt?.getTime() ?? null,
  attempts: a.attemptsAllowed,
  minutes: a.minutes,
  outcomeIds: (course.covers.get(String(a.id)) ?? []).map(Number).sort((x, y) => x - y),
});

export const outcomeFormOf = (course: CourseModel, o: CourseModel['outcomes'][number]): OutcomeForm => {
  const idOf = new Map(course.outcomes.map((other) => [other.externalId, other.id]));
  return {
    id: o.id,
    title: o.title,
    parentId: o.parentId,
    before: o.prerequisites.flatMap((p) => idOf.get(p) ?? []),
  };
};
