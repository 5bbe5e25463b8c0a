import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testDatabase, type TestDatabase } from '../../tests/support/database';
import { courses, enrolments, events, persons, units, user } from '@/data/schema';
import { createCourse } from '@/server/snapshot/createCourse';
import { demoTerm } from './course';
import { demoSignIns, seedDemo } from './seed';

const NOW = Date.parse('2026-11-25T10:00:00Z');
let test: TestDatabase;
beforeAll(async () => {
  test = await testDatabase();
});
afterAll(() => test.close());

/** A small one: the whole demo is made for the browser tests, by the command that makes it. */
const STUDENTS = 12;
const seed = () => seedDemo(test.db, NOW, test.folder, () => undefined, STUDENTS);

describe('making the demo', () => {
  it('clears what was left of one that was stopped half-way, makes it whole, and leaves it alone after', async () => {
    const term = demoTerm(NOW);
    const base = { termName: 'x', term, policy: { missing: 'zero' as const }, sections: [], staff: [] };
    const half = await createCourse(test.db, { ...base, code: 'NAV-110', title: 'Half' });
    const [person] = await test.db.orm
      .insert(persons)
      .values({ externalId: 'S1001', given: 'H', family: 'H' })
      .returning();
    await test.db.orm.insert(enrolments).values({ courseId: half, personId: person!.id });

    await seed();
    const made = await test.db.orm.select().from(courses).orderBy(courses.id);
    expect(made.map((c) => [c.code, c.title])).toEqual([
      ['NAV-110', 'Coastal Navigation'],
      ['MET-120', 'Marine Weather'],
      ['STB-210', 'Vessel Stability'],
    ]);
    const tree = await test.db.orm.select().from(units);
    expect(tree.map((u) => [u.name, tree.find((p) => p.id === u.parentId)?.name])).toEqual([
      ['Saltmarsh Maritime Institute', undefined],
      ['School of Navigation', 'Saltmarsh Maritime Institute'],
      ['School of Ship Handling', 'Saltmarsh Maritime Institute'],
    ]);
    expect(made.map((c) => tree.find((u) => u.id === c.unitId)?.name)).toEqual([
      'School of Navigation',
      'School of Navigation',
      'School of Ship Handling',
    ]);
    const active = await test.db.orm.select().from(enrolments).where(eq(enrolments.status, 'active'));
    expect(active).toHaveLength(STUDENTS);
    const accounts = await test.db.orm.select().from(user);
    expect(accounts.filter((u) => u.role === 'student')).toHaveLength(STUDENTS);
    expect(accounts.map((u) => u.email)).toContain(demoSignIns(NOW).student);
    const count = (await test.db.orm.select({ id: events.eventId }).from(events)).length;
    expect(count).toBeGreaterThan(10_000);

    await seed();
    expect((await test.db.orm.select({ id: events.eventId }).from(events)).length).toBe(count);
  });
  it('leaves the courses of others alone', async () => {
    await test.db.orm.delete(courses);
    await createCourse(test.db, {
      code: 'OWN-1',
      title: 'Own',
      termName: 'x',
      term: demoTerm(NOW),
      policy: { missing: 'zero' },
      sections: [],
      staff: [],
    });
    await seed();
    expect((await test.db.orm.select().from(courses)).map((c) => c.code)).toEqual(['OWN-1']);
  });
});
