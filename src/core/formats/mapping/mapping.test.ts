import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseCsv, type CsvTable } from '../csv';
import { parseInstant } from '../../calendar/instant';
import type { EventRecord, GradebookRecord } from '../../course/records';
import { partOfName } from '../../course/personName';
import { applyMapping } from './apply';
import { parseDayIn, parseInstantIn } from './dates';
import { fillScore } from './fillScores';
import { fitting, SHAPES, type Mapping } from '../../course/mapping';
import { mappingSchema } from './schema';
import { dayOrderOf, suggestFields, suggestMapping } from './suggest';

const ZONE = 'Europe/Lisbon';
const WORKS = [
  { id: 'w1', title: 'Chart exercise 1' },
  { id: 'w2', title: 'Chart exercise 2' },
];

function table(text: string): CsvTable {
  const parsed = parseCsv(text);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
}

const read = (text: string, mapping: Mapping) => {
  const done = applyMapping(table(text), mapping);
  if (!done.ok) throw new Error(done.reason);
  return done.value;
};
const values = (text: string, mapping: Mapping): unknown[] => read(text, mapping).rows.map((r) => r.value);

/** A record that is known to be a score. */
const score = (record: unknown): GradebookRecord => record as GradebookRecord;

describe('days and times of other makes', () => {
  it.each([
    ['28/09/2026', 'day first', '2026-09-28'],
    ['9/28/2026', 'month first', '2026-09-28'],
    ['28.9.26', 'day first', '2026-09-28'],
    ['2026-9-28', 'month first', '2026-09-28'],
    // ISO 8601 calendar date: 2028 has a 29 February, 2026 has not.
    ['29/02/2028', 'day first', '2028-02-29'],
  ] as const)('read %s, %s', (text, order, day) => {
    expect(parseDayIn(text, order)).toEqual({ ok: true, value: day });
  });
  it.each([
    ['29/02/2026', 'day first'],
    ['28/09/2026', 'month first'],
    ['31/11/2026', 'day first'],
    ['next week', 'day first'],
  ] as const)('refuse %s, %s', (text, order) => {
    expect(parseDayIn(text, order).ok).toBe(false);
  });

  it.each([
    ['28/09/2026 18:30', '2026-09-28T17:30:00Z'],
    ['28/09/2026, 6:30 PM', '2026-09-28T17:30:00Z'],
    ['28/09/2026 12:05 am', '2026-09-27T23:05:00Z'],
    ['2026-09-28T18:30:00+02:00', '2026-09-28T16:30:00Z'],
    ['28/12/2026 18:30:15', '2026-12-28T18:30:15Z'],
  ])('read the instant %s on the wall clock', (text, instant) => {
    expect(parseInstantIn(text, 'day first', ZONE)).toEqual({ ok: true, value: Date.parse(instant) });
  });
  it('take a day alone for its first or its last minute', () => {
    expect(parseInstantIn('28/09/2026', 'day first', ZONE)).toEqual({
      ok: true,
      value: Date.parse('2026-09-27T23:00:00Z'),
    });
    expect(parseInstantIn('28/09/2026', 'day first', ZONE, 'end')).toEqual({
      ok: true,
      value: Date.parse('2026-09-28T22:59:00Z'),
    });
  });
  // tz database, Europe/Lisbon: on 29 March 2026 the clock goes from 01:00 to 02:00, on 25 October from 02:00 to 01:00.
  it('refuse a time that the clock skips, and take the earlier of one that it shows twice', () => {
    expect(parseInstantIn('29/03/2026 01:30', 'day first', ZONE)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('the clock skips it') as unknown,
    });
    expect(parseInstantIn('25/10/2026 01:30', 'day first', ZONE)).toEqual({
      ok: true,
      value: Date.parse('2026-10-25T00:30:00Z'),
    });
  });
  it.each([
    '28/09/2026 25:00',
    '28/09/2026 18:61',
    '28/09/2026 13:00 pm',
    '28/09/2026 evening',
    '2026-02-30T10:00:00Z',
  ])('refuse %s', (text) => {
    expect(parseInstantIn(text, 'day first', ZONE).ok).toBe(false);
  });
  it('come back from every wall time of a zone without changes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 946_684_800, max: 4_102_444_799 }), (seconds) => {
        const iso = new Date(seconds * 1000).toISOString();
        const [day, time] = [iso.slice(0, 10).split('-').reverse().join('/'), iso.slice(11, 19)];
        expect(parseInstantIn(`${day} ${time}`, 'day first', 'UTC')).toEqual({
          ok: true,
          value: seconds * 1000,
        });
      }),
    );
  });
  it('tell their order by the parts that can be no month', () => {
    expect(dayOrderOf(['01/02/2026', '28/02/2026'])).toBe('day first');
    expect(dayOrderOf(['01/02/2026', '02/28/2026'])).toBe('month first');
    expect(dayOrderOf(['2026-02-28'])).toBe('year first');
  });
});

describe('a wide table of scores', () => {
  const text =
    'Student No;Name;Chart exercise 1 [20];chart exercise 2;Remarks\ns1;Bo Li;17,5;;fine\ns2;Ida Wren;x;12;\n';
  const guess = suggestMapping(table(text), WORKS, ZONE);

  it('is recognised by the works that its columns are called after', () => {
    expect(guess.shape).toBe('wide scores');
    expect(guess.spread).toEqual([
      { column: 'chart exercise 1 [20]', to: 'w1' },
      { column: 'chart exercise 2', to: 'w2' },
    ]);
    expect(guess.fields.student_id).toEqual({ from: 'column', column: 'student no', part: 'all' });
  });
  it('gives a score for each column that holds something, and names line and column of what is wrong', () => {
    const { rows, rejected, absent } = read(text, guess);
    expect(
      rows.map((r) => [r.line, score(r.value).student, score(r.value).activity, score(r.value).points]),
    ).toEqual([
      [2, 's1', 'w1', 17.5],
      [3, 's2', 'w2', 12],
    ]);
    expect(rejected).toEqual([
      {
        line: 3,
        field: 'chart exercise 1 [20]',
        reason: '“x” is not a number',
        cells: ['s2', 'Ida Wren', 'x', '12', ''],
      },
    ]);
    expect(absent).toEqual(['submitted', 'graded', 'returned', 'excused', 'own_due', 'extra_attempts']);
  });
  it('holds as many scores as its cells, whatever they are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.option(fc.nat(20)), fc.option(fc.nat(20))), { minLength: 1, maxLength: 30 }),
        (scores) => {
          const lines = scores.map(([a, b], i) => `s${i},${a ?? ''},${b ?? ''}`);
          const got = values(`id,w1,w2\n${lines.join('\n')}\n`, {
            ...guess,
            fields: { student_id: { from: 'column', column: 'id', part: 'all' } },
            spread: WORKS.map((w) => ({ column: w.id, to: w.id })),
          });
          const wanted = scores.flatMap(([a, b], i) => [
            ...(a == null ? [] : [`s${i} w1 ${a}`]),
            ...(b == null ? [] : [`s${i} w2 ${b}`]),
          ]);
          expect(
            (got as unknown as GradebookRecord[]).map((g) => `${g.student} ${g.activity} ${g.points}`),
          ).toEqual(wanted);
        },
      ),
    );
  });
});

describe('other tables', () => {
  it('a register, with its letters', () => {
    const text = 'Student,Date,Code\ns1,05/10/2026,P\ns2,05/10/2026,A\ns3,15/10/2026,?\n';
    const guess = suggestMapping(table(text), [], ZONE);
    expect(guess).toMatchObject({
      shape: 'attendance',
      days: 'day first',
      words: { attendance: { p: 'present', a: 'absent' } },
    });
    const { rows, rejected } = read(text, guess);
    expect(rows.map((r) => r.value)).toMatchObject([
      { student: 's1', day: '2026-10-05', attendance: 'present' },
      { student: 's2', day: '2026-10-05', attendance: 'absent' },
    ]);
    expect(rejected).toMatchObject([
      { line: 4, field: 'code', reason: expect.stringContaining('none of') as unknown },
    ]);
  });
  it('a list of people with whole names', () => {
    const text = 'ID,Full name,E-mail\ns1,"Wójcik, Łucja",l@x.example\ns2,Anna Maria Li,a@x.example\n';
    const guess = suggestMapping(table(text), [], ZONE);
    expect(guess.shape).toBe('roster');
    expect(values(text, guess)).toMatchObject([
      { given: 'Łucja', family: 'Wójcik', email: 'l@x.example', status: 'active' },
      { given: 'Anna Maria', family: 'Li' },
    ]);
    expect([partOfName('Cher', 'given'), partOfName('Cher', 'family')]).toEqual(['Cher', 'Cher']);
  });
  it('a log without ids: the same row has the same id, another another', () => {
    const text =
      'User,Time,Event\ns1,28/09/2026 18:30,Course viewed\ns1,28/09/2026 18:31,Course viewed\ns1,28/09/2026 18:30,Course viewed\n';
    const guess = suggestFields(table(text), 'events', [], ZONE);
    const mapping = { ...guess, words: { kind: { 'course viewed': 'view' } } };
    const ids = values(text, mapping).map((e) => (e as EventRecord).id);
    expect(new Set(ids).size).toBe(2);
    expect(ids[0]).toBe(ids[2]);
  });
  it('answers with a column an item', () => {
    const text = 'learner,q1,q2\ns1,A,\ns2,B,C\n';
    const mapping: Mapping = {
      ...suggestFields(table(text), 'wide responses', [], ZONE),
      fields: {
        student_id: { from: 'column', column: 'learner', part: 'all' },
        activity_id: { from: 'text', text: 'quiz' },
      },
    };
    expect(mapping.spread.map((s) => s.column)).toEqual(['q1', 'q2']);
    expect(values(text, mapping)).toMatchObject([
      { student: 's1', item: 'q1', answer: 'A', activity: 'quiz', attempt: 1 },
      { student: 's2', item: 'q1', answer: 'B' },
      { student: 's2', item: 'q2', answer: 'C' },
    ]);
  });
  it('are refused as a whole where a column of the mapping is missing or there twice', () => {
    const mapping = suggestFields(table('student,date,code\n'), 'attendance', [], ZONE);
    expect(applyMapping(table('student,day,code\n'), mapping)).toMatchObject({
      ok: false,
      reason: 'line 1: the column “date” is missing',
    });
    expect(applyMapping(table('student,date,code,date\n'), mapping)).toMatchObject({
      ok: false,
      reason: 'line 1: the column “date” occurs twice',
    });
    expect(applyMapping(table('student,date\n'), { ...mapping, fields: {} })).toMatchObject({ ok: false });
    expect(applyMapping(table('student,date,code\n'), { ...mapping, zone: 'Mars' })).toMatchObject({
      ok: false,
      reason: 'there is no time zone “Mars”',
    });
  });
  it('say of a row with too few fields only that', () => {
    const mapping = suggestFields(table('student,date,code\n'), 'attendance', [], ZONE);
    expect(read('student,date,code\ns1,2026-10-05\n', mapping).rejected).toMatchObject([
      { line: 2, reason: 'has 2 fields where the header has 3' },
    ]);
  });
  it('have a guess for every shape that the door lets through', () => {
    for (const shape of SHAPES) {
      const guess = suggestFields(table('student,date,code,score\n'), shape, WORKS, ZONE);
      expect(mappingSchema.isValidSync(guess, { strict: true })).toBe(true);
    }
    expect(mappingSchema.isValidSync({ shape: 'roster' }, { strict: true })).toBe(false);
    const bad = suggestFields(table('student\n'), 'roster', [], ZONE);
    expect(mappingSchema.isValidSync({ ...bad, fields: { x: { from: 'column' } } }, { strict: true })).toBe(
      false,
    );
  });
});

describe('a saved mapping', () => {
  const of = (...columns: string[]) => ({
    mapping: {
      ...suggestFields(table('a,b\n'), 'roster', [], ZONE),
      fields: Object.fromEntries(
        columns.map((c) => [c, { from: 'column', column: c, part: 'all' } as const]),
      ),
    },
  });
  it('fits where all its columns are; of several the one that reads most', () => {
    const [small, large, other] = [of('a'), of('a', 'b'), of('a', 'z')];
    expect(fitting([small, other, large], ['a', 'b', 'c'])).toBe(large);
    expect(fitting([other], ['a', 'b'])).toBeNull();
    expect(fitting([of()], ['a'])).toBeNull();
  });
});

describe('a score of which a source knows only the points', () => {
  const now = Date.parse('2026-10-28T12:00:00Z');
  const absent = ['submitted', 'graded', 'returned', 'excused', 'own_due', 'extra_attempts'];
  const bare: GradebookRecord = {
    student: 's1',
    activity: 'w1',
    submitted: null,
    graded: null,
    returned: null,
    points: 12,
    excused: false,
    due: null,
    extra: 0,
  };
  const instant = (text: string) => {
    const at = parseInstant(text);
    return at.ok ? at.value : 0;
  };
  const known = {
    ...bare,
    submitted: instant('2026-10-03T10:00:00Z'),
    graded: instant('2026-10-05T10:00:00Z'),
    returned: instant('2026-10-05T12:00:00Z'),
    due: instant('2026-10-09T10:00:00Z'),
    extra: 2,
  };
  it('is graded and returned now if it is new, and nothing new if it is the same', () => {
    expect(fillScore(bare, undefined, absent, now)).toEqual({ ...bare, graded: now, returned: now });
    expect(fillScore(bare, known, absent, now)).toEqual(known);
  });
  it('keeps what was handed in, extended and granted when the points change', () => {
    expect(fillScore({ ...bare, points: 14 }, known, absent, now)).toEqual({
      ...known,
      points: 14,
      graded: now,
      returned: now,
    });
  });
  it('takes what a source does say', () => {
    expect(fillScore(bare, known, [], now)).toEqual(bare);
  });
});
