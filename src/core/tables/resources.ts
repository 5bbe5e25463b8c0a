import { oneDigit, whole } from '../format';
import type { ActivityView, ResourceRow } from '../views/activity';
import { called, type Table } from './table';

const each = (r: ResourceRow): number | null => (r.openedBy === 0 ? null : r.minutes / r.openedBy);

/** Who opened each activity and page, how often and how long, and who never did. */
export const resourcesTable: Table<ActivityView, ResourceRow> = {
  name: 'resources',
  usual: 'openedBy-',
  columns: ({ people }) => [
    { key: 'title', label: 'Activity', value: (r) => r.title },
    { key: 'kind', label: 'Kind', value: (r) => r.kind },
    {
      key: 'openedBy',
      label: 'Opened by',
      right: true,
      means: 'Students who opened it in the window.',
      value: (r) => r.openedBy,
      words: (r) => `${r.openedBy} of ${people.length}`,
      file: [
        { head: 'Opened by', cell: (r) => r.openedBy },
        { head: 'Of', cell: () => people.length },
      ],
    },
    {
      key: 'views',
      label: 'Looked at',
      right: true,
      means: 'How often it was looked at in the window; a day on which it was only worked on counts once.',
      value: (r) => r.views,
    },
    {
      key: 'contributions',
      label: 'Parts done',
      right: true,
      means: 'Parts answered, practice, posts and hand-ins in the window, of all students together.',
      value: (r) => r.contributions,
    },
    {
      key: 'handedIn',
      label: 'Handed in',
      right: true,
      means: 'Students who had handed it in by the end of the window, in the window or before.',
      value: (r) => r.handedIn,
      words: (r) => (r.handedIn == null ? '' : `${r.handedIn} of ${people.length}`),
    },
    {
      key: 'minutes',
      label: 'Minutes',
      right: true,
      means: 'Time on it of all students together, in the window.',
      value: (r) => r.minutes,
      words: (r) => whole(r.minutes),
    },
    {
      key: 'each',
      label: 'Each',
      right: true,
      means: 'Minutes for each student who opened it.',
      value: each,
      words: (r) => (r.openedBy === 0 ? '' : oneDigit(r.minutes / r.openedBy)),
      file: called('Minutes each', each),
    },
    {
      key: 'never',
      label: 'Never opened',
      right: true,
      means: 'Students who had not opened it by the end of the window, in the window or before.',
      value: (r) => r.never.length,
      words: (r) => (r.never.length === 0 ? 'nobody' : String(r.never.length)),
    },
  ],
  rows: ({ resources }) => resources ?? [],
  filter: () => 'everything',
};
