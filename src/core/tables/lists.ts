import { shortDay, weekdayAndTime } from '../format';
import type { ListName, ListsView, RosterLine, WorkLine } from '../views/lists';
import { missingColumn, sectionColumn, standingColumn, studentColumn } from './people';
import { at, type Column, type Table } from './table';

const DAYS: Readonly<Record<ListName, string>> = {
  missing: 'Days ago',
  late: 'Days late',
  excused: 'Days',
  awaiting: 'Days waiting',
  roster: '',
};

/** Work of one status, a line for each student and assignment. */
export const workListTable: Table<ListsView, WorkLine> = {
  name: ({ list }) => list,
  usual: 'name',
  columns: ({ list, course: { zone } }) => {
    const time = (instant: number | null) => (instant == null ? '' : weekdayAndTime(instant, zone));
    const submitted: Column<WorkLine> = {
      key: 'submitted',
      label: 'Handed in',
      right: true,
      value: (r) => r.submitted,
      words: (r) => time(r.submitted),
      file: [{ head: 'Handed in', cell: (r) => at(r.submitted) }],
    };
    const days: Column<WorkLine> = {
      key: 'days',
      label: DAYS[list],
      right: true,
      value: (r) => r.days,
      file: [{ head: 'Days', cell: (r) => r.days }],
    };
    const points: Column<WorkLine> = {
      key: 'points',
      label: 'Points',
      right: true,
      value: (r) => r.points,
      words: (r) => (r.points == null ? 'to grade' : `${r.points} of ${r.maximum}`),
      file: [
        { head: 'Points', cell: (r) => r.points },
        { head: 'Maximum', cell: (r) => r.maximum },
      ],
    };
    return [
      studentColumn,
      sectionColumn,
      {
        key: 'title',
        label: 'Work',
        value: (r) => r.title,
        file: [
          { head: 'Work', cell: (r) => r.title },
          { head: 'Status', cell: (r) => r.status },
        ],
      },
      {
        key: 'due',
        label: 'Due',
        right: true,
        value: (r) => r.due,
        words: (r) => time(r.due) || 'no due date',
        file: [{ head: 'Due', cell: (r) => at(r.due) }],
      },
      ...(list === 'missing' ? [] : [submitted]),
      ...(list === 'excused' ? [] : [days]),
      ...(list === 'late' ? [points] : []),
    ];
  },
  rows: ({ works }) => works,
  filter: ({ list, dueInWindow }) => (dueInWindow ? `${list}, due in the window` : list),
};

/** Everybody on the roster. */
export const rosterTable: Table<ListsView, RosterLine> = {
  name: 'roster',
  usual: 'name',
  columns: () => [
    studentColumn,
    { key: 'id', label: 'Student id', value: (r) => r.studentId },
    { key: 'email', label: 'E-mail', value: (r) => r.email },
    sectionColumn,
    {
      key: 'status',
      label: 'Status',
      value: (r) => r.status,
      file: [
        { head: 'Status', cell: (r) => r.status },
        { head: 'Joined', cell: (r) => r.joined },
      ],
    },
    {
      key: 'seen',
      label: 'Last seen',
      right: true,
      value: (r) => r.lastSeen,
      words: (r) => (r.lastSeen ? shortDay(r.lastSeen) : 'never'),
    },
    missingColumn,
    standingColumn(),
  ],
  rows: ({ roster }) => roster,
  filter: () => 'everyone on the roster',
};
