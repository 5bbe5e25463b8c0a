import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as yup from 'yup';
import { parseCsv } from '@/core/formats/csv';
import { FILE_KINDS } from '@/core/course/records';
import { copyLine } from '@/data/database';
import { enrolments, persons, activities } from '@/data/schema';
import { importFiles } from '@/server/intake/intake';
import { eq } from 'drizzle-orm';
import { benchCourse, NOW, type BenchCourse } from './course';
import { bound, ms } from './measure';

const EVENTS = 1_000_000;
const STUDENTS = 540;

const runSchema = yup.object({ time: yup.number().required(), memory: yup.number().required() });

function run(what: 'copy' | 'import', folder: string, file: string, courseId: number) {
  const copy = `${folder}-${what}`;
  cpSync(folder, copy, { recursive: true });
  const done = spawnSync(
    process.execPath,
    ['--import', 'tsx', 'bench/intakeRun.ts', what, copy, file, String(courseId)],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] },
  );
  rmSync(copy, { recursive: true, force: true });
  return runSchema.validateSync(JSON.parse(done.stdout));
}

/** Writes the events of a course as rows of its table, to a file. */
async function writeBareRows({ db, courseId, upload }: BenchCourse, path: string): Promise<number> {
  const people = await db.orm
    .select({ student: persons.externalId, id: enrolments.id })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId));
  const works = await db.orm.select({ external: activities.externalId, id: activities.id }).from(activities);
  const enrolmentOf = new Map(people.map((p) => [p.student, p.id]));
  const workOf = new Map(works.map((w) => [w.external, w.id]));
  const table = parseCsv(new TextDecoder().decode(upload('events').bytes));
  if (!table.ok) throw new Error(table.reason);
  writeFileSync(
    path,
    table.value.rows
      .map(({ cells: [id, student, at, kind, work, duration] }) =>
        copyLine([
          courseId,
          id!,
          enrolmentOf.get(student!)!,
          new Date(at!),
          kind!,
          workOf.get(work ?? '') ?? null,
          duration ? Number(duration) : null,
        ]),
      )
      .join(''),
  );
  return table.value.rows.length;
}

/** Milliseconds of a bare COPY of a course's events into a copy of its database, in a process of its own. */
export async function bareCopy(made: BenchCourse): Promise<number> {
  const files = mkdtempSync(join(tmpdir(), 'lantern-bench-files-'));
  const bare = join(files, 'rows.csv');
  await writeBareRows(made, bare);
  const { time } = run('copy', made.folder, bare, made.courseId);
  rmSync(files, { recursive: true, force: true });
  return time;
}

/**
 * Import of a course's events with everything derived from them, against a bare COPY of the same rows into the same
 * table; each in a process of its own, one after the other.
 */
export async function benchIntake(): Promise<void> {
  console.log(`Import of ${EVENTS.toLocaleString('en')} events, derived rows included`);
  const made = await benchCourse({ students: STUDENTS, copies: 2, events: EVENTS });
  const { db, courseId, userId, upload, folder } = made;
  await importFiles(
    db,
    courseId,
    userId,
    FILE_KINDS.filter((k) => k !== 'events').map(upload),
    Date.parse(NOW),
  );
  const files = mkdtempSync(join(tmpdir(), 'lantern-bench-files-'));
  const [whole, bare] = [join(files, 'events.csv'), join(files, 'rows.csv')];
  writeFileSync(whole, upload('events').bytes);
  const rows = await writeBareRows(made, bare);
  await db.close();
  const copied = run('copy', folder, bare, courseId);
  const imported = run('import', folder, whole, courseId);
  const mb = (memory: number) => `${Math.round(memory / 1e6).toLocaleString('en')} MB`;
  console.log(
    `  ${rows.toLocaleString('en')} events: import ${ms(imported.time)} and ${mb(imported.memory)}, bare COPY ${ms(copied.time)} and ${mb(copied.memory)}`,
  );
  bound('import against bare COPY', imported.time / copied.time, 3, 'at most');
  bound('memory of the import against that of the COPY', imported.memory / copied.memory, 1.5, 'at most');
  rmSync(files, { recursive: true, force: true });
  rmSync(folder, { recursive: true, force: true });
}
