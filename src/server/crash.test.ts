import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { eq, sql } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import { bundle } from '../../tests/support/bundle';
import { smallCourse } from '../../tests/support/course';
import { openEmbedded } from '@/data/database';
import { enrolments, events, imports, statements } from '@/data/schema';
import { seeded } from '@/demo/random';
import { setDatabase } from './database';
import { checkDerived } from './exchange/check';
import { catchUpAll } from './xapi/follow';

const KILLS = 20;
const folder = mkdtempSync(join(tmpdir(), 'lantern-killed-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Runs the worker until some time after it has said a word, kills it, and gives the lines that it got out. */
async function killed(
  program: string,
  run: number,
  courseId: number,
  word: string,
  after: number,
): Promise<string[]> {
  const child = spawn(process.execPath, [program, folder, String(run), String(courseId)], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const lines: string[] = [];
  let wrong = '';
  let waiting = true;
  child.stderr.on('data', (d: Buffer) => (wrong += d.toString()));
  const out = createInterface({ input: child.stdout });
  out.on('line', (line) => {
    lines.push(line);
    if (!waiting || !line.startsWith(word)) return;
    waiting = false;
    setTimeout(() => child.kill('SIGKILL'), after);
  });
  const [, signal] = (await once(child, 'close')) as [number | null, string | null];
  expect({ signal, wrong }).toEqual({ signal: 'SIGKILL', wrong: '' });
  return lines;
}

// The command of the embedded database; a server keeps its own promises.
describe.skipIf(process.env.LANTERN_TEST_SERVER)(
  'killed twenty times while it imports and takes statements in',
  () => {
    it('has kept all that it acknowledged, nothing half, and derives the rest', async () => {
      const first = await openEmbedded(folder, 'the test of crashes');
      setDatabase(first);
      const { courseId } = await smallCourse(first);
      await first.close();
      const program = bundle('tests/support/crashing.ts');
      const random = seeded(20);
      const acknowledged: string[] = [];
      for (let run = 0; run < KILLS; run++) {
        acknowledged.push(
          ...(await killed(
            program,
            run,
            courseId,
            run % 4 === 3 ? 'import' : 'ready',
            random.whole(30, 700),
          )),
        );
      }

      const db = await openEmbedded(folder, 'the test of crashes');
      setDatabase(db);
      await catchUpAll(db);
      const ofImports = await db.orm
        .select({
          run: sql<string>`split_part(${events.eventId}, '-', 2) || ' ' || split_part(${events.eventId}, '-', 3)`,
          n: sql<number>`count(*)::int`,
        })
        .from(events)
        .where(sql`${events.eventId} like 'crash-%'`)
        .groupBy(sql`1`);
      expect(ofImports.filter((r) => r.n !== 200)).toEqual([]);
      const whole = new Set(ofImports.map((r) => `import ${r.run}`));
      const saidOf = await db.orm
        .select({ run: sql<number>`substr(${statements.id}, 25, 4)::int`, n: sql<number>`count(*)::int` })
        .from(statements)
        .groupBy(sql`1`);
      const said = new Map(saidOf.map((r) => [r.run, r.n]));
      // A request goes in as a whole, and so do its events.
      expect(saidOf.filter((r) => r.n % 50 !== 0)).toEqual([]);
      const [told] = await db.orm
        .select({ n: sql<number>`count(*)::int` })
        .from(events)
        .where(sql`${events.eventId} like 'xapi:%'`);
      expect(told!.n).toBe(saidOf.reduce((sum, r) => sum + r.n, 0));
      let [importsSaid, statementsSaid] = [0, 0];
      for (const line of acknowledged) {
        const [word, run, n] = line.split(' ');
        if (word === 'import') {
          importsSaid++;
          expect(whole).toContain(line);
        } else if (word === 'said') {
          statementsSaid++;
          expect(said.get(Number(run)) ?? 0).toBeGreaterThanOrEqual(Number(n));
        }
      }
      // The kills came in the middle: some work was acknowledged, and some was under way.
      expect(statementsSaid).toBeGreaterThan(KILLS / 2);
      expect(importsSaid).toBeGreaterThanOrEqual(KILLS / 4);
      const listed = await db.orm
        .select({ id: imports.id })
        .from(imports)
        .where(eq(imports.courseId, courseId));
      expect(listed).toHaveLength(1 + whole.size);
      expect(await db.orm.select().from(enrolments)).toHaveLength(5);
      expect((await checkDerived(db)).flatMap((c) => c.differing)).toEqual([]);
      await db.close();
    }, 240_000);
  },
);
