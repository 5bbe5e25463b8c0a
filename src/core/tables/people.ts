import { percentText } from '../format';
import { MEASURES } from '../measures/registry';
import type { Column } from './table';

interface Person {
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
}

/** Who a row is about: one column to read; in files the id and both names. */
export const studentColumn: Column<Person> = {
  key: 'name',
  label: 'Student',
  value: (r) => `${r.family} ${r.given}`,
  words: (r) => `${r.family}, ${r.given}`,
  file: [
    { head: 'Student id', cell: (r) => r.studentId },
    { head: 'Family name', cell: (r) => r.family },
    { head: 'Given name', cell: (r) => r.given },
  ],
};

export const sectionColumn: Column<{ readonly section: string | null }> = {
  key: 'section',
  label: 'Section',
  value: (r) => r.section,
};

/** The standing, under whatever name the table gives it. */
export const standingColumn = (
  label = MEASURES.standing.name,
): Column<{ readonly standing: number | null }> => ({
  key: 'standing',
  label,
  right: true,
  value: (r) => r.standing,
  words: (r) => percentText(r.standing),
  file: [{ head: 'Standing %', cell: (r) => r.standing }],
});

export const missingColumn: Column<{ readonly missing: number | null }> = {
  key: 'missing',
  label: MEASURES.missing.name,
  right: true,
  value: (r) => r.missing,
};
