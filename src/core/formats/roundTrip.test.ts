import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVENT_KINDS } from '../course/kinds';
import { addDays } from '../calendar/zone';
import { SPECS } from './courseFiles';
import { FILE_KINDS, type FileKind, type RecordOf } from '../course/records';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '../course/kinds';
import { neutralise, parseCsv, plainCell, writeCsv } from './csv';
import { ATTENDANCE, REQUIREMENT_KINDS } from '../course/kinds';
import { readTable, type TableSpec } from './table';
import { fileTable, type FileRecords } from './writeCourseFiles';

// Whatever people write, formulas and quotes among it; cells are trimmed, and no text is kept longer than 200.
const text = fc
  .oneof(
    fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }),
    fc.constantFrom('=1+1', "'=1+1", "''@x", '-5', '+1.5', '-', '"', ',', ';', 'a\nb', "O'Neill", "'"),
  )
  .map((t) => t.replace(/\0/g, ' ').trim())
  .filter((t) => t !== '');
const id = fc.stringMatching(/^[A-Za-z0-9][A-Za-z0-9._-]{0,11}$/);
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: null });
const START = Date.parse('2026-09-28T00:00:00Z');
const at = fc.integer({ min: 0, max: 100 * 86_400_000 }).map((ms) => START + ms);
const day = fc.integer({ min: 0, max: 100 }).map((d) => addDays('2026-09-28', d));
const points = fc.oneof(
  fc.integer({ min: 0, max: 100 }),
  fc.integer({ min: 0, max: 100_000 }).map((n) => n / 100),
);
const whole = (min: number, max: number) => fc.integer({ min, max });
const ids = fc.uniqueArray(id, { maxLength: 3 });

const RECORDS: { readonly [K in FileKind]: fc.Arbitrary<RecordOf[K]> } = {
  outcomes: fc.record({ id, title: text, prerequisites: ids, parent: maybe(id) }),
  activities: fc
    .record({
      id,
      title: text,
      kind: fc.constantFrom(...ACTIVITY_KINDS),
      category: maybe(text),
      weight: points,
      drop: whole(0, 3),
      points: maybe(points),
      times: fc.uniqueArray(at, { minLength: 3, maxLength: 3 }).map((list) => list.sort((a, b) => a - b)),
      has: fc.tuple(fc.boolean(), fc.boolean(), fc.boolean()),
      minutes: maybe(whole(1, 600)),
      attempts: maybe(whole(1, 9)),
      outcomes: ids,
    })
    .map(({ weight, drop, times, has, ...a }) => ({
      ...a,
      points: a.category == null ? null : a.points,
      categoryWeight: a.category == null ? null : weight,
      dropLowest: a.category == null ? 0 : drop,
      opens: has[0] ? times[0]! : null,
      due: has[1] ? times[1]! : null,
      closes: has[2] ? times[2]! : null,
    })),
  roster: fc.record({
    id,
    given: text,
    family: text,
    email: maybe(id.map((name) => `${name}@x.example`)),
    section: maybe(text),
    status: fc.constantFrom(...ENROLMENT_STATUSES),
    joined: maybe(day),
    left: maybe(day),
  }),
  gradebook: fc.record({
    student: id,
    activity: id,
    submitted: maybe(at),
    graded: maybe(at),
    returned: maybe(at),
    points: maybe(points),
    excused: fc.boolean(),
    due: maybe(at),
    extra: whole(0, 5),
  }),
  attempts: fc.record({
    student: id,
    activity: id,
    number: whole(1, 9),
    submitted: at,
    points: maybe(points),
  }),
  attendance: fc.record({
    student: id,
    day,
    meeting: fc.oneof(fc.constant(''), text),
    attendance: fc.constantFrom(...ATTENDANCE),
    minutes: maybe(whole(0, 240)),
  }),
  referrals: fc.record({ id, student: id, day, reason: text, outcome: maybe(text) }),
  requirements: fc.record({
    student: id,
    requirement: text,
    kind: fc.constantFrom(...REQUIREMENT_KINDS),
    needed: points,
    earned: points,
    day: maybe(day),
  }),
  responses: fc.record({
    student: id,
    activity: maybe(id),
    item: text,
    attempt: whole(1, 9),
    answer: fc.oneof(fc.constant(''), text),
    at: maybe(at),
    score: maybe(whole(0, 100).map((n) => n / 100)),
    seconds: maybe(whole(0, 1000)),
    hints: maybe(whole(0, 9)),
  }),
  items: fc
    .record({
      activity: id,
      item: text,
      stem: maybe(text),
      options: fc.uniqueArray(fc.constantFrom('A', 'B', 'C', 'D'), { minLength: 1 }),
      explanation: maybe(text),
    })
    .map((i) => ({
      ...i,
      options: i.options.map((option) => ({ option, text: `what ${option} says` })),
      keys: i.options.slice(0, 2),
    })),
  tests: fc.record({
    student: id,
    outcome: id,
    at,
    share: whole(0, 100).map((n) => n / 100),
    weight: whole(0, 40),
  }),
  events: fc.record({
    id,
    student: id,
    at,
    kind: fc.constantFrom(...EVENT_KINDS),
    activity: maybe(id),
    duration: maybe(whole(0, 10_000)),
  }),
};

describe.each(FILE_KINDS)('%s.csv', (kind) => {
  it('comes back as it was written, whatever is in it', () => {
    fc.assert(
      fc.property(
        fc.array(RECORDS[kind] as fc.Arbitrary<RecordOf[FileKind]>, { maxLength: 8 }),
        (records) => {
          const { head, rows } = fileTable(kind, records as FileRecords[typeof kind]);
          const read = readTable<RecordOf[FileKind]>(
            writeCsv(head, rows),
            SPECS[kind] as TableSpec<RecordOf[FileKind]>,
          );
          expect(read.ok && read.value.rejected).toEqual([]);
          expect(read.ok && read.value.rows.map((r) => r.value)).toEqual(records);
          expect(read.ok && read.value.absent).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('a cell', () => {
  const cell = fc.oneof(text, fc.string({ unit: 'binary', maxLength: 12 }), fc.constant(''));
  it('never leaves as a formula, and comes back as it was', () => {
    fc.assert(
      fc.property(cell, (value) => {
        const out = neutralise(value);
        if (/^[=@\t\r]/.test(value)) expect(out).toBe(`'${value}`);
        expect(/^[=+\-@\t\r]/.test(out) && !/^[+-]?\d+([.,]\d+)?$/.test(out)).toBe(false);
        expect(plainCell(out)).toBe(value);
      }),
    );
  });
  it('with quotes, delimiters and line breaks in it stands in one place (RFC 4180, section 2)', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 6 }), (rows) => {
        const plain = rows.map((row) => row.map((c) => c.replace(/\r/g, ' ')));
        const read = parseCsv(writeCsv(['one', 'other'], plain));
        expect(read.ok && read.value.rows.map((r) => r.cells.map(plainCell))).toEqual(plain);
      }),
    );
  });
});
