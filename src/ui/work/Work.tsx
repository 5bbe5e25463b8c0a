'use client';
import Link from 'next/link';
import { useState } from 'react';
import { bandWords } from '@/core/gradebook/bands';
import { type Summary } from '@/core/gradebook/distribution';
import { waitsForGrade } from '@/core/tables/gradeFilters';
import { pickReason } from '@/core/tables/pickReason';
import { goesBackIntoClass } from '@/core/gradebook/readDown';
import type { WorkView } from '@/core/views/work';
import { Button, buttonClasses } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { counted, minutesText, oneDigit, weekdayAndTime } from '@/core/format';
import { Panel, ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { SweepBars } from '../parts/SweepBars';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery, withScope } from '../ribbon/useQuery';
import { Items } from './Items';
import { studentColumn } from '@/core/tables/people';
import {
  workShowOf,
  workBins,
  type BinRange,
  workTable,
  type WorkShow,
  workShows,
  WORK_SHOWS,
  hoursText,
} from '@/core/tables/work';

/** One work: how it went, for whom it did not, and whether it goes back into class. */
export function Work({ view }: { readonly view: WorkView }) {
  const { code, zone } = view.course;
  const { query, note } = useQuery();
  const { picked, pick, toggle } = usePick(code, view.tray);
  const asked = Object.fromEntries(query);
  const shown = workShowOf(asked);
  const bins = workBins(view);
  const [range, setRange] = useState<BinRange | null>(null);
  const rangeText = range ? `${range[0]}-${range[1]}` : null;
  const rows = workTable.rows(view, { ...asked, range: rangeText ?? undefined });
  const reason =
    range != null
      ? `${bins[range[0]]!.from} to ${bins[range[1]]!.to} points in ${view.title}`
      : shown === 'all'
        ? `picked at ${view.title}`
        : pickReason(shown, view.title);
  const { summary: s } = view;
  const count = (f: WorkShow) => view.rows.filter((r) => workShows(r, f, view.maximum)).length;
  return (
    <>
      <ViewHead
        title={headline(view)}
        aside={
          <span className="no-print flex gap-2">
            {view.before ? (
              <Link
                href={withScope(`/c/${code}/work/${view.before}`, query)}
                className={buttonClasses('quiet')}
              >
                Work before
              </Link>
            ) : null}
            {view.after ? (
              <Link
                href={withScope(`/c/${code}/work/${view.after}`, query)}
                className={buttonClasses('quiet')}
              >
                Next work
              </Link>
            ) : null}
            <Link href={withScope(`/c/${code}/gradebook`, query)} className={buttonClasses('quiet')}>
              Gradebook
            </Link>
          </span>
        }
      >
        {[
          view.kind,
          view.category,
          view.due == null
            ? 'no due date: never expected of anybody'
            : `due ${weekdayAndTime(view.due, zone)}`,
          view.maximum == null ? 'not graded' : `${view.maximum} points`,
          view.outcomes.length > 0 ? `covers ${view.outcomes.join(', ')}` : null,
        ]
          .filter(Boolean)
          .join(' · ')}
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} />
      <div className="mb-3 grid items-start gap-3 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
        <Panel className="p-4">
          {s && bins.length > 0 ? (
            <>
              <h2 className="font-serif text-lg font-semibold">
                Median {oneDigit(s.median)}, mean {oneDigit(s.mean)}, from {oneDigit(s.lowest)} to{' '}
                {oneDigit(s.highest)}
              </h2>
              <p className="text-muted text-[13px]">
                Students by points. Sweep over bars, or write a range; the list below follows.
              </p>
              <SweepBars
                bins={bins}
                unit="points"
                range={range}
                onRange={setRange}
                marks={[{ at: s.median, label: `median ${oneDigit(s.median)}` }]}
              />
              <div className="flex flex-wrap items-center gap-3 text-[13px]">
                <RangeFields bins={bins} range={range} onRange={setRange} />
                {range ? (
                  <>
                    <span role="status">{counted(rows.length, 'student')}</span>
                    <Button small look="quiet" onClick={() => setRange(null)}>
                      All scores
                    </Button>
                  </>
                ) : null}
              </div>
            </>
          ) : (
            <p className="text-muted">No grade has been returned yet.</p>
          )}
        </Panel>
        <Panel className="p-4">
          <Beside view={view} />
        </Panel>
      </div>
      <Items items={view.items} />
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Show"
          value={shown}
          options={[
            { value: 'all' as WorkShow, label: 'Everyone', count: view.rows.length },
            ...WORK_SHOWS.filter((f) => count(f) > 0 || f === shown).map((f) => ({
              value: f as WorkShow,
              label: f[0]!.toUpperCase() + f.slice(1),
              count: count(f),
            })),
          ]}
          onChange={(v) => note({ status: v === 'all' ? null : v })}
        />
        {rows.length > 0 && (shown !== 'all' || range) ? (
          <Button
            small
            onClick={() =>
              pick(
                rows.map((r) => r.enrolmentId),
                reason,
              )
            }
          >
            Pick these {rows.length}
          </Button>
        ) : null}
        <span className="ml-auto">
          <ExportLinks
            code={code}
            list="work"
            extra={{
              work: String(view.id),
              status: shown === 'all' ? null : shown,
              range: rangeText,
              sort: query.get('sort'),
            }}
          />
        </span>
      </div>
      <DataTable
        label={`Students and ${view.title}`}
        columns={workTable.columns(view, {})}
        show={{
          name: (r) => (
            <StudentLink code={code} id={r.enrolmentId} from="gradebook">
              {studentColumn.words!(r)}
            </StudentLink>
          ),
          status: (r) =>
            r.status === 'missing' && <span className="text-plum font-semibold">{r.status}</span>,
        }}
        rows={rows}
        idOf={(r) => r.enrolmentId}
        start={query.get('sort') ?? workTable.usual}
        onSort={(sort) => note({ sort })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}`}
        onPick={(r) => toggle(r.enrolmentId, reason)}
        empty="Nobody here: choose “Everyone” or all scores."
      />
    </>
  );
}

function headline(view: WorkView): string {
  const missing = view.rows.filter((r) => r.status === 'missing').length;
  const waiting = view.rows.filter((r) => waitsForGrade(r.status, view.maximum)).length;
  if (goesBackIntoClass(view.low, view.graded))
    return `${view.title} went badly for ${view.low} of ${view.graded}`;
  if (missing > 0) return `${missing} of ${view.rows.length} have not handed in ${view.title}`;
  if (waiting > 0) return `${waiting} of ${view.rows.length} wait for the grade of ${view.title}`;
  return view.graded > 0
    ? `${view.title}: ${view.graded} graded, nothing missing`
    : `${view.title}: nothing to grade yet`;
}

function RangeFields({
  bins,
  range,
  onRange,
}: {
  readonly bins: readonly { readonly from: number; readonly to: number }[];
  readonly range: readonly [number, number] | null;
  readonly onRange: (range: readonly [number, number]) => void;
}) {
  const [from, to] = range ?? [0, bins.length - 1];
  const look = 'border-edge/70 bg-panel rounded border px-1';
  return (
    <span className="flex items-center gap-1.5">
      <label>
        From{' '}
        <select
          className={look}
          value={from}
          onChange={(e) => onRange([Number(e.target.value), Math.max(to, Number(e.target.value))])}
        >
          {bins.map((b, i) => (
            <option key={b.from} value={i}>
              {b.from}
            </option>
          ))}
        </select>
      </label>
      <label>
        to{' '}
        <select
          className={look}
          value={to}
          onChange={(e) => onRange([Math.min(from, Number(e.target.value)), Number(e.target.value)])}
        >
          {bins.map((b, i) => (
            <option key={b.from} value={i}>
              {b.to}
            </option>
          ))}
        </select>{' '}
        points
      </label>
    </span>
  );
}

/** The group beside the course and its sections, one student beside both; time and feedback. */
function Beside({ view }: { readonly view: WorkView }) {
  const [student, setStudent] = useState<number | null>(null);
  const chosen = view.rows.find((r) => r.enrolmentId === student);
  const line = (name: string, s: Summary | null) => (
    <tr key={name} className="border-line/60 border-t">
      <th scope="row" className="py-0.5 text-left font-normal">
        {name}
      </th>
      <td className="text-right">{s ? oneDigit(s.median) : 'none yet'}</td>
      <td className="text-muted text-right">
        {s && s.n >= 4 ? `${oneDigit(s.low)}–${oneDigit(s.high)}` : s ? 'too few' : ''}
      </td>
      <td className="text-muted text-right">{s?.n ?? 0}</td>
    </tr>
  );
  return (
    <div className="space-y-3 text-[13px]">
      {goesBackIntoClass(view.low, view.graded) ? (
        <p className="border-plum border-l-4 pl-2">
          <span className="font-semibold">Read down, not across:</span> {view.low} of {view.graded} have{' '}
          {bandWords('low', view.cuts)}. That many is about the topic, so take it back into class rather than
          to single students.
        </p>
      ) : view.graded > 0 ? (
        <p>
          {view.low} of {view.graded} have {bandWords('low', view.cuts)}: a matter of single students, not of
          the class.
        </p>
      ) : null}
      <table className="w-full">
        <thead className="text-muted">
          <tr>
            <th className="text-left font-normal">Points</th>
            <th className="text-right font-normal">Median</th>
            <th className="text-right font-normal">Middle half</th>
            <th className="text-right font-normal">Graded</th>
          </tr>
        </thead>
        <tbody>
          {line('The course', view.courseSummary)}
          {view.sections.map((s) => line(s.name, s.summary))}
          {chosen ? (
            <tr className="border-line/60 bg-amber-wash border-t">
              <th scope="row" className="py-0.5 text-left font-semibold">
                {chosen.given} {chosen.family}
              </th>
              <td className="text-right font-semibold">{chosen.points ?? chosen.status}</td>
              <td className="text-muted text-right" colSpan={2}>
                {Math.round(chosen.minutes)} min, {counted(chosen.attempts, 'attempt')}
              </td>
            </tr>
          ) : null}
        </tbody>
      </table>
      <label className="block">
        Beside them{' '}
        <select
          className="border-edge/70 bg-panel max-w-52 rounded border px-1"
          value={student ?? ''}
          onChange={(e) => setStudent(e.target.value === '' ? null : Number(e.target.value))}
        >
          <option value="">nobody</option>
          {view.rows.map((r) => (
            <option key={r.enrolmentId} value={r.enrolmentId}>
              {r.family}, {r.given}
            </option>
          ))}
        </select>
      </label>
      <p className="text-muted">
        {view.minutes
          ? `Time on it: median ${minutesText(view.minutes.median)}, half of those who opened it between ${minutesText(view.minutes.low)} and ${minutesText(view.minutes.high)}${view.estimated ? `; planned ${view.estimated} min` : ''}.`
          : 'Nobody has spent time on it yet.'}{' '}
        {view.feedback
          ? `Feedback came back after ${hoursText(view.feedback.median)} in the middle, ${hoursText(view.feedback.highest)} at the longest.`
          : ''}
      </p>
    </div>
  );
}
