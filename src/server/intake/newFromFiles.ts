import { and, eq, isNull, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { addDays, daysBetween, isZone, weekday } from '@/core/calendar/zone';
import type { Break, Term } from '@/core/calendar/term';
import type { Instant } from '@/core/units';
import type { FileCounts } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import { courses, courseStaff, units } from '@/data/schema';
import { invalid } from '../base/errors';
import { makeCourse, type NewCourse } from '../snapshot/createCourse';
import type { Target } from './importing';
import { importInto, type ImportOptions } from './intake';
import { listFrom, meetingsOf } from './meetings';
import type { PackageAbout } from './readFiles';
import { readUploads } from './readUploads';
import type { Upload } from '../staging/upload';

/** Weeks of a term that nobody has said the length of (common practice: a semester). */
const USUAL_WEEKS = 15;

export interface CourseToMake {
  readonly code: string;
  /** Where the files do not say it. */
  readonly zone: string;
  /** User ids of those who shall teach it. */
  readonly staff: readonly string[];
}

/** A course as files describe it, before it is made. */
interface Described {
  readonly course: Omit<NewCourse, 'unitId'>;
  /** Names of the units above it, from the top down. */
  readonly units: readonly string[];
}

/** What files say of a course that is not there: its term and sections. Nothing is stored. */
async function describeCourse(
  { code, zone, staff }: CourseToMake,
  uploads: readonly Upload[],
  now: Instant,
): Promise<Described> {
  if (!isZone(zone)) throw invalid(`“${zone}” is not a time zone like Europe/Lisbon.`);
  const base = { code, policy: { missing: 'zero' as const }, staff };
  const { packages, files } = await readUploads(uploads, { code, zone });
  const [said] = packages;
  if (said)
    return {
      units: said.units,
      course: {
        ...base,
        title: said.course.title,
        termName: said.termName,
        term: termOf(said, zone, now),
        policy: { missing: said.missing === 'ignore' ? 'ignore' : 'zero' },
        sections: said.sections.map((s) => ({ name: s.name, ...meetingsOf(s) })),
      },
    };
  // Without a package the first event says when the term began: the Monday of its week.
  const first = (files.events?.rows ?? []).reduce((least, r) => Math.min(least, r.value.at), Infinity);
  const day = dayOf(Number.isFinite(first) ? first : now);
  return {
    units: [],
    course: {
      ...base,
      title: code,
      termName: 'Term',
      term: { zone, start: addDays(day, 1 - weekday(day)), weeks: USUAL_WEEKS, breaks: [] },
      sections: [],
    },
  };
}

/**
 * Makes the course that files describe and brings them into it, in one transaction: a course without what it was made
 * for is nothing that anybody asked for, whatever stops the import.
 */
export async function importAsNew(
  db: Database,
  toMake: CourseToMake,
  userId: string | null,
  uploads: readonly Upload[],
  at: Instant,
  options: ImportOptions = {},
): Promise<FileCounts[]> {
  const { course, units } = await describeCourse(toMake, uploads, at);
  const { code, staff } = course;
  const place = async (tx: Access, id: number) =>
    tx.orm
      .update(courses)
      .set({ code, forImport: null, unitId: await unitOf(tx, units) })
      .where(eq(courses.id, id));
  const isNew: Target['isNew'] = {
    hide: async ({ orm }, id, importId) => {
      await orm
        .update(courses)
        .set({ code: `~new ${importId}`, forImport: importId })
        .where(eq(courses.id, id));
      await orm.delete(courseStaff).where(eq(courseStaff.courseId, id));
    },
    show: async (tx, id) => {
      await place(tx, id);
      for (const userId of staff) await tx.orm.insert(courseStaff).values({ courseId: id, userId });
    },
  };
  const make = async (tx: Access) => {
    const id = await makeCourse(tx, course);
    await place(tx, id);
    return id;
  };
  return importInto(db, { code, zone: course.term.zone, make, isNew }, userId, uploads, at, options);
}

/** The unit at the end of a path of names from the top down; what is not there yet is made. None for no path. */
async function unitOf({ orm }: Access, path: readonly string[]): Promise<number | undefined> {
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

function termOf(said: PackageAbout, zone: string, now: Instant): Term {
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
