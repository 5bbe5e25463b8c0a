import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { exportTable } from '../export/tables';
import { importFiles } from '../intake/intake';
import { itemsView } from './items';

const small = withSmallCourse();
const me = () => small.course.instructor;

describe('the items of a quiz', () => {
  it('are none before there is an answer', async () => {
    const view = await itemsView(me(), 'NAV', {});
    expect(view).toMatchObject({ quiz: null, quizzes: [] });
    expect(view.look.items).toEqual([]);
  });

  it('are what the file says, first answers only, text as text', async () => {
    const lines = [
      'student_id,activity_id,item_id,attempt,answer,at,score',
      's1,q1,Tide at 6,1,<b>3 m</b>,2026-10-20T10:00:00Z,0',
      's1,q1,Tide at 6,2,4 m,2026-10-20T11:00:00Z,1',
      's3,q1,Tide at 6,1,4 m,2026-10-20T10:00:00Z,1',
      's3,q1,Neaps,1,weekly,2026-10-20T10:00:00Z,1',
      's4,q1,Neaps,1,daily,2026-10-20T10:00:00Z,0',
    ];
    const bring = () =>
      importFiles(
        small.test.db,
        small.course.courseId,
        me().userId,
        [file('responses.csv', lines.join('\n'))],
        Date.parse(NOW),
      );
    await bring();
    const view = await itemsView(me(), 'NAV', {});
    expect(view.quiz).toMatchObject({ title: 'Tides quiz', students: 3 });
    expect(view.look).toMatchObject({ n: 3, k: 2 });
    const tide = view.look.items.find((i) => i.item === 'Tide at 6')!;
    expect(tide.omitted).toBe(1);
    expect(tide.answers.map((a) => [a.answer, a.right, a.students.length])).toEqual([
      ['4 m', true, 1],
      ['<b>3 m</b>', false, 1],
    ]);
    expect(view.names[tide.answers[0]!.students[0]!]).toBe('Bo Li');
    // The same file again changes nothing.
    await bring();
    expect((await itemsView(me(), 'NAV', {})).look).toEqual(view.look);
    const sheet = await exportTable(me(), 'NAV', 'items', {});
    expect(sheet.rows).toHaveLength(2);
    expect(sheet.head).toContain('Right %');
  });

  it('are for who may look at the course', async () => {
    await expect(itemsView(small.course.stranger, 'NAV', {})).rejects.toThrow('no such course of yours');
  });
});
