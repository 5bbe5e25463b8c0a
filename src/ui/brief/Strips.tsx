'use client';
import dynamic from 'next/dynamic';
import type { StripWeek } from '@/core/views/brief';
import { minutesText, percentText } from '@/core/format';
import { classes } from '../parts/classes';
import { Definition } from '../parts/Definition';
import type { StripDrawingProps } from './StripDrawing';
import { stripRow } from './stripRow';
import { StripTable } from './StripTable';

/** Its library comes once there is something to draw, in a space that is kept for it. */
const StripDrawing = dynamic(() => import('./StripDrawing'), { ssr: false });

interface StripProps extends StripDrawingProps {
  readonly label: string;
  readonly unit: string;
  /** The definition of the figure. */
  readonly means: string;
  readonly figure: string;
  readonly beside: string;
  /** Figures at the foot, middle and top of the strip. */
  readonly scale?: readonly [string, string, string];
}

/** One strip: its name, its chart on the common weekly axis, and where it stands now. */
function Strip({ label, unit, means, figure, beside, scale, ...drawn }: StripProps) {
  const { height, axis } = drawn;
  return (
    <div className="grid grid-cols-[7.5rem_minmax(0,1fr)_6.8rem] items-end gap-x-3 max-sm:mb-2 max-sm:grid-cols-[minmax(0,1fr)_5.5rem]">
      <div className="pb-1 leading-tight max-sm:col-span-2">
        <div className="text-[13px] font-semibold">
          {label}
          <Definition of={label}>{means}</Definition>
        </div>
        <div className="text-muted text-xs">{unit}</div>
      </div>
      <div
        className={classes(
          'relative overflow-x-clip print:overflow-x-visible',
          !axis && 'border-line border-b',
        )}
        style={{ height }}
      >
        {scale ? (
          <div
            aria-hidden
            className="text-muted pointer-events-none absolute inset-x-0 top-0 z-10 text-[10px] leading-none"
            style={{ height: height - (axis ? 18 : 1) }}
          >
            {scale.map((figure, i) => (
              <span
                key={figure}
                className="absolute left-0"
                style={i === 2 ? { top: 0 } : i === 1 ? { top: '50%', marginTop: -5 } : { bottom: 0 }}
              >
                {figure}
              </span>
            ))}
          </div>
        ) : null}
        <StripDrawing {...drawn} />
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
  const rows = weeks.map(stripRow);
  const now = Math.min(weeks.length, Math.max(1, currentWeek));
  const current = rows[now - 1];
  const common = { rows, now };
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
        figure={current?.days == null ? 'none yet' : `${current.days} in week ${current.week}`}
        beside={usualDays}
        height={46}
        scale={['0', '', '7']}
        tip={(r) => (r.days == null ? 'to come' : `logged in on ${r.days} of 7 days`)}
        kind="days"
      />
      <Strip
        {...common}
        label="Time on task"
        unit="dark: in class"
        means="Minutes between events of one sitting. A gap over the session limit (30 minutes, unless the course set another) ends it; its last event counts with the student’s usual time for that kind of activity. In class is what falls into a meeting of the student’s section."
        figure={`${minutesText(total)}`}
        beside={
          showsClass && median != null
            ? `class ${minutesText(median)}, week ${currentWeek}`
            : `week ${currentWeek}`
        }
        height={58}
        tip={(r) =>
          r.outside == null
            ? 'to come'
            : `${minutesText(r.inClass ?? 0)} in class, ${minutesText(r.outside)} outside${r.median == null ? '' : `; class median ${minutesText(r.median)}`}`
        }
        kind="time"
      />
      <Strip
        {...common}
        label="Handed in"
        unit="line: expected"
        means="Assignments due by the end of the week that were handed in or graded, late ones too, out of all that were due and not excused. An assignment without a due date is never expected."
        figure={current?.expected == null ? 'none yet' : `${current.done} of ${current.expected}`}
        beside={handedIn}
        height={58}
        tip={(r) =>
          r.expected == null ? 'to come' : `${r.done} of ${r.expected} expected assignments handed in`
        }
        kind="work"
      />
      <Strip
        {...common}
        label="Standing"
        means="The weighted grade over what had been returned by the end of the week. Excused assignments are left out, the lowest dropped where the course says so, and missing ones count as the course’s policy says."
        unit={showsClass ? 'band: class, middle half' : 'per cent'}
        figure={percentText(current?.standing ?? null)}
        beside={trend}
        height={88}
        scale={['0', '50', '100 %']}
        axis
        tip={(r) =>
          r.days == null
            ? 'to come'
            : `standing ${percentText(r.standing)}${r.band ? `; middle half of the class ${Math.round(r.band[0])} to ${Math.round(r.band[1])} %` : ''}`
        }
        kind="standing"
      />
      <StripTable weeks={weeks} />
    </div>
  );
}
