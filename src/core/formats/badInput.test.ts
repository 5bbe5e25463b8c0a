import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SPECS } from './courseFiles';
import { FILE_KINDS, type FileKind, type RecordOf } from '../course/records';
import { decodeText, writeCsv } from './csv';
import { readTable, type TableSpec } from './table';
import { readStatement } from './xapi/statement';
import { BROKEN_TEXT, holdsBroken } from './brokenText';

/** One good row of each kind of file, with every column that it can have. */
const GOOD: { readonly [K in FileKind]: Readonly<Record<string, string>> } = {
  outcomes: { outcome_id: 'fix', title: 'Position fixing', prerequisites: '', part_of: '' },
  activities: {
    activity_id: 'w1',
    title: 'Chart 1',
    kind: 'quiz',
    category: 'Work',
    points: '20',
    due: '2026-10-05T22:00:00Z',
    category_weight: '40',
    drop_lowest: '1',
    opens: '2026-10-01T08:00:00Z',
    closes: '2026-10-09T08:00:00Z',
    estimated_minutes: '40',
    attempts_allowed: '2',
    outcomes: 'fix',
  },
  items: {
    activity_id: 'q1',
    item_id: 'i1',
    key: 'A',
    stem: 'What turns first?',
    options: 'A=ebb|B=flood',
    explanation: 'See the atlas.',
  },
  roster: {
    student_id: 's1',
    given_name: 'Ida',
    family_name: 'Wren',
    email: 'ida@x.example',
    section: 'Monday',
    status: 'active',
    joined: '2026-09-28',
    left: '',
  },
  gradebook: {
    student_id: 's1',
    activity_id: 'w1',
    submitted: '2026-10-04T10:00:00Z',
    graded: '2026-10-05T10:00:00Z',
    returned: '2026-10-05T10:00:00Z',
    points: '17',
    excused: 'no',
    own_due: '2026-10-07T22:00:00Z',
    extra_attempts: '1',
  },
  attempts: {
    student_id: 's1',
    activity_id: 'w1',
    attempt: '1',
    submitted: '2026-10-04T10:00:00Z',
    points: '9',
  },
  attendance: { student_id: 's1', day: '2026-10-05', attendance: 'late', meeting: '1', minutes: '80' },
  referrals: {
    referral_id: 'r1',
    student_id: 's1',
    day: '2026-10-05',
    reason: 'Left the room',
    outcome: 'A talk',
  },
  requirements: {
    student_id: 's1',
    requirement: 'Sea time',
    requirement_kind: 'credits',
    needed: '30',
    earned: '12',
    day: '2026-10-05',
  },
  responses: {
    student_id: 's1',
    item_id: 'i1',
    answer: 'B',
    activity_id: 'q1',
    at: '2026-10-05T10:00:00Z',
    attempt: '1',
    score: '0.5',
    seconds: '40',
    hints: '1',
  },
  tests: { student: 's1', outcome: 'fix', at: '2026-10-05T10:00:00Z', share: '0.5', weight: '4' },
  events: {
    event_id: 'e1',
    student_id: 's1',
    at: '2026-10-05T10:00:00Z',
    kind: 'view',
    activity_id: 'w1',
    duration_s: '90',
  },
};

const INSTANTS = ['at', 'submitted', 'graded', 'returned', 'own_due', 'opens', 'due', 'closes'];
const DAYS = ['day', 'joined', 'left'];
const NUMBERS = [
  'points',
  'category_weight',
  'drop_lowest',
  'estimated_minutes',
  'attempts_allowed',
  'extra_attempts',
  'attempt',
  'minutes',
  'needed',
  'earned',
  'score',
  'seconds',
  'hints',
  'share',
  'weight',
  'duration_s',
];
const WORDS = ['kind', 'status', 'attendance', 'requirement_kind', 'excused'];

/** What is wrong in a cell, by what the column holds, with the reason that a person is given. */
const BAD: readonly (readonly [columns: readonly string[], cell: string, reason: RegExp])[] = [
  ...[INSTANTS].flatMap((columns): [readonly string[], string, RegExp][] => [
    [columns, '2026-02-29T10:00:00Z', /names a day that does not exist/],
    [columns, '2026-10-05T10:00:00', /has no zone/],
    [columns, '1601-01-01T00:00:00Z', /outside the years 1990 to 2100/],
    [columns, '9999-12-31T23:59:59Z', /outside the years 1990 to 2100/],
    [columns, '2026-10-05T25:00:00Z', /names a time that does not exist/],
    [columns, '10/05/2026', /is not an instant/],
  ]),
  [DAYS, '2026-02-29', /names a day that does not exist/],
  [DAYS, '1601-01-01', /outside the years 1990 to 2100/],
  [DAYS, '9999-12-31', /outside the years 1990 to 2100/],
  [DAYS, '5 October', /is not a day like/],
  [NUMBERS, '-1', /is not between/],
  [NUMBERS, '9'.repeat(1_000_000), /is not a number/],
  [NUMBERS, '1e300', /is not between/],
  [NUMBERS, 'NaN', /is not a number/],
  [NUMBERS, 'Infinity', /is not a number/],
  [NUMBERS, '0x10', /is not a number/],
  [NUMBERS, '=1+1', /is not a number/],
  [WORDS, '=cmd()', /is none of|is neither/],
  [['email'], 'ida at x', /is not an e-mail address/],
];

const read = (kind: FileKind, rows: readonly Readonly<Record<string, string>>[]) => {
  const head = Object.keys(GOOD[kind]);
  const text = [head.join(','), ...rows.map((row) => head.map((c) => quoted(row[c] ?? '')).join(','))].join(
    '\n',
  );
  const table = readTable<RecordOf[FileKind]>(text, SPECS[kind] as TableSpec<RecordOf[FileKind]>);
  if (!table.ok) throw new Error(table.reason);
  return table.value;
};
const quoted = (cell: string) => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);

describe.each(FILE_KINDS)('a bad cell in %s', (kind) => {
  const good = GOOD[kind];
  const columns = Object.keys(good);

  it('the good row is one, and has every column of its kind', () => {
    expect(read(kind, [good]).rejected).toEqual([]);
    const spec = SPECS[kind];
    expect([...columns].sort()).toEqual([...spec.required, ...spec.optional].sort());
  });

  it('is rejected with its line, its column and why, between two good rows that are taken', () => {
    for (const [of, cell, reason] of BAD) {
      for (const column of columns.filter((c) => of.includes(c))) {
        const { rows, rejected } = read(kind, [good, { ...good, [column]: cell }, good]);
        expect(rows.map((r) => r.line)).toEqual([2, 4]);
        expect(rejected).toHaveLength(1);
        expect([rejected[0]!.line, rejected[0]!.field]).toEqual([3, column]);
        expect(rejected[0]!.reason).toMatch(reason);
        // A reason repeats what stood there, but never a page of it.
        expect(rejected[0]!.reason.length).toBeLessThan(200);
      }
    }
  });

  it('that is empty where something must stand is named', () => {
    for (const column of SPECS[kind].required) {
      const { rejected } = read(kind, [{ ...good, [column]: ' ' }]);
      for (const r of rejected) expect([r.line, r.field]).toEqual([2, column]);
    }
    const id = columns.find((c) => c.endsWith('_id')) ?? columns[0]!;
    expect(read(kind, [{ ...good, [id]: '' }]).rejected[0]).toMatchObject({ field: id, reason: 'is empty' });
  });

  it('of five megabytes is named, and does not hold up the rest', () => {
    const huge = 'x'.repeat(5 * 1024 * 1024);
    for (const column of columns.slice(0, 3)) {
      const { rows, rejected } = read(kind, [good, { ...good, [column]: huge }, good]);
      expect(rows).toHaveLength(2);
      expect(rejected[0]).toMatchObject({ line: 3, field: column });
      expect(rejected[0]!.reason.length).toBeLessThan(200);
    }
  });

  it('never throws, whatever stands in it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...columns),
        fc.oneof(fc.string({ unit: 'binary' }), fc.double().map(String), fc.date().map(String)),
        (column, cell) => {
          const { rows, rejected } = read(kind, [{ ...good, [column]: cell.replaceAll('\0', '') }]);
          expect(rows.length + rejected.length).toBe(1);
        },
      ),
    );
  });
});

describe('what a spreadsheet would run as a formula', () => {
  it.each(['=HYPERLINK("http://x.example")', '+1+1', '-2+3', '@SUM(A1)', '\tx', '\rx'])(
    '%j is kept as it stands, and handed out so that nothing runs it (OWASP, CSV injection)',
    (formula) => {
      const { rows } = read('outcomes', [{ ...GOOD.outcomes, title: `x${formula}` }]);
      expect(rows).toHaveLength(1);
      const cell = writeCsv(['title'], [[formula]])
        .split('\r\n')[1]!
        .replace(/^"/, '');
      expect(cell.startsWith("'")).toBe(true);
      // A number is one, even below zero.
      expect(writeCsv(['points'], [[-2]])).toContain('\r\n-2\r\n');
    },
  );
});

describe('bytes that are no text', () => {
  const utf8 = (text: string) => new TextEncoder().encode(text);
  const utf16 = (text: string, cut = 0) => {
    const bytes = new Uint8Array(2 + text.length * 2 - cut);
    bytes.set([0xff, 0xfe]);
    for (let i = 0; i < text.length; i++) {
      const code = text.charCodeAt(i);
      for (const [j, byte] of [code & 255, code >> 8].entries())
        if (2 + i * 2 + j < bytes.length) bytes[2 + i * 2 + j] = byte;
    }
    return bytes;
  };
  it('are refused with the line, where there are lines', () => {
    const latin = new Uint8Array([...utf8('a,b\nc,'), 0xe9, 10]);
    expect(decodeText(latin)).toMatchObject({
      reason: expect.stringContaining('line 2: the file is not UTF-8'),
    });
    expect(decodeText(utf8('a,b\nc,d\ne,\0f\n'))).toMatchObject({
      reason: 'line 3: holds a zero byte, so it is no text file',
    });
  });
  it('in UTF-16 are read by their mark, and refused where they are cut off', () => {
    expect(decodeText(utf16('name\nŁucja 🜁\n'))).toEqual({ ok: true, value: 'name\nŁucja 🜁\n' });
    expect(decodeText(utf16('name\nIda\n', 1))).toMatchObject({ reason: expect.stringContaining('cut off') });
    // Half of a pair of surrogates is no character (Unicode, 3.9 D91).
    expect(decodeText(utf16('x\ud83d'))).toMatchObject({ ok: false });
    // Without its mark every other byte is zero.
    expect(decodeText(utf16('name\nIda\n').subarray(2))).toMatchObject({ ok: false });
  });
});

describe('a statement with broken text', () => {
  const statement = (more: object) => ({
    actor: { mbox: 'mailto:ida@x.example' },
    verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
    object: { id: 'https://x.example/works/w1' },
    ...more,
  });
  it('is refused wherever it stands, for no database keeps it', () => {
    expect(readStatement(statement({})).ok).toBe(true);
    for (const more of [
      { result: { response: 'a\0b' } },
      { context: { extensions: { 'https://x.example/e': [{ deep: '\0' }] } } },
      { context: { extensions: { 'https://x.example/\0': 1 } } },
      { result: { response: 'a\ud83d' } },
      { result: { response: '\ude00 b' } },
      { context: { extensions: { 'https://x.example/e': { '\ud83d': 1 } } } },
    ])
      expect(readStatement(statement(more))).toEqual({ ok: false, reason: BROKEN_TEXT });
  });
  it('is not taken for one where the six characters stand that write it in JSON', () => {
    expect(holdsBroken('\\u0000')).toBe(false);
    expect(holdsBroken('a whole one: \u{1f600}')).toBe(false);
    expect(readStatement(statement({ result: { response: '\\u0000' } })).ok).toBe(true);
  });
});
