'use client';
import { useState } from 'react';
import { saveActivityColumnsAction } from '@/actions/views';
import { weekOfDate } from '@/core/calendar/term';
import { activityShows, isActivityShow, isQuiet, type ActivityShow } from '@/core/tables/activityShow';
import {
  ACTIVITY_COLUMNS,
  type ActivityColumn,
  type ActivityRow,
  type ActivityView,
} from '@/core/views/activity';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable, type DataColumn } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { dayAndTime, oneDigit, spanText } from '../parts/format';
import { Sheet } from '../parts/Sheet';
import { StudentLink } from '../parts/StudentLink';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';
import { useQuery } from '../ribbon/useQuery';

const whole = (n: number) => Math.round(n);

/** Columns of the table, each with what its figure means. */
export const COLUMN_WORDS: Readonly<Record<ActivityColumn, { label: string; means: string }>> = {
  days: { label: 'Days', means: 'Local days in the window on which anything was recorded.' },
  minutes: {
    label: 'Minutes',
    means:
      'Time on task in the window: between the events of a sitting, a gap over the session limit ending it; the last event counts with the student’s usual time for that kind of activity.',
  },
  minutesBefore: { label: 'Before', means: 'Minutes in the as many days before the window.' },
  inClass: {
    label: 'In class',
    means: 'The part of the minutes that falls in a meeting of the student’s section.',
  },
  outside: { label: 'Outside', means: 'The part of the minutes outside every meeting.' },
  views: { label: 'Views', means: 'Things looked at: pages, films, works opened.' },
  contributions: { label: 'Contributions', means: 'Things done: practised, attempted, handed in, posted.' },
  opened: {
    label: 'Opened only',
    means: 'Works opened in the window in which nothing was done and nothing handed in so far.',
  },
  first: { label: 'First', means: 'Start of the first sitting in the window.' },
  last: { label: 'Last', means: 'End of the last sitting in the window.' },
  usualGap: {
    label: 'Usual gap',
    means: 'Median of the gaps between days with a login, in teaching days; breaks do not count.',
  },
  silence: { label: 'Silence', means: 'Teaching days since the last login, as of now; breaks do not count.' },
};

export function People({ view }: { readonly view: ActivityView }) {
  const { code, zone } = view.course;
  const { query, note } = useQuery();
  const { picked, pick, toggle } = usePick(code, view.tray);
  const [columnsOpen, setColumnsOpen] = useState(false);
  const asked = query.get('show');
  const show = isActivityShow(asked) ? asked : 'all';
  const byWeek = query.get('by');
  const measure = byWeek === 'minutes' || byWeek === 'days' || byWeek === 'inClass' ? byWeek : null;
  const reasons: Record<ActivityShow, string> = {
    all: 'picked from the activity',
    away: `no login ${spanText(view.scope.window)}`,
    quiet: 'silent for more than twice the usual gap',
    opened: 'opened work and did nothing in it',
  };
  const rows = view.people.filter(activityShows[show]);
  const name: DataColumn<ActivityRow> = {
    key: 'name',
    label: 'Student',
    value: (r) => `${r.family} ${r.given}`,
    show: (r) => (
      <StudentLink code={code} id={r.enrolmentId} from="activity">
        {`${r.family}, ${r.given}`}
      </StudentLink>
    ),
  };
  const section: DataColumn<ActivityRow> = { key: 'section', label: 'Section', value: (r) => r.section };
  const spec: Record<ActivityColumn, Pick<DataColumn<ActivityRow>, 'value' | 'show'>> = {
    days: { value: (r) => r.days },
    minutes: { value: (r) => whole(r.minutes) },
    minutesBefore: { value: (r) => (r.minutesBefore == null ? null : whole(r.minutesBefore)) },
    inClass: { value: (r) => whole(r.inClass) },
    outside: { value: (r) => whole(r.outside) },
    views: { value: (r) => r.views },
    contributions: { value: (r) => r.contributions },
    opened: { value: (r) => r.opened },
    first: { value: (r) => r.first, show: (r) => (r.first == null ? '' : dayAndTime(r.first, zone)) },
    last: {
      value: (r) => r.last,
      show: (r) =>
        r.last != null ? (
          dayAndTime(r.last, zone)
        ) : (
          <span className="text-plum">{r.lastSeen == null ? 'never seen' : 'not in these days'}</span>
        ),
    },
    usualGap: {
      value: (r) => r.usualGap,
      show: (r) =>
        r.usualGap == null ? <span className="text-muted">no rhythm yet</span> : oneDigit(r.usualGap),
    },
    silence: {
      value: (r) => r.silence,
      show: (r) => <span className={isQuiet(r) ? 'text-plum font-semibold' : ''}>{r.silence}</span>,
    },
  };
  const weeks = view.people[0]?.weeks.length ?? 0;
  const first = weekOfDate(
    { zone, start: view.scope.termStart, weeks: view.course.weeks, breaks: [] },
    view.scope.window.from,
  );
  const columns: DataColumn<ActivityRow>[] = measure
    ? [
        name,
        ...Array.from({ length: weeks }, (_, i) => ({
          key: `w${i}`,
          label: `${i + 1}`,
          means: i + 1 >= first ? 'In the window.' : undefined,
          right: true,
          value: (r: ActivityRow) => whole(r.weeks[i]?.[measure] ?? 0),
        })),
      ]
    : [
        name,
        section,
        ...view.columns.map((key) => ({ key, right: true, ...COLUMN_WORDS[key], ...spec[key] })),
      ];
  return (
    <>
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Show"
          value={show}
          options={[
            { value: 'all', label: 'Everyone', count: view.people.length },
            { value: 'away', label: 'Not logged in', count: view.people.filter(activityShows.away).length },
            {
              value: 'quiet',
              label: 'Quieter than usual',
              count: view.people.filter(activityShows.quiet).length,
            },
            { value: 'opened', label: 'Opened only', count: view.people.filter(activityShows.opened).length },
          ]}
          onChange={(v) => note({ show: v === 'all' ? null : v })}
        />
        {show !== 'all' && rows.length > 0 ? (
          <Button
            small
            onClick={() =>
              pick(
                rows.map((r) => r.enrolmentId),
                reasons[show],
              )
            }
          >
            Pick these {rows.length}
          </Button>
        ) : null}
        <span className="ml-auto flex items-center gap-2">
          <Chips
            label="Columns are"
            value={measure ?? 'window'}
            options={[
              { value: 'window', label: 'The window' },
              { value: 'minutes', label: 'Minutes a week' },
              { value: 'days', label: 'Days a week' },
              { value: 'inClass', label: 'In class a week' },
            ]}
            onChange={(v) => note({ by: v === 'window' ? null : v })}
          />
          <Button look="quiet" small onClick={() => setColumnsOpen(true)}>
            Columns …
          </Button>
          <ExportLinks
            code={code}
            list="activity"
            extra={{ show: show === 'all' ? null : show, sort: query.get('sort') }}
          />
        </span>
      </div>
      <DataTable
        key={measure ?? 'window'}
        label="Activity of each student"
        columns={columns}
        rows={rows}
        idOf={(r) => r.enrolmentId}
        start={startSort(query.get('sort'))}
        onSort={(s) => note({ sort: `${s.by}${s.down ? '-' : ''}` })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}`}
        onPick={(r) => toggle(r.enrolmentId, reasons[show])}
        empty={
          show === 'all'
            ? 'Nobody is in this group. Choose another above.'
            : 'Nobody: choose “Everyone” to see all.'
        }
      />
      {columnsOpen ? (
        <ColumnsSheet code={code} columns={view.columns} onClose={() => setColumnsOpen(false)} />
      ) : null}
    </>
  );
}

/** `minutes-` is by minutes, the most first. */
export const startSort = (text: string | null) =>
  text ? { by: text.replace(/-$/, ''), down: text.endsWith('-') } : { by: 'name', down: false };

/** Which columns, and in which order: kept for the next time. */
function ColumnsSheet({
  code,
  columns,
  onClose,
}: {
  readonly code: string;
  readonly columns: readonly ActivityColumn[];
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const [order, setOrder] = useState<readonly ActivityColumn[]>([
    ...columns,
    ...ACTIVITY_COLUMNS.filter((c) => !columns.includes(c)),
  ]);
  const [on, setOn] = useState<ReadonlySet<ActivityColumn>>(new Set(columns));
  const move = (i: number, by: number) => {
    const next = [...order];
    const [moved] = next.splice(i, 1);
    next.splice(i + by, 0, moved!);
    setOrder(next);
  };
  return (
    <Sheet open onOpenChange={onClose} title="Columns" description="Choose them and put them in order.">
      <ol className="mb-4 space-y-1">
        {order.map((c, i) => (
          <li key={c} className="flex items-center gap-2">
            <label className="flex flex-1 items-center gap-2">
              <input
                type="checkbox"
                className="accent-teal size-4"
                checked={on.has(c)}
                onChange={(e) =>
                  setOn(new Set(e.target.checked ? [...on, c] : [...on].filter((x) => x !== c)))
                }
              />
              {COLUMN_WORDS[c].label}
            </label>
            <Button
              look="quiet"
              small
              disabled={i === 0}
              aria-label={`Move ${COLUMN_WORDS[c].label} up`}
              onClick={() => move(i, -1)}
            >
              ↑
            </Button>
            <Button
              look="quiet"
              small
              disabled={i === order.length - 1}
              aria-label={`Move ${COLUMN_WORDS[c].label} down`}
              onClick={() => move(i, 1)}
            >
              ↓
            </Button>
          </li>
        ))}
      </ol>
      <Button
        look="main"
        disabled={busy || on.size === 0}
        onClick={() =>
          act(() => saveActivityColumnsAction({ code, columns: order.filter((c) => on.has(c)) }), {
            done: 'The columns are kept.',
            then: onClose,
          })
        }
      >
        Keep these columns
      </Button>
    </Sheet>
  );
}
