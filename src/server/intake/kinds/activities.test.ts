import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../../tests/support/course';
import { activities } from '@/data/schema';
import { saveActivity, saveOutcome } from '../../act/course/parts';
import { setupView } from '../../look/setup';
import { exportFile } from '../../export/export';
import { pickedFor } from '@/core/acts/pick';
import { proposedPlans } from '../../act/plans';
import { studentHome } from '../../look/student';
import { requireCourse } from '../../access/viewer';
import { importFiles, previewImport } from '../intake';
import { snapshotOf } from '../../snapshot/snapshot';

const small = withSmallCourse();
const me = () => small.course.instructor;
const bring = (name: string, text: string) =>
  importFiles(small.test.db, small.course.courseId, me().userId, [file(name, text)], Date.parse(NOW));
const outcomes = async () =>
  new Map((await setupView(me(), 'NAV')).outcomes.map((o) => [o.title, o] as const));
const work = async (title: string) =>
  (await setupView(me(), 'NAV')).activities.find((a) => a.title === title)!;

describe('outcomes from a file', () => {
  it('make a tree, in whatever order they stand', async () => {
    await bring(
      'outcomes.csv',
      'outcome_id,title,prerequisites,part_of\nspring,Springs and neaps,,tides\ntides,Tides,,\nheights,Tidal heights,fix,tides\n',
    );
    const found = await outcomes();
    const tides = found.get('Tides')!.id;
    expect(found.get('Springs and neaps')!.parentId).toBe(tides);
    expect(found.get('Tidal heights')!.parentId).toBe(tides);
    expect(found.get('Position fixing')!.parentId).toBeNull();
  });

  it('keep what the file has no column for', async () => {
    await bring('outcomes.csv', 'outcome_id,title\nheights,Heights of tide\n');
    const found = await outcomes();
    expect(found.get('Heights of tide')).toMatchObject({
      parentId: found.get('Tides')!.id,
      before: [found.get('Position fixing')!.id],
    });
    await bring('outcomes.csv', 'outcome_id,title,part_of\nheights,Heights of tide,\n');
    expect((await outcomes()).get('Heights of tide')!.parentId).toBeNull();
  });

  it('are refused where they would go in a circle, which is named; the others go in', async () => {
    const text = [
      'outcome_id,title,prerequisites,part_of',
      'a,A,b,',
      'b,B,c,',
      'c,C,a,',
      'd,D,,e',
      'e,E,,d',
      'f,F,,nowhere',
      'g,G,,g',
      'h,H,a,d',
    ].join('\n');
    const preview = await previewImport(me(), 'NAV', [file('outcomes.csv', text)]);
    const [read] = preview.files;
    expect(read!.rejected.map((r) => `${r.line} ${r.field}: ${r.reason}`)).toEqual([
      '4 prerequisites: would go in a circle: c → a → b → c',
      '6 part_of: would go in a circle: e → d → e',
      '7 part_of: there is no other outcome “nowhere”',
      '8 part_of: there is no other outcome “g”',
    ]);
    // What stands in the course counts too: heights comes after fix already.
    const turned = 'outcome_id,title,prerequisites\nfix,Position fixing,heights\n';
    const [again] = (await previewImport(me(), 'NAV', [file('outcomes.csv', turned)])).files;
    expect(again!.rejected[0]!.reason).toBe('would go in a circle: fix → heights → fix');
    // Turned round as a whole it is no circle.
    const both = `${turned}heights,Tidal heights,\n`;
    const [whole] = (await previewImport(me(), 'NAV', [file('outcomes.csv', both)])).files;
    expect([whole!.rejected.length, whole!.counts.changed]).toEqual([0, 2]);
  });
});

describe('works from a file', () => {
  it('keep what the file has no column for: when they close, their minutes, the weight of their category', async () => {
    const before = await work('Chart exercise 1');
    const closes = before.due! + 7 * 86_400_000;
    await saveActivity(me(), 'NAV', { ...before, closes, attempts: 2 });
    await bring(
      'activities.csv',
      'activity_id,title,kind,category,points,due\nw1,Chart exercise one,assignment,Chart work,20,2026-10-04T22:00:00Z\nw9,Chart exercise 9,assignment,Chart work,20,\n',
    );
    expect(await work('Chart exercise one')).toEqual({
      ...before,
      title: 'Chart exercise one',
      closes,
      attempts: 2,
    });
    const { categories } = await setupView(me(), 'NAV');
    expect(categories.find((c) => c.name === 'Chart work')!.weight).toBe(60);
  });

  it('cannot close before they are due or open', async () => {
    const row = (due: string, closes: string) =>
      `activity_id,title,kind,category,points,opens,due,closes\nw8,W,quiz,Quizzes,10,2026-10-05T08:00:00Z,${due},${closes}\n`;
    const why = async (due: string, closes: string) => {
      const [read] = (await previewImport(me(), 'NAV', [file('activities.csv', row(due, closes))])).files;
      return read!.rejected.map((r) => `${r.field}: ${r.reason}`).join();
    };
    expect(await why('2026-10-09T08:00:00Z', '2026-10-08T08:00:00Z')).toBe('closes: is before it is due');
    expect(await why('', '2026-10-04T08:00:00Z')).toBe('closes: is before it opens');
    expect(await why('2026-10-09T08:00:00Z', '2026-10-09T08:00:00Z')).toBe('');
  });

  it('that have closed are in no plan and not open for a student, unless more was granted', async () => {
    const { enrolmentId, viewer } = await small.course.student('s2');
    const course = await requireCourse(me(), 'import', 'NAV');
    const planned = async () =>
      (await proposedPlans(await snapshotOf(course), new Map([[enrolmentId, pickedFor('x')]])))
        .get(enrolmentId)!
        .map((s) => s.title);
    const open = async () => (await studentHome(viewer)).courses[0]!.open.map((w) => w.title);
    expect(await planned()).toContain('Chart exercise 2');
    expect(await open()).toContain('Chart exercise 2');
    const w2 = await work('Chart exercise 2');
    await saveActivity(me(), 'NAV', { ...w2, closes: Date.parse('2026-10-20T00:00:00Z') });
    expect(await planned()).not.toContain('Chart exercise 2');
    expect(await open()).not.toContain('Chart exercise 2');
    await bring(
      'gradebook.csv',
      'student_id,activity_id,submitted,graded,returned,points,excused,own_due\ns2,w2,,,,,no,2026-11-04T22:00:00Z\n',
    );
    expect(await open()).toContain('Chart exercise 2');
  });

  it('and outcomes come back from the CSV files with their tree and when they close', async () => {
    const { db } = small.test;
    const parent = (await outcomes()).get('Tides')!.id;
    const heights = (await outcomes()).get('Heights of tide')!;
    await saveOutcome(me(), 'NAV', { ...heights, parentId: parent });
    const { name, body } = await exportFile(db, small.course.courseId, 'csv');
    const again = await importFiles(
      db,
      small.course.courseId,
      me().userId,
      [{ name, bytes: body }],
      Date.parse(NOW),
    );
    expect(again.map((c) => c.added + c.changed + c.rejected)).toEqual(again.map(() => 0));
    const [row] = await db.orm.select().from(activities).where(eq(activities.externalId, 'w1'));
    expect(row!.closesAt).not.toBeNull();
  });
});
