import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rows, truth } from '../../../tests/support/reference';
import type { GradebookView, GradeColumn, GradeRow } from '../views/gradebook';
import { bandOf, bandWords, USUAL_BANDS } from './bands';
import { EMPTY_STATE, excused, extended, graded, granted, sameState } from './changes';
import { completion } from './completion';
import { binned, binWidth, summarise } from './distribution';
import {
  cellWords,
  countFilters,
  gradeMatches,
  sortGradeRows,
  waitsForGrade,
  mostStruggledIn,
} from '../tables/gradeFilters';
import type { Score } from '../course/gradebook';
import { pastedCells, previewPaste, type PasteTarget } from './pasteScores';
import { pickOf } from '../tables/pickOf';
import { classVerdict, verdictSentence, wentWords } from './classVerdict';
import { parseScore } from './scoreEntry';
import { dueFor, isDue, isLate, isMissing } from './status';
import { standing } from './standing';
import { direction, trendSentence } from './trendWords';
import { turned, turnIn } from './turns';

describe('a score as it is typed', () => {
  it('takes a point or a comma as decimal sign, and nothing for no grade', () => {
    expect(parseScore(' 14 ', 20)).toEqual({ ok: true, value: 14 });
    expect(parseScore('14.5', 20)).toEqual({ ok: true, value: 14.5 });
    expect(parseScore('14,5', 20)).toEqual({ ok: true, value: 14.5 });
    expect(parseScore('', 20)).toEqual({ ok: true, value: null });
  });
  it.each([
    ['21', 'above the maximum of 20'],
    ['-1', 'not a number of points'],
    ['abc', 'not a number of points'],
    ['1e3', 'not a number of points'],
    ['1,234', 'two ways'],
    ['9'.repeat(1_000_000), 'not a number of points'],
  ])('refuses %s', (text, reason) => {
    const read = parseScore(text, 20);
    expect(read.ok ? '' : read.reason).toContain(reason);
    expect((read.ok ? '' : read.reason).length).toBeLessThan(120);
  });
  it('reads back any figure it could have shown', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 200 }), (halves) => {
        expect(parseScore(String(halves / 2), 100)).toEqual({ ok: true, value: halves / 2 });
      }),
    );
  });
});

const target = (points: number | null, closed: string | null = null): PasteTarget => ({
  enrolmentId: 1,
  activityId: 1,
  student: 'Ida Wren',
  activity: 'Chart exercise 1',
  maximum: 20,
  points,
  closed,
});

describe('pasted scores', () => {
  it('says what changes, what stays and what cannot be taken, with its line', () => {
    const grid = [[target(10)], [target(12)], [target(null)], [target(null, 'has left the course')]];
    const preview = previewPaste('10\r\n14,5\r\nmany\r\n5\r\n7\r\n', grid);
    expect(preview.unchanged).toBe(1);
    expect(preview.changes.map((c) => [c.target.points, c.points])).toEqual([[12, 14.5]]);
    expect(preview.rejected.map((r) => [r.line, r.reason])).toEqual([
      [3, '“many” is not a number of points'],
      [4, 'has left the course'],
      [5, 'there is no student left in the list'],
    ]);
  });
  it('reads a block with tabs, leaves empty cells alone, and names what stands too far right', () => {
    expect(pastedCells('1\t2\n\n3\t"4"\n\n')).toEqual([['1', '2'], [''], ['3', '4']]);
    const preview = previewPaste('5\t6\n\t7', [[target(1)], [target(2)]]);
    expect(preview.changes.map((c) => c.points)).toEqual([5]);
    expect(preview.rejected.map((r) => [r.line, r.typed])).toEqual([
      [1, '6'],
      [2, '7'],
    ]);
  });
  it('accounts for every cell that is not empty', () => {
    const cell = fc.constantFrom('', '3', '19.5', '21', 'x', '0');
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 1, maxLength: 3 }), { maxLength: 6 }), (rows) => {
        const grid = Array.from({ length: 4 }, () => [target(3), target(null)]);
        const preview = previewPaste(rows.map((r) => r.join('\t')).join('\n'), grid);
        const typed = rows.flat().filter((c) => c !== '').length;
        expect(preview.changes.length + preview.unchanged + preview.rejected.length).toBe(typed);
      }),
    );
  });
});

describe('bands and how a class did', () => {
  it('puts a score on a cut into the band above it, practice by the scale of the course', () => {
    expect([59.9, 60, 84.9, 85, 100].map((p) => bandOf(p, USUAL_BANDS.practice))).toEqual([
      'low',
      'middle',
      'middle',
      'high',
      'high',
    ]);
    expect(USUAL_BANDS.practice).toEqual(USUAL_BANDS.other);
    expect(bandWords('low', USUAL_BANDS.other)).toBe('under 60 %');
    expect(bandWords('high', USUAL_BANDS.other)).toBe('85 % and above');
    expect(bandWords('high', { low: 50, high: 100 })).toBe('100 %');
  });
  it('says that many struggled from a third of at least ten, and nothing of two grades', () => {
    const verdicts = [
      [1, 2],
      [9, 9],
      [3, 10],
      [4, 10],
      [4, 12],
    ].map(([low, graded]) => classVerdict({ low: low!, graded: graded! }));
    expect(verdicts).toEqual([
      'too few grades',
      'too few grades',
      'single students',
      'many struggled',
      'many struggled',
    ]);
    const exam = { title: 'Exam', outcomes: ['Tides', 'Fixes', 'Lights'], cuts: USUAL_BANDS.other };
    expect(verdictSentence({ ...exam, low: 54, graded: 72 })).toBe(
      'Many struggled: 54 of 72 scored under 60 %. Reteach Tides, Fixes and Lights to the class.',
    );
    expect(verdictSentence({ ...exam, low: 1, graded: 2 })).toBe(
      'Only 2 graded so far: too few to say how the class did.',
    );
    expect(wentWords({ ...exam, low: 54, graded: 72 })).toBe(
      'Exam: 54 of 72 under 60 % (Tides, Fixes and Lights)',
    );
  });
});

describe('distributions', () => {
  // Quantiles of type 7 and the mean, as R 4.2.2 gives them (tests/reference/quantiles-small10.json).
  it('agrees with R', () => {
    const r = truth<{ mean: number; quantiles: { type7: Record<string, number> } }>('quantiles-small10');
    const values = rows('small10.csv').map((line) => line.at(-1)!);
    const s = summarise(values)!;
    const at = (p: string) => r.quantiles.type7[p]!;
    expect([s.lowest, s.low, s.median, s.high, s.highest]).toEqual(
      ['0.000000', '0.250000', '0.500000', '0.750000', '1.000000'].map(at),
    );
    expect(s.mean).toBeCloseTo(r.mean, 12);
    expect(summarise([])).toBeNull();
  });
  it('counts every value once, and ends at the most', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 20, noNaN: true })),
        fc.constantFrom(1, 2, 2.5, 3, 20),
        (values, width) => {
          const bins = binned(values, 20, width);
          expect(bins.reduce((sum, b) => sum + b.count, 0)).toBe(values.length);
          expect(bins.at(-1)!.to).toBeGreaterThanOrEqual(20);
        },
      ),
    );
    expect([binWidth(100, 12), binWidth(20, 12), binWidth(7, 10)]).toEqual([10, 2, 1]);
  });
});

const HOUR = 3_600_000;
const score = (known: Partial<Score>): Score => ({
  activity: 'a',
  points: null,
  excused: false,
  submitted: null,
  returned: null,
  ...known,
});

describe('an extension', () => {
  const work = { due: 100 * HOUR };
  it('moves when work is due, late and missing for that student alone', () => {
    const own = score({ due: 150 * HOUR });
    expect(dueFor(work, own)).toBe(150 * HOUR);
    expect([isDue(work, own, 120 * HOUR), isDue(work, undefined, 120 * HOUR)]).toEqual([false, true]);
    expect([isMissing(work, own, 120 * HOUR), isMissing(work, own, 160 * HOUR)]).toEqual([false, true]);
    const handedIn = { ...own, submitted: 140 * HOUR };
    expect([
      isLate(work, handedIn, 160 * HOUR),
      isLate(work, { ...handedIn, due: null }, 160 * HOUR),
    ]).toEqual([false, true]);
  });
  it('takes missing work out of completion and standing until it has passed', () => {
    const scores = new Map([['a', score({ due: 150 * HOUR })]]);
    expect(completion([{ id: 'a', due: work.due }], scores, 120 * HOUR).expected).toBe(0);
    const book = {
      policy: { missing: 'zero' as const },
      zone: 'UTC',
      categories: [{ id: 'c', weight: 1, dropLowest: 0 }],
      activities: [{ id: 'a', category: 'c', points: 10, due: work.due }],
    };
    expect(standing(book, scores, 120 * HOUR).standing).toBeNull();
    expect(standing(book, scores, 160 * HOUR).standing).toBe(0);
  });
});

describe('changes of a cell', () => {
  it('grades and returns at once, ends an excuse, and takes a grade away', () => {
    const was = { ...EMPTY_STATE, excused: true, submitted: 5 };
    const now = graded(was, 14, 10);
    expect(now).toMatchObject({ points: 14, excused: false, graded: 10, returned: 10, submitted: 5 });
    // A grade that is mended was returned when it was returned.
    expect(graded(now, 15, 20)).toMatchObject({ points: 15, graded: 20, returned: 10 });
    expect(graded(now, null, 20)).toMatchObject({ points: null, graded: null, returned: null });
    expect(granted(granted(EMPTY_STATE)).extraAttempts).toBe(2);
    expect(sameState(excused(was, true), was)).toBe(true);
    expect(sameState(extended(was, 7), was)).toBe(false);
  });
});

const column = (id: number): GradeColumn => ({
  id,
  title: `Work ${id}`,
  kind: 'assignment',
  categoryId: 1,
  points: 20,
  due: null,
  outcomes: ['Tides'],
  summary: null,
});
const row = (id: number, family: string, statuses: string, points: (number | null)[]): GradeRow => ({
  enrolmentId: id,
  studentId: `s${id}`,
  given: `G${9 - id}`,
  family,
  section: null,
  standing: id === 2 ? null : 50 + id,
  missing: [...statuses].filter((s) => s === 'm').length,
  statuses,
  points,
  late: statuses.includes('l') ? [] : [0],
});

describe('filters of the gradebook', () => {
  const list = [
    row(1, 'Zed', 'gm', [8, null]),
    row(2, 'Ångström', 'la', [null, null]),
    row(3, 'abe', 'gx', [20, null]),
  ];
  const columns = [column(1), column(2)];
  it('matches by status and band; late work that waits is both', () => {
    const is = (r: number, c: number, f: Parameters<typeof gradeMatches>[3]) =>
      gradeMatches(list[r]!, columns[c]!, c, f, USUAL_BANDS);
    expect([is(0, 0, 'low'), is(0, 1, 'missing'), is(1, 0, 'late'), is(1, 0, 'awaiting grade')]).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect([is(2, 0, 'high'), is(2, 1, 'excused'), is(2, 0, 'low')]).toEqual([true, true, false]);
    const view = { rows: list, columns, bands: USUAL_BANDS } as unknown as GradebookView;
    expect(countFilters(view)['awaiting grade']).toEqual({ cells: 2, students: 1 });
  });
  it('names the assignment in which most struggled, by the rule of every view', () => {
    const scored = (points: number[]) => ({
      rows: points.map((p, i) => row(i + 1, 'F', 'gg', [p, 18])),
      columns,
      bands: USUAL_BANDS,
    });
    const high = Array<number>(6).fill(20);
    expect(mostStruggledIn(scored([8, 9, 11, 11.5, ...high]))).toMatchObject({
      title: 'Work 1',
      low: 4,
      graded: 10,
      outcomes: ['Tides'],
    });
    expect(mostStruggledIn(scored([8, 9, 11, 12, ...high]))).toBeNull();
    expect(mostStruggledIn(scored([8, 9, 10, 20]))).toBeNull();
    expect([waitsForGrade('late', 20), waitsForGrade('late', null), waitsForGrade('graded', 20)]).toEqual([
      true,
      false,
      false,
    ]);
  });
  it('sorts as people do, and what is not known last', () => {
    expect(sortGradeRows(list, 'family').map((r) => r.family)).toEqual(['abe', 'Ångström', 'Zed']);
    expect(sortGradeRows(list, 'standing').map((r) => r.enrolmentId)).toEqual([1, 3, 2]);
    expect(sortGradeRows(list, 'missing')[0]!.enrolmentId).toBe(1);
  });
  it('writes points as numbers and everything else as its word', () => {
    expect([cellWords(list[0]!, 0), cellWords(list[0]!, 1), cellWords(list[1]!, 0)]).toEqual([
      8,
      'missing',
      'late',
    ]);
    expect(pickOf('missing', { id: 4, title: 'Chart exercise 4' })).toEqual({
      reason: 'has not handed in Chart exercise 4',
      about: 'missing assignment',
      activityId: 4,
      item: null,
    });
    expect(pickOf('missing', null).about).toBe('behind');
  });
});

describe('trends in words, and turns', () => {
  const trend = (slope: number, p: number) => ({
    n: 12,
    perWeek: slope,
    relativePerWeek: slope,
    test: { s: 0, varS: 1, tauB: 0, p },
  });
  it('says how sure it is, and nothing where it is not', () => {
    expect(trendSentence(trend(-3.14, 0.012))).toBe(
      'Falls 3.1 points a week against the class over 12 graded assignments: clear.',
    );
    expect(trendSentence(trend(2, 0.08))).toContain('assignments: likely.');
    expect([direction(trend(-9, 0.3)), direction(null), direction(trend(1, 0.01))]).toEqual([
      'none',
      'unknown',
      'rising',
    ]);
    expect(trendSentence(null)).toContain('fewer than 4');
  });
  it('compares the works of the window with those before, relative to the class', () => {
    const day = (d: string) => Date.parse(`${d}T12:00:00Z`);
    const works = ['2026-10-01', '2026-10-08', '2026-10-15', '2026-11-20', '2026-11-22'].map((d, i) => ({
      activity: String(i),
      at: day(d),
      percent: i < 3 ? 80 : 50,
    }));
    const window = { from: '2026-11-19', to: '2026-11-25' };
    const hard = new Map([
      ['3', 55],
      ['4', 55],
    ]);
    expect(turned(turnIn(works, new Map(works.map((w) => [w.activity, 70])), window, 'UTC'))).toBe('down');
    // The same marks on works that were hard for everyone are no turn.
    const medians = new Map([...['0', '1', '2'].map((a): [string, number] => [a, 85]), ...hard]);
    expect(turnIn(works, medians, window, 'UTC')?.change).toBe(0);
    expect(turnIn(works.slice(0, 4), medians, window, 'UTC')).toBeNull();
  });
});
