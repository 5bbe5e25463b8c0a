'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { type Summary } from '@/core/gradebook/distribution';
import { waitsForGrade } from '@/core/tables/gradeFilters';
import { pickOf } from '@/core/tables/pickOf';
import { audienceHref } from '@/core/people/audienceHref';
import { pointsSelection } from '@/core/tables/gradeSelection';
import { classVerdict, LEAST_GRADES, verdictSentence, wentWords } from '@/core/gradebook/classVerdict';
import type { WorkView } from '@/core/views/work';
import { Button, buttonClasses } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { Choose } from '../parts/Choose';
import { DataTable } from '../parts/DataTable';
import { Definition } from '../parts/Definition';
import { ExportLinks } from '../parts/ExportLinks';
import { counted, minutesText, oneDigit, weekdayAndTime } from '@/core/format';
import { Panel, ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { SweepBars } from '../parts/SweepBars';
import { usePick } from '../parts/usePick';
import { Wide } from '../parts/Wide';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { withScope } from '../ribbon/withScope';
import { Items } from './Items';
import { studentColumn } from '@/core/tables/people';
import {
  workShowOf,
  workBins,
  binsRange,
  pointStep,
  rangeBins,
  rangeText,
  type PointRange,
  workTable,
  type WorkShow,
  workShows,
  WORK_SHOWS,
  hoursText,
} from '@/core/tables/work';

const ADDRESS = address({ status: 'all', sort: workTable.usual });

/** One work: how it went, for whom it did not, and whether it goes back into class. */
export function Work({ view }: { readonly view: WorkView }) {
  const { code, zone } = view.course;
  const query = useSearchParams();
  const { asked, note } = useAddress(ADDRESS);
  const { picked, pick, toggle } = usePick(view);
  const shown = workShowOf(asked);
  const bins = workBins(view);
  const [range, setRange] = useState<PointRange | null>(null);
  const step = pointStep(view);
  const rows = workTable.rows(view, { ...asked, range: range ? rangeText(range) : undefined });
  const reason =
    range != null
      ? `${range.from} to ${range.to} points in ${view.title}`
      : shown === 'all'
        ? `selected at ${view.title}`
        : pickOf(shown, view);
  const { summary: s } = view;
  const count = (f: WorkShow) => view.rows.filter((r) => workShows(r, f, view.maximum)).length;
  return (
    <>
      <ViewHead
        title={headline(view)}
        aside={
          <span className="no-print flex flex-wrap gap-2">
            {view.before ? (
              <Link
                href={withScope(`/c/${code}/work/${view.before}`, query)}
                className={buttonClasses('quiet')}
              >
                Previous assignment
              </Link>
            ) : null}
            {view.after ? (
              <Link
                href={withScope(`/c/${code}/work/${view.after}`, query)}
                className={buttonClasses('quiet')}
              >
                Next assignment
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
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} days={false} />
      <div className="mb-3 grid grid-cols-1 items-start gap-3 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
        <Panel className="p-4">
          {s && bins.length > 0 ? (
            <>
              <h2 className="font-serif text-lg font-semibold">
                Median {oneDigit(s.median)}, mean {oneDigit(s.mean)}, from {oneDigit(s.lowest)} to{' '}
                {oneDigit(s.highest)}
              </h2>
              <p className="text-muted text-[13px]">
                Students by points. Sweep over bars or type a range; the list below follows.
              </p>
              <SweepBars
                bins={bins}
                unit="points"
                range={range && rangeBins(bins, range)}
                onRange={(b) => setRange(b && binsRange(bins, b, step))}
                marks={[{ at: s.median, label: `median ${oneDigit(s.median)}` }]}
              />
              <div className="flex flex-wrap items-center gap-3 text-[13px]">
                <RangeFields most={bins.at(-1)!.to} step={step} range={range} onRange={setRange} />
                {range ? (
                  <>
                    <span role="status">{counted(rows.length, 'student')}</span>
                    <Button small look="quiet" onClick={() => setRange(null)}>
                      All scores
                    </Button>
                    <Link
                      href={audienceHref(code, pointsSelection(view.id, range.from, range.to))}
                      className={buttonClasses('quiet', undefined, true)}
                    >
                      Build an audience from this
                    </Link>
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
      <Items items={view.items} href={`/c/${code}/items?work=${view.id}`} />
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
          onChange={(v) => note({ status: v })}
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
            Select these {rows.length}
          </Button>
        ) : null}
        <span className="ml-auto">
          <ExportLinks
            code={code}
            list="work"
            extra={{
              work: String(view.id),
              status: shown === 'all' ? null : shown,
              range: range && rangeText(range),
              sort: asked.sort,
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
        start={asked.sort}
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
  if (classVerdict(view) === 'many struggled')
    return `Many struggled with ${wentWords({ ...view, outcomes: [] })}`;
  if (missing > 0) return `${missing} of ${view.rows.length} have not handed in ${view.title}`;
  if (waiting > 0) return `${waiting} of ${view.rows.length} wait for the grade of ${view.title}`;
  return view.graded > 0
    ? `${view.title}: ${view.graded} graded, nothing missing`
    : `${view.title}: nothing to grade yet`;
}

/** The range as two numbers, on the scale of the points. */
function RangeFields({
  most,
  step,
  range,
  onRange,
}: {
  readonly most: number;
  readonly step: number;
  readonly range: PointRange | null;
  readonly onRange: (range: PointRange) => void;
}) {
  const { from, to } = range ?? { from: 0, to: most };
  const field = (value: number, set: (value: number) => PointRange, label: string) => (
    <label>
      {label}{' '}
      <input
        type="number"
        className="border-edge/70 bg-panel w-18 rounded border px-1"
        min={0}
        max={most}
        step={step}
        value={value}
        onChange={(e) => {
          const typed = e.target.valueAsNumber;
          if (Number.isFinite(typed) && typed >= 0) onRange(set(typed));
        }}
      />
    </label>
  );
  return (
    <span className="flex items-center gap-1.5">
      {field(from, (v) => ({ from: v, to: Math.max(v, to) }), 'From')}
      {field(to, (v) => ({ from: Math.min(v, from), to: v }), 'to')}
      points, both included
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
      {view.graded > 0 ? (
        <p className={classVerdict(view) === 'many struggled' ? 'border-plum border-l-4 pl-2' : undefined}>
          {verdictSentence(view)}
          <Definition of="Many struggled">
            {`Said where at least a third of the scores are low, of at least ${LEAST_GRADES} graded.`}
          </Definition>
        </p>
      ) : null}
      <Wide label="Figures">
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
      </Wide>
      <div className="flex items-center gap-2">
        Compare with
        <Choose
          label="Compare with"
          small
          className="w-52"
          value={student == null ? '' : String(student)}
          options={[
            { value: '', label: 'nobody' },
            ...view.rows.map((r) => ({ value: String(r.enrolmentId), label: `${r.family}, ${r.given}` })),
          ]}
          onChange={(id) => setStudent(id === '' ? null : Number(id))}
        />
      </div>
      <p className="text-muted">
        {view.minutes
          ? `Time on it: median ${minutesText(view.minutes.median)}, half of those who opened it between ${minutesText(view.minutes.low)} and ${minutesText(view.minutes.high)}${view.estimated ? `; planned ${view.estimated} min` : ''}.`
          : 'Nobody has spent time on it yet.'}{' '}
        {view.feedback
          ? `Feedback after: median ${hoursText(view.feedback.median)}, longest ${hoursText(view.feedback.highest)}.`
          : ''}
      </p>
    </div>
  );
}
