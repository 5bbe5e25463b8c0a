import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseOfFiles, file, forgetCourses, NOW, withSmallCourse } from '../../../tests/support/course';
import { runs } from '../../../tests/support/runs';
import {
  activities,
  attempts,
  dayRows,
  enrolments,
  events,
  persons,
  scores,
  statements,
  waiting,
} from '@/data/schema';
import { importFiles } from '../intake/intake';
import { checkStatements, receiveStatements } from './endpoint';
import { catchUp } from './follow';

const small = withSmallCourse();

/** What statements come to in a course, told without the numbers that the database gives. */
async function comesTo(courseId: number) {
  const { orm } = small.test.db;
  const who = { who: persons.externalId };
  const ofStudent = <T extends { enrolmentId: number }>(rows: { who: string; row: T }[]) =>
    rows.map(({ who: student, row }) => ({ ...row, enrolmentId: student }));
  const works = new Map(
    (await orm.select().from(activities).where(eq(activities.courseId, courseId))).map((a) => [
      a.id,
      a.externalId,
    ]),
  );
  const plain = (rows: object[]) =>
    rows
      .map((row) =>
        JSON.stringify(
          Object.fromEntries(
            Object.entries(row)
              .filter(([key]) => !['id', 'courseId', 'importId', 'rev', 'stored', 'version'].includes(key))
              .map(([key, value]) => [
                key,
                key === 'activityId' ? (works.get(value as number) ?? null) : (value as unknown),
              ]),
          ),
        ),
      )
      .sort();
  const read = async (table: typeof events | typeof attempts | typeof scores | typeof dayRows) =>
    plain(
      ofStudent(
        (await orm
          .select({ ...who, row: table })
          .from(table)
          .innerJoin(enrolments, eq(enrolments.id, table.enrolmentId))
          .innerJoin(persons, eq(persons.id, enrolments.personId))
          .where(eq(enrolments.courseId, courseId))) as { who: string; row: { enrolmentId: number } }[],
      ),
    );
  const told = await orm
    .select({ key: statements.id, voided: statements.voided })
    .from(statements)
    .where(eq(statements.courseId, courseId));
  const waits = await orm
    .select({ key: waiting.key, person: waiting.person, record: waiting.record })
    .from(waiting)
    .where(eq(waiting.courseId, courseId));
  return {
    events: await read(events),
    attempts: await read(attempts),
    scores: await read(scores),
    days: await read(dayRows),
    statements: plain(told),
    waiting: plain(waits),
  };
}

const uuid = (n: number) => `dddddddd-dddd-4ddd-8ddd-${String(n).padStart(12, '0')}`;
const VERB = 'http://adlnet.gov/expapi/verbs/';
interface Drawn {
  readonly who: string;
  readonly verb: string;
  readonly work: string;
  readonly minute: number;
  readonly scaled: number;
  readonly of: number;
}
const drawn: fc.Arbitrary<Drawn> = fc.record({
  who: fc.constantFrom('s1', 's4', 'zz'),
  verb: fc.constantFrom('passed', 'passed', 'experienced', 'voided'),
  work: fc.constantFrom('q2', 'q2', 'w3', 'r1', 'elsewhere'),
  // Few, so that two often say the same of the same minute.
  minute: fc.nat(2),
  scaled: fc.constantFrom(0.2, 0.8),
  of: fc.nat(6),
});
const statementOf = ({ who, verb, work, minute, scaled, of }: Drawn, n: number) => ({
  id: uuid(n),
  actor: { account: { homePage: 'https://platform.example', name: who } },
  verb: { id: `${VERB}${verb}` },
  object:
    verb === 'voided'
      ? { objectType: 'StatementRef', id: uuid(of) }
      : { id: `https://platform.example/works/${work}` },
  ...(verb === 'passed' ? { result: { score: { scaled } } } : {}),
  timestamp: `2026-10-27T10:${String(minute).padStart(2, '0')}:00Z`,
});

describe('statements', () => {
  it('come to the same in any order, in any batches, by the endpoint or in a file', async () => {
    const { db } = small.test;
    const { userId } = small.course.instructor;
    let run = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(drawn, { minLength: 3, maxLength: 10 }),
        fc.array(fc.nat(), { minLength: 10, maxLength: 10 }),
        fc.integer({ min: 1, max: 4 }),
        async (list, keys, size) => {
          await forgetCourses(db, 'ORDER-');
          const said = list.map(statementOf);
          const mixed = said
            .map((s, i) => ({ s, key: keys[i]! }))
            .sort((a, b) => a.key - b.key)
            .map(({ s }) => s);
          const [byFile, live] = [
            await courseOfFiles(db, `ORDER-${run}-A`, userId),
            await courseOfFiles(db, `ORDER-${run++}-B`, userId),
          ];
          await importFiles(db, byFile, userId, [file('said.json', JSON.stringify(said))], Date.parse(NOW));
          for (let i = 0; i < mixed.length; i += size)
            await receiveStatements(
              { credentialId: 0, key: 'a-platform', courseId: live },
              checkStatements(mixed.slice(i, i + size)),
            );
          await catchUp(db, live);
          expect(await comesTo(live)).toEqual(await comesTo(byFile));
        },
      ),
      {
        numRuns: runs(10),
        // Two attempts of equal points, the later told of first.
        examples: [
          [
            [1, 0, 0].map((minute) => ({
              who: 's1',
              verb: 'passed',
              work: 'q2',
              minute,
              scaled: 0.2,
              of: 0,
            })),
            [21, 0, 0, 0, 0, 0, 0, 0, 0, 0],
            1,
          ],
        ],
      },
    );
  });

  it('that say the same of one attempt are one attempt, until the last of them is voided', async () => {
    const { db } = small.test;
    const courseId = await courseOfFiles(db, 'ORDER-TWINS', small.course.instructor.userId);
    const base = { who: 's1', work: 'q2', minute: 5, scaled: 0.8 };
    const [passed, completed] = ['passed', 'completed'].map((verb, n) => ({
      ...statementOf({ ...base, verb, of: 0 }, n),
      result: { score: { scaled: 0.8 } },
    }));
    const voiding = (of: number, n: number) => statementOf({ ...base, verb: 'voided', of }, n);
    const tries = async () => {
      const { attempts: list, scores: cells } = await comesTo(courseId);
      return [list.length, cells.filter((c) => c.includes('"fromStatements":true')).length];
    };
    const say = (...list: object[]) =>
      receiveStatements({ credentialId: 0, key: 'a-platform', courseId }, checkStatements(list));
    await say(passed!, completed!);
    expect(await tries()).toEqual([1, 1]);
    await say(voiding(0, 2));
    expect(await tries()).toEqual([1, 1]);
    await say(voiding(1, 3));
    expect(await tries()).toEqual([0, 0]);
  });
});
