import { and, eq } from 'drizzle-orm';
import { describe, expect, it, onTestFinished } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import type { Role } from '@/core/access/may';
import { courseStaff } from '@/data/schema';
import { unzipSync } from 'fflate';
import { dueEffect } from '../act/course/parts';
import { eraseStudent, studentArchive } from '../export/student';
import { createCredential } from '../xapi/credentials';
import { exportTable } from '../export/tables';
import { roundsView } from '../look/rounds';
import { grade } from '../act/grade';
import { coursesOf } from './viewer';

const small = withSmallCourse();
const me = () => small.course.instructor;

/** Gives the instructor another role in the course until the test is over. */
async function granted(role: Role, until: Date | null): Promise<void> {
  const { orm } = small.test.db;
  const own = and(eq(courseStaff.courseId, small.course.courseId), eq(courseStaff.userId, me().userId));
  await orm.update(courseStaff).set({ role, until }).where(own);
  onTestFinished(async () => {
    await orm.update(courseStaff).set({ role: 'instructor', until: null }).where(own);
  });
}

describe('a grant', () => {
  it('that is over opens nothing, and is in no list of courses', async () => {
    await granted('instructor', new Date(NOW));
    await expect(roundsView(me(), 'NAV', {})).rejects.toThrow('no such course of yours');
    expect(await coursesOf(me())).toEqual([]);
  });
  it('that ends later opens everything until then', async () => {
    await granted('instructor', new Date(Date.parse(NOW) + 1));
    expect((await roundsView(me(), 'NAV', {})).course.code).toBe('NAV');
    expect((await coursesOf(me())).map((c) => c.code)).toEqual(['NAV']);
  });
  it('of a lead looks and takes figures along, and changes nothing', async () => {
    await granted('lead', null);
    const { enrolmentId } = await small.course.student('s1');
    expect((await roundsView(me(), 'NAV', {})).students).toBeGreaterThan(0);
    expect((await exportTable(me(), 'NAV', 'roster', {})).rows.length).toBeGreaterThan(0);
    const seen = { points: null, excused: false };
    // Nor does the archive of a student hold what they may not read on screen, and nobody is erased by them.
    const names = Object.keys(unzipSync((await studentArchive(me(), 'NAV', enrolmentId)).body));
    expect(names).toContain('gradebook.csv');
    for (const closed of ['messages', 'answers', 'notes', 'talks', 'check-ins', 'letters'])
      expect(names).not.toContain(`${closed}.json`);
    await expect(eraseStudent(me(), 'NAV', enrolmentId)).rejects.toThrow('no such course of yours');
    await expect(grade(me(), 'NAV', [{ enrolmentId, activityId: 1, seen, points: 1 }])).rejects.toThrow(
      'no such course of yours',
    );
  });
  it('of an administrator shows no names and makes no keys', async () => {
    await granted('administrator', null);
    await expect(dueEffect(me(), 'NAV', 1, null)).rejects.toThrow('no such course of yours');
    await expect(createCredential(me(), 'NAV', 'Key')).rejects.toThrow('no such course of yours');
  });
});
