import { readFileSync } from 'node:fs';
import { count, eq, like } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { events, imports, statements } from '@/data/schema';
import { checkDerived } from '../export/check';
import { checkStatements, receiveStatements } from '../xapi/endpoint';
import { importFiles, previewImport } from './intake';
import { staged } from '../staging/staging';
import { undoImport } from './undo';

const small = withSmallCourse();
const me = () => small.course.instructor;
const ROWS = 300;

const log = (run: string) => {
  const rows = Array.from(
    { length: ROWS },
    (_, i) => `${run}-${i},s1,2026-10-20T10:${10 + (i % 50)}:00Z,view,r1,`,
  );
  return file('events.csv', [FILES.events.split('\n')[0]!, ...rows].join('\n'));
};
const bring = (upload: ReturnType<typeof file>) =>
  importFiles(small.test.db, small.course.courseId, me().userId, [upload], Date.parse(NOW));
const stored = async (run: string) => {
  const rows = await small.test.db.orm
    .select({ n: count() })
    .from(events)
    .where(like(events.eventId, `${run}-%`));
  return rows[0]!.n;
};
const ascending = (numbers: readonly number[]) => [...numbers].sort((a, b) => a - b);

describe('at once', () => {
  it('the same file three times goes in once, whichever is first', async () => {
    const counts = (await Promise.all([bring(log('once')), bring(log('once')), bring(log('once'))])).flat();
    expect(ascending(counts.map((c) => c.added))).toEqual([0, 0, ROWS]);
    expect(ascending(counts.map((c) => c.unchanged))).toEqual([0, ROWS, ROWS]);
    expect(await stored('once')).toBe(ROWS);
    expect((await checkDerived(small.test.db)).flatMap((c) => c.differing)).toEqual([]);
  });

  it('eight uploads do not clear each other away', async () => {
    const previews = await Promise.all(
      Array.from({ length: 8 }, (_, i) => previewImport(me(), 'NAV', [log(`upload${i}`)])),
    );
    for (const [i, { id }] of previews.entries()) {
      const { uploads } = await staged(id!, small.course.courseId, me().userId);
      expect(uploads.map((u) => u.name)).toEqual(['events.csv']);
      expect(readFileSync(uploads[0]!.path, 'utf8')).toContain(`upload${i}-0,`);
    }
  });

  it('the same statements from two senders are stored once, and both are told their ids', async () => {
    const batch = Array.from({ length: 20 }, (_, i) => ({
      id: `00000000-0000-4000-8000-0000000000${String(i).padStart(2, '0')}`,
      actor: { account: { homePage: 'https://x.example', name: 's2' } },
      verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
      object: { id: 'https://x.example/works/r1' },
      timestamp: `2026-10-21T10:${10 + i}:00Z`,
    }));
    const send = () =>
      receiveStatements(
        { credentialId: 1, key: 'k', courseId: small.course.courseId },
        checkStatements(batch),
      );
    const [one, other] = await Promise.all([send(), send()]);
    expect(one).toEqual(batch.map((s) => s.id));
    expect(other).toEqual(one);
    const [rows] = await small.test.db.orm.select({ n: count() }).from(statements);
    expect(rows!.n).toBe(20);
  });

  it('two who take the same import back: one does, the other is told', async () => {
    await bring(log('back'));
    const [last] = await small.test.db.orm
      .select({ id: imports.id })
      .from(imports)
      .where(eq(imports.courseId, small.course.courseId))
      .orderBy(imports.id)
      .then((rows) => rows.slice(-1));
    const done = await Promise.allSettled([1, 2].map(() => undoImport(me(), 'NAV', last!.id)));
    expect(done.map((d) => d.status).sort()).toEqual(['fulfilled', 'rejected']);
    const refused = done.find((d) => d.status === 'rejected');
    expect(String(refused?.reason)).toMatch(/taken back already/);
    expect(await stored('back')).toBe(0);
  });
});
