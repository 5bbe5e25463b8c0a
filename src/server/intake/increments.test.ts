import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { runs } from '../../../tests/support/runs';
import {
  activityDayRows,
  activityDays,
  activityTotalRows,
  activityTotals,
  courses,
  dayRows,
  dayTotals,
  events,
  imports,
  sessionRows,
  sessions,
} from '@/data/schema';
import { importFiles } from './intake';

const small = withSmallCourse();

const at = Date.parse(NOW);
const [head, ...lines] = FILES.events.split('\n') as [string, ...string[]];
const bring = (part: readonly string[]) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    small.course.instructor.userId,
    [file('events.csv', [head, ...part].join('\n'))],
    at,
  );

async function derived() {
  const { orm } = small.test.db;
  const sorted = (rows: object[]) => rows.map((r) => JSON.stringify(r)).sort();
  return {
    sessions: sorted(await orm.select().from(sessions)),
    days: sorted(await orm.select().from(dayTotals)),
    works: sorted(await orm.select().from(activityDays)),
    totals: sorted(await orm.select().from(activityTotals)),
    until: (await orm.select().from(courses).where(eq(courses.id, small.course.courseId)))[0]!.dataUntil,
  };
}

async function forgetEvents(): Promise<void> {
  await small.test.db.orm.delete(events);
  await small.test.db.orm.delete(sessionRows);
  await small.test.db.orm.delete(dayRows);
  await small.test.db.orm.delete(activityDayRows);
  await small.test.db.orm.delete(activityTotalRows);
}

describe('events in pieces', () => {
  it('in any order, late ones and repeated ones too, give the same rows as all at once', async () => {
    await forgetEvents();
    await bring(lines);
    const whole = await derived();
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 0, max: 2 }), { minLength: lines.length, maxLength: lines.length }),
        async (pieces) => {
          await forgetEvents();
          const part = (n: number) => lines.filter((_, i) => pieces[i] === n);
          await bring([...part(2)].reverse());
          await bring([...part(0), ...part(2).slice(0, 5)]);
          await bring(part(1));
          expect(await derived()).toEqual(whole);
        },
      ),
      { numRuns: runs(6) },
    );
  });

  it('the same file from two sides at once goes in once', async () => {
    await forgetEvents();
    const before = (await small.test.db.orm.select().from(imports)).length;
    const both = await Promise.all([bring(lines), bring(lines)]);
    expect(both.map((counts) => counts[0]!.added).sort((a, b) => a - b)).toEqual([0, lines.length]);
    expect(await small.test.db.orm.select().from(events)).toHaveLength(lines.length);
    const again = await bring(lines);
    expect(again[0]).toMatchObject({ added: 0, unchanged: lines.length, rejected: 0 });
    expect((await small.test.db.orm.select().from(imports)).length).toBeGreaterThan(before);
  });
});
