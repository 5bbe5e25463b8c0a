import { randomUUID } from 'node:crypto';
import { gt, inArray, sql } from 'drizzle-orm';
import { FILE_KINDS } from '@/core/course/records';
import { events, statements } from '@/data/schema';
import { setDatabase } from '@/server/base/database';
import { importFiles } from '@/server/intake/intake';
import { checkStatements, receiveStatements } from '@/server/xapi/endpoint';
import { catchUp } from '@/server/xapi/follow';
import { benchCourse, NOW, type BenchCourse } from './course';
import { bound, median, ms, timed } from './measure';

const BATCH = 50;
const REQUESTS = 40;
/** Arrivals in each of two courses. */
const ARRIVALS = 60;
/** What comes first and does not count. */
const WARMING = 5;
/** Statements that came in before, in the large course. */
const OLD_STATEMENTS = 200_000;

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
  readonly statements?: number;
}

type FilledCourse = Omit<BenchCourse, 'upload'> & { sender: Parameters<typeof receiveStatements>[0] };

async function course(size: Size): Promise<FilledCourse> {
  // The files of a million events must not stay in memory while arrivals are timed: only what is named here does.
  const { upload, db, courseId, userId, folder, close } = await benchCourse(size);
  setDatabase(db);
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  return { db, courseId, userId, folder, close, sender: { credentialId: 1, key: 'bench', courseId } };
}

/**
 * The endpoint at 50 statements a request against bare multi-row inserts of the same rows into a database of the same
 * content. They take turns.
 */
async function throughput(): Promise<void> {
  const [taking, bare] = [await course({ events: 10_000 }), await course({ events: 10_000 })];
  const [taken, inserted]: [number[], number[]] = [[], []];
  let last = 0;
  for (let i = 0; i < WARMING + REQUESTS; i++) {
    setDatabase(taking.db);
    const body = batch(BATCH);
    const time = await timed(() => receiveStatements(taking.sender, checkStatements(body)));
    const rows = await taking.db.orm
      .select()
      .from(statements)
      .where(gt(statements.place, last))
      .orderBy(statements.place);
    last = rows.at(-1)!.place;
    const said = await taking.db.orm
      .select()
      .from(events)
      .where(
        inArray(
          events.eventId,
          rows.map((r) => `xapi:${r.id}`),
        ),
      );
    if (rows.length !== BATCH || said.length !== BATCH) throw new Error('a batch did not go in as a whole');
    const plain = rows.map(({ place: _, ...row }) => row);
    const bareTime = await timed(() =>
      bare.db.transaction(async ({ orm }) => {
        await orm.insert(statements).values(plain);
        await orm.insert(events).values(said);
      }),
    );
    if (i < WARMING) continue;
    taken.push(time);
    inserted.push(bareTime);
  }
  await taking.close();
  await bare.close();
  const second = Math.round((BATCH / median(taken)) * 1000);
  console.log(
    `  ${BATCH} statements in ${ms(median(taken))} (${second} a second), bare inserts ${ms(median(inserted))}`,
  );
  bound('statements a second against bare inserts', median(inserted) / median(taken), 1 / 3, 'at least');
}

/** Puts as many old statements into a course, as they would stand there after so many days. */
async function oldStatements({ db, courseId }: FilledCourse, n: number): Promise<void> {
  await db.orm.execute(sql`
    insert into ${statements} (course_id, id, stored, at, actor, verb, activity, statement)
    select ${courseId}, gen_random_uuid()::text, now(), now(), 'mbox:s' || i % 500 || '@x.example',
      'http://adlnet.gov/expapi/verbs/experienced', 'https://x.example/works/page-symbols',
      '{"verb": {"id": "http://adlnet.gov/expapi/verbs/experienced"}}'::jsonb
    from generate_series(1, ${n}::int) as i`);
}

/** One statement arrives in a course, derived rows included. Milliseconds. */
async function arrive({ db, courseId, sender }: FilledCourse, body: readonly unknown[]): Promise<number> {
  setDatabase(db);
  return timed(async () => {
    await receiveStatements(sender, checkStatements(body));
    await catchUp(db, courseId);
  });
}

/**
 * What one arriving statement costs in two courses, medians. The courses take turns, so that what else the machine does
 * and what the process collects strikes both alike.
 */
async function arrivals(few: Size, many: Size): Promise<[number, number]> {
  const made = [await course(few), await course(many)] as const;
  await oldStatements(made[1], many.statements ?? 0);
  const times: [number[], number[]] = [[], []];
  sent = 0;
  for (let i = 0; i < WARMING + ARRIVALS; i++) {
    const student = sent;
    for (const side of [0, 1] as const) {
      sent = student;
      const time = await arrive(made[side], batch(1));
      if (i >= WARMING) times[side].push(time);
    }
  }
  for (const { close } of made) await close();
  return [median(times[0]), median(times[1])];
}

export async function benchLive(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  console.log('Statements as they happen');
  await throughput();
  const [late, whole] = await arrivals({ events: 10_000 }, { events: 110_000 });
  console.log(`  one statement, 73 students: ${ms(late)} after 10,000 events, ${ms(whole)} after 110,000`);
  bound('one statement, of the same students, after more weeks', whole / late, 1.5, 'at most');
  const [few, many] = await arrivals(
    { students: 73, events: 10_000 },
    { students: 540, events: 1_000_000, statements: OLD_STATEMENTS },
  );
  console.log(`  one statement: ${ms(few)} after 10,000 events, ${ms(many)} after 1,000,000 of 540 students`);
  bound('one statement after 1,000,000 events against 10,000', many / few, 1.5, 'at most');
}
