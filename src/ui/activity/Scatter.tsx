'use client';
import { useRef, useState, type PointerEvent } from 'react';
import { binWidth } from '@/core/gradebook/distribution';

/** A swept area, each side from the lower to the higher figure. */
export interface Area {
  readonly minutes: readonly [number, number];
  readonly progress: readonly [number, number];
}

interface Props {
  readonly points: readonly {
    readonly id: number;
    readonly name: string;
    readonly minutes: number;
    readonly progress: number;
  }[];
  /** The middle half by minutes, ascending. */
  readonly band: readonly { readonly minutes: number; readonly low: number; readonly high: number }[];
  /** Minutes at which the upright line stands. */
  readonly middle: number;
  readonly area: Area | null;
  readonly picked: ReadonlySet<number>;
  readonly label: string;
  readonly onArea: (area: Area | null) => void;
}

const W = 620;
const H = 340;
const LEFT = 40;
const RIGHT = 18;
const BOTTOM = 34;
const TOP = 10;
/** Points over the band of the middle half; dragging sweeps an area. Everything it shows also stands in the table. */
export function Scatter({ points, band, middle, area, picked, label, onArea }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ readonly x: number; readonly y: number } | null>(null);
  const most = Math.max(60, middle, ...points.map((p) => p.minutes), ...band.map((b) => b.minutes)) * 1.04;
  const x = (minutes: number) => LEFT + ((W - LEFT - RIGHT) * minutes) / most;
  const y = (progress: number) => TOP + ((H - TOP - BOTTOM) * (100 - progress)) / 100;
  const minutesAt = (px: number) => Math.min(most, Math.max(0, ((px - LEFT) / (W - LEFT - RIGHT)) * most));
  const progressAt = (py: number) =>
    Math.min(100, Math.max(0, 100 - ((py - TOP) / (H - TOP - BOTTOM)) * 100));
  const at = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return { x: ((e.clientX - box.left) / box.width) * W, y: ((e.clientY - box.top) / box.height) * H };
  };
  const step = binWidth(most, 6);
  const onMove = (e: PointerEvent) => {
    if (!drag) return;
    const p = at(e);
    const minutes = [minutesAt(Math.min(drag.x, p.x)), minutesAt(Math.max(drag.x, p.x))] as const;
    const progress = [progressAt(Math.max(drag.y, p.y)), progressAt(Math.min(drag.y, p.y))] as const;
    onArea({ minutes, progress });
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label="Minutes on task against progress; the same figures stand in the table below"
      className="w-full touch-none select-none"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        onArea(null);
        setDrag(at(e));
      }}
      onPointerMove={onMove}
      onPointerUp={() => setDrag(null)}
      onPointerCancel={() => setDrag(null)}
    >
      {Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step).map((m) => (
        <g key={m}>
          <line x1={x(m)} x2={x(m)} y1={TOP} y2={H - BOTTOM} stroke="var(--line)" />
          <text x={x(m)} y={H - BOTTOM + 15} textAnchor="middle" fontSize={12} fill="var(--muted)">
            {m}
          </text>
        </g>
      ))}
      {[0, 25, 50, 75, 100].map((p) => (
        <g key={p}>
          <line x1={LEFT} x2={W - RIGHT} y1={y(p)} y2={y(p)} stroke="var(--line)" />
          <text x={LEFT - 6} y={y(p) + 4} textAnchor="end" fontSize={12} fill="var(--muted)">
            {p}
          </text>
        </g>
      ))}
      <text x={W - RIGHT} y={H - 4} textAnchor="end" fontSize={12} fill="var(--muted)">
        minutes on task
      </text>
      <text
        x={4}
        y={TOP + 2}
        fontSize={12}
        fill="var(--muted)"
        dominantBaseline="hanging"
        transform={`rotate(-90 4 ${TOP + 2}) translate(-110 0)`}
      >
        {label}
      </text>
      {band.length > 1 ? (
        <polygon
          points={[
            ...band.map((b) => `${x(b.minutes)},${y(b.high)}`),
            ...[...band].reverse().map((b) => `${x(b.minutes)},${y(b.low)}`),
          ].join(' ')}
          fill="var(--mid)"
          opacity={0.4}
        />
      ) : null}
      {points.map((p) => (
        <circle
          key={p.id}
          cx={x(p.minutes)}
          cy={y(p.progress)}
          r={picked.has(p.id) ? 6 : 4.5}
          fill={picked.has(p.id) ? 'var(--amber)' : 'var(--high)'}
          stroke="var(--panel)"
          fillOpacity={0.85}
        >
          <title>{`${p.name}: ${Math.round(p.minutes)} min, ${Math.round(p.progress)} %`}</title>
        </circle>
      ))}
      <line
        x1={x(middle)}
        x2={x(middle)}
        y1={TOP}
        y2={H - BOTTOM}
        stroke="var(--ink)"
        strokeDasharray="5 4"
        strokeWidth={1.2}
      />
      {area ? (
        <rect
          x={x(area.minutes[0])}
          y={y(area.progress[1])}
          width={x(area.minutes[1]) - x(area.minutes[0])}
          height={y(area.progress[0]) - y(area.progress[1])}
          fill="var(--amber)"
          fillOpacity={0.18}
          stroke="var(--amber)"
          strokeWidth={1.5}
        />
      ) : null}
    </svg>
  );
}
