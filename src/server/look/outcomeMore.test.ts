import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { addGoal, removeGoal } from '../act/goals';
import { exportTable } from '../export/tables';
import { importFiles } from '../intake/intake';
import { ensureEvaluated } from '../derive/evaluation';
import { requireCourse } from '../access/viewer';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { workOff } from '../work';
import { outcomeChanges } from './outcomeChanges';
import { outcomeItems } from './outcomeItems';
import { outcomesView } from './outcomes';

const small = withSmallCourse();
const me = () => small.course.instructor;
const outcomeId = async (title: string) =>
  (await outcomesView(me(), 'NAV', {})).outcomes.find((o) => o.title === title)!.id;

describe('the items behind an outcome', () => {
  it('are the hardest first, with what is taken for what, and coverage apart from accuracy', async () => {
    const lines = [
      'student_id,activity_id,item_id,answer,at,score',
      's1,q1,i1,B,2026-10-20T10:00:00Z,0',
      's1,q1,i2,A,2026-10-20T10:00:00Z,1',
      's3,q1,i1,B,2026-10-20T10:00:00Z,0',
      's4,q1,i1,A,2026-10-20T10:00:00Z,1',
    ];
    await importFiles(
      small.test.db,
      small.course.courseId,
      me().userId,
      [
        file('items.csv', 'activity_id,item_id,key,options\nq1,i1,A,A=ebb|B=flood\nq1,i2,A,A=ebb|B=flood\n'),
        file('responses.csv', lines.join('\n')),
      ],
      Date.parse(NOW),
    );
    await workOff(small.test.db);
    const heights = await outcomeId('Tidal heights');
    const view = await outcomeItems(me(), 'NAV', heights);
    expect(view.items.map((i) => [i.item, i.right, i.wrong])).toEqual([
      ['i1', 1 / 3, { answer: 'B', text: 'flood', count: 2 }],
      ['i2', 1, null],
    ]);
    const bo = view.students.find((s) => s.name === 'Bo Li')!;
    expect(bo).toMatchObject({
      seen: 1,
      of: 2,
      right: 0,
      wrong: [{ item: 'Tides quiz, i1', answer: 'B', key: 'A' }],
    });
    const sheet = await exportTable(me(), 'NAV', 'outcomes', {});
    const column = (head: string) => sheet.head.indexOf(head);
    const row = sheet.rows.find((r) => r.includes('Li'))!;
    expect([row[column('Tidal heights, items seen %')], row[column('Tidal heights, items right %')]]).toEqual(
      [50, 0],
    );
    await expect(outcomeItems(small.course.stranger, 'NAV', heights)).rejects.toThrow(
      'no such course of yours',
    );
    await expect(outcomeItems(me(), 'NAV', 2 ** 30)).rejects.toThrow('outcome of this course');
  });
});

describe('what changed over a window', () => {
  it('is by the levels at both of its ends, as they are found today', async () => {
    // Until the middle of October only the first exercises were back.
    const view = await outcomeChanges(me(), 'NAV', { w: '28d' });
    const fix = view.changes.find((c) => c.title === 'Position fixing')!;
    const newly = fix.students['newly secure'].map((s) => s.name);
    expect(newly).toContain('Łucja Wójcik');
    const today = await outcomesView(me(), 'NAV', {});
    const secure = today.rows
      .filter((r) => r.cells[fix.outcome]?.level === 'secure')
      .map((r) => `${r.given} ${r.family}`);
    expect(secure.sort()).toEqual(newly.sort());
    for (const c of view.changes) expect(c.students.slipped).toEqual([]);
  });
});

describe('goals', () => {
  it('say how far somebody is, are measures that audiences ask for, and go', async () => {
    const fix = await outcomeId('Position fixing');
    const heights = await outcomeId('Tidal heights');
    const id = await addGoal(me(), 'NAV', { outcomes: [fix, heights], by: '2026-11-10', student: null });
    const [goal] = (await outcomesView(me(), 'NAV', {})).goals;
    const of = (name: string) => goal!.progress.find((p) => p.name === name)!;
    expect(of('Łucja Wójcik')).toMatchObject({ of: 2, newly: null });
    expect(of('Ömer Yıldız')).toMatchObject({ secure: 0, pace: 1 });
    const traits = await classTraits(
      await snapshotOf(await ensureEvaluated(await requireCourse(me(), 'look', 'NAV'))),
    );
    const share = await traits.cells('goalShare');
    expect(share.every((v) => typeof v === 'number' && v >= 0 && v <= 1)).toBe(true);
    expect((await traits.cells('goalLead')).every((v) => v === null)).toBe(true);
    const slow = await traits.members({
      where: { measure: 'goalPace', is: '>=', value: 1 } as never,
      added: [],
      removed: [],
    });
    expect(slow.match.length).toBeGreaterThan(0);
    await removeGoal(me(), 'NAV', id);
    expect((await outcomesView(me(), 'NAV', {})).goals).toEqual([]);
    await expect(removeGoal(me(), 'NAV', id)).rejects.toThrow('goal of this course');
  });
  it.each([
    [{ outcomes: [2 ** 30] }, 'no such outcome'],
    [{ by: '2026-10-01' }, 'This day is over'],
    [{ student: 2 ** 30 }, 'student'],
  ])('refuses %j in words', async (more, words) => {
    const fix = await outcomeId('Position fixing');
    await expect(
      addGoal(me(), 'NAV', { outcomes: [fix], by: '2026-12-01', student: null, ...more }),
    ).rejects.toThrow(words);
    await expect(
      addGoal(small.course.stranger, 'NAV', { outcomes: [fix], by: '2026-12-01', student: null }),
    ).rejects.toThrow();
  });
});
