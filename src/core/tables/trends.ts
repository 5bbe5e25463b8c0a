import { oneDigit, spanText } from '../format';
import { TURN } from '../gradebook/turns';
import { MEASURES } from '../measures/registry';
import type { TrendRow, TrendsView } from '../views/trends';
import { sectionColumn, standingColumn, studentColumn } from './people';
import { called, type Table } from './table';
import { isTrendShow, trendShows } from './trendShow';

const change = (r: TrendRow): number | null => r.turn?.change ?? null;

/** "+9.5 turned up". */
export const turnWords = ({ turn, turned }: TrendRow): string =>
  turn == null
    ? 'too few works'
    : `${turn.change > 0 ? '+' : ''}${oneDigit(turn.change)}${turned ? ` turned ${turned}` : ''}`;

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
    {
      key: 'turn',
      label: `In ${spanText(scope.window)}`,
      means: `Median of the works due in the window less the median of those before, each relative to the class. It counts as a turn from ${TURN.points} points, with at least ${TURN.leastIn} works in the window and ${TURN.leastBefore} before.`,
      right: true,
      value: change,
      words: turnWords,
      file: called('Change in the window', change),
    },
    { key: 'beside', label: 'Chart', value: () => null, file: [] },
  ],
  rows: ({ rows }, { show }) => rows.filter(trendShows[isTrendShow(show) ? show : 'all']),
  filter: (_, { show }) => (isTrendShow(show) && show !== 'all' ? show : 'everyone'),
};
