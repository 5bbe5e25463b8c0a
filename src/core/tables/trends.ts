import { oneDigit, spanText } from '../format';
import { TURN } from '../gradebook/turns';
import { MEASURES } from '../measures/registry';
import type { TrendRow, TrendsView } from '../views/trends';
import { sectionColumn, standingColumn, studentColumn } from './people';
import { called, type Column, type Table } from './table';
import { isTrendShow, trendShows } from './trendShow';

const change = (r: TrendRow): number | null => r.turn?.change ?? null;

/** "+9.5, rose". */
export const turnWords = ({ turn, turned }: TrendRow): string =>
  turn == null
    ? 'too few to compare'
    : `${turn.change > 0 ? '+' : ''}${oneDigit(turn.change)}${turned ? `, ${TURN_WORDS[turned]}` : ''}`;

export const TURN_WORDS = { down: 'dropped', up: 'rose' } as const;

const turnColumn = (days: string): Column<TrendRow> => ({
  key: 'turn',
  label: days,
  means: `Median of the assignments due in these days less the median of those before, each relative to the class. Dropped or rose: by ${TURN.points} points or more, with at least ${TURN.leastIn} assignments in these days and ${TURN.leastBefore} before.`,
  right: true,
  value: change,
  words: turnWords,
  file: called('Change in the window', change),
});

/** Where the standing of each student goes. */
export const trendsTable: Table<TrendsView, TrendRow> = {
  name: 'trends',
  usual: 'slope',
  columns: ({ scope, weeks }) => [
    {
      ...studentColumn,
      file: [...studentColumn.file!, { head: sectionColumn.label, cell: (r: TrendRow) => r.section }],
    },
    {
      key: 'line',
      label: 'Standing by week',
      value: (r) => r.standing,
      words: () => '',
      file: weeks.map((w, i) => ({ head: `Week ${w.week} %`, cell: (r) => r.weeks[i] ?? null })),
    },
    standingColumn('Now'),
    {
      key: 'slope',
      label: MEASURES.trend.name,
      right: true,
      means: MEASURES.trend.means,
      value: (r) => r.relativePerWeek,
      words: (r) => (r.relativePerWeek == null ? '' : MEASURES.trend.words(r.relativePerWeek)),
      file: called('Points a week against the class', (r) => r.relativePerWeek),
    },
    {
      key: 'sentence',
      label: 'Against the class',
      wraps: true,
      value: (r) => r.sentence,
      file: called('Trend', (r) => r.sentence),
    },
    // Of the whole term there is nothing before to compare with.
    ...(scope.window.from > scope.termStart ? [turnColumn(spanText(scope.window))] : []),
    { key: 'beside', label: 'Chart', value: () => null, file: [] },
  ],
  rows: ({ rows }, { show }) => rows.filter(trendShows[isTrendShow(show) ? show : 'all']),
  filter: (_, { show }) => (isTrendShow(show) && show !== 'all' ? show : 'everyone'),
};
