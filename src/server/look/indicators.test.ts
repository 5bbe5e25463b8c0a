import { and, eq, isNull } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { DEFAULT_INDICATORS, FLAG_KINDS, FLAGS_OF_EVENTS } from '@/core/flags/indicators';
import type { PartOfClass } from '@/core/course/parts';
import { courseStaff, flags } from '@/data/schema';
import { flagsView, saveSettings } from '../act/settings';
import { evaluateNow } from '../derive/evaluation';
import { indicatorPreview } from './indicators';

const small = withSmallCourse();
beforeAll(() => evaluateNow(small.test.db, small.course.courseId));

const preview = async (settings = DEFAULT_INDICATORS) =>
  new Map((await indicatorPreview(small.course.instructor, 'NAV', settings)).map((p) => [p.kind, p]));

describe('whom thresholds would find', () => {
  it('are those who are flagged, with the thresholds that are saved', async () => {
    const open = await small.test.db.orm.select().from(flags).where(isNull(flags.closedOn));
    const found = await preview();
    for (const kind of FLAG_KINDS) {
      // Nothing has come for more than a day and a half: these flags are as they were.
      if (FLAGS_OF_EVENTS.includes(kind)) continue;
      // A flag that waits for its second day inside is open, and nobody crosses the threshold any more.
      const flagged = open.filter((f) => f.kind === kind && f.insideSince == null);
      expect(new Map(found.get(kind)!.now.map((s) => [s.id, s.level]))).toEqual(
        new Map(flagged.map((f) => [f.enrolmentId, f.level])),
      );
    }
  });

  it('are fewer in each week where more is asked, and none where it is asked too much', async () => {
    const usual = (await preview()).get('behind')!;
    // Five weeks have begun; by the end of the second one assignment was missing, by the fourth three and the quiz.
    expect(usual.weeks.map((w) => [w.watch, w.act])).toHaveLength(5);
    expect(usual.weeks.at(-1)!.act + usual.weeks.at(-1)!.watch).toBe(usual.now.length);
    const strict = (await preview({ ...DEFAULT_INDICATORS, behind: { watch: 3, act: 4 } })).get('behind')!;
    for (const [i, week] of strict.weeks.entries())
      expect(week.watch + week.act).toBeLessThanOrEqual(usual.weeks[i]!.watch + usual.weeks[i]!.act);
    const none = (await preview({ ...DEFAULT_INDICATORS, behind: { watch: 40, act: 50 } })).get('behind')!;
    expect(none.weeks.every((w) => w.watch + w.act === 0)).toBe(true);
    expect(usual.now.length).toBeGreaterThan(0);
  });

  it('follow the limits of a section, and refuse those of a section elsewhere', async () => {
    const me = small.course.instructor;
    const { parts, settings, seesStudents, hasRules } = await flagsView(me, 'NAV');
    expect([seesStudents, hasRules]).toEqual([true, true]);
    expect(parts.map((p) => p.name)).toEqual(['Monday', 'Online']);
    const strictFor = (part: PartOfClass) => ({
      ...settings.indicators,
      apart: [{ part, kind: 'behind' as const, watch: 1, act: 1 }],
    });
    const names = async (indicators: typeof settings.indicators) =>
      (await preview(indicators)).get('behind')!.now.map((s) => [s.name, s.level]);
    const usual = await names(settings.indicators);
    const online = await names(strictFor(parts[1]!.part));
    // s3 and s4 are online; nothing changes for those of Monday.
    expect(online.filter(([n]) => n === 'Ömer Yıldız')).toEqual(usual.filter(([n]) => n === 'Ömer Yıldız'));
    expect(online.filter(([, level]) => level === 'act').length).toBeGreaterThanOrEqual(
      usual.filter(([, level]) => level === 'act').length,
    );
    await saveSettings(me, 'NAV', { ...settings, indicators: strictFor(parts[1]!.part) });
    const open = await small.test.db.orm.select().from(flags).where(isNull(flags.closedOn));
    const found = await names(strictFor(parts[1]!.part));
    expect(open.filter((f) => f.kind === 'behind' && f.insideSince == null)).toHaveLength(found.length);
    await expect(saveSettings(me, 'NAV', { ...settings, indicators: strictFor('s99999') })).rejects.toThrow(
      'sections of this course',
    );
    await saveSettings(me, 'NAV', settings);
  });

  it('name nobody to whom students are not shown', async () => {
    const { instructor, courseId } = small.course;
    const staff = and(eq(courseStaff.courseId, courseId), eq(courseStaff.userId, instructor.userId));
    await small.test.db.orm.update(courseStaff).set({ role: 'administrator' }).where(staff);
    expect(await flagsView(instructor, 'NAV')).toMatchObject({ seesStudents: false, hasRules: false });
    await expect(preview()).rejects.toThrow('no such course of yours');
    await small.test.db.orm.update(courseStaff).set({ role: 'instructor' }).where(staff);
  });
});
