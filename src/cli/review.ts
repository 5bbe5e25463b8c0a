import { ANY_YEAR, parseInstant } from '@/core/calendar/instant';
import type { TableSpec } from '@/core/formats/table';
import { groupBy } from '@/core/groupBy';
import { recallOf } from '@/core/plans/recall';
import type { Instant } from '@/core/units';
import { csvOf } from './csv';
import { byCode, readRows } from './input';

interface AnswerRow {
  readonly student: string;
  readonly item: string;
  readonly at: Instant;
  readonly right: boolean;
}

const spec: TableSpec<AnswerRow> = {
  required: ['student', 'item', 'at', 'right'],
  optional: [],
  read: (row) => {
    row.required('at');
    row.required('right');
    return {
      student: row.required('student'),
      item: row.required('item'),
      at: row.read('at', (text) => parseInstant(text, ANY_YEAR)) ?? 0,
      right: row.oneOf('right', ['0', '1'] as const) === '1',
    };
  },
};

/** `review`: how well each student still knows each item, as CSV by student and item. */
export function reviewCommand(file: string, asOf: Instant): string {
  const rows = [...groupBy(readRows(file, spec), (r) => r.student)].flatMap(([student, own]) =>
    [...groupBy(own, (r) => r.item)].flatMap(([item, answers]) => {
      const found = recallOf(answers, asOf);
      return found ? [{ student, item, ...found }] : [];
    }),
  );
  return csvOf(
    ['student', 'item', 'half_life_days', 'recall', 'due'],
    rows
      .sort((a, b) => byCode(a.student, b.student) || byCode(a.item, b.item))
      .map((r) => [r.student, r.item, r.halfLifeDays, r.recall, String(r.due)]),
  );
}
