import { eq } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import { sourceIds } from '@/data/schema';
import { setupView } from '../look/setup';
import { courseRecords } from '../export/course';
import { importFiles, previewImport } from './intake';
import { importAsNew } from './newFromFiles';

const small = withSmallCourse();
const me = () => small.course.instructor;

type Tables = Readonly<Record<string, string>>;
const NAMES = [
  'academicSessions',
  'courses',
  'classes',
  'users',
  'enrollments',
  'categories',
  'lineItems',
  'results',
];

/** A package of some tables; what is not among them is absent (OneRoster 1.1 CSV, manifest; from memory). */
function pack(mode: 'bulk' | 'delta', tables: Tables) {
  const lines = NAMES.map((name) => `file.${name},${name in tables ? mode : 'absent'}`);
  const manifest = ['propertyName,value', 'manifest.version,1.0', 'oneroster.version,1.1', ...lines].join(
    '\n',
  );
  const files = { manifest, ...tables };
  return {
    name: `${mode}.zip`,
    bytes: zipSync(
      Object.fromEntries(Object.entries(files).map(([n, t]) => [`${n}.csv`, strToU8(`${t}\n`)])),
    ),
  };
}

const HEADS = {
  academicSessions: 'sourcedId,status,title,type,startDate,endDate',
  courses: 'sourcedId,status,title,courseCode',
  classes: 'sourcedId,status,title,courseSourcedId,termSourcedIds',
  users: 'sourcedId,status,enabledUser,role,givenName,familyName,email',
  enrollments: 'sourcedId,status,classSourcedId,schoolSourcedId,userSourcedId,role,beginDate,endDate',
  categories: 'sourcedId,status,title,weight',
  lineItems:
    'sourcedId,status,title,assignDate,dueDate,classSourcedId,categorySourcedId,resultValueMin,resultValueMax',
  results: 'sourcedId,status,lineItemSourcedId,studentSourcedId,scoreStatus,score,scoreDate',
} as const;
const table = (name: keyof typeof HEADS, ...rows: string[]) => ({
  [name]: [HEADS[name], ...rows].join('\n'),
});

const WHOLE = {
  ...table('academicSessions', 't,,Autumn,term,2026-09-28,2027-01-10'),
  ...table('courses', 'c1,,Weather,MET-500'),
  ...table('classes', 'k1,,Monday,c1,t', 'k2,,Friday,c1,t'),
  ...table(
    'users',
    'u1,,true,student,Una,Marsh,una@x.example',
    'u2,,true,student,Udo,Fell,udo@x.example',
    'u3,,true,student,Uwe,Gray,',
  ),
  ...table(
    'enrollments',
    'e1,,k1,o,u1,student,2026-09-28,',
    'e2,,k1,o,u2,student,2026-09-28,',
    'e3,,k2,o,u3,student,2026-09-28,',
  ),
  ...table('categories', 'g1,,Charts,60', 'g2,,Quizzes,40'),
  ...table(
    'lineItems',
    'l1,,Chart 1,2026-10-01,2026-10-10,k1,g1,0,20',
    'l2,,Quiz 1,2026-10-01,2026-10-12,k1,g2,0,10',
  ),
  ...table('results', 'r1,,l1,u1,fully graded,15,2026-10-12', 'r2,,l1,u2,fully graded,12,2026-10-12'),
};

const make = async (code: string, tables: Tables) => {
  const toMake = { code, zone: 'Europe/Lisbon', staff: [me().userId] };
  await importAsNew(small.test.db, toMake, me().userId, [pack('bulk', tables)], Date.parse(NOW));
  return (await setupView(me(), code)).form;
};
const idOf = async (code: string) => {
  const rows = await small.test.db.orm.query.courses.findMany();
  return rows.find((c) => c.code === code)!.id;
};
const records = async (code: string) => {
  const { roster, gradebook, activities } = await courseRecords(small.test.db, await idOf(code));
  const plain = (list: readonly object[]) => list.map((r) => JSON.stringify(r)).sort();
  return { roster: plain(roster), gradebook: plain(gradebook), activities: plain(activities) };
};
const delta = async (tables: Tables) => {
  const upload = pack('delta', tables);
  const { files, faults } = await previewImport(me(), 'MET-500', [upload]);
  expect(faults).toEqual([]);
  await importFiles(small.test.db, await idOf('MET-500'), me().userId, [upload], Date.parse(NOW));
  return Object.fromEntries(files.map((f) => [f.kind, f]));
};

describe('a delta package', () => {
  it('names what changed by the ids that came before, and comes to what a whole package of today says', async () => {
    await make('MET-500', WHOLE);
    // Without courses, classes or users: someone new to them, someone moved, someone gone.
    const moved = await delta({
      ...table('users', 'u4,,true,student,Ula,Hart,ula@x.example'),
      ...table(
        'enrollments',
        'e4,,k2,o,u4,student,2026-10-20,',
        'e5,,k2,o,u1,student,2026-09-28,',
        'e2,tobedeleted,k1,o,u2,student,2026-09-28,2026-10-20',
      ),
    });
    expect(moved.roster!.counts).toMatchObject({ added: 1, changed: 2, rejected: 0 });
    // A name and an address alone; a category alone; a work of a class that is not named again; grades of both.
    await delta(table('users', 'u3,,true,student,Uwe,Grey,uwe@x.example'));
    await delta(table('categories', 'g1,,Charts,70'));
    await delta({
      ...table('lineItems', 'l3,,Chart 2,2026-10-12,2026-10-24,k1,g1,0,20'),
      ...table(
        'results',
        'r3,,l3,u1,fully graded,19,2026-10-26',
        'r1,,l1,u1,fully graded,16,2026-10-12',
        'r2,tobedeleted,l1,u2,,,',
      ),
    });

    await make('MET-600', {
      ...WHOLE,
      ...table('courses', 'c1,,Weather,MET-600'),
      ...table(
        'users',
        'u1,,true,student,Una,Marsh,una@x.example',
        'u2,,true,student,Udo,Fell,udo@x.example',
        'u3,,true,student,Uwe,Grey,uwe@x.example',
        'u4,,true,student,Ula,Hart,ula@x.example',
      ),
      ...table(
        'enrollments',
        'e5,,k2,o,u1,student,2026-09-28,',
        'e2,tobedeleted,k1,o,u2,student,2026-09-28,2026-10-20',
        'e3,,k2,o,u3,student,2026-09-28,',
        'e4,,k2,o,u4,student,2026-10-20,',
      ),
      ...table('categories', 'g1,,Charts,70', 'g2,,Quizzes,40'),
      ...table(
        'lineItems',
        'l1,,Chart 1,2026-10-01,2026-10-10,k1,g1,0,20',
        'l2,,Quiz 1,2026-10-01,2026-10-12,k1,g2,0,10',
        'l3,,Chart 2,2026-10-12,2026-10-24,k1,g1,0,20',
      ),
      ...table(
        'results',
        'r1,,l1,u1,fully graded,16,2026-10-12',
        'r2,tobedeleted,l1,u2,,,',
        'r3,,l3,u1,fully graded,19,2026-10-26',
      ),
    });
    const [byDeltas, whole] = [await records('MET-500'), await records('MET-600')];
    expect(byDeltas.roster).toEqual(whole.roster);
    expect(byDeltas.activities).toEqual(whole.activities);
    // A score taken back leaves an empty cell where there had been one.
    const empty = (row: string) => row.includes('"points":null') && row.includes('"submitted":null');
    expect(byDeltas.gradebook.filter((r) => !empty(r))).toEqual(whole.gradebook.filter((r) => !empty(r)));
  });

  it('leaves alone what people changed here and it does not name', async () => {
    const before = await records('MET-500');
    const { sections, form } = await setupView(me(), 'MET-500');
    expect(form.title).toBe('Weather');
    await delta(table('results', 'r4,,l2,u1,fully graded,9,2026-10-26'));
    const after = await records('MET-500');
    expect([after.roster, after.activities]).toEqual([before.roster, before.activities]);
    expect((await setupView(me(), 'MET-500')).sections).toEqual(sections);
  });

  it('says of each row what it refers to that nobody knows, and is quiet about other courses', async () => {
    await make('MET-700', {
      ...WHOLE,
      ...table('courses', 'c7,,Tides,MET-700'),
      ...table('classes', 'k7,,Sunday,c7,t'),
      ...table('enrollments', 'e7,,k7,o,u1,student,,'),
      ...table('lineItems', 'l7,,Tide 1,2026-10-01,2026-10-10,k7,g1,0,20'),
      ...table('results', 'r7,,l7,u1,fully graded,15,2026-10-12'),
    });
    const { roster, activities, gradebook } = await delta({
      ...table('enrollments', 'e8,,k7,o,u2,student,,', 'e9,,k9,o,u2,student,,', 'e10,,k1,o,u99,student,,'),
      ...table('lineItems', 'l2,tobedeleted,Quiz 1,2026-10-01,2026-10-12,k1,g2,0,10'),
      ...table('results', 'r8,,l7,u1,fully graded,11,2026-10-12', 'r9,,l99,u1,fully graded,11,2026-10-12'),
    });
    expect(roster).toBeUndefined();
    expect(gradebook).toBeUndefined();
    expect(activities!.rejected.map((r) => [r.line, r.field, r.reason])).toEqual([
      [2, 'lineItems.csv status', 'is to be deleted; take it out in the setup, where its scores are'],
      [3, 'enrollments.csv classSourcedId', 'there is no class “k9”'],
      [3, 'results.csv lineItemSourcedId', 'there is no line item “l99”'],
      [4, 'enrollments.csv userSourcedId', 'there is no user “u99”'],
    ]);
  });

  it('of a course that has no package yet says so', async () => {
    const upload = pack('delta', table('users', 'u1,,true,student,Una,Marsh,'));
    const { faults } = await previewImport(me(), 'NAV', [upload]);
    expect(faults).toEqual([{ name: 'delta.zip', reason: 'courses.csv: there is no course in it' }]);
  });

  it('goes by ids that hold nothing of people', async () => {
    const { orm } = small.test.db;
    const rows = await orm
      .select()
      .from(sourceIds)
      .where(eq(sourceIds.courseId, await idOf('MET-500')));
    expect(rows.map((r) => `${r.kind} ${r.sourceId}`).sort()).toEqual([
      'category g1',
      'category g2',
      'class k1',
      'class k2',
      'course c1',
    ]);
  });
});
