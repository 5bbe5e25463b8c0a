import { binned, binWidth } from '../gradebook/distribution';
import { oneDigit, weekdayAndTime } from '../format';
import type { WorkRow, WorkView } from '../views/work';
import { waitsForGrade } from './gradeFilters';
import { sectionColumn, studentColumn } from './people';
import { at, type AskedTable, type Table } from './table';

export const WORK_SHOWS = ['missing', 'late', 'excused', 'awaiting grade', 'graded', 'no due date'] as const;
export type WorkShow = 'all' | (typeof WORK_SHOWS)[number];

export const workShowOf = ({ status }: AskedTable): WorkShow => WORK_SHOWS.find((s) => s === status) ?? 'all';

/** Whether a row is of what is asked for. Late work that waits for a grade is both. */
export function workShows(row: WorkRow, show: WorkShow, maximum: number | null): boolean {
  if (show === 'all') return true;
  if (show === 'late') return row.late;
  if (show === 'awaiting grade') return waitsForGrade(row.status, maximum);
  return row.status === show;
}

const isGraded = (r: WorkRow) => r.status === 'graded' && r.points != null;

/** The bars of a work: students by points. */
export const workBins = ({ maximum, rows }: Pick<WorkView, 'maximum' | 'rows'>) =>
  maximum
    ? binned(
        rows.filter(isGraded).map((r) => r.points!),
        maximum,
        binWidth(maximum, 12),
      )
    : [];

export type BinRange = readonly [first: number, last: number];

/** The bars swept over, first and last: `3-5`; null for none. */
export function rangeOf({ range }: AskedTable, bins: number): BinRange | null {
  const [, from, to] = /^(\d{1,3})-(\d{1,3})$/.exec(range ?? '') ?? [];
  if (from == null || to == null || Number(from) > Number(to) || Number(to) >= bins) return null;
  return [Number(from), Number(to)];
}

function inRange(view: WorkView, range: BinRange | null): (r: WorkRow) => boolean {
  if (!range) return () => true;
  const bins = workBins(view);
  const width = binWidth(view.maximum!, 12);
  const binOf = (points: number) => Math.min(bins.length - 1, Math.max(0, Math.floor(points / width)));
  return (r) => isGraded(r) && binOf(r.points!) >= range[0] && binOf(r.points!) <= range[1];
}

/** "20 h", from two days on "2.5 days". */
export const hoursText = (hours: number) =>
  hours < 48 ? `${Math.round(hours)} h` : `${oneDigit(hours / 24)} days`;

/** How each student did in one work. */
export const workTable: Table<WorkView, WorkRow> = {
  name: ({ id }) => `work-${id}`,
  usual: 'points',
  columns: ({ course: { zone } }) => [
    studentColumn,
    sectionColumn,
    {
      key: 'status',
      label: 'Status',
      value: (r) => r.status,
      words: (r) => `${r.status}${r.late && r.status !== 'late' ? ', late' : ''}`,
      file: [
        { head: 'Status', cell: (r) => r.status },
        { head: 'Late', cell: (r) => (r.late ? 'yes' : 'no') },
      ],
    },
    {
      key: 'points',
      label: 'Points',
      right: true,
      value: (r) => r.points,
      words: (r) => String(r.points ?? ''),
      file: [
        { head: 'Points', cell: (r) => r.points },
        { head: 'Per cent', cell: (r) => r.percent },
      ],
    },
    {
      key: 'submitted',
      label: 'Handed in',
      right: true,
      value: (r) => r.submitted,
      words: (r) => (r.submitted == null ? '' : weekdayAndTime(r.submitted, zone)),
      file: [{ head: 'Handed in', cell: (r) => at(r.submitted) }],
    },
    { key: 'attempts', label: 'Attempts', right: true, value: (r) => r.attempts },
    {
      key: 'minutes',
      label: 'Minutes',
      right: true,
      means: 'Time on this work over the whole term so far.',
      value: (r) => r.minutes,
      words: (r) => String(Math.round(r.minutes)),
    },
    {
      key: 'feedback',
      label: 'Feedback',
      right: true,
      means: 'From handing in to getting the grade back.',
      value: (r) => r.feedbackHours,
      words: (r) => (r.feedbackHours == null ? '' : hoursText(r.feedbackHours)),
      file: [{ head: 'Feedback after hours', cell: (r) => r.feedbackHours }],
    },
  ],
  rows: (view, asked) => {
    const show = workShowOf(asked);
    const swept = inRange(view, rangeOf(asked, workBins(view).length));
    return view.rows.filter((r) => workShows(r, show, view.maximum) && swept(r));
  },
  filter: (view, asked) => {
    const show = workShowOf(asked);
    const range = rangeOf(asked, workBins(view).length);
    const bins = workBins(view);
    return [
      show === 'all' ? 'everyone' : show,
      ...(range ? [`${bins[range[0]]!.from} to ${bins[range[1]]!.to} points`] : []),
    ].join(', ');
  },
};
