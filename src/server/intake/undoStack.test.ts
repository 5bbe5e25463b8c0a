import { runs } from '../../../tests/support/runs';
import { asc, eq, sql } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  courseOfFiles,
  file,
  FILES,
  forgetCourses,
  NOW,
  withSmallCourse,
} from '../../../tests/support/course';
import { courses } from '@/data/schema';
import { importFiles, pastImports } from './intake';
import { undoImport } from './undo';

const small = withSmallCourse();
const me = () => small.course.instructor;

/** What an import may write, and what is derived of it. */
const TABLES = [
  'activities',
  'activity_days',
  'activity_outcomes',
  'activity_totals',
  'aliases',
  'attempts',
  'attendance',
  'categories',
  'day_totals',
  'enrolments',
  'events',
  'outcomes',
  'persons',
  'referrals',
  'requirements',
  'responses',
  'scores',
  'sections',
  'sessions',
  'statements',
  'waiting',
] as const;
/** Numbers that the database gives, and marks of when something was written: they say nothing of what is on record. */
const GIVEN = new Set(['id', 'rev', 'import_id', 'stored', 'position']);

/** All that is on record, table by table. */
async function everything(courseId: number): Promise<Record<string, string[]>> {
  const { orm } = small.test.db;
  const found: Record<string, string[]> = {};
  for (const table of TABLES) {
    const rows = await orm.select({ row: sql<object>`to_jsonb(t)` }).from(sql`${sql.identifier(table)} t`);
    found[table] = rows
      .map(({ row }) => JSON.stringify(Object.entries(row).filter(([key]) => !GIVEN.has(key))))
      .sort();
  }
  const [course] = await orm.select().from(courses).where(eq(courses.id, courseId)).orderBy(asc(courses.id));
  return { ...found, course: [String(course!.dataUntil), String(course!.termStart)] };
}

let made = 0;
/** A course like the small one, for each draw its own: what a failed draw leaves is not in the way of the next. */
async function freshCourse() {
  const code = `UNDO-${made++}`;
  const { db } = small.test;
  const { userId } = me();
  await forgetCourses(db, 'UNDO-');
  const courseId = await courseOfFiles(db, code, userId);
  const bring = (upload: ReturnType<typeof file>) =>
    importFiles(db, courseId, userId, [upload], Date.parse(NOW));
  return { code, courseId, bring };
}

type Text = readonly [name: string, text: string];
const pick = <T>(...of: T[]) => fc.constantFrom(...of);
const table = (name: string, head: string, row: fc.Arbitrary<readonly string[]>): fc.Arbitrary<Text> =>
  fc
    .uniqueArray(row, { minLength: 1, maxLength: 3, selector: (r) => r[0] })
    .map((rows) => [`${name}.csv`, [head, ...rows.map((r) => r.slice(1).join(','))].join('\n')]);
/** The first cell is what a row is about: a file says each once. */
const about = (key: string, ...cells: string[]): readonly string[] => [key, ...cells];

const people = pick('s1', 's2', 's4', 'n1', 'n2');
const works = pick('w1', 'q2', 'x1');
const points = pick('', '0', '4.5', '9');
const uuid = (n: number) => `cccccccc-cccc-4ccc-8ccc-00000000000${n}`;
const statement = fc
  .record({
    n: fc.nat(5),
    who: pick('s1', 's4', 'n1', 'zz'),
    verb: pick('passed', 'experienced', 'voided'),
    of: fc.nat(5),
    scaled: pick(0.2, 0.8),
  })
  .map(({ n, who, verb, of, scaled }) => ({
    id: uuid(n),
    actor: { account: { homePage: 'https://platform.example', name: who } },
    verb: { id: `http://adlnet.gov/expapi/verbs/${verb}` },
    object:
      verb === 'voided'
        ? { objectType: 'StatementRef', id: uuid(of) }
        : { id: 'https://platform.example/works/q2' },
    ...(verb === 'passed' ? { result: { score: { scaled } } } : {}),
    timestamp: `2026-10-27T10:0${n}:00Z`,
  }));

const anyFile: fc.Arbitrary<Text> = fc.oneof(
  table(
    'roster',
    'student_id,given_name,family_name,section,status',
    fc
      .tuple(people, pick('Ada', 'Bea'), pick('Monday', 'Online', 'Evening'), pick('active', 'withdrawn'))
      .map(([id, given, section, status]) => about(id, id, given, 'Quill', section, status)),
  ),
  table(
    'outcomes',
    'outcome_id,title,prerequisites,part_of',
    fc
      .tuple(pick('fix', 'tides', 'lights'), pick('One', 'Two'), pick('', 'heights'))
      .map(([id, title, parent]) => about(id, id, title, '', parent)),
  ),
  table(
    'activities',
    'activity_id,title,kind,category,points,due,outcomes',
    fc
      .tuple(
        works,
        pick('First', 'Second'),
        pick('10', '20'),
        pick('', '2026-10-20T22:00:00Z'),
        pick('', 'fix', 'tides'),
        pick('Chart work', 'Talks'),
      )
      .map(([id, title, max, due, outcomes, category]) =>
        about(id, id, title, 'assignment', category, max, due, outcomes),
      ),
  ),
  table(
    'gradebook',
    'student_id,activity_id,submitted,points,excused',
    fc
      .tuple(people, works, points, pick('yes', 'no'))
      .map(([who, work, got, excused]) =>
        about(`${who} ${work}`, who, work, '2026-10-27T10:00:00Z', got, excused),
      ),
  ),
  table(
    'attempts',
    'student_id,activity_id,attempt,submitted,points',
    fc
      .tuple(people, works, pick('1', '2'), points)
      .map(([who, work, n, got]) =>
        about(`${who} ${work} ${n}`, who, work, n, `2026-10-2${n}T10:00:00Z`, got),
      ),
  ),
  table(
    'attendance',
    'student_id,day,attendance',
    fc.tuple(people, pick('late', 'absent')).map(([who, how]) => about(who, who, '2026-10-26', how)),
  ),
  table(
    'events',
    FILES.events.split('\n')[0]!,
    fc
      .tuple(fc.nat(5), pick('s1', 's4', 'n1', 'zz'), pick('r1', 'w1', ''))
      .map(([n, who, work]) =>
        about(`stack-${n}`, `stack-${n}`, who, `2026-10-28T0${n}:00:00Z`, 'view', work, ''),
      ),
  ),
  fc
    .uniqueArray(statement, { minLength: 1, maxLength: 4, selector: (s) => s.id })
    .map((list): Text => ['said.json', JSON.stringify(list)]),
);

describe('imports taken back, the last first', () => {
  it('lead through every state that the course had, to where it began', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyFile, { minLength: 2, maxLength: 5 }), async (files) => {
        const { code, courseId, bring } = await freshCourse();
        const states: Record<string, string[]>[] = [];
        const ids: number[] = [];
        for (const [name, text] of files) {
          states.push(await everything(courseId));
          await bring(file(name, text));
          ids.push((await pastImports(me(), code))[0]!.id);
        }
        for (const [i, id] of [...ids.entries()].reverse()) {
          await undoImport(me(), code, id);
          const now = await everything(courseId);
          for (const name of Object.keys(now)) {
            const [is, was] = [new Set(now[name]), new Set(states[i]![name])];
            const more = now[name]!.filter((r) => !was.has(r));
            const less = states[i]![name]!.filter((r) => !is.has(r));
            expect({ more, less }, `${name} before ${files[i]![0]}`).toEqual({ more: [], less: [] });
          }
        }
      }),
      { numRuns: runs(12), endOnFailure: true },
    );
  });
});
