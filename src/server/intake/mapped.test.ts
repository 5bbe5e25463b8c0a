import { unzipSync } from 'fflate';
import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, NOW, TERM, withSmallCourse } from '../../../tests/support/course';
import { ended } from '../../../tests/support/job';
import { suggestFields } from '@/core/formats/mapping/suggest';
import type { Mapping } from '@/core/course/mapping';
import type { FileCounts, ImportPreview } from '@/core/views/intake';
import { attendance, referrals, requirements, responses, scores, waiting } from '@/data/schema';
import { exportFile } from '../export/export';
import { studentArchive } from '../export/student';
import { createCourse } from '../snapshot/createCourse';
import { commitImport, importFiles, mapFile, pastImports, previewImport } from './intake';
import { mappingNames, removeMapping, saveMapping } from './mappings';
import { undoImport } from './undo';
import { matchPerson, waitingPeople } from './waiting';

const small = withSmallCourse();
const me = () => small.course.instructor;
const MARKS =
  'Login;Chart exercise 2;Final quiz\nlucja@students.example;20;7,5\ns3;14;\nnobody@x.example;3;\n';

const done = (job: string) => ended<FileCounts[]>(me().userId, job);
const look = (text: string): Promise<ImportPreview> => previewImport(me(), 'NAV', [file('marks.csv', text)]);
const scoreOf = async (student: string, activityId: number) => {
  const { enrolmentId } = await small.course.student(student);
  const [row] = await small.test.db.orm
    .select()
    .from(scores)
    .where(and(eq(scores.enrolmentId, enrolmentId), eq(scores.activityId, activityId)));
  return row;
};

describe('a table of another make', () => {
  let mapping: Mapping;

  it('is handed back with a guess, and read once somebody has said how', async () => {
    const preview = await look(MARKS);
    expect(preview.files).toEqual([]);
    const [asked] = preview.foreign;
    expect(asked).toMatchObject({ name: 'marks.csv', read: false, mapping: { shape: 'wide scores' } });
    expect(asked!.mapping.spread.map((s) => s.to)).toEqual(['w2', 'q2']);
    mapping = { ...asked!.mapping, fields: { student_id: { from: 'column', column: 'login', part: 'all' } } };
    const told = { name: 'marks.csv', mapping, saveAs: 'Lab system' };
    await expect(mapFile(small.course.stranger, 'NAV', preview.id!, told)).rejects.toThrow(/no such/);
    await expect(
      mapFile(me(), 'NAV', preview.id!, { ...told, mapping: { ...mapping, fields: {} } }),
    ).rejects.toThrow(/marks\.csv: the mapping does not say where student_id comes from/);
    const next = await mapFile(me(), 'NAV', preview.id!, told);
    expect(next.foreign).toMatchObject([{ read: true, saved: null }]);
    const high = await look(MARKS.replace(';20;', ';20,5;'));
    expect(high.files[0]!.rejected).toMatchObject([
      { line: 2, field: 'chart exercise 2', reason: '20.5 is above the maximum of 20' },
    ]);
    // 14 of s3 is there already, as it stands.
    expect(next.files[0]!.counts).toMatchObject({
      kind: 'gradebook',
      added: 1,
      changed: 1,
      unchanged: 1,
      waiting: 1,
    });

    const before = await scoreOf('s1', 2);
    const counts = await done(await commitImport(me(), 'NAV', next.id!));
    expect(counts).toMatchObject([{ added: 1, changed: 1, unchanged: 1, waiting: 1 }]);
    const after = await scoreOf('s1', 2);
    expect(after).toMatchObject({ points: 20, submittedAt: before!.submittedAt, gradedAt: new Date(NOW) });
    expect(await scoreOf('s1', 5)).toMatchObject({
      points: 7.5,
      submittedAt: null,
      returnedAt: new Date(NOW),
    });
  });

  it('is read by itself the next time, and the same again changes nothing', async () => {
    const preview = await look(MARKS);
    expect(preview.foreign).toMatchObject([{ read: true, saved: 'Lab system' }]);
    expect(preview.files[0]!.counts).toMatchObject({ added: 0, changed: 0, unchanged: 4, waiting: 0 });
    const counts = await importFiles(
      small.test.db,
      small.course.courseId,
      me().userId,
      [file('m.csv', MARKS)],
      Date.parse(NOW),
    );
    expect(counts).toMatchObject([{ unchanged: 4 }]);
  });

  it('replaces what waits when it says something else', async () => {
    const preview = await look(MARKS.replace('nobody@x.example;3', 'nobody@x.example;4'));
    expect(preview.files[0]!.counts).toMatchObject({ unchanged: 3, waiting: 1 });
    await done(await commitImport(me(), 'NAV', preview.id!));
    const rows = await small.test.db.orm.select().from(waiting);
    expect(rows.map((r) => r.record)).toMatchObject([{ points: 4, activity: 'w2' }]);
  });

  it('is what was previewed that goes in, though the mapping is forgotten meanwhile', async () => {
    const preview = await look(MARKS.replace(';20;', ';19;'));
    const [known] = await mappingNames(me(), 'NAV');
    await expect(removeMapping(small.course.stranger, 'NAV', known!.id)).rejects.toThrow(/no such/);
    await removeMapping(me(), 'NAV', known!.id);
    expect((await look(MARKS)).foreign).toMatchObject([{ read: false }]);
    expect(await done(await commitImport(me(), 'NAV', preview.id!))).toMatchObject([{ changed: 1 }]);
  });

  it('leaves what is handed in as it stands when its person is told later', async () => {
    const before = await scoreOf('s4', 2);
    const { enrolmentId } = await small.course.student('s4');
    await matchPerson(me(), 'NAV', 'nobody@x.example', enrolmentId);
    expect(before!.submittedAt).not.toBeNull();
    expect(await scoreOf('s4', 2)).toMatchObject({
      points: 3,
      submittedAt: before!.submittedAt,
      excused: before!.excused,
    });
  });

  it('is not remembered without a name or with a zone that is none', async () => {
    const { db } = small.test;
    await expect(saveMapping(db, small.course.courseId, me().userId, ' ', mapping)).rejects.toThrow(/a name/);
    await expect(
      saveMapping(db, small.course.courseId, me().userId, 'x', { ...mapping, zone: 'Mars/Olympus' }),
    ).rejects.toThrow(/not a time zone/);
  });

  it('goes in with a mapping of another course of the same person, unless its works are named', async () => {
    const code = 'NAV2';
    const base = { termName: 'T', term: TERM, policy: { missing: 'zero' as const }, sections: [] };
    await createCourse(small.test.db, { ...base, code, title: code, staff: [me().userId] });
    const header = { delimiter: ',', header: ['student', 'date', 'code'], rows: [] };
    const register = {
      ...suggestFields(header, 'attendance', [], TERM.zone),
      words: { attendance: { p: 'present' } },
    };
    await saveMapping(small.test.db, small.course.courseId, me().userId, 'Register', register);
    await saveMapping(small.test.db, small.course.courseId, me().userId, 'Lab system', mapping);
    const there = await previewImport(me(), code, [
      file('r.csv', 'student,date,code\ns1,2026-10-05,p\n'),
      file('m.csv', MARKS),
    ]);
    expect(there.foreign.map((f) => f.saved)).toEqual(['Register', null]);
  });
});

const BESIDE: Record<string, string> = {
  'attendance.csv':
    'student_id,day,attendance,meeting,minutes\ns1,2026-10-05,present,,110\ns2,2026-10-05,absent,,\ns2,2026-10-05,sleeping,2,\ns8,2026-10-05,late,,\n',
  'referrals.csv':
    'referral_id,student_id,day,reason,outcome\nr1,s2,2026-10-06,Left the room,Talk\nr2,s2,2026-02-30,x,\n',
  'requirements.csv':
    'student_id,requirement,requirement_kind,needed,earned,day\ns1,Credits,credits,60,45,\ns1,Survival,exam,60,,2026-09-01\ns1,Empty,exam,,5,\n',
  'responses.csv':
    'student_id,item_id,answer,activity_id,attempt,at,score\ns1,i1,B,q1,1,2026-10-20T09:00:00Z,1\ns1,i2,,q1,1,,0\ns1,i1,C,,,,\ns1,i3,A,nowhere,1,,1\ns1,i4,A,q1,1,,1.5\n',
};
const uploads = () => Object.entries(BESIDE).map(([name, text]) => file(name, text));
const bring = (courseId: number) =>
  importFiles(small.test.db, courseId, me().userId, uploads(), Date.parse(NOW));
const all = async () => {
  const { orm } = small.test.db;
  return {
    attendance: await orm.select().from(attendance),
    referrals: await orm.select().from(referrals),
    requirements: await orm.select().from(requirements),
    responses: await orm.select().from(responses),
  };
};

describe('attendance, referrals, credits and exams, answers', () => {
  it('go in with a reason for each row that does not, wait for people, and change nothing the second time', async () => {
    const preview = await previewImport(me(), 'NAV', uploads());
    expect(
      preview.files.flatMap((f) => f.rejected.map((r) => `${f.kind} ${r.line} ${r.field}: ${r.reason}`)),
    ).toEqual([
      'attendance 4 attendance: “sleeping” is none of: present, late, absent, excused',
      'referrals 3 day: “2026-02-30” names a day that does not exist',
      'requirements 4 needed: is empty',
      'responses 5 activity_id: there is no activity “nowhere”',
      'responses 6 score: 1.5 is not between 0 and 1',
    ]);
    const counts = await bring(small.course.courseId);
    expect(counts.map((c) => [c.kind, c.added, c.rejected, c.waiting])).toEqual([
      ['attendance', 2, 1, 1],
      ['referrals', 1, 1, 0],
      ['requirements', 2, 1, 0],
      ['responses', 3, 2, 0],
    ]);
    expect((await bring(small.course.courseId)).map((c) => [c.added, c.changed, c.waiting])).toEqual([
      [0, 0, 0],
      [0, 0, 0],
      [0, 0, 0],
      [0, 0, 0],
    ]);
  });

  it('go in for somebody who is matched later', async () => {
    expect((await waitingPeople(me(), 'NAV')).map((w) => w.person)).toContain('s8');
    const { enrolmentId } = await small.course.student('s4');
    await matchPerson(me(), 'NAV', 's8', enrolmentId);
    const rows = await small.test.db.orm
      .select()
      .from(attendance)
      .where(eq(attendance.enrolmentId, enrolmentId));
    expect(rows).toMatchObject([{ day: '2026-10-05', attendance: 'late' }]);
  });

  it('leave with the course and with the student, and come back the same', async () => {
    const { body } = await exportFile(small.test.db, small.course.courseId, 'csv');
    const zip = unzipSync(body);
    expect(new TextDecoder().decode(zip['responses.csv'])).toContain('s1,q1,i1,1,B,2026-10-20T09:00:00Z,1');
    const uploaded = ['attendance.csv', 'referrals.csv', 'requirements.csv', 'responses.csv'].map((name) => ({
      name,
      bytes: zip[name]!,
    }));
    const again = await importFiles(
      small.test.db,
      small.course.courseId,
      me().userId,
      uploaded,
      Date.parse(NOW),
    );
    expect(again.map((c) => [c.added, c.changed, c.rejected])).toEqual(again.map(() => [0, 0, 0]));
    const { enrolmentId } = await small.course.student('s2');
    const archive = unzipSync((await studentArchive(me(), 'NAV', enrolmentId)).body);
    expect(new TextDecoder().decode(archive['referrals.csv'])).toContain('Left the room');
    expect(new TextDecoder().decode(archive['responses.csv'])).not.toContain('s1');
  });

  it('are changed by a newer file, and both can be taken back', async () => {
    const before = await all();
    const newer = file(
      'requirements.csv',
      'student_id,requirement,requirement_kind,needed,earned\ns1,Credits,credits,60,50\ns3,Credits,credits,60,10\n',
    );
    const counts = await importFiles(
      small.test.db,
      small.course.courseId,
      me().userId,
      [newer],
      Date.parse(NOW),
    );
    expect(counts).toMatchObject([{ added: 1, changed: 1 }]);
    const [last] = await pastImports(me(), 'NAV');
    expect(await undoImport(me(), 'NAV', last!.id)).toEqual({ undone: 2, kept: 0, waits: null });
    const sorted = (rows: object[]) => rows.map((r) => JSON.stringify(r)).sort();
    expect(sorted((await all()).requirements)).toEqual(sorted(before.requirements));
  });
});
