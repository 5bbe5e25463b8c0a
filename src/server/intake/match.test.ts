import { and, eq, inArray, like, notInArray } from 'drizzle-orm';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { runs } from '../../../tests/support/runs';
import {
  aliases,
  attempts,
  events,
  importChanges,
  imports,
  scores,
  statements,
  waiting,
} from '@/data/schema';
import { checkStatements, receiveStatements } from '../xapi/endpoint';
import { catchUp } from '../xapi/follow';
import { eraseStudent } from '../export/student';
import { importFiles, pastImports } from './intake';
import { undoImport } from './undo';
import { matchByRule, matchPerson, waitingPeople } from './waiting';

const small = withSmallCourse();
const me = () => small.course.instructor;
const orm = () => small.test.db.orm;
const bring = (...files: ReturnType<typeof file>[]) =>
  importFiles(small.test.db, small.course.courseId, me().userId, files, Date.parse(NOW));
const last = async () => (await pastImports(me(), 'NAV'))[0]!.id;

const HEAD = FILES.events.split('\n')[0]!;
const ACCOUNT = 'account:https://platform.example|ida-w';
const uuid = (n: number) => `bbbbbbbb-bbbb-4bbb-8bbb-${String(n).padStart(12, '0')}`;
const said = (n: number, name: string, more: object = {}) => ({
  id: uuid(n),
  actor: { name: 'Ida W.', account: { homePage: 'https://platform.example', name } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/passed' },
  object: { id: 'https://platform.example/works/q2' },
  result: { score: { scaled: 0.5 } },
  timestamp: `2026-10-27T10:0${n % 10}:00Z`,
  ...more,
});
const json = (name: string, list: readonly unknown[]) => file(name, JSON.stringify(list));
const live = async (...list: object[]) => {
  await receiveStatements(
    { credentialId: 0, key: 'a-platform', courseId: small.course.courseId },
    checkStatements(list),
  );
  await catchUp(small.test.db, small.course.courseId);
};

/** What is on record of one student beside what the course began with. */
async function onRecord(who: string) {
  const { enrolmentId } = await small.course.student(who);
  const own = await orm().select().from(events).where(eq(events.enrolmentId, enrolmentId));
  const tries = await orm().select().from(attempts).where(eq(attempts.enrolmentId, enrolmentId));
  const cells = await orm().select().from(scores).where(eq(scores.enrolmentId, enrolmentId));
  return { events: own.map((e) => e.eventId).sort(), attempts: tries.length, scores: cells.length };
}
const waits = async () =>
  Object.fromEntries((await waitingPeople(me(), 'NAV')).map((p) => [p.person, p.rows]));

describe('somebody who was taken for the wrong person', () => {
  it('is taken back: files’ rows and statements wait again, and the name is forgotten', async () => {
    const { enrolmentId: wrong } = await small.course.student('s3');
    const { enrolmentId: right } = await small.course.student('s4');
    await bring(
      file('events.csv', [HEAD, 'm1,IDA.W,2026-10-27T09:00:00Z,view,r1,'].join('\n')),
      file('attendance.csv', 'student_id,day,attendance\nIDA.W,2026-10-26,late\n'),
    );
    await bring(json('said.json', [said(1, 'ida-w'), said(2, 'ida-w')]));
    const before = [await onRecord('s3'), await onRecord('s4')];
    expect(await waits()).toEqual({ 'IDA.W': 2, [ACCOUNT]: 2 });

    expect(await matchPerson(me(), 'NAV', 'IDA.W', wrong)).toMatchObject({ rows: 2 });
    expect(await undoImport(me(), 'NAV', await last())).toEqual({ undone: 2, kept: 0, waits: 'IDA.W' });
    expect(await matchPerson(me(), 'NAV', ACCOUNT, wrong)).toMatchObject({ rows: 2 });
    // What comes meanwhile goes to the wrong one too.
    await live(said(3, 'ida-w'));
    expect((await onRecord('s3')).attempts).toBe(3);
    expect(await undoImport(me(), 'NAV', await last())).toEqual({ undone: 3, kept: 0, waits: 'Ida W.' });

    expect([await onRecord('s3'), await onRecord('s4')]).toEqual(before);
    expect(await waits()).toEqual({ 'IDA.W': 2, [ACCOUNT]: 3 });
    expect(await orm().select().from(aliases)).toEqual([]);

    expect(await matchPerson(me(), 'NAV', 'IDA.W', right)).toMatchObject({ rows: 2 });
    expect(await matchPerson(me(), 'NAV', ACCOUNT, right)).toMatchObject({ rows: 3 });
    expect(await waits()).toEqual({});
    const after = await onRecord('s4');
    expect(after.events).toEqual(
      [...before[1]!.events, 'm1', ...[1, 2, 3].map((n) => `xapi:${uuid(n)}`)].sort(),
    );
    expect([after.attempts, after.scores]).toEqual([3, before[1]!.scores + 1]);
    expect(await onRecord('s3')).toEqual(before[0]);
  });

  it('goes with the file that their rows came from; what else came under their name stays', async () => {
    const { enrolmentId } = await small.course.student('s3');
    const before = await onRecord('s3');
    const row = (id: string) => file('events.csv', `${HEAD}\n${id},IDA.V,2026-10-27T09:00:00Z,view,r1,`);
    await bring(row('v1'));
    const mistake = await last();
    await bring(row('v2'));
    await matchPerson(me(), 'NAV', 'IDA.V', enrolmentId);
    expect(await undoImport(me(), 'NAV', mistake)).toEqual({ undone: 1, kept: 0, waits: null });
    expect((await onRecord('s3')).events).toEqual([...before.events, 'v2'].sort());
    // The name stays known, and the file can come again.
    await bring(row('v1'));
    expect((await onRecord('s3')).events).toEqual([...before.events, 'v1', 'v2'].sort());
    expect(await waits()).toEqual({});
    await orm().delete(aliases).where(eq(aliases.value, 'IDA.V'));
  });

  it('waits again after a rule found them, and the rule finds them again', async () => {
    await bring(file('events.csv', [HEAD, 'm5,late@x.example,2026-10-27T09:00:00Z,view,r1,'].join('\n')));
    await bring(
      file(
        'roster.csv',
        `${FILES.roster.split('\n')[0]}\nlate,Lea,Late,late@x.example,Monday,active,2026-09-28,`,
      ),
    );
    expect(await matchByRule(me(), 'NAV')).toBe(1);
    expect(await undoImport(me(), 'NAV', await last())).toMatchObject({ waits: 'late@x.example' });
    expect(await waits()).toEqual({ 'late@x.example': 1 });
    expect(await matchByRule(me(), 'NAV')).toBe(1);
    expect((await onRecord('late')).events).toEqual(['m5']);
  });

  it('leaves nothing of what had waited once they are erased', async () => {
    const { enrolmentId } = await small.course.student('late');
    const match = await last();
    await live(said(21, 'lea-l', { actor: { ...said(21, 'lea-l').actor, name: 'Lea of the Source' } }));
    const [key] = Object.keys(await waits());
    await matchPerson(me(), 'NAV', key!, enrolmentId);
    const listed = async () =>
      JSON.stringify([await orm().select().from(imports), await orm().select().from(importChanges)]);
    expect(await listed()).toContain('Lea of the Source');
    await eraseStudent(me(), 'NAV', enrolmentId);
    expect(await listed()).not.toMatch(/Lea of the Source|lea-l|late@x/);
    await undoImport(me(), 'NAV', match);
    expect(await waits()).toEqual({});
  });
});

describe('statements that void others', () => {
  it('let them hold again once their file is taken back, unless something else voids them', async () => {
    const before = await onRecord('s1');
    await bring(json('said.json', [said(11, 's1'), said(12, 's1')]));
    const with2 = await onRecord('s1');
    expect(with2.attempts).toBe(before.attempts + 2);
    const voiding = (n: number, of: number) =>
      said(n, 'admin', {
        verb: { id: 'http://adlnet.gov/expapi/verbs/voided' },
        object: { objectType: 'StatementRef', id: uuid(of) },
        result: undefined,
      });
    await bring(json('voids.json', [voiding(13, 11), voiding(14, 12)]));
    expect(await onRecord('s1')).toEqual(before);
    // One of them is voided by a second statement, which came another way.
    await live(voiding(15, 12));
    await undoImport(me(), 'NAV', await last());
    expect((await onRecord('s1')).events).toEqual([...before.events, `xapi:${uuid(11)}`].sort());
    expect((await onRecord('s1')).attempts).toBe(before.attempts + 1);
    const marks = await orm()
      .select({ id: statements.id, voided: statements.voided })
      .from(statements)
      .where(inArray(statements.id, [uuid(11), uuid(12)]));
    expect(Object.fromEntries(marks.map((m) => [m.id, m.voided]))).toEqual({
      [uuid(11)]: false,
      [uuid(12)]: true,
    });
  });
});

describe('whatever is brought, matched and taken back', () => {
  const PEOPLE = ['p1', 'p2', 's1'] as const;
  /** Four files: two of events, two of statements, each of rows of several people. */
  const POOL = [0, 1, 2, 3].map((f) => ({
    said: f > 1,
    rows: [0, 1, 2].map((r) => ({ key: f * 10 + r, person: PEOPLE[(f + r) % PEOPLE.length]! })),
  }));
  type Action =
    | { readonly do: 'bring'; readonly file: number }
    | { readonly do: 'match'; readonly which: number; readonly to: string }
    | { readonly do: 'undo'; readonly which: number };
  const action: fc.Arbitrary<Action> = fc.oneof(
    { weight: 3, arbitrary: fc.record({ do: fc.constant('bring' as const), file: fc.nat(3) }) },
    {
      weight: 3,
      arbitrary: fc.record({
        do: fc.constant('match' as const),
        which: fc.nat(3),
        to: fc.constantFrom('s3', 's4'),
      }),
    },
    { weight: 3, arbitrary: fc.record({ do: fc.constant('undo' as const), which: fc.nat(5) }) },
  );

  const idOf = (key: number, isSaid: boolean) => (isSaid ? `xapi:${uuid(5000 + key)}` : `prop-${key}`);
  const nameOf = (person: string, isSaid: boolean) =>
    isSaid ? `account:https://platform.example|${person}` : person;
  const nameAt = (key: string) => {
    const f = POOL.find((p) => p.rows.some((r) => idOf(r.key, p.said) === key))!;
    return nameOf(f.rows.find((r) => idOf(r.key, f.said) === key)!.person, f.said);
  };
  const upload = (f: number) => {
    const { rows, said: isSaid } = POOL[f]!;
    return isSaid
      ? json(
          'said.json',
          rows.map(({ key, person }) =>
            said(5000 + key, person, {
              verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
              result: undefined,
            }),
          ),
        )
      : file(
          'events.csv',
          [
            HEAD,
            ...rows.map(({ key, person }) => `prop-${key},${person},2026-10-27T09:00:00Z,view,r1,`),
          ].join('\n'),
        );
  };

  /** Where a row should be, by the rules as a person would put them. */
  interface Row {
    at: 'out' | 'waits' | 'in';
    /** The import that takes it along when it is taken back. */
    owner: number;
    /** The import of the file. */
    origin: number;
    student: string;
  }

  let began: number[] = [];
  beforeAll(async () => {
    began = (await orm().select({ id: imports.id }).from(imports)).map((i) => i.id);
  });
  async function clear() {
    await orm().delete(events).where(like(events.eventId, 'prop-%'));
    await orm()
      .delete(events)
      .where(like(events.eventId, `xapi:${uuid(0).slice(0, 24)}%50__`));
    await orm()
      .delete(statements)
      .where(like(statements.id, `${uuid(0).slice(0, 24)}%50__`));
    await orm().delete(waiting);
    await orm().delete(aliases);
    await orm()
      .delete(imports)
      .where(and(notInArray(imports.id, began)));
  }

  it('each row is in one place: in for whom it was matched, waiting, or out', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(action, { minLength: 3, maxLength: 9 }), async (actions) => {
        await clear();
        const rows = new Map<string, Row>();
        const aliasOf = new Map<string, string>();
        const open: { id: number; match: string | null }[] = [];
        const byPerson = (name: string) =>
          POOL.flatMap((f) =>
            f.rows
              .filter((r) => nameOf(r.person, f.said) === name)
              .flatMap((r) => rows.get(idOf(r.key, f.said)) ?? []),
          );
        for (const step of actions) {
          if (step.do === 'bring') {
            await bring(upload(step.file));
            const id = await last();
            const f = POOL[step.file]!;
            for (const { key, person } of f.rows) {
              const row = rows.get(idOf(key, f.said));
              // What is there already, in or waiting, is of the file that brought it first.
              if (row && row.at !== 'out') continue;
              const student = person === 's1' ? 's1' : aliasOf.get(nameOf(person, f.said));
              rows.set(idOf(key, f.said), {
                at: student ? 'in' : 'waits',
                owner: id,
                origin: id,
                student: student ?? '',
              });
            }
            open.push({ id, match: null });
          } else if (step.do === 'match') {
            const names = [
              ...new Set([...rows].filter(([, r]) => r.at === 'waits').map(([key]) => nameAt(key))),
            ];
            const name = names[step.which % names.length];
            if (name === undefined) continue;
            const { enrolmentId } = await small.course.student(step.to);
            const waitingRows = byPerson(name).filter((r) => r.at === 'waits');
            expect(await matchPerson(me(), 'NAV', name, enrolmentId)).toMatchObject({
              rows: waitingRows.length,
            });
            const id = await last();
            for (const row of waitingRows) Object.assign(row, { at: 'in', owner: id, student: step.to });
            aliasOf.set(name, step.to);
            open.push({ id, match: name });
          } else if (open.length > 0) {
            const [{ id, match }] = open.splice(step.which % open.length, 1) as [(typeof open)[number]];
            const isSaid = (key: string) => key.startsWith('xapi:');
            const own = [...rows].flatMap(([key, row]) => (isSaid(key) ? [] : [row]));
            // Matches that took rows of it in hold on for the others, as imports anew.
            const shaken = open.filter((o) => own.some((r) => r.owner === o.id && r.origin === id && !match));
            const newest = await last();
            await undoImport(me(), 'NAV', id);
            for (const [key, row] of rows) if (isSaid(key) && row.origin === id) row.at = 'out';
            for (const row of own) {
              if (match && row.owner === id && row.at === 'in')
                Object.assign(row, { at: 'waits', owner: row.origin });
              else if (!match && (row.owner === id || row.origin === id)) row.at = 'out';
            }
            const anew = (await pastImports(me(), 'NAV')).map((i) => i.id).filter((i) => i > newest);
            anew.sort((x, y) => x - y);
            for (const was of shaken) {
              open.splice(open.indexOf(was), 1);
              const others = own.filter((r) => r.owner === was.id && r.at === 'in');
              if (others.length === 0) continue;
              const now = anew.shift()!;
              for (const row of others) row.owner = now;
              open.push({ id: now, match: was.match });
            }
            expect(anew).toEqual([]);
            if (match) {
              aliasOf.delete(match);
              for (const f of POOL.filter((p) => p.said))
                for (const r of f.rows) {
                  const row = rows.get(idOf(r.key, true));
                  if (nameOf(r.person, true) === match && row?.at === 'in') row.at = 'waits';
                }
            }
          }
          const found: Record<string, string> = {};
          for (const w of await orm().select({ key: waiting.key }).from(waiting)) found[w.key] = 'waits';
          for (const who of ['s1', 's3', 's4'])
            for (const id of (await onRecord(who)).events)
              if (rows.has(id)) found[id] = found[id] ? `${found[id]} and ${who}` : who;
          const expected = [...rows].flatMap(([key, { at, student }]) =>
            at === 'out' ? [] : [[key, at === 'in' ? student : at]],
          );
          expect(found).toEqual(Object.fromEntries(expected));
        }
      }),
      { numRuns: runs(12) },
    );
  });
});
