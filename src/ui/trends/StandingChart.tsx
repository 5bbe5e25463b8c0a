'use client';
import { memo } from 'react';
import dynamic from 'next/dynamic';
import type { TrendsView } from '@/core/views/trends';
import { percentText } from '@/core/format';
import { Wide } from '../parts/Wide';
import type { StandingWeek } from './StandingDrawing';

/** Its library comes once there is something to draw, in a space that is kept for it. */
const Drawing = dynamic(() => import('./StandingDrawing'), { ssr: false });

/** Weekly standing: the course's middle half and median, the group's median, and one student. */
export function StandingChart({ view }: { readonly view: TrendsView }) {
  const own = view.rows.find((r) => r.enrolmentId === view.student?.id);
  return (
    <Chart
      weeks={view.weeks}
      groupName={view.groupName}
      student={own && view.student ? { name: view.student.name, weeks: own.weeks } : null}
    />
  );
}

type ChartProps = Pick<TrendsView, 'weeks' | 'groupName'> & {
  readonly student: { readonly name: string; readonly weeks: readonly (number | null)[] } | null;
};

/** Drawn again only when its figures change: another window leaves the weeks of the term as they are. */
const Chart = memo(
  function Chart({ weeks, groupName, student }: ChartProps) {
    const data: StandingWeek[] = weeks.map((w, i) => ({
      week: w.week,
      band: w.course ? [w.course.low, w.course.high] : null,
      median: w.course?.median ?? null,
      group: w.group,
      student: student?.weeks[i] ?? null,
    }));
    const known = data.filter((d) => d.median != null);
    const first = known[0]?.median;
    const last = known.at(-1)?.median;
    const title =
      first == null || last == null
        ? 'Nothing is graded yet'
        : `The class median went from ${percentText(first)} to ${percentText(last)}`;
    if (known.length === 0) {
      return (
        <>
          <h2 className="font-serif text-lg font-semibold">{title}</h2>
          <p className="text-muted">
            Once grades are returned, the standing of the class by week stands here.
          </p>
        </>
      );
    }
    const words: Record<string, string> = {
      band: 'middle half of the course',
      median: 'median of the course',
      group: `median of ${groupName ?? ''}`,
      student: student?.name ?? '',
    };
    return (
      <figure>
        <figcaption>
          <h2 className="font-serif text-lg font-semibold">{title}</h2>
          <p className="text-muted text-[13px]">
            Standing by week, per cent. Band: middle half of the course; line: its median
            {groupName ? `; dashed: median of ${groupName}` : ''}
            {student
              ? `; thick with dots: ${student!.name}`
              : '. “Show” in the list compares a student with it'}
            .
          </p>
        </figcaption>
        <div className="mt-2 h-60 overflow-x-clip print:overflow-x-visible">
          <Drawing data={data} words={words} hasGroup={groupName != null} hasStudent={student != null} />
        </div>
        <details className="text-[13px]">
          <summary className="text-muted hover:text-ink w-fit">These figures as a table</summary>
          <Wide label="Figures">
            <table className="mt-2 text-right">
              <thead className="text-muted">
                <tr>
                  <th className="pr-6 text-left font-normal">Week</th>
                  <th className="pr-6 font-normal">Course median</th>
                  <th className="pr-6 font-normal">Middle half</th>
                  {groupName ? <th className="pr-6 font-normal">{groupName}</th> : null}
                  {student ? <th className="font-normal">{student!.name}</th> : null}
                </tr>
              </thead>
              <tbody>
                {weeks.map((w, i) => (
                  <tr key={w.week} className="border-line/60 border-t">
                    <th className="text-left font-normal">
                      {w.week}
                      {w.isBreak ? ' (break)' : ''}
                    </th>
                    <td className="pr-6">{w.course ? percentText(w.course.median) : 'too few'}</td>
                    <td className="pr-6">
                      {w.course ? `${Math.round(w.course.low)} to ${Math.round(w.course.high)} %` : ''}
                    </td>
                    {groupName ? <td className="pr-6">{percentText(w.group)}</td> : null}
                    {student ? <td>{percentText(student.weeks[i] ?? null)}</td> : null}
                  </tr>
                ))}
              </tbody>
            </table>
          </Wide>
        </details>
      </figure>
    );
  },
  (a, b) => JSON.stringify(a) === JSON.stringify(b),
);
