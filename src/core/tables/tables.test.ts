import fc from 'fast-check';
import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { sheetCsv, wallDate } from '../formats/sheet';
import type { DayFigures } from '../activity/dayFigures';
import type { StudentMeasures } from '../measures/studentMeasures';
import { judge } from '../rules/condition';
import { activityShows } from './activityShow';
import { ACTIVITY_SHOWS } from '../views/activity';
import { compareRows } from './order';

describe('order of rows', () => {
  it('keeps what is not known last, up or down', () => {
    const rows = [{ v: null }, { v: 2 }, { v: 10 }];
    const of = (down: boolean) => [...rows].sort(compareRows((r) => r.v, down)).map((r) => r.v);
    expect(of(false)).toEqual([2, 10, null]);
    expect(of(true)).toEqual([10, 2, null]);
  });
  it('sorts texts as people do', () => {
    const words = ['Zed', 'ångström', 'Work 10', 'Work 9', 'abe'];
    expect([...words].sort(compareRows((w) => w, false))).toEqual([
      'abe',
      'ångström',
      'Work 9',
      'Work 10',
      'Zed',
    ]);
  });
  it('takes equal values for equal, up and down', () => {
    for (const same of [0, -0, 5e-323, Infinity, -Infinity, null])
      for (const down of [false, true])
        expect(compareRows((v: number | null) => v, down)(same, same)).toBe(0);
  });
  it('is an order: of three, none stands before itself', () => {
    const value = fc.option(fc.oneof(fc.integer(), fc.double({ noNaN: true })));
    fc.assert(
      fc.property(value, value, value, fc.boolean(), (a, b, c, down) => {
        const compare = compareRows((v: number | null) => v, down);
        expect(Math.sign(compare(a, b)) + Math.sign(compare(b, a))).toBe(0);
        if (compare(a, b) <= 0 && compare(b, c) <= 0) expect(compare(a, c)).toBeLessThanOrEqual(0);
      }),
    );
  });
});

describe('what students are narrowed to', () => {
  it('tells who was away from who is only quieter than usual', () => {
    const shown = (silence: number, days: number) => {
      const subject = {
        id: 1,
        measured: { activityKnown: true, rhythm: { silence, usualGap: 2 } } as StudentMeasures,
        figures: () => ({ days }) as DayFigures,
        openedOnly: () => 0,
      };
      const window = { from: '2026-11-01', to: '2026-11-07', before: null };
      return ACTIVITY_SHOWS.filter((show) => judge(activityShows[show], [subject], { window })[0]);
    };
    expect(shown(5, 1)).toEqual(['all', 'quiet']);
    expect(shown(4, 1)).toEqual(['all']);
    expect(shown(5, 0)).toEqual(['all', 'away']);
  });
});

describe('a table as a file', () => {
  const table = (rows: (string | number | null | { at: number })[][]) => ({
    name: 'x',
    about: [],
    head: ['A', 'B'],
    rows,
    zone: 'Europe/Lisbon',
  });
  it('is read back by a strict reader (RFC 4180), formulas made harmless', () => {
    const csv = sheetCsv(
      table([
        ['=1+1', -5],
        ['a "quote",\nand more', { at: Date.parse('2026-11-25T10:00:00Z') }],
      ]),
    );
    expect(parse(csv)).toEqual([
      ['A', 'B'],
      ["'=1+1", '-5'],
      ['a "quote",\nand more', '2026-11-25T10:00:00Z'],
    ]);
  });
  it('holds the wall clock of the course, over a change of clocks too', () => {
    // Europe/Lisbon is an hour ahead of UTC until 25 October 2026 (tz database).
    const wall = (at: string) => wallDate(Date.parse(at), 'Europe/Lisbon').toISOString();
    expect(wall('2026-10-24T22:59:00Z')).toBe('2026-10-24T23:59:00.000Z');
    expect(wall('2026-11-25T22:59:00Z')).toBe('2026-11-25T22:59:00.000Z');
  });
});
