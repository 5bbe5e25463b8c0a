import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { asc, eq } from 'drizzle-orm';
import { addDays, daysBetween, isZone, weekday } from '@/core/calendar/zone';
import { courseOf } from '@/core/formats/oneroster/read';
import type { FileCounts } from '@/core/views/intake';
import { FolderHeldError } from '@/data/lock';
import type { Database } from '@/data/database';
import { courses, courseStaff, user } from '@/data/schema';
import { now } from '@/server/clock';
import { database } from '@/server/database';
import { deriveActivity } from '@/server/derive/activity';
import { loadCourseModel, lockCourse } from '@/server/derive/courseModel';
import { UseCaseError } from '@/server/errors';
import { evaluateNow } from '@/server/evaluation';
import { checkDerived } from '@/server/exchange/check';
import { EXPORT_FORMATS, exportFile, type ExportFormat } from '@/server/exchange/export';
import { looksLikeZip, unzip } from '@/server/exchange/zip';
import { importFiles } from '@/server/intake/intake';
import { savedMappings } from '@/server/intake/mappings';
import { meetingsOf } from '@/server/intake/meetings';
import { packageOf } from '@/server/intake/packages';
import { readFiles } from '@/server/intake/readFiles';
import type { UploadedFile } from '@/server/intake/upload';
import type { Progress } from '@/server/jobs';
import { createCourse } from '@/server/setup';
import { InputError } from './input';

const say = (line: string) => process.stderr.write(`${line}\n`);

/** Opens the data folder for a command; who holds it is named if it is in use. */
async function open<T>(purpose: string, work: (db: Database) => Promise<T>): Promise<T> {
  let db: Database;
  try {
    db = await database(`the command ${purpose}`);
  } catch (error) {
    if (error instanceof FolderHeldError) throw new InputError([error.message]);
    throw error;
  }
  try {
    return await work(db);
  } catch (error) {
    if (error instanceof UseCaseError) throw new InputError([error.message]);
    throw error;
  } finally {
    await db.close();
  }
}

async function courseIdOf(db: Database, code: string): Promise<number | null> {
  const [found] = await db.orm.select({ id: courses.id }).from(courses).where(eq(courses.code, code));
  return found?.id ?? null;
}

async function needCourse(db: Database, code: string): Promise<number> {
  const id = await courseIdOf(db, code);
  if (id == null) throw new InputError([`there is no course ${code} in this data folder`]);
  return id;
}

export interface ImportOptions {
  readonly course: string;
  readonly files: readonly string[];
  /** For a course that is made: its zone, where the files do not say it. */
  readonly zone: string;
  /** Address of an account that shall teach a course that is made. */
  readonly staff: string | null;
}

/** Imports files into a course; one that is not there is made as the files describe it. Returns JSON. */
export async function importCommand(options: ImportOptions): Promise<string> {
  const uploads = options.files.flatMap(readUploads);
  return open('import', async (db) => `${JSON.stringify(await importInto(db, options, uploads))}\n`);
}

/** Imports every course of the packages among the files, each into the course of its code. Returns JSON by code. */
export async function importEveryCommand(options: Omit<ImportOptions, 'course'>): Promise<string> {
  const uploads = options.files.flatMap(readUploads);
  const codes = coursesIn(uploads);
  if (codes.length === 0) throw new InputError(['there is no package of courses among the files']);
  return open('import', async (db) => {
    const done: Record<string, unknown> = {};
    for (const course of codes) {
      say(`${course}:`);
      done[course] = await importInto(db, { ...options, course }, uploads);
    }
    return `${JSON.stringify(done)}\n`;
  });
}

/** Codes of the courses in the packages among uploaded files. */
function coursesIn(uploads: readonly UploadedFile[]): string[] {
  const loose = new Map(uploads.filter((u) => !looksLikeZip(u.bytes)).map((u) => [u.name, u.bytes]));
  const folders = [
    loose,
    ...uploads.flatMap((u) => {
      const found = looksLikeZip(u.bytes) ? unzip(u.bytes) : null;
      return found?.ok ? [found.value] : [];
    }),
  ].filter((folder) => folder.has('manifest.csv'));
  return folders.flatMap((folder) => {
    const pkg = packageOf(folder);
    if (!pkg.ok) throw new InputError([pkg.reason]);
    return pkg.value.courses.map((c) => c.code);
  });
}

async function importInto(db: Database, options: ImportOptions, uploads: readonly UploadedFile[]) {
  const known = await courseIdOf(db, options.course);
  const [by] =
    known == null
      ? []
      : await db.orm
          .select({ id: courseStaff.userId })
          .from(courseStaff)
          .where(eq(courseStaff.courseId, known))
          .limit(1);
  const saved = known == null ? [] : await savedMappings(db, known, by?.id ?? null);
  const read = readFiles(uploads, { code: options.course, zone: options.zone, saved });
  const faults = [
    ...read.faults,
    ...read.foreign
      .filter((f) => !f.read)
      .map((f) => ({
        name: f.name,
        reason:
          f.reason ??
          'its columns are of another make, and no mapping of the course fits; map it on screen once',
      })),
  ];
  if (faults.length > 0) throw new InputError(faults.map((f) => `${f.name}: ${f.reason}`));
  const courseId = known ?? (await makeCourse(db, options, uploads));
  if (known == null) say(`made the course ${options.course}`);
  say(`importing ${uploads.length} file${uploads.length === 1 ? '' : 's'} …`);
  const progress = sayProgress();
  const counts = await importFiles(db, courseId, by?.id ?? null, uploads, now(), { progress });
  for (const c of counts) say(`${c.file} as ${c.kind}: ${c.added} added, ${c.rejected} rejected`);
  return summary(counts);
}

/** Says each step once, and how far it is at most once a second. */
function sayProgress(): Progress {
  let last = '';
  let saidAt = 0;
  return (step, done = 0, of = 0) => {
    const at = performance.now();
    if (step !== last || (of > 0 && at - saidAt > 1000)) {
      say(of > 0 ? `${step}: ${done} of ${of}` : `${step} …`);
      saidAt = at;
    }
    last = step;
    return Promise.resolve();
  };
}

/** Counts by kind, as scripts read them. */
function summary(counts: readonly FileCounts[]) {
  return Object.fromEntries(
    counts.map(({ kind, added, changed, unchanged, rejected, waiting }) => [
      kind,
      { added, changed, unchanged, rejected, waiting },
    ]),
  );
}

/** A file, or the files of a folder. */
function readUploads(path: string): UploadedFile[] {
  try {
    const paths = statSync(path).isDirectory() ? readdirSync(path).map((name) => join(path, name)) : [path];
    return paths.map((file) => ({ name: basename(file), bytes: readFileSync(file) }));
  } catch {
    throw new InputError([`${path}: cannot be read`]);
  }
}

async function makeCourse(
  db: Database,
  { course: code, zone, staff }: ImportOptions,
  uploads: readonly UploadedFile[],
): Promise<number> {
  if (!isZone(zone)) throw new InputError([`--zone: “${zone}” is not a time zone like Europe/Lisbon`]);
  const staffIds: string[] = [];
  if (staff) {
    const [found] = await db.orm
      .select({ id: user.id })
      .from(user)
      .where(eq(user.email, staff.toLowerCase()));
    if (!found) throw new InputError([`--staff: there is no account ${staff}`]);
    staffIds.push(found.id);
  }
  const base = { code, policy: { missing: 'zero' as const }, staff: staffIds };
  for (const { bytes } of uploads) {
    if (!looksLikeZip(bytes)) continue;
    const found = unzip(bytes);
    const pkg = found.ok && found.value.has('manifest.csv') ? packageOf(found.value) : null;
    if (!pkg?.ok) continue;
    const own =
      pkg.value.courses.find((c) => c.code === code) ??
      (pkg.value.courses.length === 1 ? pkg.value.courses[0] : undefined);
    if (!own) continue;
    const said = courseOf(pkg.value, own, zone);
    const start = said.termStart ?? addDays(new Date(now()).toISOString().slice(0, 10), -56);
    const weeks =
      said.weeks ?? (said.termEnd ? Math.max(1, Math.ceil((daysBetween(start, said.termEnd) + 1) / 7)) : 15);
    return createCourse(db, {
      ...base,
      title: own.title,
      termName: said.termName,
      term: { zone: said.zone ?? zone, start, weeks, breaks: [] },
      policy: { missing: said.missing === 'ignore' ? 'ignore' : 'zero' },
      sections: said.sections.map((s) => ({ name: s.name, meetings: meetingsOf(s).meetings })),
    });
  }
  // Without a package the first event says when the term began: the Monday of its week.
  const { files } = readFiles(uploads, { code, zone });
  const first = (files.events?.rows ?? []).reduce((least, r) => Math.min(least, r.value.at), Infinity);
  const day = new Date(Number.isFinite(first) ? first : now()).toISOString().slice(0, 10);
  return createCourse(db, {
    ...base,
    title: code,
    termName: 'Term',
    term: { zone, start: addDays(day, 1 - weekday(day)), weeks: 15, breaks: [] },
    sections: [],
  });
}

/** Writes a whole course to a file in an open format. */
export async function exportCommand(code: string, asked: string, out: string): Promise<string> {
  const format = EXPORT_FORMATS.find((f): f is ExportFormat => f === asked);
  if (!format) throw new InputError([`--format: “${asked}” is none of ${EXPORT_FORMATS.join(', ')}`]);
  return open('export', async (db) => {
    const { body } = await exportFile(db, await needCourse(db, code), format);
    try {
      writeFileSync(out, body);
    } catch {
      throw new InputError([`${out}: cannot be written`]);
    }
    return `${JSON.stringify({ file: out, format, bytes: body.length })}\n`;
  });
}

/** Derives everything of every course anew. */
export async function rebuildCommand(): Promise<string> {
  return open('rebuild', async (db) => {
    const all = await db.orm
      .select({ id: courses.id, code: courses.code })
      .from(courses)
      .orderBy(asc(courses.id));
    for (const { id, code } of all) {
      say(`rebuilding ${code} …`);
      await db.transaction(async (tx) => {
        await lockCourse(tx, id);
        await deriveActivity(tx, await loadCourseModel(tx, id), null);
      });
      await evaluateNow(id);
    }
    return `${JSON.stringify({ rebuilt: all.map((c) => c.code) })}\n`;
  });
}

/** Compares the derived rows of every course with those of a rebuild; ends with 1 if any differ. */
export async function checkCommand(): Promise<string> {
  return open('check', async (db) => {
    const checked = await checkDerived(db);
    for (const c of checked)
      say(
        `${c.course}: ${c.events} events, ${c.differing.length === 0 ? 'all as a rebuild gives' : `${c.differing.join(', ')} differ`}`,
      );
    if (checked.some((c) => c.differing.length > 0)) process.exitCode = 1;
    return `${JSON.stringify(checked)}\n`;
  });
}
