'use client';
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
import { useQuery } from '../ribbon/useQuery';
import { Multiples } from './Multiples';
import { StandingChart } from './StandingChart';
import { studentColumn } from '@/core/tables/people';
import { trendsTable, turnWords } from '@/core/tables/trends';

const LABELS: Record<TrendShow, string> = {
  all: 'Everyone',
  falling: 'Falling',
  though: 'Falling though they work',
  rising: 'Rising',
  down: 'Turned down',
  up: 'Turned up',
};

/** The weekly standing of the class, and whose goes another way. */
export function Trends({ view }: { readonly view: TrendsView }) {
  const { code } = view.course;
  const { query, change, note } = useQuery();
  const { picked, pick, toggle } = usePick(code, view.tray);
  const shown = TREND_SHOWS.find((s) => s === query.get('show')) ?? 'all';
  const tab = query.get('tab') === 'works' ? 'works' : 'standing';
  const rows = trendsTable.rows(view, { show: shown });
  const window = spanText(view.scope.window);
  const reasons: Record<TrendShow, string> = {
    all: 'picked from the trends',
    falling: 'grades falling against the class',
    though: 'grades falling though they work',
    rising: 'grades rising against the class',
    down: `work turned down ${window}`,
    up: `work turned up ${window}`,
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
            { value: 'works', label: 'All works' },
          ]}
          onChange={(v) => note({ tab: v === 'standing' ? null : v })}
        />
      </div>
      <Panel className="mb-3 p-4">
        {tab === 'works' ? <Multiples view={view} /> : <StandingChart view={view} />}
      </Panel>
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Show"
          value={shown}
          options={TREND_SHOWS.map((value) => ({
            value,
            label: LABELS[value],
            count: view.rows.filter(trendShows[value]).length,
          }))}
          onChange={(v) => note({ show: v === 'all' ? null : v })}
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
            Pick these {rows.length}
          </Button>
        ) : null}
        <span className="ml-auto">
          <ExportLinks
            code={code}
            list="trends"
            extra={{ show: shown === 'all' ? null : shown, sort: query.get('sort') }}
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
          turn: (r) =>
            r.turn == null ? (
              <span className="text-muted">too few works</span>
            ) : (
              <span title={`${r.turn.works} works against ${r.turn.worksBefore}`}>{turnWords(r)}</span>
            ),
          beside: (r) => (
            <Button
              look="quiet"
              small
              aria-pressed={view.student?.id === r.enrolmentId}
              onClick={() =>
                change({ student: view.student?.id === r.enrolmentId ? null : String(r.enrolmentId) })
              }
            >
              {view.student?.id === r.enrolmentId ? 'take out' : 'show'}
              <span className="sr-only">
                {' '}
                {r.given} {r.family} in the chart
              </span>
            </Button>
          ),
        }}
        rows={rows}
        idOf={(r) => r.enrolmentId}
        start={query.get('sort') ?? trendsTable.usual}
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
  if (falling === 0) return 'Nobody falls against the class';
  return `${counted(falling, 'student')} ${falling === 1 ? 'falls' : 'fall'} against the class${though > 0 ? `, ${though} of them though they work` : ''}`;
}

function subline(view: TrendsView): string {
  if (view.rows.length === 0) return 'Choose another section, or import the roster.';
  const down = view.rows.filter(trendShows.down).length;
  const up = view.rows.filter(trendShows.up).length;
  const unknown = view.rows.filter((r) => r.direction === 'unknown').length;
  return `In ${spanText(view.scope.window)} ${down} turned down and ${up} up. Too little data for ${unknown}.`;
}
