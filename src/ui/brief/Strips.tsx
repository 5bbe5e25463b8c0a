'use client';
import type { ReactNode } from 'react';
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
import type { StripWeek } from '@/core/views/brief';
import { minutesText, percentText } from '@/core/format';
import { Definition } from '../parts/Definition';
import { StripTable } from './StripTable';

interface Row {
  readonly week: number;
  readonly days: number | null;
  readonly rest: number | null;
  readonly inClass: number | null;
  readonly outside: number | null;
  readonly median: number | null;
  readonly done: number | null;
  readonly open: number | null;
  readonly expected: number | null;
  readonly standing: number | null;
  readonly band: [number, number] | null;
}

const toRow = (w: StripWeek): Row => ({
  week: w.week,
  days: w.own?.days ?? null,
  rest: w.own ? 7 - w.own.days : null,
  inClass: w.own?.minutesInClass ?? null,
  outside: w.own?.minutesOutside ?? null,
  median: w.classMedianMinutes,
  done: w.own?.done ?? null,
  open: w.own ? w.own.expected - w.own.done : null,
  expected: w.own?.expected ?? null,
  standing: w.own?.standing ?? null,
  band: w.classStanding ? [w.classStanding.low, w.classStanding.high] : null,
});

const margin = { top: 4, right: 0, bottom: 0, left: 0 };
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

interface StripProps {
  readonly rows: readonly Row[];
  readonly weeks: readonly StripWeek[];
  readonly now: number;
  readonly label: string;
  readonly unit: string;
  /** The definition of the figure. */
  readonly means: string;
  readonly figure: string;
  readonly beside: string;
  readonly height: number;
  readonly domain?: [number, number | 'auto' | 'dataMax'];
  readonly tip: (row: Row) => string;
  readonly axis?: boolean;
  readonly children: ReactNode;
}

/** One strip: its name, its chart on the common weekly axis, and where it stands now. */
function Strip({
  rows,
  weeks,
  now,
  label,
  unit,
  means,
  figure,
  beside,
  height,
  domain,
  tip,
  axis,
  children,
}: StripProps) {
  const content = ({ active, payload }: TooltipContentProps) => {
    const row: Row | undefined = active
      ? rows.find((r) => r.week === payload?.[0]?.payload?.week)
      : undefined;
    return row ? (
      <div className="border-line bg-panel rounded border px-2 py-1 text-xs shadow">
        Week {row.week}: {tip(row)}
      </div>
    ) : null;
  };
  return (
    <div className="grid grid-cols-[7.5rem_minmax(0,1fr)_6.8rem] items-end gap-x-3">
      <div className="pb-1 leading-tight">
        <div className="text-[13px] font-semibold">
          {label}
          <Definition of={label}>{means}</Definition>
        </div>
        <div className="text-muted text-xs">{unit}</div>
      </div>
      <div className={axis ? undefined : 'border-line border-b'} style={{ height }}>
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
            <YAxis hide domain={domain ?? [0, 'auto']} />
            <ReferenceArea x1={now} x2={now} fill="var(--amber-wash)" fillOpacity={0.8} ifOverflow="hidden" />
            {weeks
              .filter((w) => w.isBreak)
              .map((w) => (
                <ReferenceArea key={w.week} x1={w.week} x2={w.week} fill="var(--low)" fillOpacity={0.35} />
              ))}
            <Tooltip content={content} cursor={{ fill: 'var(--amber-wash)', fillOpacity: 0.5 }} {...still} />
            {children}
          </ComposedChart>
        </ResponsiveContainer>
      </div>
      <div className="pb-1 leading-tight">
        <div className="text-[13px] font-semibold">{figure}</div>
        <div className="text-muted text-xs">{beside}</div>
      </div>
    </div>
  );
}

interface StripsProps {
  readonly weeks: readonly StripWeek[];
  readonly currentWeek: number;
  /** Words beside the figures; a student's own view leaves the class out. */
  readonly usualDays: string;
  readonly handedIn: string;
  readonly trend: string;
}

/**
 * Four strips on one weekly axis: days with a login, minutes in and outside class, work handed in against expected,
 * and standing with the class's middle half behind it. The same figures stand in a table below.
 */
export function Strips({ weeks, currentWeek, usualDays, handedIn, trend }: StripsProps) {
  const rows = weeks.map(toRow);
  const now = Math.min(weeks.length, Math.max(1, currentWeek));
  const current = rows[now - 1];
  const common = { rows, weeks, now };
  const median = current?.median;
  const total = current ? (current.inClass ?? 0) + (current.outside ?? 0) : 0;
  const showsClass = weeks.some((w) => w.classMedianMinutes != null);
  return (
    <div>
      <Strip
        {...common}
        label="Days logged in"
        unit="of 7, each week"
        means="Days of the week, in the course’s time zone, on which anything was recorded of the student. Nobody acts without being signed in."
        figure={current?.days == null ? 'none yet' : `${current.days} this week`}
        beside={usualDays}
        height={46}
        domain={[0, 7]}
        tip={(r) => (r.days == null ? 'to come' : `logged in on ${r.days} of 7 days`)}
      >
        <Bar
          dataKey="days"
          stackId="d"
          fill="var(--high)"
          shape={(p: BlockProps & { payload?: Row }) => (
            <Blocks {...p} fill="var(--high)" units={p.payload?.days ?? 0} />
          )}
          {...still}
        />
        <Bar
          dataKey="rest"
          stackId="d"
          fill="var(--low)"
          shape={(p: BlockProps & { payload?: Row }) => (
            <Blocks {...p} fill="var(--low)" units={p.payload?.rest ?? 0} />
          )}
          {...still}
        />
      </Strip>
      <Strip
        {...common}
        label="Time on task"
        unit="dark: in class"
        means="Minutes between events of one sitting. A gap over the session limit (30 minutes, unless the course set another) ends it; its last event counts with the student’s usual time for that kind of activity. In class is what falls into a meeting of the student’s section."
        figure={`${minutesText(total)}`}
        beside={showsClass && median != null ? `class ${minutesText(median)}` : 'this week'}
        height={58}
        tip={(r) =>
          r.outside == null
            ? 'to come'
            : `${minutesText(r.inClass ?? 0)} in class, ${minutesText(r.outside)} outside${r.median == null ? '' : `; class median ${minutesText(r.median)}`}`
        }
      >
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
      </Strip>
      <Strip
        {...common}
        label="Work handed in"
        unit="line: expected"
        means="Works due by the end of the week that were handed in or graded, late ones too, out of all that were due and not excused. Work without a due date is never expected."
        figure={current?.expected == null ? 'none yet' : `${current.done} of ${current.expected}`}
        beside={handedIn}
        height={58}
        tip={(r) => (r.expected == null ? 'to come' : `${r.done} of ${r.expected} expected works handed in`)}
      >
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
      </Strip>
      <Strip
        {...common}
        label="Standing"
        means="The weighted grade over what had been returned by the end of the week. Excused works are left out, the lowest dropped where the course says so, and missing works count as the course’s policy says."
        unit={showsClass ? 'band: class, middle half' : 'per cent'}
        figure={percentText(current?.standing ?? null)}
        beside={trend}
        height={88}
        domain={[0, 100]}
        axis
        tip={(r) =>
          r.days == null
            ? 'to come'
            : `standing ${percentText(r.standing)}${r.band ? `; middle half of the class ${Math.round(r.band[0])} to ${Math.round(r.band[1])} %` : ''}`
        }
      >
        <Area dataKey="band" fill="var(--mid)" fillOpacity={0.4} stroke="none" {...still} />
        <Line
          dataKey="standing"
          stroke="var(--high)"
          strokeWidth={2}
          dot={{ r: 2.6, fill: 'var(--high)' }}
          {...still}
        />
      </Strip>
      <StripTable weeks={weeks} />
    </div>
  );
}
