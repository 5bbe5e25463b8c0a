import { isNull } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { DEFAULT_INDICATORS, FLAG_KINDS } from '@/core/flags/indicators';
import { flags } from '@/data/schema';
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
});
