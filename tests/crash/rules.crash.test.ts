import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { and, eq, like, sql } from 'drizzle-orm';
import { afterAll, expect, it } from 'vitest';
import { RULE_STARTERS } from '@/core/unasked/starters';
import { DEFAULT_GUARDS } from '@/core/unasked/guards';
import { openEmbedded } from '@/data/database';
import { activities, courses, enrolments, messages, occasions, recipients } from '@/data/schema';
import { rereadConfig } from '@/server/base/config';
import { setDatabase } from '@/server/base/database';
import { saveGuards, saveRule, switchRule } from '@/server/unasked/manage';
import { bundle, SHORT_LIVED } from '../support/bundle';
import { smallCourse } from '../support/course';
import { rounds } from '../support/ruleRounds';
import { emptyFolder } from '../support/template';

const KILLS = 30;
const folder = mkdtempSync(join(tmpdir(), 'lantern-rule-kills-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it(`through ${KILLS} kills while rules fire, every decided message exists once`, async () => {
  process.env.LANTERN_DATA = emptyFolder(folder);
  rereadConfig();
  const made = await openEmbedded(folder, 'the test of the kills');
  setDatabase(made);
  const course = await smallCourse(made);
  await made.orm.update(courses).set({ termWeeks: 500 }).where(eq(courses.id, course.courseId));
  const { name, make } = RULE_STARTERS.praise!;
  const numbers = { percent: 85 };
  const id = await saveRule(course.instructor, 'NAV', {
    id: null,
    name,
    starter: 'praise',
    numbers,
    parts: make(numbers),
  });
  await switchRule(course.instructor, 'NAV', id, true);
  await saveGuards(course.instructor, 'NAV', { ...DEFAULT_GUARDS, coolDownDays: 1, mostAWeek: 14 });
  await made.close();

  const program = bundle('tests/support/ruleRounds.ts');
  for (let kill = 0; kill < KILLS; kill++) {
    const child = spawn(process.execPath, [...SHORT_LIVED, program, 'run'], {
      env: { ...process.env, LANTERN_DATA: folder },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    await once(child.stdout, 'data');
    // A round is graded: the kills are spread over what it takes to act on it, and a little more.
    await pause(((kill * 37) % KILLS) * 15);
    child.kill('SIGKILL');
    await once(child, 'exit');
  }

  const db = await openEmbedded(folder, 'the test of the kills');
  setDatabase(db);
  await rounds(db, 1);
  const begun = await db.orm
    .select({ id: activities.id })
    .from(activities)
    .where(like(activities.externalId, 'round-%'));
  const active = await db.orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.courseId), eq(enrolments.status, 'active')));
  const decided = await db.orm.select().from(occasions);
  // Each round was decided for each student once, and each has its own copy of a message.
  expect(begun.length).toBeGreaterThanOrEqual(KILLS);
  expect(decided).toHaveLength(begun.length * active.length);
  expect(decided.filter((o) => o.state !== 'sent')).toEqual([]);
  expect(new Set(decided.map((o) => o.recipientId)).size).toBe(decided.length);
  const [copies] = await db.orm.select({ n: sql`count(*)`.mapWith(Number) }).from(recipients);
  expect(copies!.n).toBe(decided.length);
  const sent = await db.orm.select({ key: messages.key }).from(messages);
  expect(new Set(sent.map((m) => m.key)).size).toBe(sent.length);
  expect(sent).toHaveLength(begun.length);
  await db.close();
});
