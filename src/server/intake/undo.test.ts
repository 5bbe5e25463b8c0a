import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import {
  activities,
  aliases,
  attempts,
  courses,
  courseStaff,
  dayTotals,
  enrolments,
  events,
  imports,
  letters,
  notes,
  outcomes,
  persons,
  scores,
  sessions,
  waiting,
} from '@/data/schema';
import { dropWaiting, matchByRule, matchPerson, waitingPeople } from './waiting';
import { importFiles, pastImports } from './intake';
import { undoImport } from './undo';

const small = withSmallCourse();
const at = Date.parse(NOW);
const bring = (...files: [string, string][]) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    small.course.instructor.userId,
    files.map(([name, text]) => file(name, text)),
    at,
  );
const last = async () => (await pastImports(small.course.instructor, 'NAV'))[0]!.id;
const undo = async () => undoImport(small.course.instructor, 'NAV', await last());

async function state() {
  const { orm } = small.test.db;
  const by = (rows: object[]) => rows.map((r) => JSON.stringify({ ...r, id: 0, rev: 0, importId: 0 })).sort();
  const [course] = await orm.select().from(courses).where(eq(courses.id, small.course.courseId));
  return {
    events: by(await orm.select().from(events)),
    scores: by(await orm.select().from(scores)),
    attempts: by(await orm.select().from(attempts)),
    people: by(await orm.select().from(persons)),
    places: by((await orm.select().from(enrolments)).map((e) => ({ ...e, personId: 0, sectionId: 0 }))),
    works: by(await orm.select().from(activities)),
    outcomes: by(await orm.select().from(outcomes)),
    days: by(await orm.select().from(dayTotals)),
    sessions: by(await orm.select().from(sessions)),
    until: course!.dataUntil,
  };
}

const HEAD = FILES.events.split('\n')[0]!;
const EVENTS = [
  HEAD,
  'u1,s1,2026-10-28T09:00:00Z,view,r1,',
  'u2,s1,2026-10-28T09:05:00Z,view,r2,',
  'u3,s3,2026-10-01T09:05:00Z,view,r2,',
].join('\n');

describe('taking an import back', () => {
  it('leaves everything as it was before it', async () => {
    const before = await state();
    await bring(
      ['events.csv', EVENTS],
      [
        'roster.csv',
        FILES.roster.replace('s1,Łucja', 's1,Lucja') + '\ns8,New,Comer,new@students.example,Monday,active,,',
      ],
      ['gradebook.csv', FILES.gradebook.replace(',17,no', ',19,no') + '\ns2,w2,2026-10-09T10:00:00Z,,,,no'],
      ['activities.csv', FILES.activities.replace('w3,Chart exercise 3', 'w3,Chart exercise three')],
      ['outcomes.csv', `${FILES.outcomes}tides,Tides,fix\n`],
      ['attempts.csv', 'student_id,activity_id,attempt,submitted,points\ns1,q1,1,2026-10-19T10:00:00Z,5'],
    );
    expect(await state()).not.toEqual(before);
    const done = await undo();
    expect(done.kept).toBe(0);
    expect(await state()).toEqual(before);
    await expect(undo()).rejects.toThrow(/already/);
    expect((await pastImports(small.course.instructor, 'NAV'))[0]!.undoneAt).not.toBeNull();
  });

  it('keeps what somebody changed since, and people with something to their name', async () => {
    const { orm } = small.test.db;
    await bring(
      ['roster.csv', 'student_id,given_name,family_name\ns8,New,Comer\ns9,Other,Comer'],
      ['gradebook.csv', FILES.gradebook.split('\n')[0]! + '\ns1,q2,2026-10-28T10:00:00Z,,,,no'],
    );
    await orm
      .update(scores)
      .set({ points: 7 })
      .where(eq(scores.submittedAt, new Date('2026-10-28T10:00:00Z')));
    const { enrolmentId } = await small.course.student('s8');
    await orm.insert(notes).values({
      courseId: small.course.courseId,
      enrolmentId,
      userId: small.course.instructor.userId,
      kind: 'note',
      on: '2026-10-28',
      text: 'came by',
      at: new Date(at),
    });
    expect(await undo()).toEqual({ undone: 1, kept: 2, waits: null });
    const names = (await orm.select().from(persons)).map((p) => p.externalId);
    expect(names).toContain('s8');
    expect(names).not.toContain('s9');
  });

  it('is for who teaches the course, and for imports of that course', async () => {
    const id = await last();
    await expect(undoImport(small.course.stranger, 'NAV', id)).rejects.toThrow(/no such/);
    await expect(undoImport(small.course.instructor, 'NAV', 999_999)).rejects.toThrow(/no such/);
  });
});

describe('people nobody knows yet', () => {
  it('wait, are matched by hand under a name that is kept, and their rows go in', async () => {
    const { orm } = small.test.db;
    const rows = [
      HEAD,
      'x1,IDA.WREN,2026-10-28T10:00:00Z,view,r1,',
      'x2,IDA.WREN,2026-10-28T10:04:00Z,view,r1,',
    ];
    const [counts] = await bring(['events.csv', rows.join('\n')]);
    expect(counts).toMatchObject({ added: 0, rejected: 0, waiting: 2 });
    await bring([
      'gradebook.csv',
      `${FILES.gradebook.split('\n')[0]}\nIDA.WREN,q2,2026-10-28T10:00:00Z,,,,no`,
    ]);
    const { enrolmentId } = await small.course.student('s4');
    const [ida] = await waitingPeople(small.course.instructor, 'NAV');
    expect(ida).toMatchObject({ person: 'IDA.WREN', rows: 3 });
    expect(ida!.likely[0]).toBe(enrolmentId);
    await expect(
      matchPerson(small.course.instructor, 'NAV', 'nobody of that name', enrolmentId),
    ).rejects.toThrow(/no such row/);
    expect(await small.test.db.orm.select().from(aliases)).toEqual([]);
    await expect(matchPerson(small.course.stranger, 'NAV', 'IDA.WREN', enrolmentId)).rejects.toThrow();
    expect(await matchPerson(small.course.instructor, 'NAV', 'IDA.WREN', enrolmentId)).toMatchObject({
      rows: 3,
    });
    expect(await orm.select().from(waiting)).toEqual([]);
    expect(await orm.select().from(aliases)).toMatchObject([{ value: 'IDA.WREN' }]);
    const [event] = await orm.select().from(events).where(eq(events.eventId, 'x1'));
    expect(event!.enrolmentId).toBe(enrolmentId);
    const [again] = await bring([
      'events.csv',
      [...rows, 'x3,IDA.WREN,2026-10-28T10:09:00Z,view,r1,'].join('\n'),
    ]);
    expect(again).toMatchObject({ added: 1, unchanged: 2, waiting: 0 });
    const [day] = (await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, enrolmentId))).filter(
      (d) => d.day === '2026-10-28',
    );
    expect(day).toMatchObject({ events: 3 });
  });

  it('are found by a rule once the roster knows them, or are left out', async () => {
    const { orm } = small.test.db;
    const rows = [
      HEAD,
      'y1,new@students.example,2026-10-28T10:00:00Z,view,r1,',
      'y2,nobody@x.example,2026-10-28T10:00:00Z,view,r1,',
    ];
    await bring(['events.csv', rows.join('\n')]);
    expect(await matchByRule(small.course.instructor, 'NAV')).toBe(0);
    await bring([
      'roster.csv',
      'student_id,given_name,family_name,email\ns7,Late,Comer,new@students.example',
    ]);
    expect(await matchByRule(small.course.instructor, 'NAV')).toBe(1);
    expect(await dropWaiting(small.course.instructor, 'NAV', 'nobody@x.example')).toBe(1);
    expect(await orm.select().from(waiting)).toEqual([]);
  });
});

describe('a file of statements', () => {
  const statement = (id: string, name: string, more: object = {}) => ({
    id: `6690e6c9-3ef0-4ed3-8b37-7f39647${id}`,
    actor: { account: { homePage: 'https://x.example', name } },
    verb: { id: 'http://adlnet.gov/expapi/verbs/passed' },
    object: { id: 'https://x.example/works/q2' },
    result: { score: { scaled: 0.5 } },
    timestamp: '2026-10-27T10:00:00Z',
    ...more,
  });

  it('goes in as an array, a page or a line each, once, and is taken back whole', async () => {
    const before = await state();
    const list = [statement('00001', 's1'), statement('00002', 's3'), { id: 'broken' }];
    const [counts] = await bring(['log.json', JSON.stringify(list)]);
    expect(counts).toMatchObject({ kind: 'statements', added: 2, rejected: 1, waiting: 0 });
    const [page] = await bring(['page.json', JSON.stringify({ statements: list, more: '' })]);
    expect(page).toMatchObject({ added: 0, unchanged: 2 });
    const lines = [...list.slice(0, 2), statement('00003', 's3', { timestamp: '2026-10-27T11:00:00Z' })];
    const [third] = await bring(['log.jsonl', lines.map((s) => JSON.stringify(s)).join('\r\n')]);
    expect(third).toMatchObject({ added: 1, unchanged: 2 });
    await undo();
    const { id } = (await small.test.db.orm.select().from(imports)).find(
      (i) => i.files[0]?.file === 'log.json',
    )!;
    await undoImport(small.course.instructor, 'NAV', id);
    expect(await state()).toEqual(before);
    const [again] = await bring(['log.json', JSON.stringify(list)]);
    expect(again).toMatchObject({ added: 2 });
  });
});

describe('an import of a colleague', () => {
  it('says so, and the colleague is told when it is undone', async () => {
    const { orm } = small.test.db;
    const { courseId, stranger, instructor } = small.course;
    await orm.insert(courseStaff).values({ courseId, userId: stranger.userId });
    await bring(['events.csv', `${HEAD}\nc1,s1,2026-10-28T09:30:00Z,view,r1,`]);
    const [mine] = await pastImports(instructor, 'NAV');
    const [theirs] = await pastImports(stranger, 'NAV');
    expect([mine!.ofColleague, theirs!.ofColleague]).toEqual([false, true]);
    await undoImport(stranger, 'NAV', theirs!.id);
    const told = await orm.select().from(letters).where(eq(letters.userId, instructor.userId));
    expect(told.map((l) => l.subject)).toEqual(['Teodor Marsh undid your import into NAV']);
    expect(told[0]!.body).toContain('events.csv');
    await orm
      .delete(courseStaff)
      .where(and(eq(courseStaff.courseId, courseId), eq(courseStaff.userId, stranger.userId)));
  });
});
