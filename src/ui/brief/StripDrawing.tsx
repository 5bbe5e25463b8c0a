'use client';
import type { ReactElement } from 'react';
import {
  Area,
  Bar,
  ComposedChart,
  Line,
  ReferenceArea,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
  type TooltipContentProps,
} from 'recharts';
import type { StripRow } from './stripRow';

export type StripKind = 'days' | 'time' | 'work' | 'standing';

export interface StripDrawingProps {
  readonly kind: StripKind;
  readonly rows: readonly StripRow[];
  readonly now: number;
  readonly height: number;
  readonly axis?: boolean;
  readonly tip: (row: StripRow) => string;
}

// The figures of the scale stand on the left.
const margin = { top: 4, right: 0, bottom: 0, left: 12 };
const still = { isAnimationActive: false } as const;

/** A bar cut into one block a unit, so that days can be counted by eye. */
function Blocks({ x = 0, y = 0, width = 0, height = 0, fill, units = 0 }: BlockProps) {
  if (units <= 0 || height <= 0) return null;
  const each = height / units;
  return (
    <g>
      {Array.from({ length: units }, (_, i) => (
        <rect
          key={i}
          x={x}
          y={y + i * each + 0.8}
          width={width}
          height={Math.max(1, each - 1.6)}
          rx={1}
          fill={fill}
        />
      ))}
    </g>
  );
}

interface BlockProps {
  readonly x?: number;
  readonly y?: number;
  readonly width?: number;
  readonly height?: number;
  readonly fill?: string;
  readonly units?: number;
}

const DOMAINS = {
  days: [0, 7],
  time: [0, 'auto'],
  work: [0, 'auto'],
  standing: [0, 100],
} as const satisfies Record<StripKind, unknown>;

/** What is drawn in each strip. */
const drawings: Readonly<Record<StripKind, ReactElement>> = {
  days: (
    <>
      <Bar
        dataKey="days"
        stackId="d"
        fill="var(--high)"
        shape={(p: BlockProps & { payload?: StripRow }) => (
          <Blocks {...p} fill="var(--high)" units={p.payload?.days ?? 0} />
        )}
        {...still}
      />
      <Bar
        dataKey="rest"
        stackId="d"
        fill="var(--low)"
        shape={(p: BlockProps & { payload?: StripRow }) => (
          <Blocks {...p} fill="var(--low)" units={p.payload?.rest ?? 0} />
        )}
        {...still}
      />
    </>
  ),
  time: (
    <>
      <Bar dataKey="inClass" stackId="t" fill="var(--high)" {...still} />
      <Bar dataKey="outside" stackId="t" fill="var(--mid)" {...still} />
      <Line
        dataKey="median"
        stroke="var(--ink)"
        strokeDasharray="3 3"
        strokeWidth={1}
        dot={false}
        {...still}
      />
    </>
  ),
  work: (
    <>
      <Bar dataKey="done" stackId="w" fill="var(--mid)" {...still} />
      <Bar
        dataKey="open"
        stackId="w"
        fill="var(--plum-wash)"
        stroke="var(--plum)"
        strokeDasharray="2 2"
        {...still}
      />
      <Line
        dataKey="expected"
        type="step"
        stroke="var(--muted)"
        strokeDasharray="3 3"
        dot={false}
        {...still}
      />
    </>
  ),
  standing: (
    <>
      <Area dataKey="band" fill="var(--mid)" fillOpacity={0.4} stroke="none" {...still} />
      <Line
        dataKey="standing"
        stroke="var(--high)"
        strokeWidth={2}
        dot={{ r: 2.6, fill: 'var(--high)' }}
        {...still}
      />
    </>
  ),
};

/** One strip on the weekly axis: its bars and lines, with what a week holds where it is pointed at. */
export default function StripDrawing({ kind, rows, now, height, axis, tip }: StripDrawingProps) {
  const content = ({ active, payload }: TooltipContentProps) => {
    const row: StripRow | undefined = active
      ? rows.find((r) => r.week === payload?.[0]?.payload?.week)
      : undefined;
    return row ? (
      <div className="border-line bg-panel rounded border px-2 py-1 text-xs shadow">
        Week {row.week}: {tip(row)}
      </div>
    ) : null;
  };
  return (
    <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 404, height }}>
      <ComposedChart data={[...rows]} margin={margin} barCategoryGap="22%" accessibilityLayer={false}>
        <XAxis
          dataKey="week"
          type="category"
          scale="band"
          tickLine={false}
          axisLine={axis ? { stroke: 'var(--line)' } : false}
          height={axis ? 18 : 1}
          interval={0}
          tick={axis ? { fill: 'var(--muted)', fontSize: 11 } : false}
        />
        <YAxis hide domain={DOMAINS[kind]} />
        <ReferenceArea x1={now} x2={now} fill="var(--amber-wash)" fillOpacity={0.8} ifOverflow="hidden" />
        {rows
          .filter((w) => w.isBreak)
          .map((w) => (
            <ReferenceArea key={w.week} x1={w.week} x2={w.week} fill="var(--low)" fillOpacity={0.35} />
          ))}
        <Tooltip content={content} cursor={{ fill: 'var(--amber-wash)', fillOpacity: 0.5 }} {...still} />
        {drawings[kind]}
      </ComposedChart>
    </ResponsiveContainer>
  );
}
