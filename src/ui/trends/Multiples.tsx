'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { localDate } from '@/core/calendar/zone';
import type { TrendsView, WorkFigures } from '@/core/views/trends';
import { Chips } from '../parts/Chips';
import { Wide } from '../parts/Wide';
import { percentText, shortDay } from '@/core/format';
import { address, useAddress } from '../parts/useAddress';
import { withScope } from '../ribbon/withScope';

const ADDRESS = address({ as: 'charts' });

/** Every graded work as a small picture: class, group and student; or the same as a table. */
export function Multiples({ view }: { readonly view: TrendsView }) {
  const query = useSearchParams();
  const { asked, note } = useAddress(ADDRESS);
  const { code, zone } = view.course;
  const asTable = asked.as === 'table';
  const lowest = view.works.reduce<WorkFigures | null>(
    (low, w) => (w.course && (!low?.course || w.course.median < low.course.median) ? w : low),
    null,
  );
  const due = (w: WorkFigures) => (w.due == null ? 'no date' : shortDay(localDate(w.due, zone)));
  return (
    <section aria-label="All assignments">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <h2 className="font-serif text-lg font-semibold">
          {lowest?.course
            ? `${lowest.title} went worst: median ${percentText(lowest.course.median)}`
            : 'Nothing is graded yet'}
        </h2>
        <Chips
          label="As"
          value={asTable ? 'table' : 'charts'}
          options={[
            { value: 'charts', label: 'Charts' },
            { value: 'table', label: 'Table' },
          ]}
          onChange={(v) => note({ as: v })}
        />
      </div>
      <p className="text-muted text-[13px]">
        Per cent of each graded assignment, in order of the due dates. Bar: middle half of the course, tick:
        its median
        {view.groupName ? `; dashed tick: median of ${view.groupName}` : ''}
        {view.student ? `; dot: ${view.student.name}` : ''}.
      </p>
      {asTable ? (
        <Wide label="Figures">
          <table className="mt-3 w-full max-w-4xl text-right text-[13px]">
            <thead className="text-muted">
              <tr>
                <th className="text-left font-normal">Assignment</th>
                <th className="font-normal">Due</th>
                <th className="font-normal">Graded</th>
                <th className="font-normal">Middle half</th>
                <th className="font-normal">Median</th>
                {view.groupName ? <th className="font-normal">{view.groupName}</th> : null}
                {view.student ? <th className="font-normal">{view.student.name}</th> : null}
              </tr>
            </thead>
            <tbody>
              {view.works.map((w) => (
                <tr key={w.id} className="border-line/60 border-t">
                  <th className="py-1 text-left font-normal">
                    <Link
                      href={withScope(`/c/${code}/work/${w.id}`, query)}
                      className="inline-block min-h-6 hover:underline"
                    >
                      {w.title}
                    </Link>
                  </th>
                  <td>{due(w)}</td>
                  <td>{w.graded}</td>
                  <td>
                    {w.course ? `${Math.round(w.course.low)} to ${Math.round(w.course.high)} %` : 'too few'}
                  </td>
                  <td className="font-semibold">{w.course ? percentText(w.course.median) : ''}</td>
                  {view.groupName ? <td>{percentText(w.group)}</td> : null}
                  {view.student ? <td>{percentText(w.student)}</td> : null}
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      ) : (
        <ul className="mt-3 grid grid-cols-2 gap-x-5 gap-y-2 md:grid-cols-3 xl:grid-cols-5">
          {view.works.map((w) => (
            <li key={w.id} className="min-w-0">
              <Link
                href={withScope(`/c/${code}/work/${w.id}`, query)}
                className="block text-[13px] font-semibold hover:underline"
              >
                {w.title}
              </Link>
              <Mini work={w} />
              <span aria-hidden className="text-muted flex justify-between text-[10px] leading-none">
                <span>0</span>
                <span>50</span>
                <span>100 %</span>
              </span>
              <span className="text-muted block text-xs">
                {due(w)} ·{' '}
                {w.course ? `median ${percentText(w.course.median)}` : `${w.graded} graded, too few`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Mini({ work }: { readonly work: WorkFigures }) {
  const x = (p: number) => 2 + (196 * p) / 100;
  const words = [
    work.course
      ? `course ${Math.round(work.course.low)} to ${Math.round(work.course.high)} %, median ${Math.round(work.course.median)} %`
      : 'too few grades',
    work.group == null ? '' : `group ${Math.round(work.group)} %`,
    work.student == null ? '' : `student ${Math.round(work.student)} %`,
  ]
    .filter(Boolean)
    .join('; ');
  return (
    <svg viewBox="0 0 200 20" className="h-5 w-full" preserveAspectRatio="none" role="img" aria-label={words}>
      <title>{words}</title>
      <rect x={0} y={8} width={200} height={4} fill="var(--line)" rx={2} />
      {work.course ? (
        <>
          <rect
            x={x(work.course.low)}
            y={6}
            width={Math.max(2, x(work.course.high) - x(work.course.low))}
            height={8}
            fill="var(--mid)"
          />
          <rect x={x(work.course.median) - 1.2} y={2} width={2.4} height={16} fill="var(--high)" />
        </>
      ) : null}
      {work.group == null ? null : (
        <line
          x1={x(work.group)}
          x2={x(work.group)}
          y1={1}
          y2={19}
          stroke="var(--ink)"
          strokeDasharray="3 2"
          strokeWidth={2}
        />
      )}
      {work.student == null ? null : (
        <circle cx={x(work.student)} cy={10} r={5} fill="var(--amber)" stroke="var(--ink)" />
      )}
    </svg>
  );
}
