import type { WeekView } from '../views/week';
import type { Table } from './table';

interface WeekLine {
  readonly part: string;
  readonly sentence: string;
  readonly studentId: string | null;
  readonly name: string | null;
  readonly note: string | null;
  readonly rule: string;
}

/** The answers of the weekly look, a line for each name. */
export const weekTable: Table<WeekView, WeekLine> = {
  name: 'weekly-look',
  usual: '',
  columns: () => [
    { key: 'part', label: 'Part', value: (r) => r.part },
    { key: 'sentence', label: 'Answer', value: (r) => r.sentence },
    { key: 'id', label: 'Student id', value: (r) => r.studentId },
    { key: 'name', label: 'Name', value: (r) => r.name },
    { key: 'note', label: 'Note', value: (r) => r.note },
    { key: 'rule', label: 'Rule', value: (r) => r.rule },
  ],
  rows: ({ answers }) =>
    answers.flatMap(({ part, sentence, rule, list }): WeekLine[] =>
      list.length === 0
        ? [{ part, sentence, studentId: null, name: null, note: null, rule }]
        : list.map(({ studentId = null, name, note }) => ({ part, sentence, studentId, name, note, rule })),
    ),
  filter: () => 'all answers',
};
