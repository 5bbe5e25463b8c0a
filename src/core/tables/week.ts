import type { WeekView } from '../views/week';
import type { Table } from './table';

interface WeekLine {
  readonly question: string;
  readonly sentence: string;
  readonly name: string | null;
  readonly note: string | null;
  readonly rule: string;
}

/** The answers of the weekly look, a line for each name. */
export const weekTable: Table<WeekView, WeekLine> = {
  name: 'weekly-look',
  usual: '',
  columns: () => [
    { key: 'question', label: 'Question', value: (r) => r.question },
    { key: 'sentence', label: 'Answer', value: (r) => r.sentence },
    { key: 'name', label: 'Name', value: (r) => r.name },
    { key: 'note', label: 'Note', value: (r) => r.note },
    { key: 'rule', label: 'Rule', value: (r) => r.rule },
  ],
  rows: ({ answers }) =>
    answers.flatMap(({ question, sentence, rule, list }): WeekLine[] =>
      list.length === 0
        ? [{ question, sentence, name: null, note: null, rule }]
        : list.map(({ name, note }) => ({ question, sentence, name, note, rule })),
    ),
  filter: () => 'all answers',
};
