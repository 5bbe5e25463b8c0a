import { binned, binWidth, type Bin } from '../gradebook/distribution';
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

/** The bars of an assignment: students by points. */
export const workBins = ({ maximum, rows }: Pick<WorkView, 'maximum' | 'rows'>) =>
  maximum
    ? binned(
        rows.filter(isGraded).map((r) => r.points!),
        maximum,
        Math.max(0.5, binWidth(maximum, 12)),
      )
    : [];

/** A range of points, both ends included. */
export interface PointRange {
  readonly from: number;
  readonly to: number;
}

/** The steps in which points are given: half points, or as fine as those that are there. */
export function pointStep({ rows }: Pick<WorkView, 'rows'>): number {
  const points = rows.flatMap((r) => (isGraded(r) ? [r.points!] : []));
  const fits = (step: number) => points.every((p) => Math.abs(p / step - Math.round(p / step)) < 1e-6);
  return [0.5, 0.25, 0.1].find(fits) ?? 0.01;
}

/** The range that an address asks for: `6-8.5`; null for none, or for what is no range. */
export function rangeOf({ range }: AskedTable): PointRange | null {
  const [, from, to] = /^(\d{1,5}(?:\.\d{1,2})?)-(\d{1,5}(?:\.\d{1,2})?)$/.exec(range ?? '') ?? [];
  if (from == null || to == null || Number(from) > Number(to)) return null;
  return { from: Number(from), to: Number(to) };
}

export const rangeText = ({ from, to }: PointRange): string => `${from}-${to}`;

/** The points between the ends of some bars, both included: a bar ends a step before the next begins. */
export function binsRange(
  bins: readonly Bin[],
  [first, last]: readonly [number, number],
  step: number,
): PointRange {
  const to = last === bins.length - 1 ? bins[last]!.to : bins[last]!.to - step;
  return { from: bins[first]!.from, to: Math.round(to * 100) / 100 };
}

/** The bars that a range touches, first and last. */
export function rangeBins(bins: readonly Bin[], { from, to }: PointRange): readonly [number, number] | null {
  const touched = bins.flatMap((b, i) =>
    from < b.to + (i === bins.length - 1 ? 1 : 0) && to >= b.from ? [i] : [],
  );
  return touched.length > 0 ? [touched[0]!, touched.at(-1)!] : null;
}

const inRange = (range: PointRange | null) => (r: WorkRow) =>
  !range || (isGraded(r) && r.points! >= range.from && r.points! <= range.to);

/** "20 h", from two days on "2.5 days". */
export const hoursText = (hours: number) =>
  hours < 48 ? `${Math.round(hours)} h` : `${oneDigit(hours / 24)} days`;

/** How each student did in one assignment. */
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
      means: 'Time on this assignment over the whole term so far.',
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
    const swept = inRange(rangeOf(asked));
    return view.rows.filter((r) => workShows(r, show, view.maximum) && swept(r));
  },
  filter: (_, asked) => {
    const show = workShowOf(asked);
    const range = rangeOf(asked);
    return [
      show === 'all' ? 'everyone' : show,
      ...(range ? [`${range.from} to ${range.to} points, both included`] : []),
    ].join(', ');
  },
};
