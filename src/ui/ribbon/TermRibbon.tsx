'use client';
import { useState, type PointerEvent } from 'react';
import type { DaySpan, Window } from '@/core/calendar/window';
import { addDays, daysBetween, localDate } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import type { RibbonWeek } from '@/core/views/ribbon';
import { counted, minutesText } from '@/core/format';

const sorted = ({ from, to }: DaySpan): DaySpan => (from <= to ? { from, to } : { from: to, to: from });

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
  zone,
  window,
  onWindow,
}: {
  readonly weeks: readonly RibbonWeek[];
  readonly today: number;
  readonly zone: string;
  readonly window: Window;
  readonly onWindow: (from: LocalDate, to: LocalDate) => void;
}) {
  const [drag, setDrag] = useState<{ readonly from: LocalDate; readonly to: LocalDate } | null>(null);
  const first = weeks[0]!.from;
  const dayAt = (event: PointerEvent<HTMLElement>): LocalDate => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = Math.min(0.9999, Math.max(0, (event.clientX - box.left) / box.width));
    return addDays(localDate(first, zone), Math.floor(share * weeks.length * 7));
  };
  /** Left and right edge of a span of days, on a scale of a thousand. */
  const edges = (span: DaySpan) => {
    const day = WIDTH / (weeks.length * 7);
    const start = daysBetween(localDate(first, zone), span.from);
    return { x: start * day, width: (daysBetween(span.from, span.to) + 1) * day };
  };
  const chosen = drag ? sorted(drag) : window;
  const before = drag ? null : window.before;
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
    <figure className="border-line min-w-0 border-t px-1">
      <figcaption className="sr-only">
        Class median, minutes a week{last ? `: ${minutesText(last.medianMinutes!)} in week ${last.week}` : ''}
        . Ticks: assignments due. Drag over days to choose them.
      </figcaption>
      <div
        className="relative cursor-col-resize touch-none select-none"
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrag({ from: dayAt(e), to: dayAt(e) });
        }}
        onPointerMove={(e) => {
          if (drag) setDrag({ ...drag, to: dayAt(e) });
        }}
        onPointerCancel={() => setDrag(null)}
        onPointerUp={() => {
          if (!drag) return;
          const { from, to } = sorted(drag);
          setDrag(null);
          onWindow(from, to);
        }}
      >
        <svg viewBox={`0 0 ${WIDTH} 84`} className="block h-9 w-full" preserveAspectRatio="none" aria-hidden>
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
          <defs>
            <pattern
              id="hatch"
              width="7"
              height="7"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="7" stroke="var(--amber)" strokeWidth="1.6" opacity="0.55" />
            </pattern>
          </defs>
          {before ? <rect {...edges(before)} y={0} height={BASE} fill="url(#hatch)" /> : null}
          <rect {...edges(chosen)} y={0} height={BASE} fill="var(--amber-wash)" />
          {[edges(chosen).x, edges(chosen).x + edges(chosen).width].map((edge) => (
            <line
              key={edge}
              x1={edge}
              x2={edge}
              y1={0}
              y2={BASE}
              stroke="var(--amber)"
              strokeWidth={2}
              vectorEffect="non-scaling-stroke"
            />
          ))}
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
          <line
            x1={0}
            x2={WIDTH}
            y1={BASE}
            y2={BASE}
            stroke="var(--line)"
            vectorEffect="non-scaling-stroke"
          />
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
      </div>
      <ol
        className="-mt-3 grid pb-0.5 text-center text-[11px]"
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
                ? `, ${counted(w.due.length, 'assignment')} due: ${w.due.map((d) => d.title).join(', ')}`
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
