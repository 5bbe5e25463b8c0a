'use client';
import { memo } from 'react';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import type { TrendsView } from '@/core/views/trends';
import { oneDigit, percentText } from '@/core/format';

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
    const data = weeks.map((w, i) => ({
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
              : '. “Show” in the list puts a student beside it'}
            .
          </p>
        </figcaption>
        <div className="mt-2 h-60">
          <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 1000, height: 240 }}>
            <ComposedChart
              data={data}
              margin={{ top: 6, right: 8, bottom: 18, left: 0 }}
              accessibilityLayer={false}
            >
              <CartesianGrid vertical={false} stroke="var(--line)" />
              <XAxis
                dataKey="week"
                stroke="var(--muted)"
                fontSize={12}
                tickLine={false}
                label={{
                  value: 'week',
                  position: 'insideBottom',
                  offset: -12,
                  fill: 'var(--muted)',
                  fontSize: 12,
                }}
              />
              <YAxis
                domain={[0, 100]}
                stroke="var(--muted)"
                fontSize={12}
                tickLine={false}
                width={48}
                unit=" %"
              />
              <Tooltip
                isAnimationActive={false}
                contentStyle={{
                  background: 'var(--panel)',
                  border: '1px solid var(--line)',
                  color: 'var(--ink)',
                }}
                labelFormatter={(week) => `Week ${week}`}
                formatter={(value, name) => [
                  Array.isArray(value)
                    ? `${oneDigit(Number(value[0]))} to ${oneDigit(Number(value[1]))} %`
                    : `${oneDigit(Number(value))} %`,
                  words[String(name)] ?? String(name),
                ]}
              />
              <Area
                dataKey="band"
                fill="var(--mid)"
                fillOpacity={0.35}
                stroke="none"
                isAnimationActive={false}
              />
              <Line
                dataKey="median"
                stroke="var(--high)"
                strokeWidth={2}
                dot={false}
                isAnimationActive={false}
              />
              {groupName ? (
                <Line
                  dataKey="group"
                  stroke="var(--ink)"
                  strokeDasharray="5 4"
                  strokeWidth={1.6}
                  dot={false}
                  isAnimationActive={false}
                />
              ) : null}
              {student ? (
                <Line
                  dataKey="student"
                  stroke="var(--amber)"
                  strokeWidth={3}
                  dot={{ r: 3.5, fill: 'var(--amber)' }}
                  isAnimationActive={false}
                />
              ) : null}
            </ComposedChart>
          </ResponsiveContainer>
        </div>
        <details className="text-[13px]">
          <summary className="text-muted hover:text-ink w-fit">These figures as a table</summary>
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
        </details>
      </figure>
    );
  },
  (a, b) => JSON.stringify(a) === JSON.stringify(b),
);
