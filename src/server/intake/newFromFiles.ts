import { and, eq, isNull, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { addDays, daysBetween, isZone, weekday } from '@/core/calendar/zone';
import type { Break, Term } from '@/core/calendar/term';
import type { RosteredCourse } from '@/core/formats/oneroster/read';
import type { Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { courses, units } from '@/data/schema';
import { invalid } from '../errors';
import { createCourse } from '../setup';
import { listFrom, meetingsOf } from './meetings';
import { packagesIn, pick } from './packages';
import { readFiles } from './readFiles';
import type { UploadedFile } from './upload';

/** Weeks of a term that nobody has said the length of (common practice: a semester). */
const USUAL_WEEKS = 15;

export interface CourseToMake {
  readonly code: string;
  /** Where the files do not say it. */
  readonly zone: string;
  /** User ids of those who shall teach it. */
  readonly staff: readonly string[];
}

/** Makes the course that files describe, with its term and sections; importing them into it is another step. */
async function makeCourseFrom(
  db: Database,
  { code, zone, staff }: CourseToMake,
  uploads: readonly UploadedFile[],
  now: Instant,
): Promise<number> {
  if (!isZone(zone)) throw invalid(`“${zone}” is not a time zone like Europe/Lisbon.`);
  const base = { code, policy: { missing: 'zero' as const }, staff };
  for (const pkg of packagesIn(uploads)) {
    const found = pkg.ok ? pick(pkg.value, { code, zone }) : pkg;
    if (!found.ok) continue;
    const said = found.value;
    return createCourse(db, {
      ...base,
      title: said.course.title,
      unitId: await unitOf(db, said.units),
      termName: said.termName,
      term: termOf(said, zone, now),
      policy: { missing: said.missing === 'ignore' ? 'ignore' : 'zero' },
      sections: said.sections.map((s) => ({ name: s.name, ...meetingsOf(s) })),
    });
  }
  // Without a package the first event says when the term began: the Monday of its week.
  const { files } = await readFiles(uploads, { code, zone });
  const first = (files.events?.rows ?? []).reduce((least, r) => Math.min(least, r.value.at), Infinity);
  const day = dayOf(Number.isFinite(first) ? first : now);
  return createCourse(db, {
    ...base,
    title: code,
    termName: 'Term',
    term: { zone, start: addDays(day, 1 - weekday(day)), weeks: USUAL_WEEKS, breaks: [] },
    sections: [],
  });
}

/**
 * Makes the course that files describe and brings them into it. If that fails the course goes again: one without what it
 * was made for is nothing that anybody asked for.
 */
export async function importAsNew<T>(
  db: Database,
  course: CourseToMake,
  uploads: readonly UploadedFile[],
  now: Instant,
  bring: (courseId: number) => Promise<T>,
): Promise<T> {
  const made = await makeCourseFrom(db, course, uploads, now);
  try {
    return await bring(made);
  } catch (error) {
    await db.orm.delete(courses).where(eq(courses.id, made));
    throw error;
  }
}

/** The unit at the end of a path of names from the top down; what is not there yet is made. None for no path. */
async function unitOf(db: Database, path: readonly string[]): Promise<number | undefined> {
  return db.transaction(async ({ orm }) => {
    let parentId: number | null = null;
    for (const name of path) {
      const above: SQL = parentId == null ? isNull(units.parentId) : eq(units.parentId, parentId);
      const [known] = await orm
        .select({ id: units.id })
        .from(units)
        .where(and(eq(units.name, name), above))
        .limit(1);
      const [made]: { id: number }[] = known
        ? []
        : await orm.insert(units).values({ name, parentId }).returning({ id: units.id });
      parentId = (known ?? made)!.id;
    }
    return parentId ?? undefined;
  });
}

const dayOf = (at: Instant) => new Date(at).toISOString().slice(0, 10);

const dayText = () =>
  yup
    .string()
    .matches(/^\d{4}-\d\d-\d\d$/)
    .required();
const breaksSchema = yup
  .array(
    yup
      .object({ name: yup.string().max(80).required(), from: dayText(), to: dayText() })
      .test('order', (b) => b.from <= b.to)
      .required(),
  )
  .max(20)
  .required();

function termOf(said: RosteredCourse, zone: string, now: Instant): Term {
  const start = said.termStart ?? addDays(dayOf(now), -7 * 8);
  const stated =
    said.weeks ?? (said.termEnd ? Math.ceil((daysBetween(start, said.termEnd) + 1) / 7) : USUAL_WEEKS);
  return {
    zone: said.zone && isZone(said.zone) ? said.zone : zone,
    start,
    weeks: Math.min(60, Math.max(1, Math.round(stated))),
    breaks: listFrom<Break>(breaksSchema, said.breaks),
  };
}
