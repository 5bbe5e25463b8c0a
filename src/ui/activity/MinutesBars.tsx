'use client';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';

const axis = { stroke: 'var(--muted)', fontSize: 12, tickLine: false } as const;

/** Students by minutes on task, as bars to choose from; those of the window before beside them. */
export default function MinutesBars({
  data,
  hasBefore,
  onChoose,
}: {
  readonly data: readonly { readonly label: string; readonly now: number; readonly before: number | null }[];
  readonly hasBefore: boolean;
  readonly onChoose: (index: number) => void;
}) {
  return (
    <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 480, height: 224 }}>
      <BarChart
        data={[...data]}
        margin={{ top: 10, right: 8, bottom: 18, left: 0 }}
        accessibilityLayer={false}
        barGap={0}
      >
        <CartesianGrid vertical={false} stroke="var(--line)" />
        <XAxis
          dataKey="label"
          {...axis}
          label={{
            value: 'minutes',
            position: 'insideBottom',
            offset: -12,
            fill: 'var(--muted)',
            fontSize: 12,
          }}
        />
        <YAxis {...axis} width={34} allowDecimals={false} />
        <Tooltip
          isAnimationActive={false}
          cursor={{ fill: 'var(--amber-wash)' }}
          contentStyle={{
            background: 'var(--panel)',
            border: '1px solid var(--line)',
            color: 'var(--ink)',
          }}
        />
        {hasBefore ? (
          <Bar
            dataKey="before"
            name="before"
            fill="var(--low)"
            stroke="var(--mid)"
            isAnimationActive={false}
          />
        ) : null}
        <Bar
          dataKey="now"
          name="students"
          fill="var(--high)"
          isAnimationActive={false}
          cursor="pointer"
          onClick={(_, index) => onChoose(index)}
        />
      </BarChart>
    </ResponsiveContainer>
  );
}
