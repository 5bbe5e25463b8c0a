import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { bundle, SHORT_LIVED } from '../../tests/support/bundle';
import { rows, truth } from '../../tests/support/reference';

const folder = mkdtempSync(join(tmpdir(), 'lantern-cli-'));
/** The command line, made into one file once: it is started some fifty times. */
const program = bundle('src/cli/main.ts');

/** Runs the real command, as a user does. */
function lantern(args: string[], input = '') {
  const done = spawnSync(process.execPath, [...SHORT_LIVED, program, ...args], {
    input,
    encoding: 'utf8',
  });
  return { out: done.stdout, err: done.stderr, code: done.status };
}
const lines = (text: string) =>
  text
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Record<string, unknown>);

describe('lantern sessions', () => {
  const events =
    'student,at,event_id,kind,duration_s\nb,2026-10-25T00:30:00Z,1,view,\nb,2026-10-25T01:00:00Z,2,view,\nb,2026-10-25T01:30:01+00:00,3,view,\na,2026-10-25T02:00:00+01:00,4,login,\nb,2026-10-25T00:30:00Z,1,view,\n';
  it('cuts strictly over the limit, drops duplicates and orders by student and start', () => {
    expect(lantern(['sessions', '--events', '-', '--last', 'zero'], events)).toEqual({
      out: 'student,start,end,seconds,events\na,2026-10-25T01:00:00Z,2026-10-25T01:00:00Z,0,1\nb,2026-10-25T00:30:00Z,2026-10-25T01:00:00Z,1800,2\nb,2026-10-25T01:30:01Z,2026-10-25T01:30:01Z,0,1\n',
      err: '',
      code: 0,
    });
  });
  it('takes another limit, and files', () => {
    const file = join(folder, 'events.csv');
    writeFileSync(file, events);
    expect(lantern(['sessions', '--events', file, '--gap', '31', '--last', 'zero']).out.split('\n')[2]).toBe(
      'b,2026-10-25T00:30:00Z,2026-10-25T01:30:01Z,3601,3',
    );
  });
  it('gives the last event its typical dwell unless told otherwise', () => {
    const steady = `student,at\n${Array.from({ length: 6 }, (_, i) => `a,2026-10-01T10:0${i}:00Z`).join('\n')}\n`;
    expect(lantern(['sessions', '--events', '-'], steady).out).toContain(
      'a,2026-10-01T10:00:00Z,2026-10-01T10:06:00Z,360,6',
    );
  });
});

describe('lantern select', () => {
  const asFile = (name: string, text: string) => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  const table = asFile('class.csv', 'student,score,section\r\nb,8.5,B\r\na,12,"A, late"\r\nc,,B\r\n');
  const where = (condition: unknown) => asFile('where.json', JSON.stringify(condition));
  it('says yes, no or unknown in the order of the file', () => {
    const asked = where({
      any: [
        { measure: 'score', is: '<', value: 12 },
        { measure: 'section', is: 'in', value: ['A, late'] },
      ],
    });
    expect(lantern(['select', '--table', table, '--where', asked])).toEqual({
      out: 'student,match\nb,yes\na,yes\nc,unknown\n',
      err: '',
      code: 0,
    });
  });
  it('refuses what it cannot judge, and says where', () => {
    const refused = (condition: unknown, file = table) => {
      const { code, err, out } = lantern(['select', '--table', file, '--where', where(condition)]);
      expect([code, out]).toEqual([2, '']);
      return err;
    };
    expect(refused({ measure: 'section', is: '<', value: 1 })).toMatch(
      /line 2, section: “B” is not a number\n.*line 3, section: “A, late” is not a number/s,
    );
    expect(refused({ measure: 'days', is: 'known' })).toContain('there is no column “days”');
    expect(refused({ all: [{ measure: 'score', is: 'under', value: 3 }] })).toContain('all[0].is is none of');
    expect(refused({ all: [] }, asFile('twice.csv', 'student,a,a\nx,1,2\n'))).toContain(
      'the column “a” occurs twice',
    );
    expect(lantern(['select', '--table', table]).code).toBe(2);
  });
});

describe('lantern trend', () => {
  it('agrees with R on a series with ties and a missing week', () => {
    const expected = truth<{
      ols: { Estimate: number }[];
      theilSenSlope: number;
      mannKendall: { S: number; p: number };
      tauB: number;
    }>('trend-grades8');
    const start = Date.parse('2026-09-01T00:00:00Z');
    const body = rows('grades8.csv').map(
      ([week, grade]) => `s,${new Date(start + week! * 7 * 86_400_000).toISOString()},${grade}`,
    );
    const [one] = lines(lantern(['trend', '--scores', '-'], `student,at,percent\n${body.join('\n')}\n`).out);
    expect(one).toMatchObject({ student: 's', n: 8, mann_kendall: { s: expected.mannKendall.S } });
    expect(one!.theil_sen_per_week).toBeCloseTo(expected.theilSenSlope, 9);
    expect(one!.ols_per_week).toBeCloseTo(expected.ols[1]!.Estimate, 9);
    expect((one!.mann_kendall as { p: number }).p).toBeCloseTo(expected.mannKendall.p, 12);
  });
  it('says null where there is too little', () => {
    expect(lantern(['trend', '--scores', '-'], 'student,at,percent\nx,2026-10-01T00:00:00Z,50\n').out).toBe(
      '{"student":"x","n":1,"ols_per_week":null,"theil_sen_per_week":null,"mann_kendall":{"s":0,"var_s":0,"tau_b":null,"p":null}}\n',
    );
  });
});

describe('lantern grades', () => {
  const book = {
    policy: { missing: 'zero' },
    categories: [
      { id: 'c', weight: 60, drop_lowest: 1 },
      { id: 'd', weight: 40, drop_lowest: 0 },
    ],
    activities: [
      { id: 'c1', category: 'c', points: 10, due: '2026-10-01T00:00:00Z' },
      { id: 'c2', category: 'c', points: 20, due: '2026-10-08T00:00:00Z' },
      { id: 'd1', category: 'd', points: 50, due: '2026-12-01T00:00:00Z' },
      { id: 'd2', category: 'd', points: 50, due: null },
    ],
    scores: [
      {
        student: 's',
        activity: 'c1',
        points: 4,
        excused: false,
        submitted: '2026-09-30T00:00:00Z',
        returned: '2026-10-02T00:00:00Z',
      },
      {
        student: 's',
        activity: 'c2',
        points: 15,
        excused: false,
        submitted: '2026-10-09T00:00:00Z',
        returned: '2026-10-12T00:00:00Z',
      },
    ],
  };
  const run = (data: unknown, ...args: string[]) =>
    lantern(['grades', '--gradebook', '-', ...args], JSON.stringify(data));
  it('follows the rules as of the instant', () => {
    // By hand: c1 is 40 %, c2 75 %; the lower is dropped. Open: d1 and d2, 100 points of category d.
    expect(lines(run(book, '--as-of', '2026-10-20T00:00:00Z').out)).toEqual([
      { student: 's', standing: 75, lowest_possible: 45, highest_possible: 85, done: 2, expected: 2 },
    ]);
    // Before c2 came back only c1 counts; filling c2 with nothing leaves c1 as the better one.
    expect(lines(run(book, '--as-of', '2026-10-05T00:00:00Z').out)).toEqual([
      { student: 's', standing: 40, lowest_possible: 24, highest_possible: 100, done: 1, expected: 1 },
    ]);
  });
  it('names what is wrong by its path', () => {
    const bad = run({
      ...book,
      policy: { missing: 'maybe' },
      scores: [{ ...book.scores[0], submitted: 'soon' }],
    });
    expect(bad.code).toBe(2);
    expect(bad.out).toBe('');
    expect(bad.err).toMatch(/policy\.missing/);
    expect(bad.err).toMatch(/scores\[0\]\.submitted: “soon”/);
    expect(run({ ...book, scores: [{ ...book.scores[0], activity: 'x9' }] }).err).toMatch(
      /scores\[0\]\.activity: there is no “x9”/,
    );
  });
});

describe('bad input', () => {
  it.each([
    ['an unknown command', ['dance'], '', /no command/],
    ['a missing option', ['sessions'], '', /--events is needed/],
    ['an unknown option', ['trend', '--scores', '-', '--x', '1'], '', /--x/],
    ['a gap that is none', ['sessions', '--events', '-', '--gap', 'long'], 'student,at\n', /--gap/],
    ['a file that is not there', ['trend', '--scores', '/nowhere/x.csv'], '', /cannot be read/],
    ['an empty file', ['trend', '--scores', '-'], '', /empty/],
    ['a missing column', ['trend', '--scores', '-'], 'student,at\n', /line 1.*percent/],
    [
      'an instant without zone',
      ['sessions', '--events', '-'],
      'student,at\na,2026-10-01T10:00:00\n',
      /line 2, at: .*zone/,
    ],
    [
      'text for a number',
      ['trend', '--scores', '-'],
      'student,at,percent\na,2026-10-01T10:00:00Z,good\n',
      /line 2, percent/,
    ],
  ])('%s ends with 2 and a clear word', (_name, args, input, message) => {
    const { out, err, code } = lantern(args, input);
    expect([out, code]).toEqual(['', 2]);
    expect(err).toMatch(message);
  });
});

describe('lantern items', () => {
  const asFile = (name: string, text: string) => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  interface Found {
    readonly n: number;
    readonly alpha: number | null;
    readonly kr20: number | null;
    readonly items: readonly {
      readonly item: string;
      readonly item_rest: number | null;
      readonly d27: number;
      readonly omitted: number;
      readonly options: readonly { readonly option: string; readonly key: boolean; readonly count: number }[];
    }[];
  }
  const found = (args: string[], input = '') => JSON.parse(lantern(['items', ...args], input).out) as Found;

  // Bock & Lieberman 1970, computed by R psych 2.2.9 (tests/reference/items-lsat6.json).
  it('agrees with the reference on LSAT 6, with the names of the items as they are written', () => {
    const expected = truth<{
      alpha: number;
      itemRest: Record<string, number>;
      D27_tiesShared: Record<string, number>;
    }>('items-lsat6');
    const { n, alpha, items } = found(['--responses', 'tests/reference/lsat6.csv']);
    expect(n).toBe(1000);
    expect(alpha).toBeCloseTo(expected.alpha, 12);
    expect(items.map((i) => i.item)).toEqual(Object.keys(expected.itemRest));
    for (const i of items) {
      expect(i.item_rest).toBeCloseTo(expected.itemRest[i.item]!, 12);
      expect(i.d27).toBeCloseTo(expected.D27_tiesShared[i.item]!, 12);
      expect(i.options).toEqual([]);
    }
  });
  it('takes options by a key, leaves out what was omitted, and only the items of the key', () => {
    const key = asFile('key.csv', 'item,key\nQ1,A\nQ2,b\n');
    const table = 'student,Q1,Q2,note\ns1,A,b,x\ns2,B,b,x\ns3,A,,x\ns4,C,9,x\n';
    const { n, items } = found(['--responses', '-', '--key', key, '--omitted', '9'], table);
    expect(n).toBe(4);
    expect(items.map((i) => [i.item, i.omitted])).toEqual([
      ['Q1', 0],
      ['Q2', 2],
    ]);
    expect(items[1]!.options.map((o) => [o.option, o.key, o.count])).toEqual([['b', true, 2]]);
  });
  it('leaves columns out, and refuses what it cannot take', () => {
    expect(found(['--responses', '-', '--ignore', 'y'], 'a,y\n1,x\n0,z\n').items).toHaveLength(1);
    const said = (input: string, ...args: string[]) => lantern(['items', '--responses', '-', ...args], input);
    expect(said('student,a\ns1,1\ns1,0\n')).toMatchObject({
      code: 2,
      err: '-: line 3, student: “s1” is there already in line 2; give one attempt a student\n',
    });
    expect(said('a,b\n1,x\n').err).toBe('-: line 2, b: “x” is not a number\n');
    expect(said('a\n1\n', '--ignore', 'b').err).toContain('no column “b” to ignore');
    expect(said('a\n1\n', '--key', asFile('k.csv', 'item,key\nz,A\n')).err).toContain(
      '“z”, which the key names',
    );
  });
});

describe('lantern mastery', () => {
  const evidence = [
    'student,outcome,at,share,weight',
    's2,fix,2026-11-04T00:00:00Z,0.7,10',
    's1,fix,2026-11-25T00:00:00Z,1,5',
    's1,tides,2027-01-01T00:00:00Z,1,5',
  ].join('\n');
  const table = (...args: string[]) =>
    lantern(['mastery', '--evidence', '-', '--as-of', '2026-11-25T00:00:00Z', ...args], evidence)
      .out.trim()
      .split('\n')
      .map((line) => line.split(','));
  it('is the posterior by hand, in order, with a row for what is still to come', () => {
    const [head, first, later, second] = table('--prior', '1,1');
    expect(head).toEqual(['student', 'outcome', 'mean', 'low', 'high', 'effective', 'level']);
    // Beta(6, 1): mean 6/7, quantiles p^(1/6) (NIST DLMF 8.17.7).
    expect(first!.slice(0, 2)).toEqual(['s1', 'fix']);
    expect(Number(first![2])).toBeCloseTo(6 / 7, 14);
    expect(Number(first![3])).toBeCloseTo(0.1 ** (1 / 6), 12);
    expect(first![6]).toBe('secure');
    expect(later).toEqual([
      's1',
      'tides',
      '0.5',
      expect.any(String),
      expect.any(String),
      '0',
      'too little data',
    ]);
    // One half-life old: Beta(1 + 3.5, 1 + 1.5).
    expect(Number(second![2])).toBeCloseTo(4.5 / 7, 14);
    expect(second![5]).toBe('5');
  });
  it('takes another half-life, and refuses what is none', () => {
    expect(Number(table('--prior', '1,1', '--half-life', '42')[3]![5])).toBeCloseTo(10 * 2 ** -0.5, 14);
    const said = (...args: string[]) =>
      lantern(['mastery', '--evidence', '-', '--as-of', '2026-11-25T00:00:00Z', ...args], evidence);
    expect(said('--half-life', '0')).toMatchObject({
      code: 2,
      err: '--half-life: “0” is not a number over 0\n',
    });
    expect(said('--prior', '1')).toMatchObject({ code: 2 });
    expect(lantern(['mastery', '--evidence', '-'], evidence)).toMatchObject({ code: 2 });
  });
});

describe('lantern review and schedule', () => {
  it('says what is still known, in order, without what is still to come', () => {
    const answers =
      'student,item,at,right\nb,q1,2026-11-20T00:00:00Z,0\na,q2,2026-11-23T00:00:00Z,1\na,q1,2026-12-01T00:00:00Z,1\n';
    expect(lantern(['review', '--answers', '-', '--as-of', '2026-11-25T00:00:00Z'], answers).out).toBe(
      'student,item,half_life_days,recall,due\na,q2,2,0.5,true\nb,q1,1,0.03125,true\n',
    );
    const wrong = answers.replace(',0\n', ',maybe\n');
    expect(lantern(['review', '--answers', '-', '--as-of', '2026-11-25T00:00:00Z'], wrong)).toMatchObject({
      code: 2,
      out: '',
    });
  });
  it('gives each step its day, and names a circle', () => {
    const file = (steps: unknown[]) =>
      JSON.stringify({ from: '2026-11-25', minutes_per_day: 30, days_off: ['2026-11-26'], steps });
    const one = { minutes: 20, pinned: null, due: null, priority: 0 };
    expect(
      lantern(
        ['schedule', '--plan', '-'],
        file([
          { ...one, id: 'b', after: ['a'], due: '2026-11-26' },
          { ...one, id: 'a', after: [] },
        ]),
      ).out,
    ).toBe('id,on,late\na,2026-11-25,false\nb,2026-11-27,true\n');
    const round = lantern(['schedule', '--plan', '-'], file([{ ...one, id: 'a', after: ['a'] }]));
    expect(round).toMatchObject({
      code: 2,
      err: '-: steps are prerequisites of each other in a circle: “a”, “a”\n',
    });
    expect(
      lantern(['schedule', '--plan', '-'], file([{ ...one, id: 'a', after: [], due: '2026-02-30' }])).code,
    ).toBe(2);
  });
});
