import { PGlite } from '@electric-sql/pglite';
import { DuckDBInstance } from '@duckdb/node-api';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { EventColumns } from '@/core/activity/events';
import { sessionize } from '@/core/activity/sessions';
import { seeded } from '@/demo/random';
import { startPostgres } from '../scripts/postgres.mjs';
import { bound, medianTime, ms } from './measure';

const EVENTS = 1_000_000;
const STUDENTS = 5_000;
const START = Date.UTC(2026, 8, 28);

/** A term of sittings, in no order. */
function makeEvents(): EventColumns {
  const random = seeded(5);
  const student = new Int32Array(EVENTS);
  const at = new Float64Array(EVENTS);
  const login = new Uint8Array(EVENTS);
  let i = 0;
  while (i < EVENTS) {
    const s = random.whole(0, STUDENTS - 1);
    let t = START + Math.floor(random.next() * 100 * 86_400_000);
    const length = Math.min(EVENTS - i, random.whole(5, 35));
    for (let e = 0; e < length; e++, i++) {
      student[i] = s;
      at[i] = t;
      login[i] = e === 0 ? 1 : 0;
      t += 1000 + Math.floor(random.wait(90_000));
    }
  }
  for (let k = EVENTS - 1; k > 0; k--) {
    const j = random.whole(0, k);
    [student[k], student[j]] = [student[j]!, student[k]!];
    [at[k], at[j]] = [at[j]!, at[k]!];
    [login[k], login[j]] = [login[j]!, login[k]!];
  }
  return {
    count: EVENTS,
    studentCount: STUDENTS,
    student,
    at,
    login,
    kind: new Uint8Array(EVENTS),
    duration: null,
  };
}

/** The table of the engines, with the types in which the application stores events. */
const TABLE = 'create table ev (student integer, t timestamptz, kind varchar)';

/** The same rule in SQL that all three engines accept, down to the rows that the program gets. */
const QUERY = `
  with gaps as (
    select student, t, kind, lag(t) over (partition by student order by t, (kind <> 'login')) as before from ev
  ), starts as (
    select student, t,
      case when before is null or t - before > interval '30 minutes' or kind = 'login' then 1 else 0 end as starts
    from gaps
  ), numbered as (
    select student, t, sum(starts) over (partition by student order by t, starts desc rows unbounded preceding) as n
    from starts
  )
  select student, min(t) as start, max(t) as stop,
    cast(extract(epoch from max(t) - min(t)) as double precision) as seconds, count(*) as events
  from numbered group by student, n order by student, start`;

/** The same over whole numbers, which the application does not store: for the record only. */
const NUMBERS = `
  with gaps as (
    select student, t, login, lag(t) over (partition by student order by t, login desc) as before from numbers
  ), starts as (
    select student, t, case when before is null or t - before > 1800000 or login = 1 then 1 else 0 end as starts from gaps
  ), numbered as (
    select student, t, sum(starts) over (partition by student order by t, starts desc rows unbounded preceding) as n
    from starts
  )
  select student, min(t), max(t), count(*) from numbered group by student, n`;

interface Found {
  readonly sessions: number;
  readonly seconds: number;
}

/** Compares what an engine found with ours, so that the race is between equals. */
function agree(name: string, own: Found, seconds: readonly number[]): void {
  const total = seconds.reduce((t, s) => t + s, 0);
  if (seconds.length !== own.sessions || Math.abs(total - own.seconds) > 0.5) {
    throw new Error(
      `${name} finds ${seconds.length} sessions, ${total} s; ours ${own.sessions}, ${own.seconds}`,
    );
  }
}

export async function benchSessions(): Promise<void> {
  console.log(
    `Sessions of ${EVENTS.toLocaleString('en')} unsorted events of ${STUDENTS.toLocaleString('en')} students`,
  );
  const events = makeEvents();
  const options = { gapMinutes: 30, last: 'zero' } as const;
  const { sessions } = sessionize(events, options);
  const own = { sessions: sessions.count, seconds: sessions.seconds.reduce((t, v) => t + v, 0) };
  const core = await medianTime(7, () => sessionize(events, options));
  console.log(`  core: ${ms(core)} (${sessions.count.toLocaleString('en')} sessions)`);

  const lines: string[] = [];
  for (let i = 0; i < EVENTS; i++) {
    const t = new Date(events.at[i]!).toISOString();
    lines.push(`${events.student[i]},${t},${events.login[i] === 1 ? 'login' : 'view'}`);
  }
  const csv = `${lines.join('\n')}\n`;
  const engines: [string, number][] = [];

  const lite = await PGlite.create();
  await lite.exec(TABLE);
  await lite.query("copy ev from '/dev/blob' with (format csv)", [], { blob: new Blob([csv]) });
  const inLite = () => lite.query<{ seconds: number }>(QUERY);
  agree(
    'PGlite',
    own,
    (await inLite()).rows.map((r) => r.seconds),
  );
  engines.push(['PGlite', await medianTime(3, inLite)]);
  await lite.close();

  const folder = mkdtempSync(join(tmpdir(), 'lantern-bench-'));
  writeFileSync(join(folder, 'ev.csv'), csv);
  const duck = await (await DuckDBInstance.create()).connect();
  await duck.run(TABLE);
  await duck.run(`copy ev from '${join(folder, 'ev.csv')}' (format csv, header false)`);
  rmSync(folder, { recursive: true });
  const inDuck = async () => (await duck.runAndReadAll(QUERY)).getColumns();
  agree('DuckDB', own, (await inDuck())[3]!.map(Number));
  engines.push(['DuckDB', await medianTime(3, inDuck)]);
  await duck.run(
    "create table numbers as select student, epoch_ms(t) as t, (kind = 'login')::tinyint as login from ev",
  );
  const numbers = await medianTime(3, async () => (await duck.runAndReadAll(NUMBERS)).getColumns());

  const server = await startPostgres();
  try {
    const client = new pg.Client({ connectionString: server.url });
    await client.connect();
    await client.query(TABLE);
    await pipeline(Readable.from([csv]), client.query(copyFrom('copy ev from stdin with (format csv)')));
    await client.query('analyze ev');
    const onServer = () => client.query<{ seconds: number }>(QUERY);
    agree(
      'PostgreSQL',
      own,
      (await onServer()).rows.map((r) => r.seconds),
    );
    engines.push(['PostgreSQL server', await medianTime(3, onServer)]);
    await client.end();
  } finally {
    server.stop();
  }
  for (const [name, time] of engines)
    console.log(`  ${name}: ${ms(time)}, ${(time / core).toFixed(1)} times ours`);
  console.log(
    `  for the record, DuckDB over whole numbers instead of timestamps: ${(numbers / core).toFixed(1)} times ours`,
  );
  bound('the fastest engine against core', Math.min(...engines.map((e) => e[1])) / core, 10, 'at least');
}
