'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import {
  CHECK_STATES,
  CHECK_WORDS,
  USUAL_PIECE_MINUTES,
  type CheckState,
} from '@/core/activity/sessionCheck';
import type { CheckRow, SessionView } from '@/core/views/session';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { classes } from '../parts/classes';
import { Definition } from '../parts/Definition';
import { dayAndTime, oneDigit } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery } from '../ribbon/useQuery';
import { StudentReport } from './StudentReport';

const BACKS = ['15', '30', '60', '90', '180'] as const;
/** The period ends now, so it moves on by itself. */
const MOVE_ON_MS = 60_000;

const LOOK: Record<CheckState, string> = {
  'nothing opened': 'text-plum font-semibold',
  'lost or stuck': 'text-ochre font-semibold',
  working: 'text-ink',
  done: 'text-teal font-semibold',
};

/** For the end of a class or a lab: what each student has worked on, and who needs a word. */
export function SessionCheck({ view }: { readonly view: SessionView }) {
  const { code, zone } = view.course;
  const router = useRouter();
  const { query, change, note } = useQuery();
  const { picked, pick, toggle } = usePick(code, view.tray);
  useEffect(() => {
    if (view.back == null) return;
    const timer = setInterval(() => router.refresh(), MOVE_ON_MS);
    return () => clearInterval(timer);
  }, [router, view.back]);
  const shown = CHECK_STATES.find((s) => s === query.get('show')) ?? 'all';
  const rows = view.rows.filter((r) => shown === 'all' || r.state === shown);
  const groups = CHECK_STATES.map((state) => ({ state, rows: rows.filter((r) => r.state === state) }));
  const period = `${dayAndTime(view.from, zone)} to ${dayAndTime(view.until, zone).split(', ')[1]}`;
  if (view.report) return <StudentReport report={view.report} view={view} />;
  return (
    <>
      <ViewHead title={headline(view)}>{period}</ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} />
      <div className="no-print mb-3 flex flex-wrap items-center gap-3">
        <Chips
          label="Period"
          value={view.back == null ? 'meeting' : String(view.back)}
          options={[
            ...BACKS.map((b) => ({ value: b as string, label: `Last ${b} min` })),
            ...(view.back == null || BACKS.some((b) => b === String(view.back))
              ? []
              : [{ value: String(view.back), label: `Last ${view.back} min` }]),
          ]}
          onChange={(back) => change({ back, meeting: null })}
        />
        <label className="flex items-center gap-1.5 text-[13px]">
          Meeting
          <select
            className="border-edge/70 bg-panel rounded-md border px-1.5 py-0.5"
            value={view.back == null ? String(view.from) : ''}
            onChange={(e) => change({ meeting: e.target.value || null, back: null })}
          >
            <option value="">none</option>
            {view.meetings.map((m) => (
              <option key={`${m.sectionId}-${m.from}`} value={m.from}>
                {m.section}, {dayAndTime(m.from, zone)}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5 text-[13px]">
          or minutes back
          <input
            type="number"
            min={5}
            max={1440}
            defaultValue={view.back ?? ''}
            key={view.back ?? 'meeting'}
            className="border-edge/70 bg-panel w-20 rounded-md border px-1.5 py-0.5"
            onKeyDown={(e) => {
              if (e.key === 'Enter') change({ back: e.currentTarget.value || null, meeting: null });
            }}
          />
        </label>
        <Button look="quiet" small className="ml-auto" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <div className="no-print mb-3">
        <Chips
          label="Show"
          value={shown}
          options={[
            { value: 'all', label: 'Everyone', count: view.rows.length },
            ...CHECK_STATES.map((value) => ({
              value,
              label: value[0]!.toUpperCase() + value.slice(1),
              count: view.rows.filter((r) => r.state === value).length,
            })),
          ]}
          onChange={(v) => note({ show: v === 'all' ? null : v })}
        />
      </div>
      {rows.length === 0 ? (
        <Panel>
          <Nothing title="Nobody here">
            <p>
              {view.rows.length === 0
                ? 'Choose another section, or import the roster.'
                : 'Choose “Everyone”.'}
            </p>
          </Nothing>
        </Panel>
      ) : null}
      {groups
        .filter((g) => g.rows.length > 0)
        .map(({ state, rows: own }) => (
          <section key={state} aria-label={state} className="mb-4">
            <div className="mb-1 flex items-center gap-3">
              <h2 className={classes('font-serif text-lg first-letter:uppercase', LOOK[state])}>
                {state}: {own.length}
              </h2>
              <span className="text-muted text-[13px]">{CHECK_WORDS[state]}</span>
              <Button
                small
                className="ml-auto"
                aria-label={`Pick ${own.length}: ${state}`}
                onClick={() =>
                  pick(
                    own.map((r) => r.enrolmentId),
                    `${state} from ${period}`,
                  )
                }
              >
                Pick {own.length}
              </Button>
            </div>
            <Panel>
              <ul
                className={
                  state === 'nothing opened'
                    ? 'grid gap-x-4 sm:grid-cols-2 xl:grid-cols-3'
                    : 'divide-line divide-y'
                }
              >
                {own.map((row) => (
                  <li key={row.enrolmentId} className="flex gap-3 px-3 py-1.5">
                    <input
                      type="checkbox"
                      className="accent-teal mt-1 size-3.5 shrink-0"
                      aria-label={`Pick ${row.name}`}
                      checked={picked.has(row.enrolmentId)}
                      onChange={() => toggle(row.enrolmentId, `${state} from ${period}`)}
                    />
                    <span className={state === 'nothing opened' ? 'min-w-0 flex-1' : 'w-52 shrink-0'}>
                      <StudentLink code={code} id={row.enrolmentId} from="session">
                        {row.name}
                      </StudentLink>
                      <span className="text-muted block text-xs">
                        {row.section ?? 'no section'}
                        {state === 'nothing opened'
                          ? `, ${row.loggedIn ? 'logged in, opened nothing' : 'not logged in'}`
                          : ''}
                      </span>
                    </span>
                    {state === 'nothing opened' ? null : (
                      <span className="min-w-0 flex-1">
                        <Pieces row={row} />
                      </span>
                    )}
                    <span className="text-muted w-32 shrink-0 text-right text-[13px]">
                      {row.last == null ? '' : `last ${dayAndTime(row.last, zone).split(', ')[1]}`}
                      <button
                        type="button"
                        className="no-print hover:text-ink block w-full text-right underline"
                        onClick={() => change({ student: String(row.enrolmentId), span: 'day' })}
                      >
                        day, week, month<span className="sr-only"> of {row.name}</span>
                      </button>
                    </span>
                  </li>
                ))}
              </ul>
            </Panel>
          </section>
        ))}
      <p className="text-muted text-xs">
        What the time would allow
        <Definition of="What the time would allow">
          {`The period over the estimated minutes of the pieces a student opened, or over ${USUAL_PIECE_MINUTES} minutes a piece where nothing is known (common practice).`}
        </Definition>{' '}
        stands behind each count. A piece is handed in, worked on (something was done in it), or only opened.
      </p>
    </>
  );
}

function Pieces({ row }: { readonly row: CheckRow }) {
  return (
    <>
      <span className="text-muted text-[13px]">
        {oneDigit(row.minutes)} min; {row.advanced} of about {row.allowed} that the time would allow
      </span>
      <ul className="flex flex-wrap gap-x-4">
        {row.pieces.map((p) => (
          <li key={p.activityId}>
            {p.title}{' '}
            <span className={p.advance === 'opened' ? 'text-muted' : 'text-teal font-semibold'}>
              {p.advance}
            </span>{' '}
            <span className="text-muted text-[13px]">
              {oneDigit(p.minutes)}
              {p.estimated ? ` of ${p.estimated}` : ''} min
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function headline(view: SessionView): string {
  const n = (state: CheckState) => view.rows.filter((r) => r.state === state).length;
  if (view.rows.length === 0) return 'Nobody is in this group';
  const nothing = n('nothing opened');
  const stuck = n('lost or stuck');
  if (nothing + stuck === 0) return 'Everybody is at work or done';
  return `${nothing} opened nothing, ${stuck} ${stuck === 1 ? 'is' : 'are'} lost or stuck, ${n('working')} at work, ${n('done')} done`;
}
