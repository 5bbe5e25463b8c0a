import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { asc, eq, isNull } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import { compareFlags } from '@/core/flags/priority';
import { factWords } from '@/core/unasked/factWords';
import { RULE_STARTERS, usualNumbers } from '@/core/unasked/starters';
import type { FileCounts } from '@/core/views/intake';
import type { CourseRow } from '@/data/queries/courseModel';
import { rulesOf } from '@/data/queries/rules';
import { FolderFullError, FolderHeldError } from '@/data/lock';
import type { Database } from '@/data/database';
import { courses, courseStaff, user } from '@/data/schema';
import { now } from '@/server/base/clock';
import { database } from '@/server/base/database';
import { openJobs } from '@/server/jobs/view';
import { rebuild } from '@/server/derive/rebuild';
import { UseCaseError } from '@/server/base/errors';
import { ensureEvaluated, evaluateNow } from '@/server/derive/evaluation';
import { titlesOf, toReason } from '@/server/snapshot/reasons';
import { roster } from '@/server/snapshot/roster';
import { snapshotOf } from '@/server/snapshot/snapshot';
import { classTraits } from '@/server/snapshot/traits';
import { wouldHave } from '@/server/unasked/dryRun';
import { checkDerived } from '@/server/export/check';
import { DISK_FULL, isDiskFull } from '@/server/base/failure';
import { EXPORT_FORMATS, exportFile, type ExportFormat } from '@/server/export/export';
import { importFiles } from '@/server/intake/intake';
import { savedMappings } from '@/server/intake/mappings';
import { importAsNew, type CourseToMake } from '@/server/intake/newFromFiles';
import { openProposals, settleProposal } from '@/server/access/proposals';
import { coursesIn, packagesIn } from '@/server/intake/packages';
import { readFiles } from '@/server/intake/readFiles';
import { knownCourse } from '@/server/intake/sources';
import type { UploadedFile } from '@/server/staging/upload';
import type { Progress } from '@/server/jobs/progress';
import { csvOf } from './csv';
import { InputError } from './input';

const say = (line: string) => process.stderr.write(`${line}\n`);

/** Opens the data folder for a command; who holds it is named if it is in use. */
async function open<T>(purpose: string, work: (db: Database) => Promise<T>): Promise<T> {
  let db: Database;
  try {
    db = await database(`the command ${purpose}`);
  } catch (error) {
    if (error instanceof FolderHeldError || error instanceof FolderFullError)
      throw new InputError([error.message]);
    throw error;
  }
  try {
    return await work(db);
  } catch (error) {
    if (error instanceof UseCaseError) throw new InputError([error.message]);
    if (isDiskFull(error)) throw new InputError([DISK_FULL]);
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

async function needRow(db: Database, code: string): Promise<CourseRow> {
  const [row] = await db.orm
    .select()
    .from(courses)
    .where(eq(courses.id, await needCourse(db, code)));
  return row!;
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
  return open('import', async (db) => `${JSON.stringify(await importOne(db, options, uploads))}\n`);
}

/** Imports every course of the packages among the files, each into the course of its code. Returns JSON by code. */
export async function importEveryCommand(options: Omit<ImportOptions, 'course'>): Promise<string> {
  const uploads = options.files.flatMap(readUploads);
  const broken = packagesIn(uploads).flatMap((pkg) => (pkg.ok ? [] : [pkg.reason]));
  if (broken.length > 0) throw new InputError(broken);
  const codes = coursesIn(uploads).map((c) => c.code);
  if (codes.length === 0) throw new InputError(['there is no package of courses among the files']);
  return open('import', async (db) => {
    const done: Record<string, unknown> = {};
    for (const course of codes) {
      say(`${course}:`);
      done[course] = await importOne(db, { ...options, course }, uploads);
    }
    return `${JSON.stringify(done)}\n`;
  });
}

async function importOne(db: Database, options: ImportOptions, uploads: readonly UploadedFile[]) {
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
  const read = await readFiles(uploads, {
    code: options.course,
    zone: options.zone,
    saved,
    known: known == null ? undefined : () => knownCourse(db, known),
  });
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
  say(`importing ${uploads.length} file${uploads.length === 1 ? '' : 's'} …`);
  const watched = { progress: sayProgress() };
  const counts =
    known == null
      ? await importAsNew(db, await courseToMake(db, options), null, uploads, now(), watched)
      : await importFiles(db, known, by?.id ?? null, uploads, now(), watched);
  if (known == null) say(`made the course ${options.course}`);
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

/** A course that is not there yet, taught by the account of an address if there is one. */
async function courseToMake(
  db: Database,
  { course: code, zone, staff: email }: ImportOptions,
): Promise<CourseToMake> {
  const [found] = email
    ? await db.orm.select({ id: user.id }).from(user).where(eq(user.email, email.toLowerCase()))
    : [];
  if (email && !found) throw new InputError([`--staff: there is no account ${email}`]);
  return { code, zone, staff: found ? [found.id] : [] };
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
      .where(isNull(courses.forImport))
      .orderBy(asc(courses.id));
    for (const { id, code } of all) {
      say(`rebuilding ${code} …`);
      await rebuild(db, id);
      await evaluateNow(db, id);
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
        `${c.course}: ${c.events} events, ${c.behind > 0 ? `${c.behind} students behind until the next start, ` : ''}${c.differing.length === 0 ? 'all as a rebuild gives' : `${c.differing.join(', ')} differ`}`,
      );
    if (checked.some((c) => c.differing.length > 0)) process.exitCode = 1;
    return `${JSON.stringify(checked)}\n`;
  });
}

/** The work in the queue: what waits, what runs, what failed and why, as JSON. */
export const jobsCommand = (): Promise<string> =>
  open('jobs', async (db) => `${JSON.stringify(await openJobs(db), null, 1)}\n`);

/** The open flags of a course, as CSV by student; as of an earlier instant by their history. */
export const flagsCommand = (code: string, at: number | null): Promise<string> =>
  open('flags', async (db) => {
    const course = await ensureEvaluated(await needRow(db, code));
    const snapshot = await snapshotOf(course);
    const titleOf = titlesOf(await snapshot.model());
    const flags = await snapshot.flags();
    const day = localDate(at ?? now(), course.zone);
    const people = (await roster(course.id)).filter((p) => p.status === 'active');
    return csvOf(
      ['student', 'indicator', 'level', 'since', 'reason'],
      people.flatMap(({ enrolmentId, studentId }) =>
        (flags.get(enrolmentId) ?? [])
          .filter((f) => f.openedOn <= day && (f.closedOn == null || f.closedOn > day))
          .map((f) => toReason(f, titleOf))
          .sort(compareFlags)
          .map((r) => [studentId, r.kind, r.level, r.openedOn, `${r.head} ${r.rest}`]),
      ),
    );
  });

/** What a rule would have sent in the weeks gone by, as CSV in the order of time. */
export const rulesCommand = (code: string, asked: string): Promise<string> =>
  open('rules', async (db) => {
    const course = await ensureEvaluated(await needRow(db, code));
    const saved = await rulesOf(db, course.id);
    const own = saved.find((r) => String(r.id) === asked || r.name === asked || r.starter === asked);
    const starter = Object.hasOwn(RULE_STARTERS, asked) ? RULE_STARTERS[asked] : undefined;
    const rule = own ?? (starter && { name: starter.name, parts: starter.make(usualNumbers(asked)) });
    if (!rule)
      throw new InputError([
        `there is no rule “${asked}” in ${code}, and no starter of that name: ${Object.keys(RULE_STARTERS).join(', ')}`,
      ]);
    const { all } = await wouldHave(db, course, rule.parts);
    const { about } = await classTraits(await snapshotOf(course), { only: [] });
    const people = new Map((await roster(course.id)).map((p) => [p.enrolmentId, p.studentId]));
    return csvOf(
      ['student', 'at', 'held', 'reason'],
      [...all]
        .sort((a, b) => a.goes - b.goes || a.student - b.student)
        .map((w) => [
          people.get(w.student) ?? '',
          new Date(w.goes).toISOString(),
          w.held ?? '',
          factWords(w.facts, about).join('; '),
        ]),
    );
  });

/** The changes that wait to be settled, as JSON. */
export const proposalsCommand = (): Promise<string> =>
  open('proposals', async (db) => `${JSON.stringify(await openProposals(db), null, 1)}\n`);

/** Makes a proposed change, or leaves it. */
export const settleCommand = (id: number, accept: boolean): Promise<string> =>
  open('settle', async (db) => {
    await settleProposal(db, id, accept);
    return `${JSON.stringify({ proposal: id, accepted: accept })}\n`;
  });
