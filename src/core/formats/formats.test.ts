import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse as strictParse } from 'csv-parse/sync';
import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { classify } from './classify';
import { activitiesSpec, eventsSpec, fileKindOf, gradebookSpec, rosterSpec } from './courseFiles';
import { cellsOf, decodeText, eachCsvRow, neutralise, parseCsv, writeCsv, type CsvRow } from './csv';
import { ANY_YEAR, formatInstant, parseInstant } from '../calendar/instant';
import { readTable } from './table';

const spectrum = join(process.cwd(), 'node_modules/csv-spectrum');
const table = (text: string) => {
  const parsed = parseCsv(text);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
};

describe('reading CSV', () => {
  // Cases of csv-spectrum 2.0.0; location_coordinates is left out because its JSON contradicts its CSV.
  it.each([
    'comma_in_quotes',
    'empty',
    'empty_crlf',
    'escaped_quotes',
    'json',
    'newlines',
    'newlines_crlf',
    'quotes_and_newlines',
    'simple',
    'simple_crlf',
    'utf8',
  ])('csv-spectrum %s', (name) => {
    const bytes = readFileSync(join(spectrum, 'csvs', `${name}.csv`));
    const expected = JSON.parse(readFileSync(join(spectrum, 'json', `${name}.json`), 'utf8')) as Record<
      string,
      string
    >[];
    const text = decodeText(bytes);
    const { header, rows } = table(text.ok ? text.value : '');
    const records = rows.map((r) => Object.fromEntries(header.map((h, i) => [h, r.cells[i]])));
    const lowerCased = expected.map((o) =>
      Object.fromEntries(Object.entries(o).map(([k, v]) => [k.toLowerCase(), v])),
    );
    expect(records).toEqual(lowerCased);
  });

  it('takes what spreadsheets make: byte order mark, semicolons, tabs, CRLF, blank lines', () => {
    expect(table('\ufeffA;B\r\n1;"x;y"\r\n\r\n2;z\r\n')).toMatchObject({
      delimiter: ';',
      header: ['a', 'b'],
      rows: [
        { line: 2, cells: ['1', 'x;y'] },
        { line: 4, cells: ['2', 'z'] },
      ],
    });
    expect(table('a\tb\n1\t2,5\n').rows[0]!.cells).toEqual(['1', '2,5']);
  });
  it('counts lines through breaks inside fields', () => {
    expect(table('a,b\n1,"x\ny\r\nz"\n2,w\n').rows.map((r) => r.line)).toEqual([2, 5]);
  });
  it('says which record has broken quotes', () => {
    const { rows } = table('a,b\n1,2\n3,"open\n');
    expect(rows.map((r) => r.fault)).toEqual([null, 'a quote is opened and never closed']);
  });
  it('refuses an empty file', () => {
    expect(parseCsv('')).toEqual({ ok: false, reason: 'the file is empty' });
    expect(parseCsv('\ufeff \r\n')).toEqual({ ok: false, reason: 'the file is empty' });
  });
});

describe('the rows of a CSV', () => {
  const cell = fc.oneof(
    fc.string({ maxLength: 6 }),
    fc.constantFrom('a"b', '"', 'x,y', 'two\nlines', ' \n\n', '""', ''),
  );
  const rowsOf = (text: string) => {
    const rows: (CsvRow & { again: readonly string[]; from: number; until: number })[] = [];
    const read = eachCsvRow(text, {
      header: () => null,
      row: (row, from, until) =>
        void rows.push({ ...row, again: cellsOf(text.slice(from, until), ','), from, until }),
    });
    return { ok: read.ok, rows };
  };
  it('are those of papaparse, which wrote them; cells can be cut again from their place', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 2, maxLength: 3 }), { minLength: 2, maxLength: 20 }),
        fc.constantFrom('\n', '\r\n'),
        (table, newline) => {
          const text = Papa.unparse([['h1', 'h2'], ...table], { newline });
          const { rows } = rowsOf(text);
          expect(rows.map((r) => r.cells)).toEqual(table);
          expect(Papa.parse(text, { delimiter: ',' }).data.slice(1)).toEqual(rows.map((r) => r.cells));
          for (const r of rows) expect(r.again).toEqual(r.cells);
        },
      ),
    );
  });
  it('stand one behind the other where quotes are broken, too, each with its line', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', '"', ',', '\n', ' '), maxLength: 200 }), (rest) => {
        const text = `h\n${rest}`;
        const { rows } = rowsOf(text);
        for (const [i, row] of rows.entries()) {
          expect(row.again).toEqual(row.cells);
          expect(row.line).toBe(text.slice(0, row.from).split('\n').length);
          expect(row.from).toBeGreaterThanOrEqual(rows[i - 1]?.until ?? 2);
        }
        // What is broken is said at a row; nothing is lost: every letter stands in some cell.
        const letters = (t: string) => t.replaceAll(/[^a]/g, '').length;
        expect(rows.reduce((sum, r) => sum + letters(r.cells.join('')), 0)).toBe(letters(rest));
      }),
    );
  });
  it.each([
    ['a,b\n"1"2,3\n4,5\n', ['a stray quote', null], [['1"2,3\n4,5\n'], undefined]],
    [
      'a,b\n"1" ,2\n3,4\n',
      [null, null],
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
    [
      'a,b\n5" pipe,2\n3,4',
      [null, null],
      [
        ['5" pipe', '2'],
        ['3', '4'],
      ],
    ],
    [
      'a,b\r1,2\r3,4\r',
      [null, null],
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
  ])('%j', (text, faults, cells) => {
    const { rows } = rowsOf(text);
    expect(rows.map((r) => r.cells)).toEqual(cells.filter((c) => c !== undefined));
    expect(rows.map((r) => r.fault !== null)).toEqual(faults.slice(0, rows.length).map((f) => f !== null));
  });
  it('are refused beyond what a course has, with the line', () => {
    const reason = (text: string) => {
      const read = parseCsv(text);
      return read.ok ? 'taken' : read.reason;
    };
    expect(reason(`a${',b'.repeat(999)}\n`)).toBe('taken');
    expect(reason(`a${',b'.repeat(1000)}\n`)).toBe('line 1: has more than 1,000 columns');
    const long = 'x'.repeat(1024 * 1024);
    expect(reason(`${long}x,b\n`)).toBe('line 1: a cell is longer than 1 MB');
    const faults = (text: string) => rowsOf(text).rows.map((r) => r.fault);
    const [tooLong, tooWide] = ['a cell is longer than 1 MB', 'has more than 1,000 columns'];
    expect(faults(`a,b\n${long},1\n${long}x,1\n"${long}x",1\n3,4`)).toEqual([null, tooLong, tooLong, null]);
    expect(faults(`a,b\n"x"${',"y"'.repeat(1000)}\n,${',y'.repeat(5000)}\n3,4`)).toEqual([
      tooWide,
      tooWide,
      null,
    ]);
    expect(reason(`a,b\n${'"'.repeat(10_000_000)}`)).toMatch(/^line 2: a cell is longer than 1 MB/);
    expect(reason('a,b\n'.repeat(2_000_002))).toMatch(/more than 2,000,000 rows/);
  });
});

describe('encodings', () => {
  it('takes UTF-8 and UTF-16 with a byte order mark', () => {
    const utf16 = new Uint8Array([0xff, 0xfe, ...Buffer.from('é,b\n', 'utf16le')]);
    const big = new Uint8Array([0xfe, 0xff, ...Buffer.from('é,b\n', 'utf16le').swap16()]);
    for (const bytes of [utf16, big]) expect(decodeText(bytes)).toEqual({ ok: true, value: 'é,b\n' });
    expect(decodeText(new TextEncoder().encode('Ødegaard'))).toEqual({ ok: true, value: 'Ødegaard' });
  });
  it('names the line that is not UTF-8', () => {
    const latin = Buffer.from('a,b\n1,2\n3,J\u00f6rg\n', 'latin1');
    expect(decodeText(latin)).toMatchObject({ ok: false, reason: expect.stringMatching(/^line 3: .*UTF-8/) });
  });
});

describe('writing CSV', () => {
  const cell = fc.oneof(fc.string(), fc.constantFrom('a"b', 'x,y', 'l\nm', ' lead', 'Łucja', ''));
  it('is read back by a strict parser (RFC 4180) as it was', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), (rows) => {
        const text = writeCsv(['first', 'second'], rows);
        const back = strictParse(text, { relax_column_count: false }) as string[][];
        expect(back).toEqual([['first', 'second'], ...rows.map((r) => r.map(neutralise))]);
      }),
    );
  });
  it('takes the danger out of formulas and leaves numbers alone', () => {
    expect(['=1+1', '@x', '+cmd', '-2', '-2,5', '+3.1', 'plain'].map(neutralise)).toEqual([
      "'=1+1",
      "'@x",
      "'+cmd",
      '-2',
      '-2,5',
      '+3.1',
      'plain',
    ]);
  });
});

describe('instants', () => {
  // ISO 8601-1:2019 5.4.2 (date and time of day with zone designator).
  it.each([
    ['2026-09-28T18:30:00Z', '2026-09-28T18:30:00Z'],
    ['2026-09-28T18:30+01:00', '2026-09-28T17:30:00Z'],
    ['2026-09-28 18:30:00.250-0330', '2026-09-28T22:00:00.250Z'],
    ['2028-02-29T00:00:00z', '2028-02-29T00:00:00Z'],
  ])('%s', (text, utc) => {
    const parsed = parseInstant(text);
    expect(parsed.ok && formatInstant(parsed.value)).toBe(utc);
  });
  it.each([
    ['2026-02-29T00:00:00Z', /does not exist/],
    ['2026-13-01T00:00:00Z', /does not exist/],
    ['2026-09-28T25:00:00Z', /does not exist/],
    ['2026-09-28T18:30:00', /no zone/],
    ['2026-09-28', /not an instant/],
    ['28/09/2026 18:30', /not an instant/],
    ['1601-01-01T00:00:00Z', /outside the years/],
    ['9999-12-31T00:00:00Z', /outside the years/],
    ['2026-09-28T18:30:00+25:00', /no valid offset/],
    ['9'.repeat(1000), /not an instant/],
    ['2100-12-31T23:30:00-01:00', /outside the years/],
  ])('refuses %s', (text, reason) => {
    expect(parseInstant(text)).toMatchObject({ ok: false, reason: expect.stringMatching(reason) });
  });
  it('comes back from what it writes', () => {
    fc.assert(
      fc.property(
        fc.date({
          min: new Date('0100-01-01T00:00:00Z'),
          max: new Date('9999-12-31T00:00:00Z'),
          noInvalidDate: true,
        }),
        (date) => {
          expect(parseInstant(formatInstant(date.getTime()), ANY_YEAR)).toEqual({
            ok: true,
            value: date.getTime(),
          });
        },
      ),
    );
  });
});

describe('course files', () => {
  const rejected = <T>(text: string, spec: Parameters<typeof readTable<T>>[1]) => {
    const read = readTable(text, spec);
    return read.ok ? read.value.rejected.map((r) => `${r.line} ${r.field}: ${r.reason}`) : [read.reason];
  };
  it('say line, field and reason of every row they refuse', () => {
    const text = [
      'event_id,student_id,at,kind,activity_id,duration_s',
      'e1,s1,2026-10-01T10:00:00Z,view,,',
      ',s1,2026-10-01T10:00:00Z,view,,',
      'e3,s1,yesterday,view,,',
      'e4,s1,2026-10-01T10:00:00Z,danced,,',
      'e5,s1,2026-10-01T10:00:00Z,view,,-5',
      'e6,s1,2026-10-01T10:00:00Z,view,',
      'e7,s1,,view,,',
    ].join('\n');
    expect(rejected(text, eventsSpec)).toEqual([
      '3 event_id: is empty',
      '4 at: “yesterday” is not an instant like 2026-09-28T18:30:00Z',
      '5 kind: “danced” is none of: login, view, watch, practise, attempt, submit, post, other',
      '6 duration_s: -5 is not between 0 and 1000000',
      '7 : has 5 fields where the header has 6',
      '8 at: is empty',
    ]);
  });
  it('refuse a file without a column, or with one twice', () => {
    expect(rejected('event_id,student_id,kind\n', eventsSpec)[0]).toMatch(
      /^line 1: the column “at” is missing/,
    );
    expect(rejected('student_id,given_name,family_name,student_id\n', rosterSpec)[0]).toBe(
      'line 1: the column “student_id” occurs twice',
    );
  });
  it('take a decimal comma only where commas do not separate', () => {
    const head = 'student_id;activity_id;submitted;graded;returned;points;excused';
    const read = readTable(`${head}\ns1;a1;;;;12,5;nein\ns1;a2;;;;12,5;no\n`, gradebookSpec);
    expect(read.ok && read.value.rows.map((r) => r.value.points)).toEqual([12.5]);
    expect(read.ok && read.value.rejected[0]!.field).toBe('excused');
    const comma = 'student_id,activity_id,submitted,graded,returned,points,excused\ns1,a1,,,,"12,5",no\n';
    expect(rejected(comma, gradebookSpec)).toEqual(['2 points: “12,5” is not a number']);
  });
  it('do not choke on a million digits', () => {
    const text = `student_id,activity_id,submitted,graded,returned,points,excused\ns1,a1,,,,${'9'.repeat(1_000_000)},no\n`;
    expect(rejected(text, gradebookSpec)[0]!.length).toBeLessThan(120);
  });
  it('know an activity that is due before it opens, or has points and no category', () => {
    const head = 'activity_id,title,kind,category,points,opens,due';
    expect(
      rejected(`${head}\na,A,quiz,Q,10,2026-10-02T00:00:00Z,2026-10-01T00:00:00Z\n`, activitiesSpec),
    ).toEqual(['2 due: is before it opens']);
    expect(rejected(`${head}\na,A,quiz,,10,,\n`, activitiesSpec)).toEqual([
      '2 category: is empty though the assignment has points',
    ]);
  });
  it('are told apart by their columns', () => {
    expect(fileKindOf(['event_id', 'student_id', 'activity_id'])).toBe('events');
    expect(fileKindOf(['student_id', 'activity_id', 'points'])).toBe('gradebook');
    expect(fileKindOf(['student_id', 'given_name'])).toBe('roster');
    expect(fileKindOf(['activity_id', 'title'])).toBe('activities');
    expect(fileKindOf(['outcome_id', 'title'])).toBe('outcomes');
    expect(fileKindOf(['name'])).toBeNull();
  });
});

describe('sorting rows into new, changed, unchanged and rejected', () => {
  const rows = (...list: [string, number][]) =>
    list.map(([id, n], i) => ({ line: i + 2, value: { id, n }, cells: [id, String(n)] }));
  const options = {
    keyOf: (v: { id: string; n: number }) => v.id,
    keyField: 'id',
    existing: new Map([
      ['known', { id: 'known', n: 1 }],
      ['other', { id: 'other', n: 1 }],
    ]),
    same: (a: { n: number }, b: { n: number }) => a.n === b.n,
    objection: (v: { n: number }) => (v.n < 0 ? { field: 'n', reason: 'is negative' } : null),
    onDifference: 'change' as const,
  };
  it('decides each row once', () => {
    const c = classify(
      rows(['new', 1], ['known', 1], ['other', 2], ['bad', -1], ['new', 1], ['new', 5]),
      [],
      options,
    );
    expect(c.added.map((r) => r.value.id)).toEqual(['new']);
    expect(c.changed.map((r) => r.value.id)).toEqual(['other']);
    expect(c.unchanged).toBe(2);
    expect(c.rejected.map((r) => `${r.line} ${r.field} ${r.reason}`)).toEqual([
      '5 n is negative',
      '7 id occurs on line 2 with other content',
    ]);
  });
  it('refuses other content under a known id where ids are for ever', () => {
    const c = classify(rows(['other', 2]), [], { ...options, onDifference: 'reject' });
    expect(c.rejected[0]!.reason).toBe('was imported before with other content');
  });
});
