import { sql } from 'drizzle-orm';
import { FILE_KINDS } from '@/core/formats/courseFiles';
import { openEmbedded } from '@/data/database';
import { SECTIONS } from '@/demo/course';
import { scenarioFiles } from '@/demo/files';
import { scenario } from '@/demo/scenario';
import { importFiles } from '@/server/intake/intake';
import { createAccounts, createCourse } from '@/server/setup';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bound, ms, timed } from './measure';

const EVENTS = 100_000;
const NOW = Date.parse('2026-11-25T10:00:00Z');

/** Import of a course's events with everything derived from them, against a bare COPY of the same rows. */
export async function benchIntake(): Promise<void> {
  console.log(`Import of ${EVENTS.toLocaleString('en')} events, derived rows included`);
  const made = scenario({ now: NOW });
  const files = scenarioFiles({ ...made, events: made.events.slice(-EVENTS) });
  const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'));
  const db = await openEmbedded(folder, 'the benchmark');
  const [user] = await createAccounts(
    db,
    [{ name: 'B', email: 'b@x.example', role: 'instructor' }],
    'a long password',
  );
  const courseId = await createCourse(db, {
    code: 'B',
    title: 'B',
    termName: 'B',
    term: made.term,
    policy: { missing: 'zero' },
    sections: SECTIONS,
    staff: [user!],
  });
  const upload = (kind: (typeof FILE_KINDS)[number]) => ({
    name: `${kind}.csv`,
    bytes: new TextEncoder().encode(files[kind]),
  });
  const others = FILE_KINDS.filter((k) => k !== 'events').map(upload);
  await importFiles(db, courseId, user!, others, NOW);

  const columns = ['course_id', 'event_id', 'enrolment_id', 'at', 'kind', 'activity_id', 'duration_s'];
  const imports: number[] = [];
  const copies: number[] = [];
  for (let run = 0; run < 3; run++) {
    await db.orm.execute(sql`delete from events`);
    await db.orm.execute(sql`vacuum full events`);
    imports.push(await timed(() => importFiles(db, courseId, user!, [upload('events')], NOW)));
    if (run === 0) await db.orm.execute(sql`create table kept as select * from events`);
    const rows = await db.orm.execute(
      sql`select string_agg(concat_ws(',', course_id, event_id, enrolment_id, to_json(at)#>>'{}', kind, coalesce(activity_id::text, ''), coalesce(duration_s::text, '')), E'\n') as csv from kept`,
    );
    const csv = (rows as unknown as { rows: { csv: string }[] }).rows[0]!.csv;
    await db.orm.execute(sql`delete from events`);
    await db.orm.execute(sql`vacuum full events`);
    copies.push(await timed(() => db.transaction((tx) => tx.copy('events', columns, `${csv}\n`))));
  }
  await db.close();
  rmSync(folder, { recursive: true, force: true });
  const middle = (times: number[]) => times.sort((a, b) => a - b)[1]!;
  console.log(`  import ${ms(middle(imports))}, bare COPY ${ms(middle(copies))}`);
  bound('import against bare COPY', middle(imports) / middle(copies), 3, 'at most');
}
