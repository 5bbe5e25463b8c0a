import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { activities, attempts } from '@/data/schema';
import { briefView } from '../look/brief';
import { cellView } from '../look/cell';
import { grantAttempt } from '../act/grade';
import { importFiles } from './intake';

const small = withSmallCourse();
const bring = (name: string, text: string) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    small.course.instructor.userId,
    [file(name, text)],
    Date.parse(NOW),
  );

const HEAD = 'student_id,activity_id,attempt,submitted,points';
const TRIES = [
  HEAD,
  's1,q1,1,2026-10-19T10:00:00Z,5',
  's1,q1,2,2026-10-19T18:00:00Z,9',
  's1,q1,3,2026-10-20T10:00:00Z,8',
  's3,q1,1,2026-10-20T10:00:00Z,',
].join('\n');

describe('attempts.csv', () => {
  it('goes in once, is changed where it differs, and names what is wrong', async () => {
    const [first] = await bring('attempts.csv', TRIES);
    expect(first).toMatchObject({ kind: 'attempts', added: 4, changed: 0, rejected: 0 });
    const [again] = await bring('attempts.csv', TRIES);
    expect(again).toMatchObject({ added: 0, changed: 0, unchanged: 4 });
    const [changed] = await bring('attempts.csv', TRIES.replace('18:00:00Z,9', '18:00:00Z,9.5'));
    expect(changed).toMatchObject({ added: 0, changed: 1, unchanged: 3 });
    const wrong = [
      HEAD,
      's9,q1,1,2026-10-20T10:00:00Z,5',
      's1,q9,1,2026-10-20T10:00:00Z,5',
      's1,q1,0,2026-10-20T10:00:00Z,5',
      's1,q1,4,2026-10-20T10:00:00,5',
      's1,q1,4,,5',
      's1,q1,4,2026-10-20T10:00:00Z,11',
    ].join('\n');
    const [refused] = await bring('attempts.csv', wrong);
    expect(refused).toMatchObject({ added: 0, rejected: 5, waiting: 1 });
    expect(await small.test.db.orm.select().from(attempts)).toHaveLength(4);
  });

  it('shows first, best and last with the minutes before each, in the cell and in the brief', async () => {
    const { orm } = small.test.db;
    const [quiz] = await orm.select().from(activities).where(eq(activities.externalId, 'q1'));
    const { enrolmentId } = await small.course.student('s1');
    const [head] = FILES.events.split('\n');
    // Six minutes on the quiz before the first attempt, four before the second, none before the third.
    const worked = [
      's1-t1,s1,2026-10-19T09:50:00Z,view,q1,',
      's1-t2,s1,2026-10-19T09:56:00Z,view,r1,',
      's1-t3,s1,2026-10-19T17:50:00Z,attempt,q1,',
      's1-t4,s1,2026-10-19T17:54:00Z,view,r1,',
    ];
    await bring('events.csv', [head, ...worked].join('\n'));
    const cell = await cellView(small.course.instructor, 'NAV', enrolmentId, quiz!.id);
    expect(cell.attempts.map((a) => [a.number, a.points, a.minutes, a.note])).toEqual([
      [1, 5, 6, 'first'],
      [2, 9.5, 4, 'best'],
      [3, 8, 0, 'last'],
    ]);
    const brief = (await briefView(small.course.instructor, 'NAV', enrolmentId)).brief;
    expect(brief.more!.assignments.find((a) => a.title === 'Tides quiz')).toMatchObject({
      attempts: [5, 9.5, 8],
      status: 'graded',
      maximum: 10,
    });
  });

  it('counts a granted attempt on top of what the activity allows', async () => {
    const { orm } = small.test.db;
    const limited = FILES.activities
      .split('\n')
      .map((line, i) => `${line},${i === 0 ? 'attempts_allowed' : line.startsWith('q1,') ? '3' : ''}`)
      .join('\n');
    await bring('activities.csv', limited);
    const [quiz] = await orm.select().from(activities).where(eq(activities.externalId, 'q1'));
    expect(quiz!.attemptsAllowed).toBe(3);
    const { enrolmentId } = await small.course.student('s1');
    const seen = { points: 9, excused: false };
    await grantAttempt(small.course.instructor, 'NAV', [{ enrolmentId, activityId: quiz!.id, seen }]);
    const cell = await cellView(small.course.instructor, 'NAV', enrolmentId, quiz!.id);
    expect([cell.attemptsAllowed, cell.attempts.length]).toEqual([4, 3]);
    expect(cell.changes[0]).toMatchObject({ action: 'grant attempt' });
  });
});
