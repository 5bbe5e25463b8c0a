import { parse } from 'csv-parse/sync';
import { eq } from 'drizzle-orm';
import readWorkbook from 'read-excel-file/node';
import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { sheetCsv } from '@/core/formats/sheet';
import { persons } from '@/data/schema';
import { exportTable } from './tables';
import { sheetXlsx } from './xlsx';

const small = withSmallCourse();
const code = 'NAV';
const term = { w: 'term', g: 'all', k: 'all' };
const ines = () => small.course.instructor;

describe('what leaves as a file', () => {
  it('is what stands on screen: filter, order and window', async () => {
    const table = await exportTable(ines(), code, 'missing', { ...term, sort: 'title-' });
    expect(table.name).toBe('NAV-missing-2026-09-28_2026-10-28');
    expect(table.rows.map((r) => r[4])).toEqual(['Tides quiz', 'Chart exercise 3', 'Chart exercise 2']);
    const grades = await exportTable(ines(), code, 'gradebook', {
      ...term,
      status: 'missing',
      sort: 'standing',
    });
    expect(grades.rows.map((r) => r[1])).toEqual(['Yıldız']);
    const away = await exportTable(ines(), code, 'activity', { ...term, w: '7d', show: 'away' });
    expect(away.rows.map((r) => r[1])).toEqual(['Yıldız']);
    expect(new Map(away.about.map(([k, v]) => [k, v])).get('Window')).toBe('2026-10-22 to 2026-10-28');
    for (const name of [
      'roster',
      'contacts',
      'joined-left',
      'late',
      'excused',
      'awaiting',
      'resources',
      'trends',
      'week',
    ])
      expect((await exportTable(ines(), code, name, term)).rows.length).toBeGreaterThan(0);
    await expect(exportTable(ines(), code, 'secrets', term)).rejects.toThrow(/no such list/);
    await expect(exportTable(ines(), code, 'work', term)).rejects.toThrow(/which assignment/);
  });

  it('is read back by an independent reader: numbers as numbers, dates on the course’s clock, no formula', async () => {
    await small.test.db.orm
      .update(persons)
      .set({ family: '=HYPERLINK("http://x.example")' })
      .where(eq(persons.externalId, 's3'));
    const table = await exportTable(ines(), code, 'late', term);
    const sheets = await readWorkbook(await sheetXlsx(table));
    const rows = sheets[0]!.data;
    expect(rows[0]!.slice(0, 5)).toEqual([
      'Student id',
      'Family name',
      'Given name',
      'Section',
      'Assignment',
    ]);
    const [line] = rows.slice(1);
    expect(line![1]).toBe('=HYPERLINK("http://x.example")');
    expect(line!.slice(8)).toEqual([1, 13, 20]);
    // 19 October 2026, 10:00 UTC is 11:00 in Lisbon (tz database).
    const handedIn = line![7];
    // A spreadsheet counts days with fractions: to the millisecond is as near as it comes.
    expect(handedIn instanceof Date ? Math.round(handedIn.getTime() / 1000) : null).toBe(
      Date.parse('2026-10-19T11:00:00Z') / 1000,
    );
    expect(sheets[1]!.data.map((r) => r[0])).toContain('Window');
    const csv: string[][] = parse(sheetCsv(table));
    expect(csv[1]![1]).toBe('\'=HYPERLINK("http://x.example")');
    expect(csv[1]![7]).toBe('2026-10-19T10:00:00Z');
  });

  it('is for who teaches the course', async () => {
    const { viewer } = await small.course.student('s1');
    await expect(exportTable(viewer, code, 'roster', term)).rejects.toThrow();
    await expect(exportTable(small.course.stranger, code, 'gradebook', term)).rejects.toThrow();
  });
});
