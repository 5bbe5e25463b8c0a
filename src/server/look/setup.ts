import { and, asc, count, eq, inArray, sql } from 'drizzle-orm';
import { checkUp } from '@/core/setup/checkUp';
import { groupBy } from '@/core/groupBy';
import type { MasteryLevel } from '@/core/outcomes/mastery';
import type { Access } from '@/data/database';
import { readMasteries } from '@/data/queries/studentParts';
import type { TermForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import {
  courses,
  courseStaff,
  enrolments,
  seenEvents,
  groupMembers,
  groups,
  groupStaff,
  persons,
  units,
  user,
  waiting,
} from '@/data/schema';
import { courseHead } from '../snapshot/courseHead';
import { database } from '../base/database';
import { loadCourseModel, type CourseRow } from '@/data/queries/courseModel';
import { fullName } from '../snapshot/roster';
import {
  activityFormOf,
  categoryFormOf,
  courseFormOf,
  outcomeFormOf,
  sectionFormOf,
} from '../snapshot/setupForms';
import { requireCourse, coursesOf, type Viewer } from '../access/viewer';
import { credentialsOf } from '../xapi/credentials';
import { shownEmail } from '@/data/queries/shownEmail';

/** Everything there is to set up in a course, as it stands, and what in it will mislead. */
export async function setupView(viewer: Viewer, code: string): Promise<SetupView> {
  const row = await requireCourse(viewer, 'set up', code);
  const db = await database();
  const { orm } = db;
  const course = await loadCourseModel(db, row.id);
  const people = await orm
    .select({
      enrolment: enrolments,
      person: persons,
      hasEvents: sql<boolean>`exists (select 1 from ${seenEvents} where ${seenEvents.enrolmentId} = ${enrolments.id})`,
    })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, row.id))
    .orderBy(asc(enrolments.id));
  const collator = new Intl.Collator('en');
  const students = people
    .map(({ enrolment, person, hasEvents }) => ({
      id: enrolment.id,
      name: fullName(person),
      given: person.given,
      family: person.family,
      externalId: person.externalId,
      email: shownEmail(person, enrolment),
      sectionId: enrolment.sectionId,
      status: enrolment.status,
      hasEvents,
    }))
    .sort((a, b) => collator.compare(a.family, b.family) || collator.compare(a.name, b.name));
  const [waits] = await orm.select({ n: count() }).from(waiting).where(eq(waiting.courseId, row.id));
  const covered = new Set([...course.covers.values()].flat());
  const active = new Set(students.filter((s) => s.status === 'active').map((s) => s.id));
  const levelsOf = await outcomeLevels(db, row.id, active);
  const works = course.activities.map((a) => activityFormOf(course, a));
  return {
    course: courseHead(row),
    archived: row.archivedAt != null,
    joinCode: row.joinCode,
    form: courseFormOf(row),
    ...(await termsBeside(viewer, row)),
    units: await orm.select().from(units).orderBy(asc(units.name)),
    sections: course.sections.map(sectionFormOf),
    categories: course.categories.map(categoryFormOf),
    activities: works,
    outcomes: course.outcomes.map((o) => outcomeFormOf(course, o)),
    students: students.map(({ id, name, given, family, externalId, email, sectionId, status }) => ({
      id,
      name,
      given,
      family,
      externalId,
      email,
      sectionId,
      status,
    })),
    ...(await groupsOf(viewer)),
    keys: await credentialsOf(viewer, code),
    findings: checkUp({
      sections: course.sections.map((s) => ({ id: s.id, name: s.name, meetings: s.meetings.length })),
      categories: course.categories,
      works: course.activities.map((a, i) => ({
        ...works[i]!,
        id: a.id,
        outcomes: works[i]!.outcomeIds.length,
      })),
      outcomes: course.outcomes.map((o) => ({
        id: o.id,
        title: o.title,
        covered: covered.has(String(o.id)),
        levels: levelsOf.get(o.id) ?? [],
      })),
      students,
      waitingRows: waits?.n ?? 0,
    }),
  };
}

/** Levels of students by outcome, of those that there is any evidence about. */
async function outcomeLevels(
  db: Access,
  courseId: number,
  among: ReadonlySet<number>,
): Promise<Map<number, MasteryLevel[]>> {
  const known = [...(await readMasteries(db, courseId)).values()]
    .flat()
    .filter((m) => among.has(m.enrolmentId));
  const ofOutcome = groupBy(known, (m) => m.outcomeId);
  return new Map(
    [...ofOutcome]
      .filter(([, list]) => list.some((m) => m.askedAt != null))
      .map(([id, list]) => [id, list.map((m) => m.level)]),
  );
}

const termOf = (c: TermForm): TermForm => ({
  termName: c.termName,
  zone: c.zone,
  termStart: c.termStart,
  termWeeks: c.termWeeks,
  breaks: c.breaks,
});

/** Terms of the viewer's other courses, each once, and which of those courses have the term of this one. */
async function termsBeside(viewer: Viewer, row: CourseRow): Promise<Pick<SetupView, 'terms' | 'sameTerm'>> {
  const own = JSON.stringify(termOf(row));
  const found = new Map<string, SetupView['terms'][number]>();
  for (const course of await coursesOf(viewer)) {
    if (course.id === row.id) continue;
    const term = termOf(course);
    const key = JSON.stringify(term);
    found.set(key, { ...term, courses: [...(found.get(key)?.courses ?? []), course.code] });
  }
  const sameTerm = found.get(own)?.courses ?? [];
  found.delete(own);
  return { terms: [...found.values()], sameTerm };
}

/** The groups a viewer answers for, who may be in them, and who may answer for them. */
async function groupsOf(viewer: Viewer): Promise<Pick<SetupView, 'groups' | 'everybody' | 'staff'>> {
  const { orm } = await database();
  const own = await orm
    .select({ id: groups.id, name: groups.name })
    .from(groups)
    .innerJoin(groupStaff, and(eq(groupStaff.groupId, groups.id), eq(groupStaff.userId, viewer.userId)))
    .orderBy(asc(groups.name));
  const ids = own.map((g) => g.id);
  const members = ids.length
    ? await orm.select().from(groupMembers).where(inArray(groupMembers.groupId, ids))
    : [];
  const answering = ids.length
    ? await orm.select().from(groupStaff).where(inArray(groupStaff.groupId, ids))
    : [];
  const taught = await coursesOf(viewer);
  const everybody = taught.length
    ? await orm
        .select({
          id: enrolments.id,
          given: persons.given,
          family: persons.family,
          course: courses.code,
        })
        .from(enrolments)
        .innerJoin(persons, eq(persons.id, enrolments.personId))
        .innerJoin(courses, eq(courses.id, enrolments.courseId))
        .where(
          and(
            inArray(
              courses.id,
              taught.map((c) => c.id),
            ),
            eq(enrolments.status, 'active'),
          ),
        )
    : [];
  const colleagues = await orm
    .selectDistinct({ id: user.id, name: user.name })
    .from(user)
    .innerJoin(courseStaff, eq(courseStaff.userId, user.id));
  return {
    groups: own.map(({ id, name }) => ({
      id,
      name,
      memberIds: members.filter((m) => m.groupId === id).map((m) => m.enrolmentId),
      staffIds: answering.filter((s) => s.groupId === id).map((s) => s.userId),
    })),
    everybody: everybody.map((e) => ({ id: e.id, name: fullName(e), course: e.course })),
    staff: colleagues,
  };
}
