'use client';
import { pickedFor, type Picked } from '@/core/acts/pick';
import { TREND_SHOWS, trendShows, type TrendShow } from '@/core/tables/trendShow';
import type { TrendsView } from '@/core/views/trends';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { counted, spanText } from '@/core/format';
import { Panel, ViewHead } from '../parts/Panel';
import { Sparkline } from '../parts/Sparkline';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { Multiples } from './Multiples';
import { StandingChart } from './StandingChart';
import { studentColumn } from '@/core/tables/people';
import { trendsTable, turnWords } from '@/core/tables/trends';

const LABELS: Record<TrendShow, string> = {
  all: 'Everyone',
  falling: 'Falling',
  though: 'Falling despite the time',
  rising: 'Rising',
  down: 'Dropped',
  up: 'Rose',
};

const ADDRESS = address({ show: 'all', tab: 'standing', sort: trendsTable.usual, student: null });

/** The weekly standing of the class, and whose goes another way. */
export function Trends({ view }: { readonly view: TrendsView }) {
  const { code } = view.course;
  const { asked, ask, note } = useAddress(ADDRESS);
  const { picked, pick, toggle } = usePick(view);
  const shown = TREND_SHOWS.find((s) => s === asked.show) ?? 'all';
  const tab = asked.tab === 'assignments' ? 'assignments' : 'standing';
  // Of the whole term there is nothing before to compare with.
  const hasBefore = view.scope.window.from > view.scope.termStart;
  const rows = trendsTable.rows(view, { show: shown });
  const window = spanText(view.scope.window);
  const reasons: Record<TrendShow, Picked> = {
    all: pickedFor('selected from the trends'),
    falling: pickedFor('grades falling against the class', 'slipping'),
    though: pickedFor('grades falling despite the time on task', 'slipping'),
    rising: pickedFor('grades rising against the class', 'improved'),
    down: pickedFor(`results dropped, ${window}`, 'slipping'),
    up: pickedFor(`results rose, ${window}`, 'improved'),
  };
  return (
    <>
      <ViewHead title={headline(view)}>{subline(view)}</ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} />
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Look at"
          value={tab}
          options={[
            { value: 'standing', label: 'Standing by week' },
            { value: 'assignments', label: 'All assignments' },
          ]}
          onChange={(v) => note({ tab: v })}
        />
      </div>
      <Panel className="mb-3 p-4">
        {tab === 'assignments' ? <Multiples view={view} /> : <StandingChart view={view} />}
      </Panel>
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Show"
          value={shown}
          options={TREND_SHOWS.filter(
            (value) => hasBefore || value === shown || (value !== 'down' && value !== 'up'),
          ).map((value) => ({
            value,
            label: LABELS[value],
            count: view.rows.filter(trendShows[value]).length,
          }))}
          onChange={(v) => note({ show: v })}
        />
        {shown !== 'all' && rows.length > 0 ? (
          <Button
            small
            onClick={() =>
              pick(
                rows.map((r) => r.enrolmentId),
                reasons[shown],
              )
            }
          >
            Select these {rows.length}
          </Button>
        ) : null}
        <span className="ml-auto">
          <ExportLinks
            code={code}
            list="trends"
            extra={{ show: shown === 'all' ? null : shown, sort: asked.sort }}
          />
        </span>
      </div>
      <DataTable
        label="Trend of each student"
        columns={trendsTable.columns(view, {})}
        show={{
          name: (r) => (
            <StudentLink code={code} id={r.enrolmentId} from="trends">
              {studentColumn.words!(r)}
            </StudentLink>
          ),
          line: (r) => <Sparkline values={r.weeks} />,
          turn: (r) => (r.turn == null ? <span className="text-muted">{turnWords(r)}</span> : turnWords(r)),
          beside: (r) => (
            <Button
              look="quiet"
              small
              aria-pressed={view.student?.id === r.enrolmentId}
              onClick={() =>
                ask({ student: view.student?.id === r.enrolmentId ? null : String(r.enrolmentId) })
              }
            >
              {view.student?.id === r.enrolmentId ? 'hide' : 'show'}
              <span className="sr-only">
                {' '}
                {r.given} {r.family} in the chart
              </span>
            </Button>
          ),
        }}
        rows={rows}
        idOf={(r) => r.enrolmentId}
        start={asked.sort}
        onSort={(sort) => note({ sort })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}`}
        onPick={(r) => toggle(r.enrolmentId, reasons[shown])}
        empty={shown === 'all' ? 'Nobody is in this group.' : 'Nobody: that is good news or too little data.'}
      />
    </>
  );
}

function headline(view: TrendsView): string {
  const falling = view.rows.filter(trendShows.falling).length;
  const though = view.rows.filter(trendShows.though).length;
  if (view.rows.length === 0) return 'Nobody is in this group';
  if (falling === 0) return 'Nobody is falling against the class';
  return `${counted(falling, 'student')} ${falling === 1 ? 'is' : 'are'} falling against the class${though > 0 ? `, ${though} of them despite the time they put in` : ''}`;
}

function subline(view: TrendsView): string {
  if (view.rows.length === 0) return 'Choose another section, or import the roster.';
  const down = view.rows.filter(trendShows.down).length;
  const up = view.rows.filter(trendShows.up).length;
  const unknown = view.rows.filter((r) => r.direction === 'unknown').length;
  const turns =
    view.scope.window.from > view.scope.termStart
      ? `${spanText(view.scope.window)}: ${down} dropped, ${up} rose. `
      : '';
  return `${turns}${unknown === 0 ? 'Everybody has enough graded assignments for a trend.' : `Too few graded assignments for a trend of ${counted(unknown, 'student')}.`}`;
}
