import type { OutcomeRow, OutcomesView } from '../views/outcomes';
import { sectionColumn, studentColumn } from './people';
import { called, percent, type Column, type Table } from './table';

/** The key of the column of an outcome. */
export const outcomeKey = (id: number): string => `o${id}`;

const outcomeColumn = (id: number, title: string): Column<OutcomeRow> => ({
  key: outcomeKey(id),
  label: title,
  // What too little is known of stands behind what is known, either way.
  value: (r) => (r.cells[id]?.level === 'too little data' ? null : percent(r.cells[id]?.mean)),
  words: (r) => r.cells[id]?.level ?? 'too little data',
  file: [
    { head: `${title} %`, cell: (r) => percent(r.cells[id]?.mean) },
    { head: `${title}, from %`, cell: (r) => percent(r.cells[id]?.low) },
    { head: `${title}, to %`, cell: (r) => percent(r.cells[id]?.high) },
    { head: `${title}, items seen %`, cell: (r) => percent(r.cells[id]?.coverage?.seen) },
    { head: `${title}, items right %`, cell: (r) => percent(r.cells[id]?.coverage?.right) },
    { head: `${title}, level`, cell: (r) => r.cells[id]?.level ?? 'too little data' },
  ],
});

/** How far each student is with each outcome; the outcomes with which the class stands worst come first. */
export const outcomesTable: Table<OutcomesView, OutcomeRow> = {
  name: 'outcomes',
  usual: 'behind-',
  columns: ({ outcomes }) => [
    {
      ...studentColumn,
      file: [...studentColumn.file!, { head: sectionColumn.label, cell: (r: OutcomeRow) => r.section }],
    },
    {
      key: 'behind',
      label: 'Not yet',
      means: 'Outcomes that this student has not reached yet.',
      right: true,
      value: (r) => r.behind,
      file: called('Outcomes not yet reached', (r) => r.behind),
    },
    ...outcomes.filter((o) => o.taught).map((o) => outcomeColumn(o.id, o.title)),
  ],
  rows: ({ rows }) => rows,
  filter: () => 'everyone',
};
