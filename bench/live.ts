import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { FILE_KINDS } from '@/core/formats/courseFiles';
import type { Statement } from '@/core/formats/xapi/statement';
import { events, statements } from '@/data/schema';
import { setDatabase } from '@/server/database';
import { importFiles } from '@/server/intake/intake';
import { checkStatements, receiveStatements } from '@/server/xapi/endpoint';
import { catchUp, stopFollowing } from '@/server/xapi/follow';
import { benchCourse, NOW, type BenchCourse } from './course';
import { bound, medianTime, ms, timed } from './measure';

const BATCH = 50;
const REQUESTS = 40;

let sent = 0;

/** A batch of statements of as many students, one after the other, none of which was sent before. */
function batch(size: number): unknown[] {
  return Array.from({ length: size }, () => ({
    id: randomUUID(),
    actor: { account: { homePage: 'https://x.example', name: `S${1001 + (sent++ % 60)}` } },
    verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
    object: { id: 'https://x.example/works/page-symbols' },
    timestamp: new Date(Date.parse(NOW) - Math.floor(Math.random() * 3_000_000)).toISOString(),
  }));
}

interface Size {
  readonly students?: number;
  readonly events: number;
}

async function course(
  size: Size,
): Promise<BenchCourse & { sender: Parameters<typeof receiveStatements>[0] }> {
  const made = await benchCourse(size);
  setDatabase(made.db);
  await importFiles(made.db, made.courseId, made.userId, FILE_KINDS.map(made.upload), Date.parse(NOW));
  const close = async () => {
    await stopFollowing();
    await made.close();
  };
  return { ...made, close, sender: { credentialId: 1, key: 'bench', courseId: made.courseId } };
}

/** The endpoint at 50 statements a request against bare multi-row inserts of the same rows. */
async function throughput(): Promise<void> {
  const { db, courseId, sender, close } = await course({ events: 10_000 });
  const requests = Array.from({ length: REQUESTS }, () => batch(BATCH));
  await receiveStatements(sender, checkStatements(batch(BATCH)));
  const taken = await timed(async () => {
    for (const body of requests) await receiveStatements(sender, checkStatements(body));
  });
  const rows = await db.orm.select().from(statements).orderBy(statements.place);
  const said = await db.orm
    .select()
    .from(events)
    .where(sql`${events.eventId} like 'xapi:%'`);
  await db.orm.delete(statements);
  await db.orm.execute(sql`delete from events where event_id like 'xapi:%'`);
  const bare = await timed(async () => {
    for (let i = BATCH; i < rows.length; i += BATCH) {
      await db.transaction(async ({ orm }) => {
        await orm.insert(statements).values(rows.slice(i, i + BATCH).map(({ place: _, ...r }) => r));
        await orm.insert(events).values(said.slice(i, i + BATCH));
      });
    }
  });
  const n = BATCH * REQUESTS;
  console.log(
    `  ${n} statements in ${ms(taken)} (${Math.round((n / taken) * 1000)} a second), bare inserts ${ms(bare)}; course ${courseId}`,
  );
  bound('statements a second against bare inserts', bare / taken, 1 / 3, 'at least');
  await close();
}

/** What one arriving statement costs, derived rows included, in a course of that size. */
async function arrival(size: Size): Promise<number> {
  const { db, courseId, sender, close } = await course(size);
  sent = 0;
  const cost = await medianTime(31, async () => {
    await receiveStatements(sender, checkStatements(batch(1)) as Statement[]);
    await catchUp(db, courseId);
  });
  await close();
  return cost;
}

export async function benchLive(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  console.log('Statements as they happen');
  await throughput();
  const [late, whole] = [await arrival({ events: 10_000 }), await arrival({ events: 110_000 })];
  console.log(`  one statement, 73 students: ${ms(late)} after 10,000 events, ${ms(whole)} after 110,000`);
  bound('one statement, of the same students, after more weeks', whole / late, 1.5, 'at most');
  const few = await arrival({ students: 73, events: 10_000 });
  const many = await arrival({ students: 540, events: 1_000_000 });
  console.log(`  one statement: ${ms(few)} after 10,000 events, ${ms(many)} after 1,000,000 of 540 students`);
  bound('one statement after 1,000,000 events against 10,000', many / few, 1.5, 'at most');
}
