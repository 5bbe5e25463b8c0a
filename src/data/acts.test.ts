import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { describe, expect, it, onTestFinished } from 'vitest';
import * as yup from 'yup';

const MIGRATIONS = join(process.cwd(), 'src/data/migrations');
const journal = yup.object({ entries: yup.array(yup.object({ tag: yup.string().required() })).required() });

/** The migrations as they were before one of them came. */
function before(tag: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-migrations-'));
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
  cpSync(MIGRATIONS, folder, { recursive: true });
  const file = join(folder, 'meta/_journal.json');
  const read = journal.validateSync(JSON.parse(readFileSync(file, 'utf8')));
  const kept = read.entries.findIndex((e) => e.tag === tag);
  writeFileSync(file, JSON.stringify({ ...read, entries: read.entries.slice(0, kept) }));
  return folder;
}

describe('marks, notes and messages of before', () => {
  it('are acts after an upgrade, with the flags that they answer', async () => {
    const client = await PGlite.create();
    onTestFinished(() => client.close());
    const orm = drizzle(client);
    await migrate(orm, { migrationsFolder: before('0010_acts_and_flags') });
    await client.exec(`
      insert into "user" (id, name, email, email_verified, created_at, updated_at) values ('u', 'Ines', 'i@x.example', true, now(), now());
      insert into courses (code, title, term_name, zone, term_start, term_weeks, breaks, policy, indicators, session_gap_minutes)
        values ('NAV', 'N', 'T', 'UTC', '2026-09-28', 15, '[]', '{}', '{}', 30);
      insert into persons (external_id, given, family) values ('s1', 'A', 'B');
      insert into enrolments (course_id, person_id, status) values (1, 1, 'active');
      insert into flags (enrolment_id, kind, level, opened_on, closed_on, detail) values
        (1, 'behind', 'watch', '2026-10-01', '2026-10-05', '{}'), (1, 'behind', 'act', '2026-10-10', null, '{}'),
        (1, 'behind', 'act', '2026-10-10', null, '{}');
      insert into messages (course_id, user_id, key, subject, body, reason, created_at) values (1, 'u', 'k', 's', 'b', 'r', '2026-10-12T10:00:00Z');
      insert into recipients (message_id, enrolment_id, subject, body, mail_state) values (1, 1, 's', 'b', 'sent');
      insert into notes (course_id, enrolment_id, user_id, kind, on_day, text, at) values (1, 1, 'u', 'talk', '2026-10-11', 't', '2026-10-11T10:00:00Z');
      insert into round_marks (course_id, enrolment_id, user_id, action, on_day, until_day, reason, covered, at) values
        (1, 1, 'u', 'seen', '2026-10-03', null, 'fine', '[{"kind":"behind","level":"watch"}]', '2026-10-03T10:00:00Z'),
        (1, 1, 'u', 'messaged', '2026-10-12', null, null, '[{"kind":"behind","level":"act"}]', '2026-10-12T10:00:00.500Z'),
        (1, 1, 'u', 'put off', '2026-10-20', '2026-10-27', null, '[]', '2026-10-20T10:00:00Z');
    `);
    await migrate(orm, { migrationsFolder: MIGRATIONS });
    const { rows } = await client.query(
      'select kind, on_day::text, follow_up_on::text, reason, answers, recipient_id, note_id from acts order by id',
    );
    const none = { follow_up_on: null, reason: null, recipient_id: null, note_id: null };
    expect(rows).toEqual([
      {
        ...none,
        kind: 'seen',
        on_day: '2026-10-03',
        reason: 'fine',
        answers: [{ kind: 'behind', level: 'watch', flag: 1 }],
      },
      {
        ...none,
        kind: 'messaged',
        on_day: '2026-10-12',
        answers: [{ kind: 'behind', level: 'act', flag: 3 }],
        recipient_id: 1,
      },
      { ...none, kind: 'put off', on_day: '2026-10-20', follow_up_on: '2026-10-27', answers: [] },
      { ...none, kind: 'talk', on_day: '2026-10-11', answers: [], note_id: 1 },
    ]);
    const left = await client.query('select id from flags order by id');
    expect(left.rows).toEqual([{ id: 1 }, { id: 3 }]);
  });
});
