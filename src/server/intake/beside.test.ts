import { randomUUID } from 'node:crypto';
import { asc, eq, isNotNull, like, sql } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import {
  courseOfFiles,
  file,
  FILES,
  forgetCourses,
  NOW,
  withSmallCourse,
} from '../../../tests/support/course';
import {
  activityDayRows,
  activityTotalRows,
  attempts,
  courses,
  dayRows,
  enrolments,
  events,
  imports,
  persons,
  scores,
  seenEvents,
  sessionRows,
  statements,
  waiting,
} from '@/data/schema';
import { checkDerived } from '../export/check';
import { changeCells } from '../act/gradeChange';
import { saveSection } from '../act/course/parts';
import { courseVersion } from '../look/live';
import { workOff } from '../work';
import { roundsView } from '../look/rounds';
import { checkStatements, receiveStatements } from '../xapi/endpoint';
import { findStatements } from '../xapi/query';
import { importFiles, pastImports, type ImportOptions } from './intake';
import { importAsNew } from './newFromFiles';
import { undoImport } from './undo';

const small = withSmallCourse();
const db = () => small.test.db;
const me = () => small.course.instructor;
const at = Date.parse(NOW);
const all = Object.entries(FILES).map(([name, text]) => file(`${name}.csv`, text));
/** So that whatever comes goes in beside what is there. */
const BESIDE = { few: 0 };

afterEach(() => forgetCourses(db(), 'BIG'));

let made = 0;
/** A course of its own with the files of the small one in it. */
async function course(options: ImportOptions = {}): Promise<{ code: string; id: number }> {
  const code = `BIG-${++made}`;
  return { code, id: await courseOfFiles(db(), code, me().userId, options) };
}
const bring = (id: number, files: ReturnType<typeof file>[], options: ImportOptions = {}) =>
  importFiles(db(), id, me().userId, files, at, { ...BESIDE, ...options });

/** All that is stored of a course, seen or not, by names of its own rather than numbers of the database. */
async function stored(id: number) {
  const { orm } = db();
  const people = new Map(
    (
      await orm
        .select({ id: enrolments.id, who: persons.externalId })
        .from(enrolments)
        .innerJoin(persons, eq(persons.id, enrolments.personId))
        .where(eq(enrolments.courseId, id))
    ).map((p) => [p.id, p.who]),
  );
  const found: Record<string, unknown[]> = {};
  for (const [name, table] of Object.entries({
    events,
    scores,
    attempts,
    sessionRows,
    dayRows,
    activityDayRows,
    activityTotalRows,
  })) {
    const rows: Record<string, unknown>[] = await orm.select().from(table as typeof events);
    found[name] = rows
      .filter((r) => people.has(r.enrolmentId as number))
      .map(({ version: _, importId: __, activityId, courseId: ___, ...r }) =>
        JSON.stringify({ ...r, enrolmentId: people.get(r.enrolmentId as number), on: activityId != null }),
      )
      .sort();
  }
  found.people = [...people.values()].sort();
  return found;
}

/** Nothing of an import that did not come in may be left. */
async function nothingLeft() {
  const { orm } = db();
  expect(await orm.select().from(imports).where(isNotNull(imports.arrivingUntil))).toEqual([]);
  expect(await orm.select().from(courses).where(isNotNull(courses.forImport))).toEqual([]);
  const orphans = await orm.execute(sql`select count(*)::int as n from persons p
    where not exists (select 1 from enrolments e where e.person_id = p.id)`);
  expect((orphans as unknown as { rows: { n: number }[] }).rows[0]!.n).toBe(0);
}

describe('an import beside what is there', () => {
  it('comes to the same as one in one transaction, and derives what a rebuild derives', async () => {
    const one = await course();
    const two = await course(BESIDE);
    expect(await stored(two.id)).toEqual(await stored(one.id));
    const names = async (code: string) =>
      (await roundsView(me(), code, { filter: 'all' })).rows.map((r) => [r.name, r.reasons.length]);
    expect(await names(two.code)).toEqual(await names(one.code));
    const fresh = async (options: ImportOptions) => {
      const code = `BIG-${++made}`;
      const toMake = { code, zone: 'Europe/Lisbon', staff: [me().userId] };
      await importAsNew(db(), toMake, me().userId, all, at, options);
      const [row] = await db().orm.select().from(courses).where(eq(courses.code, code));
      return stored(row!.id);
    };
    expect(await fresh(BESIDE)).toEqual(await fresh({}));
    expect((await checkDerived(db())).flatMap((c) => c.differing)).toEqual([]);
    await nothingLeft();
  });

  it('of the same files again changes nothing, and one of other files only what they say', async () => {
    const { id, code } = await course();
    const before = await stored(id);
    const again = await bring(id, all);
    expect(again.every((c) => c.added + c.changed + c.rejected === 0)).toBe(true);
    expect(await stored(id)).toEqual(before);
    const more = [
      file('roster.csv', `${FILES.roster}\ns9,Nia,New,nia@students.example,Monday,active,2026-09-28,\n`),
      file('activities.csv', `${FILES.activities}\nw9,Log book,assignment,Chart work,60,0,20,,,30,fix\n`),
      file('gradebook.csv', `${FILES.gradebook}\ns9,w9,2026-10-20T10:00:00Z,,,,no\n`),
      file(
        'events.csv',
        `${FILES.events}\nn-1,s9,2026-10-20T10:00:00Z,view,w9,\nn-2,s1,2026-10-01T10:00:00Z,view,w9,\n`,
      ),
    ];
    const counts = await bring(id, more);
    expect(Object.fromEntries(counts.map((c) => [c.kind, [c.added, c.changed, c.unchanged]]))).toMatchObject({
      roster: [1, 0, 5],
      activities: [1, 0, 7],
      events: [2, 0, FILES.events.split('\n').length - 1],
    });
    expect((await checkDerived(db())).flatMap((c) => c.differing)).toEqual([]);
    const [last] = await pastImports(me(), code);
    await undoImport(me(), code, last!.id);
    await workOff(db());
    expect(await stored(id)).toEqual(before);
  });

  it('of a job that is begun again after it is in is not brought again, few rows or many', async () => {
    for (const options of [{ few: 0 }, {}]) {
      const { code, id } = await course();
      const before = (await pastImports(me(), code)).length;
      const more = [file('events.csv', `${FILES.events}\nnew-1,s1,2026-10-20T10:00:00Z,view,r1,\n`)];
      const jobId = `job-${id}`;
      const first = await importFiles(db(), id, me().userId, more, at, { ...options, jobId });
      expect(first).toMatchObject([{ added: 1 }]);
      expect(await importFiles(db(), id, me().userId, more, at, { ...options, jobId })).toEqual(first);
      expect(await pastImports(me(), code)).toHaveLength(before + 1);
    }
  });

  it('is seen by nobody before it is in, and then all at once', async () => {
    const { id, code } = await course();
    const seen = async () => ({
      events: (await db().orm.select().from(seenEvents).where(eq(seenEvents.courseId, id))).length,
      version: await courseVersion(id),
      rounds: (await roundsView(me(), code, { filter: 'all' })).rows,
      imports: (await pastImports(me(), code)).length,
    });
    const before = await seen();
    const steps = new Set<string>();
    const more = [
      file('roster.csv', `${FILES.roster}\ns9,Nia,New,nia@students.example,Monday,active,2026-09-28,\n`),
      file('events.csv', `${FILES.events}\nn-1,s9,2026-10-20T10:00:00Z,view,r1,\n`),
    ];
    await bring(id, more, {
      progress: async (step) => {
        if (step === 'Who needs somebody') return;
        steps.add(step);
        expect(await seen()).toEqual(before);
      },
    });
    expect([...steps]).toEqual(
      expect.arrayContaining(['Comparing with what is there', 'Writing events', 'Sessions and days']),
    );
    expect((await seen()).events).toBe(before.events + 1);
  });

  it.each(['Writing events', 'Sessions and days'])(
    'that is stopped at “%s” leaves nothing',
    async (where) => {
      const { id } = await course();
      const before = await stored(id);
      const rows = [
        file('roster.csv', `${FILES.roster}\ns9,Nia,New,nia@students.example,Monday,active,2026-09-28,\n`),
        file('activities.csv', `${FILES.activities}\nw9,Log book,assignment,Chart work,60,0,20,,,30,fix\n`),
        file('events.csv', `${FILES.events}\nn-1,s9,2026-10-20T10:00:00Z,view,w9,\n`),
      ];
      const stop = (step: string) =>
        step === where ? Promise.reject(new Error('stopped')) : Promise.resolve();
      await expect(bring(id, rows, { progress: stop })).rejects.toThrow('stopped');
      expect(await stored(id)).toEqual(before);
      await nothingLeft();
      // At the very end, too.
      await expect(
        bring(id, rows, { stillMine: () => Promise.reject(new Error('cancelled')) }),
      ).rejects.toThrow('cancelled');
      expect(await stored(id)).toEqual(before);
      await nothingLeft();
    },
  );

  it('whose process ends is cleared up by the next, and nothing of it was seen', async () => {
    const { id } = await course();
    const before = await stored(id);
    const rows = [
      file('roster.csv', `${FILES.roster}\ns9,Nia,New,nia@students.example,Monday,active,2026-09-28,\n`),
      file('events.csv', `${FILES.events}\nn-1,s9,2026-10-20T10:00:00Z,view,r1,\n`),
    ];
    // It goes on for ever: as if its process were gone.
    let there = () => {};
    const begun = new Promise<void>((resolve) => (there = resolve));
    void bring(id, rows, {
      progress: (step) => {
        if (step !== 'Sessions and days') return Promise.resolve();
        there();
        return new Promise(() => undefined);
      },
    });
    await begun;
    await db()
      .orm.update(imports)
      .set({ arrivingUntil: sql`clock_timestamp() - interval '1 second'` })
      .where(isNotNull(imports.arrivingUntil));
    const counts = await bring(id, rows);
    expect(counts.find((c) => c.kind === 'events')).toMatchObject({ added: 1 });
    await nothingLeft();
    const after = await stored(id);
    expect(after.events).toHaveLength(before.events!.length + 1);
    expect(after.people).toHaveLength(before.people!.length + 1);
    expect((await checkDerived(db())).flatMap((c) => c.differing)).toEqual([]);
  });
});

const said = (id: string, name: string, when: string) => ({
  id,
  actor: { account: { homePage: 'https://x.example', name } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/completed' },
  object: { id: 'https://x.example/works/q2' },
  result: { score: { raw: 8 } },
  timestamp: when,
});

describe('an import that would make a course', () => {
  it('and is stopped leaves neither the course nor its people', async () => {
    const code = `BIG-${++made}`;
    const toMake = { code, zone: 'Europe/Lisbon', staff: [me().userId] };
    const roster = file(
      'roster.csv',
      `${FILES.roster}\nfresh-1,Nia,New,nia@students.example,Monday,active,2026-09-28,\n`,
    );
    const files = [roster, ...all.filter((f) => f.name !== 'roster.csv')];
    const bringNew = (options: ImportOptions) =>
      importAsNew(db(), toMake, me().userId, files, at, { ...BESIDE, ...options });
    await expect(bringNew({ stillMine: () => Promise.reject(new Error('cancelled')) })).rejects.toThrow(
      'cancelled',
    );
    await nothingLeft();
    const { orm } = db();
    expect(await orm.select().from(courses).where(eq(courses.code, code))).toEqual([]);
    expect(await orm.select().from(persons).where(eq(persons.externalId, 'fresh-1'))).toEqual([]);
    await bringNew({});
    expect(await orm.select().from(persons).where(eq(persons.externalId, 'fresh-1'))).toHaveLength(1);
  });
});

describe('what happens while an import comes in', () => {
  it('a statement that arrives live counts once, whether the import ends well or not', async () => {
    const { id, code } = await course();
    const sender = { credentialId: 1, key: 'live', courseId: id };
    const list = Array.from({ length: 6 }, (_, i) =>
      said(randomUUID(), `s${1 + (i % 4)}`, `2026-10-2${i}T10:00:00Z`),
    );
    const upload = file('statements.json', JSON.stringify(list));
    const meanwhile = (fails: boolean): ImportOptions => {
      let sent = false;
      return {
        progress: async (step) => {
          if (step !== 'Sessions and days' || sent) return;
          sent = true;
          await receiveStatements(sender, checkStatements(list.slice(0, 2)));
          if (fails) throw new Error('stopped');
        },
      };
    };
    await expect(bring(id, [upload], meanwhile(true))).rejects.toThrow('stopped');
    const count = async () => ({
      statements: (await db().orm.select().from(statements).where(eq(statements.courseId, id))).length,
      told: (
        await db()
          .orm.select()
          .from(events)
          .where(sql`course_id = ${id} and event_id like 'xapi:%'`)
      ).length,
      tried: (
        await db()
          .orm.select()
          .from(attempts)
          .innerJoin(enrolments, eq(enrolments.id, attempts.enrolmentId))
          .where(eq(enrolments.courseId, id))
      ).length,
    });
    expect(await count()).toEqual({ statements: 2, told: 2, tried: 2 });
    await db().orm.delete(statements).where(eq(statements.courseId, id));
    await db().orm.delete(events).where(like(events.eventId, 'xapi:%'));
    const [counts] = await bring(id, [upload], meanwhile(false));
    expect(counts).toMatchObject({ added: 4, unchanged: 2, rejected: 0 });
    expect(await count()).toEqual({ statements: 6, told: 6, tried: 6 });
    expect((await findStatements(id, {})).statements).toHaveLength(6);
    await workOff(db());
    expect((await checkDerived(db())).filter((c) => c.course === code)).toMatchObject([{ differing: [] }]);
  });

  it('a grade that is given by hand stays, and the import is compared with it again', async () => {
    const { id, code } = await course();
    const [cell] = await db()
      .orm.select()
      .from(scores)
      .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(sql`${enrolments.courseId} = ${id} and ${persons.externalId} = 's1' and ${scores.points} = 17`);
    const { enrolmentId, activityId } = cell!.scores;
    let given = false;
    const [counts] = await bring(id, [file('gradebook.csv', FILES.gradebook.replace(',17,no', ',15,no'))], {
      progress: async (step) => {
        if (step !== 'Sessions and days' || given) return;
        given = true;
        await changeCells(me(), code, 'grade', [
          {
            enrolmentId,
            activityId,
            seen: { points: 17, excused: false },
            to: (state) => ({ ...state, points: 15 }),
          },
        ]);
      },
    });
    // What the file says stands there by now.
    expect(given).toBe(true);
    expect(counts).toMatchObject({ kind: 'gradebook', changed: 0 });
  });

  it('a course that is set up otherwise is compared with again', async () => {
    const { id, code } = await course();
    let [times, saved] = [0, false];
    const counts = await bring(
      id,
      [file('events.csv', `${FILES.events}\nn-1,s1,2026-10-20T10:00:00Z,view,r1,\n`)],
      {
        progress: async (step) => {
          if (step === 'Comparing with what is there') times++;
          if (step !== 'Sessions and days' || saved) return;
          saved = true;
          await saveSection(me(), code, { id: null, name: 'Evening', meetings: [], exceptions: [] });
        },
      },
    );
    expect(times).toBe(2);
    expect(counts).toMatchObject([{ added: 1 }]);
    await nothingLeft();
    expect((await db().orm.select().from(waiting).orderBy(asc(waiting.id))).length).toBe(0);
  });
});
