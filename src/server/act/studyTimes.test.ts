import IcalJs from 'ical.js';
import nodeIcal from 'node-ical';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import { GET } from '@/app/api/plans/[token]/route';
import { planSteps, plans } from '@/data/schema';
import { studentHome } from '../look/student';
import { newPlanFeed } from './planFeed';
import { notToday, saveStudyTimes } from './studyTimes';

const small = withSmallCourse();
const me = () => small.course.instructor;
const orm = () => small.test.db.orm;
const TODAY = NOW.slice(0, 10);

async function givePlan(
  enrolmentId: number,
  steps: readonly { title: string; minutes: number; done?: boolean }[],
) {
  const [plan] = await orm()
    .insert(plans)
    .values({ enrolmentId, userId: me().userId, createdAt: new Date(NOW) })
    .returning();
  await orm()
    .insert(planSteps)
    .values(
      steps.map((s, position) => ({
        planId: plan!.id,
        position,
        title: s.title,
        minutes: s.minutes,
        on: TODAY,
        why: 'to catch up',
        doneAt: s.done ? new Date(Date.parse(NOW) - 86_400_000) : null,
      })),
    );
  return plan!.id;
}
const daysOf = async (planId: number) =>
  Object.fromEntries(
    (await orm().select().from(planSteps).where(eq(planSteps.planId, planId))).map((s) => [s.title, s.on]),
  );
const feed = (token: string) =>
  GET(new Request(`http://lantern.test/api/plans/${token}.ics`), {
    params: Promise.resolve({ token: `${token}.ics` }),
  });

describe('a plan that fits its student', () => {
  it('moves what is open when they cannot today, says so, and leaves what is done', async () => {
    const { viewer, enrolmentId } = await small.course.student('s1');
    const id = await givePlan(enrolmentId, [
      { title: 'Done', minutes: 20, done: true },
      { title: 'First', minutes: 20 },
      { title: 'Second', minutes: 20 },
    ]);
    await saveStudyTimes(viewer, 'NAV', { minutesPerDay: 20, weekdaysOff: [5, 6, 7] });
    expect(await daysOf(id)).toEqual({ Done: TODAY, First: TODAY, Second: '2026-10-29' });
    const said = await notToday(viewer, 'NAV');
    // Thursday, and after Friday to Sunday off the Monday.
    expect(await daysOf(id)).toEqual({ Done: TODAY, First: '2026-10-29', Second: '2026-11-02' });
    expect(said).toBe('2 steps moved, since you cannot today; the last is now on Mon 2 Nov.');
    const [course] = (await studentHome(viewer)).courses;
    expect(course!.studyTimes).toEqual({ minutesPerDay: 20, weekdaysOff: [5, 6, 7] });
    expect(course!.plans.find((p) => p.id === id)!.said).toBe(said);
    // Again the same day nothing has to move.
    expect(await notToday(viewer, 'NAV')).toBe('Nothing had to move: you cannot today.');
  });

  it('is for the student alone, and says where there is no plan', async () => {
    const { viewer } = await small.course.student('s3');
    await expect(notToday(viewer, 'NAV')).rejects.toThrow('open plan of yours');
    await expect(notToday(viewer, 'NOWHERE')).rejects.toThrow('course of yours');
    await expect(notToday(me(), 'NAV')).rejects.toThrow();
  });

  it('stands in a calendar of their own, read by two other programs, until the address is renewed', async () => {
    const { viewer } = await small.course.student('s1');
    const token = await newPlanFeed(viewer);
    const answer = await feed(token);
    expect([answer.status, answer.headers.get('content-type')]).toEqual([
      200,
      'text/calendar; charset=utf-8',
    ]);
    const text = await answer.text();
    const events = new IcalJs.Component(IcalJs.parse(text) as never).getAllSubcomponents('vevent');
    const found = events.map((e) => new IcalJs.Event(e));
    expect(found.map((e) => [e.summary, e.startDate.toString(), e.startDate.isDate])).toEqual([
      ['First (20 min)', '2026-10-29', true],
      ['Second (20 min)', '2026-11-02', true],
    ]);
    const read = Object.values(nodeIcal.sync.parseICS(text)).filter((e) => e?.type === 'VEVENT');
    expect(read).toHaveLength(2);
    expect(text).not.toContain('Done');
    // A lesson is at its time, wherever the calendar is.
    const lesson = { lessonAt: new Date('2026-11-04T18:00:00Z'), place: 'Chart room' };
    await orm().update(planSteps).set(lesson).where(eq(planSteps.title, 'Second'));
    const again = IcalJs.parse(await (await feed(token)).text()) as never;
    const timed = new IcalJs.Component(again)
      .getAllSubcomponents('vevent')
      .map((e) => new IcalJs.Event(e))
      .find((e) => e.summary.startsWith('Second'))!;
    expect([timed.startDate.toJSDate(), timed.endDate.toJSDate(), timed.location]).toEqual([
      lesson.lessonAt,
      new Date('2026-11-04T18:20:00Z'),
      'Chart room',
    ]);
    const renewed = await newPlanFeed(viewer);
    expect((await feed(token)).status).toBe(404);
    expect((await feed(renewed)).status).toBe(200);
    for (const guess of ['', 'x', 'a'.repeat(32), '../../etc', `${renewed}x`])
      expect((await feed(guess)).status, guess).toBe(404);
    const { viewer: other } = await small.course.student('s4');
    expect(await (await feed(await newPlanFeed(other))).text()).not.toContain('First');
  });
});
