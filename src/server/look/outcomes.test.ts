import { beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { masteries } from '@/data/schema';
import { evaluateNow } from '../derive/evaluation';
import { exportTable } from '../export/tables';
import { outcomesView } from './outcomes';

const small = withSmallCourse();
const me = () => small.course.instructor;
beforeAll(() => evaluateNow(small.test.db, small.course.courseId));

describe('the class by outcome', () => {
  it('says the same of everybody as what is stored, by which the brief goes too', async () => {
    const view = await outcomesView(me(), 'NAV', {});
    const stored = await small.test.db.orm.select().from(masteries);
    for (const m of stored) {
      const row = view.rows.find((r) => r.enrolmentId === m.enrolmentId);
      if (!row) continue;
      expect(row.cells[m.outcomeId]).toMatchObject({
        mean: m.mean,
        low: m.low,
        high: m.high,
        level: m.level,
      });
    }
    for (const o of view.outcomes)
      for (const [level, n] of Object.entries(o.counts))
        expect(view.rows.filter((r) => (r.cells[o.id]?.level ?? 'too little data') === level)).toHaveLength(
          n,
        );
  });

  it('looks at a section alone', async () => {
    const view = await outcomesView(me(), 'NAV', {});
    const section = view.scope.sections.find((s) => s.name === 'Online')!;
    const online = await outcomesView(me(), 'NAV', { g: String(section.id) });
    expect(online.rows.every((r) => r.section === 'Online')).toBe(true);
    expect(online.rows.length).toBeLessThan(view.rows.length);
  });

  it('leaves as a file with the same figures', async () => {
    const view = await outcomesView(me(), 'NAV', {});
    const sheet = await exportTable(me(), 'NAV', 'outcomes', {});
    expect(sheet.rows).toHaveLength(view.rows.length);
    const [first] = view.outcomes;
    const at = sheet.head.indexOf(`${first!.title} %`);
    for (const row of sheet.rows) {
      const of = view.rows.find((r) => r.studentId === row[0])!;
      expect(row[at]).toBeCloseTo(100 * of.cells[first!.id]!.mean, 1);
    }
  });

  it('is for who may look at the course', async () => {
    await expect(outcomesView(small.course.stranger, 'NAV', {})).rejects.toThrow('no such course of yours');
    const { viewer } = await small.course.student('s1');
    await expect(outcomesView(viewer, 'NAV', {})).rejects.toThrow();
  });
});
