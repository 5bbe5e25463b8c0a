import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../../tests/support/course';
import type { StudentForm } from '@/core/forms/setup';
import { courses, dayTotals, enrolments, events, persons, waiting } from '@/data/schema';
import { importFiles } from '../../intake/intake';
import { roundsView } from '../../look/rounds';
import { checkStatements, receiveStatements } from '../../xapi/endpoint';
import { catchUp } from '../../xapi/follow';
import { newCourse } from './institution';
import { saveSection } from './parts';
import { saveStudent } from './student';
import { setupView } from '../../look/setup';

const small = withSmallCourse();
const me = () => small.course.instructor;
const students = async (code = 'NAV') => (await setupView(me(), code)).students;
const one = async (id: string, code = 'NAV') => (await students(code)).find((s) => s.externalId === id)!;
const late: StudentForm = {
  id: null,
  externalId: 's9',
  given: 'Late',
  family: 'Comer',
  email: 'late@students.example',
  sectionId: null,
};
const intake = (...texts: readonly (readonly [string, string])[]) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    me().userId,
    texts.map(([name, text]) => file(name, text)),
    Date.parse(NOW),
  );
const header = FILES.events.split('\n')[0];
/** A statement about whoever has an address; returns whether it became an event. */
async function told(courseId: number, email: string): Promise<boolean> {
  const id = randomUUID();
  const statement = {
    id,
    actor: { mbox: `mailto:${email}` },
    verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
    object: { id: 'https://platform.example/works/r1' },
    timestamp: NOW,
  };
  await receiveStatements({ credentialId: 1, key: 'test', courseId }, checkStatements(statement));
  await catchUp(small.test.db, courseId);
  return (
    (
      await small.test.db.orm
        .select()
        .from(events)
        .where(eq(events.eventId, `xapi:${id}`))
    ).length > 0
  );
}

describe('a student added by hand', () => {
  it('is in the course at once, and what waited for them goes in', async () => {
    await intake([
      'events.csv',
      `${header}\nl1,s9,2026-10-27T10:00:00Z,view,r1,\nl2,s9,2026-10-27T10:01:00Z,view,r1,\n`,
    ]);
    expect(await small.test.db.orm.select().from(waiting)).toHaveLength(2);
    const [monday] = (await setupView(me(), 'NAV')).sections;
    expect(await saveStudent(me(), 'NAV', { ...late, sectionId: monday!.id })).toEqual({
      rows: 2,
      proposed: false,
    });
    expect(await small.test.db.orm.select().from(waiting)).toEqual([]);
    expect(await one('s9')).toMatchObject({ name: 'Late Comer', status: 'active', sectionId: monday!.id });
    const named = async (filter: 'all' | 'everyone') =>
      (await roundsView(me(), 'NAV', { filter })).rows.map((r) => r.name);
    expect(await named('everyone')).toContain('Late Comer');
    // Nothing is held against them yet.
    expect(await named('all')).not.toContain('Late Comer');
    const [place] = await small.test.db.orm
      .select()
      .from(enrolments)
      .where(eq(enrolments.id, (await one('s9')).id));
    expect(place!.joinedOn).toBe('2026-10-28');
  });

  it('gets what waited under a name that says neither their id nor their address', async () => {
    const openid = 'https://people.example/kit';
    await receiveStatements(
      { credentialId: 1, key: 'test', courseId: small.course.courseId },
      checkStatements({
        actor: { name: 'Kit Ashore', openid },
        verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
        object: { id: 'https://platform.example/works/r1' },
        timestamp: NOW,
      }),
    );
    await catchUp(small.test.db, small.course.courseId);
    const kit = { ...late, externalId: 's10', given: 'Kit', family: 'Ashore', email: null };
    expect((await saveStudent(me(), 'NAV', kit, `openid:${openid}`)).rows).toBe(1);
    expect(await small.test.db.orm.select().from(waiting)).toEqual([]);
    // Nobody waits under it any more: nothing to do, and no fault.
    const { id } = await one('s10');
    expect(await saveStudent(me(), 'NAV', { ...kit, id }, `openid:${openid}`)).toEqual({
      rows: 0,
      proposed: false,
    });
  });

  it('is not there twice, and nobody is renamed by an id that is theirs', async () => {
    await expect(saveStudent(me(), 'NAV', late)).rejects.toThrow('Late Comer is in this course already');
    const before = await small.test.db.orm.select().from(persons);
    await expect(saveStudent(me(), 'NAV', { ...late, externalId: 's3' })).rejects.toThrow(
      'The id “s3” is that of somebody with another name.',
    );
    await expect(saveStudent(me(), 'NAV', { ...late, externalId: 's8', sectionId: 9999 })).rejects.toThrow(
      'no such section',
    );
    expect(await small.test.db.orm.select().from(persons)).toEqual(before);
  });

  it('is the same person in another course, by their id and name', async () => {
    const { form } = await setupView(me(), 'NAV');
    await newCourse(me(), { code: 'RAD', ...form, title: 'Radio' });
    await saveStudent(me(), 'RAD', { ...late, given: 'late', email: null });
    expect(await one('s9', 'RAD')).toMatchObject({ name: 'Late Comer', email: 'late@students.example' });
    const all = await small.test.db.orm.select().from(persons).where(eq(persons.externalId, 's9'));
    expect(all).toHaveLength(1);
  });
});

describe('what is on record about a student', () => {
  it('is mended in every course they are in, and statements follow at once', async () => {
    const [radio] = await small.test.db.orm.select().from(courses).where(eq(courses.code, 'RAD'));
    const { courseId } = small.course;
    expect(await told(radio!.id, 'late@students.example')).toBe(true);
    expect(await told(radio!.id, 'new@students.example')).toBe(false);
    await saveStudent(me(), 'NAV', { ...(await one('s9')), given: 'Lata', email: 'new@students.example' });
    expect(await one('s9', 'RAD')).toMatchObject({ name: 'Lata Comer', email: 'new@students.example' });
    expect(await told(courseId, 'new@students.example')).toBe(true);
    expect(await told(radio!.id, 'new@students.example')).toBe(true);
    expect(await told(radio!.id, 'late@students.example')).toBe(false);
    // By a roster of one course, too.
    await intake(['roster.csv', 'student_id,given_name,family_name,email\ns9,Lata,Comer,third@x.example\n']);
    expect(await told(radio!.id, 'third@x.example')).toBe(true);
  });

  it('another section cuts their days anew; another id must be free', async () => {
    const { sections } = await setupView(me(), 'NAV');
    const s1 = await one('s1');
    const other = sections.find((s) => s.id !== s1.sectionId)!;
    const inClass = async () => {
      const days = await small.test.db.orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, s1.id));
      return days.reduce((sum, day) => sum + day.inClassSeconds, 0);
    };
    const always = [1, 2, 3, 4, 5, 6, 7].map((weekday) => ({ weekday, startMinute: 0, minutes: 1440 }));
    await saveSection(me(), 'NAV', { ...other, meetings: always });
    const before = await inClass();
    await saveStudent(me(), 'NAV', { ...s1, sectionId: other.id });
    expect(await inClass()).toBeGreaterThan(before);
    await saveStudent(me(), 'NAV', s1);
    expect(await inClass()).toBe(before);
    await expect(saveStudent(me(), 'NAV', { ...s1, externalId: 's2' })).rejects.toThrow('somebody else');
    await saveStudent(me(), 'NAV', { ...s1, externalId: 's1b' });
    expect((await one('s1b')).id).toBe(s1.id);
  });

  it('is for who teaches the course, and of its own students', async () => {
    const s3 = await one('s3');
    await expect(saveStudent(small.course.stranger, 'NAV', s3)).rejects.toThrow('no such');
    await expect(saveStudent(me(), 'RAD', { ...s3, sectionId: null })).rejects.toThrow('no such student');
    expect(await one('s3')).toEqual(s3);
  });
});
