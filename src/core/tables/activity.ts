import { weekOfDate } from '../calendar/term';
import { dayAndTime } from '../format';
import { measureOf, MEASURES } from '../measures/registry';
import type { ActivityColumn, ActivityRow, ActivityView } from '../views/activity';
import { isActivityShow } from '../views/activity';
import { sectionColumn, studentColumn } from './people';
import { at, called, type AskedTable, type Column, type Table } from './table';

/** What each column may be of: the window, or every week of the term so far. */
export const WEEK_FIGURES = ['minutes', 'days', 'inClass'] as const;
export type WeekFigure = (typeof WEEK_FIGURES)[number];
export const weekFigureOf = ({ by }: AskedTable): WeekFigure | null =>
  WEEK_FIGURES.find((f) => f === by) ?? null;

/** What files say in full that a narrow column of the screen shortens. */
const IN_FULL: Partial<Record<ActivityColumn, string>> = {
  days: 'Days with a login',
  minutesBefore: 'Minutes before',
  inClass: 'Minutes in class',
  outside: 'Minutes outside class',
  opened: 'Assignments opened only',
  usualGap: 'Usual gap, teaching days',
  silence: 'Silence, teaching days',
};

function figureColumn(key: ActivityColumn, zone: string): Column<ActivityRow> {
  const { name, means, unit, unknown, words } = measureOf(key);
  const head = IN_FULL[key] ?? name;
  const column = { key, label: name, means, right: true, value: (r: ActivityRow) => r[key] };
  if (unit === 'instant')
    return {
      ...column,
      words: (r) => {
        const moment = r[key];
        if (moment != null) return dayAndTime(moment, zone);
        return key === 'first' ? '' : r.lastSeen == null ? 'never seen' : unknown;
      },
      file: called(head, (r) => at(r[key])),
    };
  return {
    ...column,
    words: (r) => {
      const value = r[key];
      return value == null ? (key === 'usualGap' ? unknown : 'none') : words(value);
    },
    file: called(head, (r) => r[key]),
  };
}

const WEEK_WORDS: Readonly<Record<WeekFigure, string>> = {
  minutes: MEASURES.minutes.name,
  days: MEASURES.days.name,
  inClass: MEASURES.inClass.name,
};

function weekColumns(view: ActivityView, figure: WeekFigure): Column<ActivityRow>[] {
  const { scope, course } = view;
  const term = { zone: course.zone, start: scope.termStart, weeks: course.weeks, breaks: [] };
  const first = weekOfDate(term, scope.window.from);
  return (view.people[0]?.weeks ?? []).map((_, i) => ({
    key: `w${i}`,
    label: `${i + 1}`,
    means: i + 1 >= first ? 'In the window.' : undefined,
    right: true,
    value: (r) => r.weeks[i]?.[figure] ?? 0,
    words: (r) => String(Math.round(r.weeks[i]?.[figure] ?? 0)),
    file: called(`${WEEK_WORDS[figure]}, week ${i + 1}`, (r) => r.weeks[i]?.[figure] ?? 0),
  }));
}

/** What each student did. */
export const activityTable: Table<ActivityView, ActivityRow> = {
  name: 'activity',
  usual: 'name',
  columns: (view, asked) => {
    const figure = weekFigureOf(asked);
    return figure
      ? [studentColumn, ...weekColumns(view, figure)]
      : [studentColumn, sectionColumn, ...view.columns.map((key) => figureColumn(key, view.course.zone))];
  },
  rows: ({ people }, { show = 'all' }) =>
    isActivityShow(show) ? people.filter((r) => r.shows.includes(show)) : people,
  filter: (_, { show }) => (isActivityShow(show) && show !== 'all' ? show : 'everyone'),
};
