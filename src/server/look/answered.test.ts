import { and, eq } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseOfFiles, file, NOW, withSmallCourse } from '../../../tests/support/course';
import { sittingNumbers } from '@/core/items/trail';
import { HINTS } from '@/core/formats/xapi/answered';
import { activities, answerSteps, events, items, masteries } from '@/data/schema';
import { recordedAnswers } from '@/data/queries/responses';
import { evaluateCourse } from '../derive/evaluate';
import { loadCourseModel } from '@/data/queries/courseModel';
import { importFiles, pastImports } from '../intake/intake';
import { undoImport } from '../intake/undo';
import { catchUp } from '../xapi/follow';
import { checkStatements, receiveStatements } from '../xapi/endpoint';
import { itemsView } from './items';
import { trailOf } from './trail';

const small = withSmallCourse();
const me = () => small.course.instructor;
const orm = () => small.test.db.orm;
const QUIZ = 'https://platform.example/works/q1';

let ids = 0;
const uuid = () => `bbbbbbbb-bbbb-4bbb-8bbb-${String(++ids).padStart(12, '0')}`;
/** Somebody answers an item of the quiz. */
const answered = (item: string, response: string, minute: number, more: object = {}) => ({
  id: uuid(),
  actor: { account: { homePage: 'https://platform.example', name: 's1' } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/answered' },
  object: {
    id: `${QUIZ}/${item}`,
    definition: {
      description: { 'de-DE': 'Was?', 'en-GB': 'Which way?' },
      interactionType: 'choice',
      choices: [
        { id: 'A', description: { en: 'ebb' } },
        { id: 'B', description: { en: 'flood' } },
      ],
      correctResponsesPattern: ['A'],
    },
  },
  result: { response, success: response === 'A', duration: 'PT40S' },
  context: { contextActivities: { parent: [{ id: QUIZ }] } },
  timestamp: new Date(Date.UTC(2026, 9, 20, 10, minute)).toISOString(),
  ...more,
});

let made = 0;
async function course() {
  const code = `X-${++made}`;
  const id = await courseOfFiles(small.test.db, code, me().userId);
  const [quiz] = await orm()
    .select()
    .from(activities)
    .where(and(eq(activities.courseId, id), eq(activities.externalId, 'q1')));
  const say = (list: readonly object[]) =>
    receiveStatements({ credentialId: 0, key: 'a-platform', courseId: id }, checkStatements(list));
  const told = async () =>
    (await recordedAnswers(small.test.db, quiz!.id))
      .map((a) => [a.item, a.attempt, a.answer, a.final, a.score])
      .sort((a, b) => String(a).localeCompare(String(b)));
  return { code, id, quiz: quiz!, say, told };
}

describe('statements that somebody answered', () => {
  it('fill the answers as they come: the first of a sitting, and the last beside it', async () => {
    const { say, told, quiz, code } = await course();
    await say([
      answered('i1', 'B', 0),
      answered('i1', 'A', 1),
      answered('i2', 'A', 2, {
        context: { contextActivities: { parent: [{ id: QUIZ }] }, extensions: { [HINTS]: 2 } },
      }),
      answered('i1', 'A', 40),
    ]);
    expect(await told()).toEqual([
      ['i1', 1, 'B', 'A', 0],
      ['i1', 2, 'A', 'A', 1],
      ['i2', 1, 'A', 'A', 1],
    ]);
    const [item] = await orm().select().from(items).where(eq(items.activityId, quiz.id));
    expect(item).toMatchObject({
      stem: 'Which way?',
      keys: ['A'],
      options: [{ option: 'A', text: 'ebb' }, {}],
    });
    const view = await itemsView(me(), code, { work: quiz.id });
    expect(view.look.items.map((i) => [i.item, i.difficulty])).toEqual([
      ['i1', 0],
      ['i2', 1],
    ]);
    const [one] = await recordedAnswers(small.test.db, quiz.id);
    const trail = await trailOf(me(), code, quiz.id, 'i1', one!.student);
    expect(trail.steps.map((s) => [s.attempt, s.answer, s.score, s.seconds])).toEqual([
      [1, 'B', 0, 40],
      [1, 'A', 1, 40],
      [2, 'A', 1, 40],
    ]);
    expect((await trailOf(me(), code, quiz.id, 'i2', one!.student)).steps[0]!.hints).toBe(2);
  });

  it('change nothing when repeated, go when voided, and make an unknown item without a key', async () => {
    const { say, told, quiz } = await course();
    const first = answered('i1', 'A', 0, { object: { id: `${QUIZ}/i%201` } });
    await say([first]);
    const before = await told();
    await say([first]);
    expect(await told()).toEqual(before);
    expect(before).toEqual([['i 1', 1, 'A', 'A', 1]]);
    const [item] = await orm().select().from(items).where(eq(items.activityId, quiz.id));
    expect(item).toMatchObject({ item: 'i 1', stem: null, keys: null });
    await say([
      {
        ...answered('', '', 5),
        verb: { id: 'http://adlnet.gov/expapi/verbs/voided' },
        object: { objectType: 'StatementRef', id: first.id },
        context: undefined,
        result: undefined,
      },
    ]);
    expect(await told()).toEqual([]);
    expect(await orm().select().from(answerSteps).where(eq(answerSteps.activityId, quiz.id))).toEqual([]);
  });

  it('count beside no answers that a file brought of the same quiz', async () => {
    const { say, told, id } = await course();
    await say([answered('i1', 'A', 0)]);
    const text = 'student_id,activity_id,item_id,answer,score\ns1,q1,i1,B,0\n';
    await importFiles(small.test.db, id, me().userId, [file('responses.csv', text)], Date.parse(NOW));
    expect(await told()).toEqual([['i1', 1, 'B', 'B', 0]]);
  });

  it('from a file go out again with it', async () => {
    const { id, code, told } = await course();
    const list = [answered('i1', 'B', 0), answered('i1', 'A', 1)];
    const bring = () =>
      importFiles(small.test.db, id, me().userId, [file('said.json', JSON.stringify(list))], Date.parse(NOW));
    await bring();
    expect(await told()).toEqual([['i1', 1, 'B', 'A', 0]]);
    await undoImport(me(), code, (await pastImports(me(), code))[0]!.id);
    expect(await told()).toEqual([]);
  });

  it('come to the same in whatever order, and sittings are those of the computation', async () => {
    const { say, quiz, told, id } = await course();
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            item: fc.constantFrom('i1', 'i2'),
            answer: fc.constantFrom('A', 'B'),
            minute: fc.nat(200),
          }),
          {
            minLength: 1,
            maxLength: 8,
          },
        ),
        fc.infiniteStream(fc.double({ noNaN: true })),
        async (list, chance) => {
          const said = list.map((l) => answered(l.item, l.answer, l.minute));
          const clear = () =>
            orm()
              .delete(events)
              .where(and(eq(events.courseId, id), eq(events.kind, 'attempt')));
          await say(said);
          const inOrder = await told();
          const seen = await recordedAnswers(small.test.db, quiz.id);
          const minutes = [...new Set(list.map((l) => l.minute))].sort((a, b) => a - b);
          const sittings = sittingNumbers(
            minutes.map((m) => Date.UTC(2026, 9, 20, 10, m)),
            30,
          );
          const numberOf = new Map(minutes.map((m, i) => [Date.UTC(2026, 9, 20, 10, m), sittings[i]]));
          for (const a of seen) expect(numberOf.get(a.at!)).toBe(a.attempt);
          await clear();
          const anew = said.map((s) => ({ s: { ...s, id: uuid() }, at: chance.next().value as number }));
          // Answers of one instant go by their ids, which keep their order.
          anew.sort((a, b) => a.at - b.at);
          for (const { s } of anew) await say([s]);
          expect(await told()).toEqual(inOrder);
          await clear();
        },
      ),
      { numRuns: 12 },
    );
  });

  it('move what their student knows at once, and nobody else', async () => {
    const { id, say } = await course();
    const of = async () =>
      new Map((await orm().select().from(masteries)).map((m) => [`${m.enrolmentId} ${m.outcomeId}`, m.mean]));
    await evaluateCourse(small.test.db, await loadCourseModel(small.test.db, id), Date.parse(NOW));
    const before = await of();
    await say(Array.from({ length: 6 }, (_, i) => answered(`i${i}`, 'B', i)));
    await catchUp(small.test.db, id);
    const after = await of();
    const moved = [...after]
      .filter(([key, mean]) => before.get(key) !== mean)
      .map(([key]) => key.split(' ')[0]);
    expect(new Set(moved).size).toBe(1);
  });
});
