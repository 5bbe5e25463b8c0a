import { strToU8, unzipSync, zipSync } from 'fflate';
import { parse as strictParse } from 'csv-parse/sync';
import { and, eq } from 'drizzle-orm';
import readXlsxFile from 'read-excel-file/node';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, TERM, withSmallCourse } from '../../../tests/support/course';
import {
  attempts,
  courses,
  dayTotals,
  enrolments,
  erasures,
  events,
  flags,
  importChanges,
  imports,
  measures,
  notes,
  persons,
  scores,
  statements,
} from '@/data/schema';
import { importFiles, previewImport } from '../intake/intake';
import { rejectedCsv } from '../intake/rejected';
import { createCourse } from '../snapshot/createCourse';
import { exportCourse, exportFile, EXPORT_FORMATS } from './export';
import { eraseStudent, studentArchive } from './student';
import { looksLikeZip, unzip } from '../base/zip';

const small = withSmallCourse();
const me = () => small.course.instructor;
const texts = (body: Uint8Array) =>
  Object.fromEntries(Object.entries(unzipSync(body)).map(([n, b]) => [n, new TextDecoder().decode(b)]));

/** An empty course of another code, to bring things into. */
const empty = (code: string) =>
  createCourse(small.test.db, {
    code,
    title: code,
    termName: 'T',
    term: TERM,
    policy: { missing: 'zero' },
    sections: [],
    staff: [me().userId],
  });

/** The figures of a course by the students' own ids. */
async function figures(courseId: number) {
  const { orm } = small.test.db;
  const people = await orm
    .select({ id: enrolments.id, student: persons.externalId })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, courseId));
  const found = await Promise.all(
    people.map(async ({ id, student }) => {
      const days = await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, id));
      const [m] = await orm.select().from(measures).where(eq(measures.enrolmentId, id));
      const own = await orm.select().from(scores).where(eq(scores.enrolmentId, id));
      const open = await orm.select().from(flags).where(eq(flags.enrolmentId, id));
      const tries = await orm.select().from(attempts).where(eq(attempts.enrolmentId, id));
      return {
        student,
        days: days.map(({ enrolmentId: _, ...d }) => JSON.stringify(d)).sort(),
        // Works are named by their ids here, which differ from course to course.
        measures: m && { ...m.measures, completion: { ...m.measures.completion, missing: [] } },
        scores: own
          .map((s) =>
            [s.points, s.submittedAt, s.returnedAt, s.excused, s.ownDueAt, s.extraAttempts].join(' '),
          )
          .sort(),
        flags: open.map((f) => `${f.kind} ${f.level} ${f.openedOn}`).sort(),
        attempts: tries.map((t) => `${t.number} ${t.points}`).sort(),
      };
    }),
  );
  return found.sort((a, b) => (a.student < b.student ? -1 : 1));
}
const bring = (courseId: number, ...uploads: { name: string; bytes: Uint8Array }[]) =>
  importFiles(small.test.db, courseId, me().userId, uploads, Date.parse(NOW));

describe('a whole course out and in again', () => {
  it('as OneRoster and statements gives the same figures, and so do the CSV files', async () => {
    const { db } = small.test;
    const tries = 'student_id,activity_id,attempt,submitted,points\ns1,q1,1,2026-10-19T10:00:00Z,5';
    await bring(small.course.courseId, file('attempts.csv', tries));
    // What was granted here: another due instant, and two attempts more.
    const granted = `${FILES.gradebook.split('\n')[0]},own_due,extra_attempts\ns4,q2,,,,,no,2027-01-04T22:00:00Z,2`;
    await bring(small.course.courseId, file('gradebook.csv', granted));
    const before = await figures(small.course.courseId);
    expect(before[0]!.days.length).toBeGreaterThan(0);
    const rostered = await exportFile(db, small.course.courseId, 'oneroster');
    const said = await exportFile(db, small.course.courseId, 'xapi');
    const one = await empty('ONE');
    await bring(one, { name: rostered.name, bytes: rostered.body });
    await bring(one, { name: said.name, bytes: said.body });
    expect(await figures(one)).toEqual(before);
    const again = await bring(one, { name: rostered.name, bytes: rostered.body });
    expect(again.every((c) => c.added + c.changed === 0)).toBe(true);

    const csv = await exportFile(db, small.course.courseId, 'csv');
    const two = await empty('TWO');
    await bring(two, { name: csv.name, bytes: csv.body });
    // The CSV files know no meetings, so all time there is outside class.
    const outside = (list: typeof before) =>
      JSON.parse(JSON.stringify(list).replaceAll(/(inClassSeconds\\":)\d+/g, '$10')) as unknown;
    expect(await figures(two).then(outside)).toEqual(outside(before));
  });

  it('holds what the standard asks for (OneRoster 1.1 CSV: manifest, then a file a table), read strictly', async () => {
    const { body } = await exportCourse(me(), 'NAV', 'oneroster');
    const files = texts(body);
    const rows = (name: string) => strictParse(files[name]!, { columns: true }) as Record<string, string>[];
    const manifest = Object.fromEntries(rows('manifest.csv').map((r) => [r.propertyName, r.value]));
    expect(manifest).toMatchObject({
      'manifest.version': '1.0',
      'oneroster.version': '1.1',
      'file.users': 'bulk',
      'file.demographics': 'absent',
    });
    expect(Object.keys(rows('users.csv')[0]!).slice(0, 6)).toEqual([
      'sourcedId',
      'status',
      'dateLastModified',
      'enabledUser',
      'orgSourcedIds',
      'role',
    ]);
    const ids = new Set(rows('users.csv').map((u) => u.sourcedId));
    expect(rows('enrollments.csv').every((e) => ids.has(e.userSourcedId))).toBe(true);
    expect(rows('results.csv').map((r) => r.scoreStatus)).toContain('exempt');
  });

  it('as a workbook is read back by an independent reader, with types kept', async () => {
    const { body } = await exportCourse(me(), 'NAV', 'xlsx');
    const sheets = await readXlsxFile(body);
    const grades = sheets.find((s) => s.sheet === 'gradebook')!.data;
    expect(grades[0]).toEqual([...FILES.gradebook.split('\n')[0]!.split(','), 'own_due', 'extra_attempts']);
    expect(grades[1]!.map((c) => typeof c)).toContain('number');
    expect(grades.flat()).toContain('s1');
  });

  it('is for who teaches it', async () => {
    for (const format of EXPORT_FORMATS)
      await expect(exportCourse(small.course.stranger, 'NAV', format)).rejects.toThrow(/no such/);
  });
});

describe('a OneRoster package', () => {
  const pack = (more: Record<string, string> = {}) => {
    const files = {
      'manifest.csv':
        'propertyName,value\nmanifest.version,1.0\noneroster.version,1.2\nfile.courses,bulk\nfile.classes,bulk\nfile.users,bulk\nfile.roles,bulk\nfile.enrollments,bulk\nfile.categories,bulk\nfile.lineItems,bulk\nfile.results,bulk\n',
      'courses.csv':
        'sourcedId,status,dateLastModified,title,courseCode\nc1,,,Navigation,NAV\nc2,,,Other,OTH\n',
      'classes.csv':
        'sourcedId,status,dateLastModified,title,courseSourcedId,termSourcedIds\nk1,,,Monday,c1,t\nk2,,,Else,c2,t\n',
      'users.csv':
        "sourcedId,status,dateLastModified,enabledUser,username,givenName,familyName,email\nu1,active,,true,u1,Una,O'Neill,una@x.example\nu2,tobedeleted,,true,u2,Udo,Gone,\nu3,,,true,u3,,Nameless,\nt1,,,true,t1,Teo,Teach,\n",
      'roles.csv':
        'sourcedId,status,dateLastModified,userSourcedId,roleType,role\nr1,,,u1,primary,student\nr2,,,u2,primary,student\n',
      'enrollments.csv':
        'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,beginDate,endDate\ne1,,,k1,o,u1,student,,2026-09-30,\ne2,,,k1,o,u2,student,,,\ne3,,,k1,o,u3,student,,,\ne4,,,k1,o,u9,student,,,\ne5,,,k9,o,u1,student,,,\ne6,,,k1,o,t1,teacher,,,\ne7,,,k2,o,u1,student,,,\n',
      'categories.csv': 'sourcedId,status,dateLastModified,title,weight\ng1,,,Projects,40\n',
      'lineItems.csv':
        'sourcedId,status,dateLastModified,title,assignDate,dueDate,classSourcedId,categorySourcedId,resultValueMin,resultValueMax\nl1,,,Project 1,2026-10-01,2026-10-05,k1,g1,0,50\nl2,,,Bad,2026-10-01,2026-10-05,k1,g1,0,many\n',
      'results.csv':
        'sourcedId,status,dateLastModified,lineItemSourcedId,studentSourcedId,scoreStatus,score,scoreDate\nx1,,,l1,u1,fully graded,45.5,2026-10-07\nx2,,,l9,u1,fully graded,1,2026-10-07\nx3,,,l1,u8,fully graded,1,2026-10-07\n',
      ...more,
    };
    return zipSync(Object.fromEntries(Object.entries(files).map(([n, t]) => [n, strToU8(t)])));
  };

  it('of version 1.2, cut to the course by its code, with every bad row named', async () => {
    const preview = await previewImport(me(), 'NAV', [{ name: 'roster.zip', bytes: pack() }]);
    expect(preview.faults).toEqual([]);
    const of = (kind: string) => preview.files.find((f) => f.kind === kind)!;
    expect(of('roster').counts).toMatchObject({ added: 2 });
    expect(of('activities').rejected.map((r) => `${r.line} ${r.field}: ${r.reason}`)).toEqual([
      '3 lineItems.csv resultValueMax: is not a number',
      '3 results.csv lineItemSourcedId: there is no line item “l9”',
      '4 users.csv givenName: is empty',
      '5 enrollments.csv userSourcedId: there is no user “u9”',
      '6 enrollments.csv classSourcedId: there is no class “k9”',
    ]);
    expect(of('gradebook').counts).toMatchObject({ added: 1, waiting: 1 });
    // A row put together from several files is shown as ours would have it; a rejected one as it stood.
    expect(of('roster').header.slice(0, 4)).toEqual(['student_id', 'given_name', 'family_name', 'email']);
    expect(of('roster').added[0]!.cells.slice(0, 4)).toEqual(['u1', 'Una', "O'Neill", 'una@x.example']);
    expect(of('activities').rejected[0]!.cells).toEqual(['l2,,,Bad,2026-10-01,2026-10-05,k1,g1,0,many']);
    const sheet = await rejectedCsv(me(), 'NAV', preview.id!, 'activities');
    expect((strictParse(sheet) as string[][])[1]).toEqual([
      '3',
      'lineItems.csv resultValueMax',
      'is not a number',
      'l2,,,Bad,2026-10-01,2026-10-05,k1,g1,0,many',
    ]);
    const few = await previewImport(me(), 'NAV', [
      { name: 'p.zip', bytes: pack({ 'lineItems.csv': 'sourcedId,title\n', 'results.csv': 'sourcedId\n' }) },
    ]);
    expect(few.files.map((f) => f.kind)).toEqual(['activities', 'roster']);
    await bring(small.course.courseId, { name: 'roster.zip', bytes: pack() });
    const { orm } = small.test.db;
    const [una] = await orm
      .select({ e: enrolments, p: persons })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(eq(persons.externalId, 'u1'));
    expect([una!.p.family, una!.e.status, una!.e.joinedOn]).toEqual(["O'Neill", 'active', '2026-09-30']);
    const [score] = await orm.select().from(scores).where(eq(scores.enrolmentId, una!.e.id));
    // Midnight in Lisbon, an hour ahead of UTC until 25 October (tz database).
    expect(score).toMatchObject({ points: 45.5, returnedAt: new Date('2026-10-06T23:00:00Z') });
    const [udo] = await orm
      .select({ status: enrolments.status })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(eq(persons.externalId, 'u2'));
    expect(udo!.status).toBe('withdrawn');
  });

  it('says what is wrong with one that cannot be read', async () => {
    const faults = async (bytes: Uint8Array) =>
      (await previewImport(me(), 'NAV', [{ name: 'p.zip', bytes }])).faults.map((f) => f.reason).join();
    expect(await faults(pack({ 'manifest.csv': 'propertyName,value\noneroster.version,0.9\n' }))).toMatch(
      /oneroster.version is “0.9”/,
    );
    expect(await faults(pack({ 'courses.csv': 'sourcedId,title,courseCode\na,A,A\nb,B,B\n' }))).toMatch(
      /none of its courses has the code NAV; they are A, B/,
    );
    const manifest = 'propertyName,value\noneroster.version,1.1\n';
    expect(await faults(zipSync({ 'manifest.csv': strToU8(manifest) }))).toMatch(/courses.csv is missing/);
  });
});

describe('archives', () => {
  const reason = (bytes: Uint8Array) => {
    const read = unzip(bytes);
    return read.ok ? 'read' : read.reason;
  };
  it('are refused when cut short, when they blow up, and when their names lead elsewhere', () => {
    const good = zipSync({ 'a/roster.csv': strToU8('student_id\n1'), 'b.csv': strToU8('x') });
    expect(looksLikeZip(good)).toBe(true);
    expect(reason(good)).toBe('read');
    expect(reason(good.slice(0, good.length - 30))).toMatch(/no whole zip/);
    expect(reason(good.slice(0, 10))).toMatch(/no whole zip|no file/);
    expect(reason(zipSync({ 'big.csv': new Uint8Array(60_000_000) }))).toMatch(/far more/);
    expect(reason(zipSync({ '../x.csv': strToU8('x') }))).toMatch(/leads elsewhere/);
    expect(reason(zipSync({ '/etc/x.csv': strToU8('x') }))).toMatch(/leads elsewhere/);
    const many = Object.fromEntries(Array.from({ length: 61 }, (_, i) => [`${i}.csv`, strToU8('x')]));
    expect(reason(zipSync(many))).toMatch(/more than 60/);
    const twice = zipSync({ 'monday/roster.csv': strToU8('x'), 'online/roster.csv': strToU8('y') });
    expect(reason(twice)).toBe('holds two files of the name roster.csv');
    const damaged = good.slice();
    damaged.fill(7, 40, 44);
    expect(['read', 'is damaged', 'is no whole zip'].some((w) => reason(damaged).startsWith(w))).toBe(true);
  });
});

describe('one student', () => {
  it('gets all on record about them, and nothing about others', async () => {
    const { enrolmentId } = await small.course.student('s1');
    await small.test.db.orm.insert(notes).values({
      courseId: small.course.courseId,
      enrolmentId,
      userId: me().userId,
      kind: 'note',
      on: '2026-10-28',
      text: 'Asked for help with tides',
      at: new Date(NOW),
    });
    const { body } = await studentArchive(me(), 'NAV', enrolmentId);
    const files = texts(body);
    expect(files['notes.json']).toContain('Asked for help with tides');
    expect(files['about.json']).toContain('Łucja');
    expect(files['events.csv']!.split('\n').length).toBeGreaterThan(50);
    expect(Object.values(files).join()).not.toContain('omer@gone');
    expect(Object.values(files).join()).not.toContain('s3,');
    await expect(studentArchive(small.course.stranger, 'NAV', enrolmentId)).rejects.toThrow();
  });

  it('is erased whole, with a log that names nobody; the others keep their figures', async () => {
    const { orm } = small.test.db;
    const { enrolmentId } = await small.course.student('s3');
    await expect(eraseStudent(small.course.stranger, 'NAV', enrolmentId)).rejects.toThrow();
    const others = async () =>
      (await figures(small.course.courseId)).filter((f) => f.student !== 's3').map((f) => f.scores);
    const before = await others();
    const kept = async () =>
      JSON.stringify(
        await orm
          .select({ after: importChanges.after })
          .from(importChanges)
          .innerJoin(imports, eq(imports.id, importChanges.importId))
          .where(eq(imports.courseId, small.course.courseId)),
      );
    expect(await kept()).toContain('"student":"s3"');
    expect(await eraseStudent(me(), 'NAV', enrolmentId)).toBeGreaterThan(100);
    expect(await others()).toEqual(before);
    // What imports keep for taking them back forgets this student, and nobody else.
    expect(await kept()).not.toMatch(/"(student|id)":"s3"/);
    expect(await kept()).toContain('"student":"s4"');
    expect(await orm.select().from(events).where(eq(events.enrolmentId, enrolmentId))).toEqual([]);
    const [log] = await orm.select().from(erasures);
    expect(log).toMatchObject({ userId: me().userId });
    expect(JSON.stringify(log)).not.toMatch(/s3|Bo|Li\b/);
    const left = await orm
      .select()
      .from(enrolments)
      .innerJoin(courses, and(eq(courses.id, enrolments.courseId), eq(courses.code, 'NAV')))
      .where(eq(enrolments.id, enrolmentId));
    expect(left).toEqual([]);
    expect(await orm.select().from(statements).where(eq(statements.actor, 'account:x|s3'))).toEqual([]);
    expect(FILES.roster).toContain('s3');
  });
});
