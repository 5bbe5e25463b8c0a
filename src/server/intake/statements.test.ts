import { parse } from 'csv-parse/sync';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { events, statements } from '@/data/schema';
import { checkStatements, receiveStatements } from '../xapi/endpoint';
import { importFiles, pastImports, previewImport } from './intake';
import { rejectedCsv } from './rejected';
import { undoImport } from './undo';

const small = withSmallCourse();
const me = () => small.course.instructor;
const ids = Array.from({ length: 4 }, (_, i) => `aaaaaaaa-aaaa-4aaa-8aaa-00000000000${i}`);
const said = (more: object = {}) => ({
  actor: { account: { homePage: 'https://platform.example', name: 's1' } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
  object: { id: 'https://platform.example/works/r1' },
  timestamp: '2026-10-27T08:00:00Z',
  ...more,
});
const lines = (list: readonly unknown[]) => file('said.json', list.map((s) => JSON.stringify(s)).join('\n'));
const bring = async (...files: ReturnType<typeof file>[]) =>
  importFiles(small.test.db, small.course.courseId, me().userId, files, Date.parse(NOW));
const stored = async () => {
  const { orm } = small.test.db;
  const own = await orm.select().from(statements).where(eq(statements.courseId, small.course.courseId));
  return { statements: own.length, events: (await orm.select().from(events)).length };
};

describe('a file of statements', () => {
  it('goes in as its preview says, and again brings nothing, with ids of its own or without', async () => {
    const list = lines([
      said({ id: ids[0] }),
      said({ id: ids[0]!.toUpperCase() }),
      said({ timestamp: '2026-10-27T08:10:00Z' }),
      said({ timestamp: '2026-10-27T08:10:00.000Z' }),
      said({ id: ids[1], actor: { mbox: 'mailto:nobody@x.example' } }),
      { id: ids[2] },
    ]);
    const before = await stored();
    const preview = await previewImport(me(), 'NAV', [list]);
    const counts = { added: 2, changed: 0, unchanged: 2, rejected: 1, waiting: 1 };
    expect(preview.files[0]!.counts).toMatchObject({ ...counts, kind: 'statements' });
    expect(await stored()).toEqual(before);
    expect(await bring(list)).toMatchObject([counts]);
    // Of the three that went in one waits: nobody is known by its address.
    expect(await stored()).toEqual({ statements: before.statements + 3, events: before.events + 2 });
    const after = await stored();
    expect(await bring(list)).toMatchObject([{ added: 0, unchanged: 5, rejected: 1, waiting: 0 }]);
    expect(await stored()).toEqual(after);
  });

  it('rejects an id with other content, in the file or among those stored, by line, and takes the rest', async () => {
    const list = lines([
      said({ id: ids[0], timestamp: '2026-10-27T09:00:00Z' }),
      said({ id: ids[3] }),
      said({ id: ids[3], verb: { id: 'http://adlnet.gov/expapi/verbs/answered' } }),
      said({ timestamp: 'yesterday' }),
    ]);
    const preview = await previewImport(me(), 'NAV', [list]);
    expect(preview.files[0]!.counts).toMatchObject({ added: 1, unchanged: 0, rejected: 3 });
    expect(preview.files[0]!.rejected.map((r) => [r.line, r.field, r.reason])).toEqual([
      [1, 'id', `the statement ${ids[0]} is stored with other content`],
      [3, 'id', `the id ${ids[3]} stands in line 2 with other content`],
      [4, 'timestamp', '“yesterday” is not an instant like 2026-09-28T18:30:00Z'],
    ]);
    const csv = await rejectedCsv(me(), 'NAV', preview.id!, 'statements');
    expect(csv.split('\r\n').slice(0, 2)).toEqual([
      'line,field,reason,statement',
      expect.stringMatching(/^1,id,the statement .* is stored with other content,"\{""actor""/) as string,
    ]);
    // The whole statement stands there, to be mended and imported again.
    const [, first] = parse(csv, { relax_column_count: true }) as string[][];
    expect(JSON.parse(first![3]!)).toEqual(said({ id: ids[0], timestamp: '2026-10-27T09:00:00Z' }));
    expect(await bring(list)).toMatchObject([{ added: 1, rejected: 3 }]);
    await expect(rejectedCsv(me(), 'NAV', preview.id!, 'roster')).rejects.toThrow(/no such/);
  });

  it('is taken back whole, and goes in again', async () => {
    const list = lines([
      said({ timestamp: '2026-10-27T11:00:00Z' }),
      said({ timestamp: '2026-10-27T11:05:00Z' }),
    ]);
    const before = await stored();
    await bring(list);
    const [last] = await pastImports(me(), 'NAV');
    await undoImport(me(), 'NAV', last!.id);
    expect(await stored()).toEqual(before);
    expect(await bring(list)).toMatchObject([{ added: 2, unchanged: 0 }]);
  });

  it('that are two at once in one upload count each on its own', async () => {
    const [one, two] = ['2026-10-27T12:00:00Z', '2026-10-27T12:05:00Z'].map((timestamp) =>
      said({ timestamp }),
    );
    const counts = await bring(
      file('a.json', JSON.stringify([one])),
      file('b.json', JSON.stringify({ statements: [one, two] })),
    );
    expect(counts.map((c) => [c.file, c.added, c.unchanged])).toEqual([
      ['a.json', 1, 0],
      ['b.json', 1, 1],
    ]);
  });

  it('leaves nothing behind of people who came in an import that was cancelled', async () => {
    const { db } = small.test;
    const { courseId } = small.course;
    const roster = file(
      'roster.csv',
      `${FILES.roster.split('\n')[0]}\nnew-1,Nova,Pell,,Monday,active,2026-09-28,`,
    );
    const hers = said({ actor: { account: { homePage: 'https://platform.example', name: 'new-1' } } });
    const importing = importFiles(db, courseId, me().userId, [roster, lines([hers])], Date.parse(NOW), {
      stillMine: () => Promise.reject(new Error('cancelled')),
    });
    await expect(importing).rejects.toThrow('cancelled');
    // By something else the set-up gets the very revision that was taken back.
    await bring(file('outcomes.csv', 'outcome_id,title\nlights,Lights and shapes\n'));
    const before = await stored();
    expect(
      await receiveStatements({ credentialId: 0, courseId, key: 'a-platform' }, checkStatements([hers])),
    ).toHaveLength(1);
    // She waits: nobody of the course is known by that name.
    expect(await stored()).toEqual({ ...before, statements: before.statements + 1 });
  });
});
