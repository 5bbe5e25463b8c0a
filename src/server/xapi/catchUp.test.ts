import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import {
  activityDayRows,
  activityTotalRows,
  activityTotals,
  dayRows,
  dayTotals,
  studentDwells,
} from '@/data/schema';
import { activityView } from '../look/activity';
import { workOff } from '../work';
import { queueLeftOver } from './catchUp';

const small = withSmallCourse();

describe('a data folder of an older version', () => {
  it('gets at the start what that version did not keep, and is then left alone', async () => {
    const { orm } = small.test.db;
    const sorted = async () => (await orm.select().from(activityTotals)).map((r) => JSON.stringify(r)).sort();
    const before = await sorted();
    expect(before.length).toBeGreaterThan(0);
    await orm.delete(activityTotalRows);
    await orm.delete(activityDayRows);
    await orm.delete(studentDwells);
    await orm.update(dayRows).set({ views: 0, secondsAt10: 0 });
    await queueLeftOver(small.test.db);
    await workOff(small.test.db);
    expect(await sorted()).toEqual(before);
    expect((await orm.select().from(dayTotals)).some((d) => d.views > 0)).toBe(true);
    await orm.update(dayRows).set({ views: 7 });
    await queueLeftOver(small.test.db);
    await workOff(small.test.db);
    expect((await orm.select().from(dayTotals)).every((d) => d.views === 7)).toBe(true);
    const view = await activityView(small.course.instructor, 'NAV', { w: 'term', g: 'all', k: 'all' });
    expect(view.people[0]!.views).toBeGreaterThan(0);
  });
});
