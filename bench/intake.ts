import { sql } from 'drizzle-orm';
import { FILE_KINDS } from '@/core/formats/courseFiles';
import { importFiles } from '@/server/intake/intake';
import { benchCourse, NOW } from './course';
import { bound, ms, timed } from './measure';

const EVENTS = 100_000;

/** Import of a course's events with everything derived from them, against a bare COPY of the same rows. */
export async function benchIntake(): Promise<void> {
  console.log(`Import of ${EVENTS.toLocaleString('en')} events, derived rows included`);
  const { db, courseId, userId, upload, close } = await benchCourse({ events: EVENTS });
  const bring = (kinds: readonly (typeof FILE_KINDS)[number][]) =>
    importFiles(db, courseId, userId, kinds.map(upload), Date.parse(NOW));
  await bring(FILE_KINDS.filter((k) => k !== 'events'));

  const columns = ['course_id', 'event_id', 'enrolment_id', 'at', 'kind', 'activity_id', 'duration_s'];
  const imports: number[] = [];
  const copies: number[] = [];
  for (let run = 0; run < 3; run++) {
    await db.orm.execute(sql`delete from events`);
    await db.orm.execute(sql`vacuum full events`);
    imports.push(await timed(() => bring(['events'])));
    if (run === 0) await db.orm.execute(sql`create table kept as select * from events`);
    const rows = await db.orm.execute(
      sql`select string_agg(concat_ws(',', course_id, event_id, enrolment_id, to_json(at)#>>'{}', kind, coalesce(activity_id::text, ''), coalesce(duration_s::text, '')), E'\n') as csv from kept`,
    );
    const csv = (rows as unknown as { rows: { csv: string }[] }).rows[0]!.csv;
    await db.orm.execute(sql`delete from events`);
    await db.orm.execute(sql`vacuum full events`);
    copies.push(await timed(() => db.transaction((tx) => tx.copy('events', columns, `${csv}\n`))));
  }
  await close();
  const middle = (times: number[]) => times.sort((a, b) => a - b)[1]!;
  console.log(`  import ${ms(middle(imports))}, bare COPY ${ms(middle(copies))}`);
  bound('import against bare COPY', middle(imports) / middle(copies), 3, 'at most');
}
