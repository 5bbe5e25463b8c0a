'use client';
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
import { oneDigit } from '@/core/format';

/** What is drawn of a week. */
export interface StandingWeek {
  readonly week: number;
  readonly band: readonly [number, number] | null;
  readonly median: number | null;
  readonly group: number | null;
  readonly student: number | null;
}

/** Weekly standing as lines: the middle half of the course, its median, that of a group, one student. */
export default function StandingDrawing({
  data,
  words,
  hasGroup,
  hasStudent,
}: {
  readonly data: readonly StandingWeek[];
  /** What each line is called. */
  readonly words: Readonly<Record<string, string>>;
  readonly hasGroup: boolean;
  readonly hasStudent: boolean;
}) {
  return (
    <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 1000, height: 240 }}>
      <ComposedChart
        data={[...data]}
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
        <YAxis domain={[0, 100]} stroke="var(--muted)" fontSize={12} tickLine={false} width={48} unit=" %" />
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
        <Area dataKey="band" fill="var(--mid)" fillOpacity={0.35} stroke="none" isAnimationActive={false} />
        <Line dataKey="median" stroke="var(--high)" strokeWidth={2} dot={false} isAnimationActive={false} />
        {hasGroup ? (
          <Line
            dataKey="group"
            stroke="var(--ink)"
            strokeDasharray="5 4"
            strokeWidth={1.6}
            dot={false}
            isAnimationActive={false}
          />
        ) : null}
        {hasStudent ? (
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
  );
}
