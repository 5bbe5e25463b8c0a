'use client';
import { useRef, useState, type PointerEvent } from 'react';
import { NOT_YET_UNDER, SECURE_FROM } from '@/core/outcomes/mastery';
import type { OutcomeCell } from '@/core/views/outcomes';

/** A stretch of the scale, in per cent. */
export type Stretch = readonly [from: number, to: number];

const H = 22;

/**
 * Each student as a tick on the scale of an outcome, with where "not yet" ends and "secure" begins; those of whom too
 * little is known are faint. A sweep chooses a stretch; with the keyboard, the fields below do.
 */
export function TickStrip({
  label,
  cells,
  chosen,
  onChoose,
}: {
  readonly label: string;
  readonly cells: readonly OutcomeCell[];
  readonly chosen: Stretch | null;
  readonly onChoose: (stretch: Stretch) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [from, setFrom] = useState<number | null>(null);
  const at = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return Math.round(Math.max(0, Math.min(100, (100 * (e.clientX - box.left)) / box.width)));
  };
  return (
    <svg
      ref={svg}
      role="img"
      aria-label={label}
      className="h-5.5 w-full cursor-col-resize touch-pan-y select-none"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setFrom(at(e));
      }}
      onPointerMove={(e) => {
        if (from == null) return;
        const to = at(e);
        if (to !== from) onChoose([Math.min(from, to), Math.max(from, to)]);
      }}
      onPointerUp={() => setFrom(null)}
      onPointerCancel={() => setFrom(null)}
    >
      {chosen ? (
        <rect
          x={`${chosen[0]}%`}
          width={`${Math.max(0.5, chosen[1] - chosen[0])}%`}
          y={0}
          height={H}
          fill="var(--amber-wash)"
        />
      ) : null}
      <rect x={0} width="100%" y={H / 2 - 1.5} height={3} rx={1.5} fill="var(--line)" />
      {cells.map((c, i) => (
        <line
          key={i}
          x1={`${100 * c.mean}%`}
          x2={`${100 * c.mean}%`}
          y1={4}
          y2={H - 4}
          stroke={c.level === 'too little data' ? 'var(--mid)' : 'var(--high)'}
          strokeWidth={1.5}
          strokeDasharray={c.level === 'too little data' ? '2 2' : undefined}
        />
      ))}
      {[NOT_YET_UNDER, SECURE_FROM].map((share) => (
        <line
          key={share}
          x1={`${100 * share}%`}
          x2={`${100 * share}%`}
          y1={0}
          y2={H}
          stroke={share === SECURE_FROM ? 'var(--teal)' : 'var(--plum)'}
          strokeWidth={1.5}
          strokeDasharray="2 2"
        />
      ))}
    </svg>
  );
}
