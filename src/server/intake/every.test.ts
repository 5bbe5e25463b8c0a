import { asc, eq } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import { ended } from '../../../tests/support/job';
import type { CourseOutcome } from '@/core/views/intake';
import { courses, courseStaff, sections, units } from '@/data/schema';
import { exportFile } from '../export/export';
import { setupView } from '../look/setup';
import { unzip } from '../base/zip';
import { cancelJob } from '../jobs/view';
import { commitEvery } from './every';
import { previewImport } from './intake';
import { importAsNew } from './newFromFiles';
import { packagesIn } from './packages';

const small = withSmallCourse();
const me = () => small.course.instructor;

/** A package of four courses: one that is here, two that are not, and one of somebody else. */
const FILES = {
  'manifest.csv':
    'propertyName,value\nmanifest.version,1.0\noneroster.version,1.1\nfile.academicSessions,bulk\nfile.courses,bulk\nfile.classes,bulk\nfile.users,bulk\nfile.enrollments,bulk\n',
  'academicSessions.csv':
    'sourcedId,status,dateLastModified,title,type,startDate,endDate\nt,,,Spring,term,2027-01-11,2027-05-02\n',
  'courses.csv':
    'sourcedId,status,dateLastModified,title,courseCode\nc1,,,Navigation,NAV\nc2,,,Weather,MET-120\nc3,,,Another,OTHER\nc4,,,Radio,RAD 1\n',
  'classes.csv':
    'sourcedId,status,dateLastModified,title,courseSourcedId,termSourcedIds\nk1,,,Monday,c1,t\nk2,,,Morning,c2,t\nk3,,,Else,c3,t\nk4,,,Evening,c4,t\n',
  'users.csv':
    'sourcedId,status,dateLastModified,enabledUser,role,givenName,familyName,email\nu1,,,true,student,Una,Marsh,una@x.example\nu2,,,true,student,Udo,Fell,\n',
  'enrollments.csv':
    'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role\ne1,,,k1,o,u1,student\ne2,,,k2,o,u1,student\ne3,,,k2,o,u2,student\ne4,,,k3,o,u2,student\ne5,,,k4,o,u9,student\n',
};
const pack = (files: Record<string, string> = FILES) => ({
  name: 'all.zip',
  bytes: zipSync(Object.fromEntries(Object.entries(files).map(([n, t]) => [n, strToU8(t)]))),
});
const bringAll = async (id: string) =>
  ended<readonly CourseOutcome[]>(me().userId, await commitEvery(me(), 'NAV', id));

describe('a package of several courses', () => {
  it('says what would happen to each, and brings all in that may come', async () => {
    const preview = await previewImport(me(), 'NAV', [pack()]);
    expect(preview.courses).toEqual([
      { code: 'NAV', title: 'Navigation', standing: 'yours' },
      { code: 'MET-120', title: 'Weather', standing: 'new' },
      { code: 'OTHER', title: 'Another', standing: 'of others' },
      { code: 'RAD-1', title: 'Radio', standing: 'new' },
    ]);
    const outcomes = await bringAll(preview.id!);
    expect(outcomes.map((o) => [o.code, o.made, o.left])).toEqual([
      ['NAV', false, null],
      ['MET-120', true, null],
      ['OTHER', false, 'is taught by others'],
      ['RAD-1', true, null],
    ]);
    const roster = (o: CourseOutcome) => o.files.find((f) => f.kind === 'roster');
    expect(outcomes.map((o) => roster(o)?.added)).toEqual([1, 2, undefined, 0]);
    const met = await setupView(me(), 'MET-120');
    expect(met.students.map((s) => s.name)).toEqual(['Udo Fell', 'Una Marsh']);
    // From 11 January to 2 May 2027 there are 112 days, both included.
    expect(met.form).toMatchObject({ termName: 'Spring', termStart: '2027-01-11', termWeeks: 16 });
    expect(met.form.zone).toBe('Europe/Lisbon');
    expect(met.sections.map((s) => s.name)).toEqual(['Morning']);
    const { orm } = small.test.db;
    const of = await orm.select().from(courses).where(eq(courses.code, 'OTHER'));
    expect(
      await orm
        .select({ n: courseStaff.userId })
        .from(courseStaff)
        .where(eq(courseStaff.courseId, of[0]!.id)),
    ).toEqual([{ n: small.course.stranger.userId }]);
  });

  it('again changes nothing and makes no course a second time', async () => {
    const { orm } = small.test.db;
    const codes = async () => (await orm.select().from(courses).orderBy(asc(courses.id))).map((c) => c.code);
    const before = await codes();
    const preview = await previewImport(me(), 'NAV', [pack()]);
    expect(preview.courses.map((c) => c.standing)).toEqual(['yours', 'yours', 'of others', 'yours']);
    const outcomes = await bringAll(preview.id!);
    expect(outcomes.every((o) => !o.made && o.files.every((f) => f.added + f.changed === 0))).toBe(true);
    expect(await codes()).toEqual(before);
  });

  it('can be brought in where the course of the page is none of them, and is told apart from one of one', async () => {
    const without = {
      ...FILES,
      'courses.csv':
        'sourcedId,status,dateLastModified,title,courseCode\nc2,,,Weather,MET-120\nc4,,,Radio,RAD 1\n',
    };
    const preview = await previewImport(me(), 'NAV', [pack(without)]);
    expect(preview.faults[0]!.reason).toMatch(
      /none of its courses has the code NAV; they are MET-120, RAD-1/,
    );
    expect(preview.courses.map((c) => c.code)).toEqual(['MET-120', 'RAD-1']);
    expect(preview.id).not.toBeNull();
    const alone = { ...FILES, 'courses.csv': 'sourcedId,title,courseCode\nc1,Navigation,NAV\n' };
    expect((await previewImport(me(), 'NAV', [pack(alone)])).courses).toEqual([]);
  });

  it('cancelled in the middle leaves no course that is empty', async () => {
    const fresh = {
      ...FILES,
      'courses.csv': 'sourcedId,title,courseCode\nc2,Weather,MET-300\nc4,Radio,RAD-300\n',
    };
    const { id } = await previewImport(me(), 'NAV', [pack(fresh)]);
    const job = await commitEvery(me(), 'NAV', id!);
    await cancelJob(me().userId, job);
    await expect(ended(me().userId, job)).rejects.toThrow('cancelled');
    const codes = (await small.test.db.orm.select({ code: courses.code }).from(courses)).map((c) => c.code);
    expect(codes).not.toContain('MET-300');
    expect(codes).not.toContain('RAD-300');
  });

  it('stopped at its last step leaves neither the new course nor the units above it', async () => {
    const { db } = small.test;
    const orgs =
      'sourcedId,name,type,parentSourcedId\no1,Harbour School,district,\no2,Pilots,department,o1\n';
    const fresh = {
      ...FILES,
      'manifest.csv': `${FILES['manifest.csv']}file.orgs,bulk\n`,
      'orgs.csv': orgs,
      'courses.csv': 'sourcedId,title,courseCode,orgSourcedId\nc2,Weather,MET-400,o2\n',
    };
    const toMake = { code: 'MET-400', zone: 'Europe/Lisbon', staff: [me().userId] };
    const names = async () => [
      (await db.orm.select({ name: courses.code }).from(courses)).map((c) => c.name),
      (await db.orm.select({ name: units.name }).from(units)).map((u) => u.name),
    ];
    const before = await names();
    const bring = (stillMine = () => Promise.resolve()) =>
      importAsNew(db, toMake, me().userId, [pack(fresh)], Date.parse(NOW), { stillMine });
    await expect(bring(() => Promise.reject(new Error('stopped')))).rejects.toThrow('stopped');
    expect(await names()).toEqual(before);
    // The same again, not stopped, makes all of it.
    await bring();
    const [codes, paths] = await names();
    expect(codes).toContain('MET-400');
    expect(paths).toEqual(expect.arrayContaining(['Harbour School', 'Pilots']));
  });

  it('is for who uploaded it', async () => {
    const { id } = await previewImport(me(), 'NAV', [pack()]);
    await expect(commitEvery(small.course.stranger, 'NAV', id!)).rejects.toThrow(/no such course/);
    await expect(commitEvery(small.course.stranger, 'OTHER', id!)).rejects.toThrow();
  });
});

describe('a course made from a package of our own', () => {
  it('has the term, the breaks, and the sections with meetings and exceptions of the one that was written', async () => {
    const { db } = small.test;
    const breaks = [{ name: 'Half-term', from: '2026-11-02', to: '2026-11-08' }];
    const [institute] = await db.orm.insert(units).values({ name: 'Institute' }).returning({ id: units.id });
    const [school] = await db.orm
      .insert(units)
      .values({ name: 'School', parentId: institute!.id })
      .returning({ id: units.id });
    await db.orm
      .update(courses)
      .set({ breaks, unitId: school!.id })
      .where(eq(courses.id, small.course.courseId));
    const exceptions = [{ on: '2026-10-05', instead: { startMinute: 600, minutes: 60 } }];
    await db.orm.update(sections).set({ exceptions }).where(eq(sections.name, 'Monday'));
    const { body } = await exportFile(db, small.course.courseId, 'oneroster');
    const unpacked = unzip(body);
    if (!unpacked.ok) throw new Error(unpacked.reason);
    const text = (name: string) => new TextDecoder().decode(unpacked.value.get(name));
    // Beside a second course, under another code.
    const files = Object.fromEntries([...unpacked.value.keys()].map((name) => [name, text(name)]));
    files['courses.csv'] = files['courses.csv']!.replace(',NAV,', ',NAV-COPY,');
    const [head] = files['courses.csv'].split(/\r?\n/);
    const second = head!.split(',').map((c) => ({ sourcedId: 'x', title: 'X', courseCode: 'XX-1' })[c] ?? '');
    files['courses.csv'] += `${second.join(',')}\r\n`;
    const upload = pack(files);
    expect(packagesIn([upload]).map((p) => p.ok && p.value.courses.map((c) => c.code))).toEqual([
      ['NAV-COPY', 'XX-1'],
    ]);
    const preview = await previewImport(me(), 'NAV', [upload]);
    const outcomes = await bringAll(preview.id!);
    expect(outcomes.map((o) => [o.code, o.left])).toEqual([
      ['NAV-COPY', null],
      ['XX-1', null],
    ]);
    const [own, copy] = [await setupView(me(), 'NAV'), await setupView(me(), 'NAV-COPY')];
    // In the same unit: it is known by its name and what it is part of.
    expect(copy.form).toEqual(own.form);
    expect(copy.form.unitId).toBe(school!.id);
    expect(await db.orm.select().from(units).where(eq(units.name, 'School'))).toHaveLength(1);
    expect(copy.form.breaks).toEqual(breaks);
    const plain = (view: typeof own) => view.sections.map(({ id: _, ...s }) => s);
    expect(plain(copy)).toEqual(plain(own));
    expect(copy.activities.map((a) => [a.title, a.due, a.minutes])).toEqual(
      own.activities.map((a) => [a.title, a.due, a.minutes]),
    );
  });
});
