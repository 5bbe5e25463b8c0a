import { and, eq, sql } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseOfFiles, file, NOW, withSmallCourse } from '../../../tests/support/course';
import { scoreOf, TREATMENTS } from '@/core/items/treatment';
import type { ItemChangeAsked } from '@/core/views/itemChange';
import { activities, enrolments, itemChanges, items, persons, scoreChanges, scores } from '@/data/schema';
import { importFiles } from '../intake/intake';
import { undoImport } from '../intake/undo';
import { pastImports } from '../intake/intake';
import { itemsView } from '../look/items';
import { studentRecords } from '../export/course';
import { pickedFor } from '@/core/acts/pick';
import { requireCourse } from '../access/viewer';
import { recipientFacts } from './copies';
import { grade } from './grade';
import { changeItem, previewItemChange, undoItemChange } from './items';
import { undoBatch } from './gradeChange';

const small = withSmallCourse();
const me = () => small.course.instructor;
const orm = () => small.test.db.orm;

const ITEMS = [
  'activity_id,item_id,key,stem,options,explanation',
  'q1,i1,A,What turns first?,A=ebb|B=flood|C=neither,Look at the atlas.',
  'q1,i2,B,And then?,A=one|B=two|C=three,',
].join('\n');
/** s1 answers A and B, s3 and s4 answer C and B: the key of the first may be wrong. */
const ANSWERS = [
  'student_id,activity_id,item_id,attempt,answer,at,score',
  ...['s1:A', 's3:C', 's4:C'].flatMap((line) => {
    const [student, first] = line.split(':');
    return [
      `${student},q1,i1,1,${first},2026-10-20T10:00:00Z,${first === 'A' ? 1 : 0}`,
      `${student},q1,i2,1,B,2026-10-20T10:01:00Z,1`,
    ];
  }),
].join('\n');

let made = 0;
/** A course of its own, with the answers of a quiz. */
async function quizCourse() {
  const code = `Q-${++made}`;
  const id = await courseOfFiles(small.test.db, code, me().userId);
  const bring = (name: string, text: string) =>
    importFiles(small.test.db, id, me().userId, [file(name, text)], Date.parse(NOW));
  await bring('items.csv', ITEMS);
  await bring('responses.csv', ANSWERS);
  const [quiz] = await orm()
    .select()
    .from(activities)
    .where(and(eq(activities.courseId, id), eq(activities.externalId, 'q1')));
  const points = async () =>
    Object.fromEntries(
      (
        await orm()
          .select({ who: persons.externalId, points: scores.points })
          .from(scores)
          .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
          .innerJoin(persons, eq(persons.id, enrolments.personId))
          .where(eq(scores.activityId, quiz!.id))
      ).map((r) => [r.who, r.points]),
    );
  const change = (more: Partial<ItemChangeAsked> = {}): ItemChangeAsked => ({
    activityId: quiz!.id,
    item: 'i1',
    keys: ['C'],
    treatment: 'scored',
    rev: 0,
    ...more,
  });
  return { code, id, quiz: quiz!, points, change, bring };
}

describe('another key', () => {
  it('moves the grades as its preview says, and changed back they are what they were', async () => {
    const { code, points, change, quiz } = await quizCourse();
    const before = await points();
    const preview = await previewItemChange(me(), code, change());
    expect(preview.moves.map((m) => [m.name, m.from, m.to])).toEqual([
      ['Łucja Wójcik', 9, 4],
      ['Ida Wren', 7, 10],
    ]);
    for (const m of preview.moves)
      expect(Math.sign(m.standingTo! - m.standingFrom!)).toBe(Math.sign(m.to - m.from));
    expect(await points()).toEqual(before);
    expect(await changeItem(me(), code, change())).toBe(2);
    // Bo Li's answer has no grade yet, so none moves.
    expect(await points()).toMatchObject({ s1: 4, s3: null, s4: 10 });
    const view = await itemsView(me(), code, { work: quiz.id });
    const first = view.look.items.find((i) => i.item === 'i1')!;
    expect(first.answers.map((a) => [a.answer, a.right])).toEqual([
      ['C', true],
      ['A', false],
    ]);
    expect(await changeItem(me(), code, change({ keys: ['A'], rev: 1 }))).toBe(2);
    expect(await points()).toEqual(before);
  });

  it('is undone, the latest first, and so are the grades, whatever was changed since', async () => {
    const { code, points, change, id } = await quizCourse();
    const before = await points();
    await changeItem(me(), code, change());
    await changeItem(me(), code, change({ item: 'i2', treatment: 'dropped', keys: ['B'] }));
    const made = await orm().select().from(itemChanges).where(eq(itemChanges.courseId, id));
    const [first, second] = made.sort((a, b) => a.id - b.id);
    await undoItemChange(me(), code, first!.id);
    await expect(undoItemChange(me(), code, first!.id)).rejects.toThrow('not the latest change');
    await undoItemChange(me(), code, second!.id);
    expect(await points()).toEqual(before);
  });

  it('is not undone from the gradebook, where only the grades would go back', async () => {
    const { code, change, id } = await quizCourse();
    await changeItem(me(), code, change());
    const [row] = await orm().select().from(scoreChanges).where(eq(scoreChanges.courseId, id));
    await expect(undoBatch(me(), code, row!.batch)).rejects.toThrow('undo the change of the key');
  });

  it('of two at once takes the first, and tells the other', async () => {
    const { code, change } = await quizCourse();
    const [one, two] = await Promise.allSettled([
      changeItem(me(), code, change()),
      changeItem(me(), code, change({ keys: ['A', 'C'] })),
    ]);
    const statuses = [one.status, two.status].sort();
    expect(statuses).toEqual(['fulfilled', 'rejected']);
    const refused = one.status === 'rejected' ? one : two;
    expect(String((refused as PromiseRejectedResult).reason)).toContain(
      'Somebody has changed this item meanwhile',
    );
  });

  it('leaves a grade given since where it is, and counts on from there', async () => {
    const { code, change, points, quiz } = await quizCourse();
    await changeItem(me(), code, change());
    const ida = await small.course.student('s4');
    const [own] = await orm()
      .select({ id: enrolments.id })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(and(eq(persons.externalId, 's4'), eq(enrolments.courseId, quiz.courseId)));
    expect(ida.enrolmentId).not.toBe(own!.id);
    const cell = {
      enrolmentId: own!.id,
      activityId: quiz.id,
      seen: { points: 10, excused: false },
      points: 8,
    };
    await grade(me(), code, [cell]);
    await changeItem(me(), code, change({ keys: ['A'], rev: 1 }));
    expect((await points()).s4).toBe(3);
  });

  it.each([
    [{ keys: ['X'] }, 'none of the options'],
    [{ keys: [' '] }, 'at least one right answer'],
    [{ keys: ['A'] }, 'counts like that already'],
    [{ item: 'i9' }, 'item of this assignment'],
    [{ activityId: 2 ** 30 }, 'assignment in this course'],
  ])('refuses %j in words', async (more, words) => {
    const { code, change, points } = await quizCourse();
    const before = await points();
    await expect(changeItem(me(), code, change(more))).rejects.toThrow(words);
    expect(await points()).toEqual(before);
  });

  it('refuses to drop the only item that counts', async () => {
    const { code, change } = await quizCourse();
    await changeItem(me(), code, change({ treatment: 'dropped', keys: ['A'] }));
    await expect(
      changeItem(me(), code, change({ item: 'i2', treatment: 'dropped', keys: ['B'] })),
    ).rejects.toThrow('a quiz needs one');
  });

  it('is for who may grade', async () => {
    const { code, change } = await quizCourse();
    await expect(changeItem(small.course.stranger, code, change())).rejects.toThrow(
      'no such course of yours',
    );
    await expect(previewItemChange(small.course.stranger, code, change())).rejects.toThrow();
  });
});

describe('a message to those who gave an answer', () => {
  it('holds what each answered to the item, and nothing for who did not answer it', async () => {
    const { code, quiz } = await quizCourse();
    const course = await requireCourse(me(), 'act', code);
    const people = await orm()
      .select({ id: enrolments.id, who: persons.externalId })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(eq(enrolments.courseId, course.id));
    const chosen = (item: string | null) =>
      people.map((p) => ({
        ...pickedFor('answered “C” to i1', 'other', quiz.id, item),
        enrolmentId: p.id,
      }));
    const said = async (item: string | null) => {
      const facts = await recipientFacts(me(), course, chosen(item));
      return Object.fromEntries(
        facts.map((f) => [people.find((p) => p.id === f.enrolmentId)!.who, f.values['my answer']]),
      );
    };
    expect(await said('i1')).toEqual({ s1: 'A', s2: null, s3: 'C', s4: 'C', s5: null });
    expect(Object.values(await said(null))).toEqual([null, null, null, null, null]);
  });
});

describe('items from a file', () => {
  it('come again without a change, keep a key that was changed here, and are taken back', async () => {
    const { code, change, bring, id } = await quizCourse();
    expect(await bring('items.csv', ITEMS)).toMatchObject([{ added: 0, changed: 0, unchanged: 2 }]);
    await changeItem(me(), code, change());
    expect(await bring('items.csv', ITEMS)).toMatchObject([{ unchanged: 2 }]);
    await bring('items.csv', ITEMS.replace('What turns first?', 'What turns at first?'));
    const rows = await orm().select().from(items).where(eq(items.item, 'i1'));
    expect(rows.at(-1)).toMatchObject({ keys: ['C'], keysCame: ['A'], stem: 'What turns at first?' });
    const [last] = await pastImports(me(), code);
    await undoImport(me(), code, last!.id);
    const [quiz] = await orm()
      .select()
      .from(activities)
      .where(and(eq(activities.courseId, id), eq(activities.externalId, 'q1')));
    const [after] = await orm()
      .select()
      .from(items)
      .where(and(eq(items.activityId, quiz!.id), eq(items.item, 'i1')));
    expect(after).toMatchObject({ stem: 'What turns first?', keys: ['C'] });
  });

  it('name what they get wrong', async () => {
    const { bring } = await quizCourse();
    const wrong = [
      'activity_id,item_id,key,options',
      'nowhere,i1,A,A=x|B=y',
      'q1,i3,D,A=x|B=y',
      'q1,i4,A,A=x|A=y',
      'q1,,A,',
    ].join('\n');
    expect(await bring('items.csv', wrong)).toMatchObject([{ added: 0, rejected: 4 }]);
  });
});

describe('results of an outside test', () => {
  it('come in once, count for their outcome, and name an outcome that is not there', async () => {
    const { bring, id } = await quizCourse();
    const text = [
      'student,outcome,at,share,weight',
      's2,heights,2026-10-20T10:00:00Z,0.9,6',
      's2,nothing,2026-10-20T10:00:00Z,0.9,6',
      's2,heights,2026-10-21T10:00:00Z,1.5,6',
    ].join('\n');
    expect(await bring('entry.csv', text)).toMatchObject([{ kind: 'tests', added: 1, rejected: 2 }]);
    expect(await bring('entry.csv', text)).toMatchObject([{ added: 0, unchanged: 1 }]);
    const [own] = await orm()
      .select({ id: enrolments.id })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(and(eq(persons.externalId, 's2'), eq(enrolments.courseId, id)));
    const records = await studentRecords(small.test.db, id, own!.id);
    expect(records.tests).toMatchObject([{ outcome: 'heights', share: 0.9, weight: 6 }]);
  });
});

describe('what an answer counts', () => {
  it('is the same in the database as in the computation, whatever the key', async () => {
    const keys = fc.option(fc.uniqueArray(fc.constantFrom('A', 'B', 'C'), { maxLength: 3 }), { nil: null });
    const score = fc.option(fc.constantFrom(0, 0.5, 1), { nil: null });
    await fc.assert(
      fc.asyncProperty(
        fc.record({ keys, keysCame: keys, treatment: fc.constantFrom(...TREATMENTS) }),
        fc.constantFrom('A', ' B', 'C\n', 'D', ' ', ''),
        score,
        async (item, answer, came) => {
          const json = (v: unknown) => (v == null ? null : JSON.stringify(v));
          const { rows } = (await orm().execute(
            sql`select item_score(${came}::float8, ${answer}::text, ${item.treatment}::text, ${json(item.keys)}::jsonb, ${json(item.keysCame)}::jsonb) as s`,
          )) as unknown as { rows: { s: number | null }[] };
          expect(rows[0]!.s).toBe(scoreOf(item, answer, came));
        },
      ),
      { numRuns: 200 },
    );
  });
});
