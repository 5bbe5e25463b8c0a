import type { RibbonWeek } from '@/core/views/ribbon';
import { counted, minutesText } from '../parts/format';

const WIDTH = 1000;
const TOP = 16;
const BASE = 62;

/**
 * The term at a glance: a column a week, the class's median time on task as an area, due dates as ticks, breaks
 * shaded, today marked. The figures are in its table for who cannot see it.
 */
export function TermRibbon({
  weeks,
  today,
}: {
  readonly weeks: readonly RibbonWeek[];
  readonly today: number;
}) {
  const column = WIDTH / weeks.length;
  const known = weeks.filter((w) => w.medianMinutes != null);
  const most = Math.max(1, ...known.map((w) => w.medianMinutes!));
  const x = (week: number) => (week - 0.5) * column;
  const y = (minutes: number) => BASE - ((BASE - TOP) * minutes) / most;
  // The week that runs is not over: its figure is drawn apart, so that it does not look like a fall.
  const whole = known.filter((w) => today >= w.until);
  const points = (list: readonly RibbonWeek[]) =>
    list.map((w) => `${x(w.week)},${y(w.medianMinutes!)}`).join(' ');
  const current = weeks.find((w) => today >= w.from && today < w.until);
  const todayX = current
    ? (current.week - 1 + (today - current.from) / (current.until - current.from)) * column
    : null;
  const last = whole.at(-1);
  return (
    <figure className="border-line bg-panel mb-3 rounded-lg border px-1 pt-1">
      <figcaption className="text-muted px-2 pt-1 text-xs">
        Class median, minutes a week{last ? `: ${minutesText(last.medianMinutes!)} in week ${last.week}` : ''}
        . Ticks: works due. Dashed: the week that runs.
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} 84`}
        className="block h-[64px] w-full"
        preserveAspectRatio="none"
        aria-hidden
      >
        {weeks
          .filter((w) => w.isBreak)
          .map((w) => (
            <rect
              key={w.week}
              x={(w.week - 1) * column}
              y={0}
              width={column}
              height={BASE}
              fill="var(--low)"
              opacity={0.6}
            />
          ))}
        {current ? (
          <rect x={(current.week - 1) * column} y={0} width={column} height={BASE} fill="var(--amber-wash)" />
        ) : null}
        {whole.length > 1 ? (
          <>
            <polygon
              points={`${x(whole[0]!.week)},${BASE} ${points(whole)} ${x(whole.at(-1)!.week)},${BASE}`}
              fill="var(--mid)"
              opacity={0.5}
            />
            <polyline
              points={points(whole)}
              fill="none"
              stroke="var(--high)"
              strokeWidth={1.8}
              vectorEffect="non-scaling-stroke"
            />
            {known.length > whole.length ? (
              <polyline
                points={points(known.slice(whole.length - 1))}
                fill="none"
                stroke="var(--high)"
                strokeDasharray="3 3"
                vectorEffect="non-scaling-stroke"
              />
            ) : null}
          </>
        ) : null}
        <line x1={0} x2={WIDTH} y1={BASE} y2={BASE} stroke="var(--line)" vectorEffect="non-scaling-stroke" />
        {weeks.flatMap((w) =>
          w.due.map((d, i) => {
            const at = (w.week - 1 + d.place) * column;
            return (
              <line
                key={`${w.week}-${i}`}
                x1={at}
                x2={at}
                y1={BASE - 6}
                y2={BASE}
                stroke="var(--ink)"
                strokeWidth={1.6}
                vectorEffect="non-scaling-stroke"
              />
            );
          }),
        )}
        {todayX == null ? null : (
          <line
            x1={todayX}
            x2={todayX}
            y1={0}
            y2={BASE}
            stroke="var(--plum)"
            strokeDasharray="3 2"
            strokeWidth={1.4}
            vectorEffect="non-scaling-stroke"
          />
        )}
      </svg>
      <ol
        className="-mt-5 grid pb-1 text-center text-xs"
        style={{ gridTemplateColumns: `repeat(${weeks.length}, 1fr)` }}
      >
        {weeks.map((w) => (
          <li key={w.week} className={w === current ? 'text-ink font-bold' : 'text-muted'}>
            <span className="sr-only">Week </span>
            {w.week}
            <span className="sr-only">
              {w.isBreak ? ', break' : ''}
              {w.medianMinutes == null ? '' : `, class median ${minutesText(w.medianMinutes)}`}
              {w.due.length > 0
                ? `, ${counted(w.due.length, 'work')} due: ${w.due.map((d) => d.title).join(', ')}`
                : ''}
              {w === current ? ', today' : ''}
            </span>
            {w.isBreak ? <span aria-hidden> break</span> : null}
            {w === current ? (
              <span aria-hidden className="text-plum font-normal">
                {' '}
                today
              </span>
            ) : null}
          </li>
        ))}
      </ol>
    </figure>
  );
}
