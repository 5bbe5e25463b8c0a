import { shortDay, weekdayAndTime } from '../format';
import {
  isPeopleList,
  type ListsView,
  type PeopleList,
  type RosterLine,
  type WorkLine,
  type WorkList,
} from '../views/lists';
import { missingColumn, sectionColumn, standingColumn, studentColumn } from './people';
import { at, type Column, type Table } from './table';

const DAYS: Readonly<Record<WorkList, string>> = {
  missing: 'Days ago',
  late: 'Days late',
  excused: 'Days',
  awaiting: 'Days waiting',
};

/** Assignments of one status, a line for each student and assignment. */
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
      label: isPeopleList(list) ? '' : DAYS[list],
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
        label: 'Assignment',
        value: (r) => r.title,
        file: [
          { head: 'Assignment', cell: (r) => r.title },
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

const day = (key: string, label: string, of: (r: RosterLine) => string | null): Column<RosterLine> => ({
  key,
  label,
  right: true,
  value: of,
  words: (r) => {
    const date = of(r);
    return date ? shortDay(date) : '';
  },
});

const idColumn: Column<RosterLine> = { key: 'id', label: 'Student id', value: (r) => r.studentId, file: [] };
const emailColumn: Column<RosterLine> = {
  key: 'email',
  label: 'E-mail',
  value: (r) => r.email,
  words: (r) => r.email ?? 'no address',
};
const statusColumn: Column<RosterLine> = { key: 'status', label: 'Status', value: (r) => r.status };
const seenColumn: Column<RosterLine> = {
  key: 'seen',
  label: 'Last seen',
  right: true,
  value: (r) => r.lastSeen,
  words: (r) => (r.lastSeen ? shortDay(r.lastSeen) : 'never'),
};
const joinedColumn = day('joined', 'Joined', (r) => r.joined);
const leftColumn = day('left', 'Left', (r) => r.left);

const PEOPLE_COLUMNS: Readonly<Record<PeopleList, readonly Column<RosterLine>[]>> = {
  roster: [
    studentColumn,
    idColumn,
    emailColumn,
    sectionColumn,
    {
      ...statusColumn,
      file: [
        { head: 'Status', cell: (r) => r.status },
        { head: 'Joined', cell: (r) => r.joined },
      ],
    },
    seenColumn,
    missingColumn,
    standingColumn(),
  ],
  contacts: [studentColumn, idColumn, emailColumn, sectionColumn],
  'not-seen': [studentColumn, sectionColumn, seenColumn, missingColumn, standingColumn(), emailColumn],
  'joined-left': [studentColumn, idColumn, sectionColumn, statusColumn, joinedColumn, leftColumn],
};

const PEOPLE_FILTERS: Readonly<Record<PeopleList, string>> = {
  roster: 'everyone on the roster',
  contacts: 'active students',
  'not-seen': 'nothing recorded in the window',
  'joined-left': 'joined after the term began, or left',
};

/** People of the course: everybody, their addresses, who was not there, who came or went. */
export const peopleTable: Table<ListsView, RosterLine> = {
  name: ({ list }) => list,
  usual: 'name',
  columns: ({ list }) => PEOPLE_COLUMNS[isPeopleList(list) ? list : 'roster'],
  rows: ({ people }) => people,
  filter: ({ list }) => PEOPLE_FILTERS[isPeopleList(list) ? list : 'roster'],
};
