'use client';
import { useRef, useState, type PointerEvent } from 'react';
import type { Bin } from '@/core/gradebook/distribution';

interface Props {
  readonly bins: readonly Bin[];
  readonly unit: string;
  /** The bins chosen, first and last, both included; null for none. */
  readonly range: readonly [number, number] | null;
  readonly onRange: (range: readonly [number, number] | null) => void;
  /** Where the reader should look: a line at a figure, with its word. */
  readonly marks: readonly { readonly at: number; readonly label: string }[];
}

const W = 620;
const H = 190;
const BASE = 160;
const LEFT = 30;
/** Half of a count's width and a little more. */
const CLEAR = 11;

/** A distribution whose bars are swept over to choose a range; with the keyboard, by the fields beside it. */
export function SweepBars({ bins, unit, range, onRange, marks }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [from, setFrom] = useState<number | null>(null);
  const most = Math.max(1, ...bins.map((b) => b.count));
  const width = (W - LEFT - 6) / bins.length;
  const end = bins.at(-1)!.to;
  const x = (value: number) => LEFT + ((W - LEFT - 6) * value) / end;
  const binAt = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const px = ((e.clientX - box.left) / box.width) * W;
    return Math.max(0, Math.min(bins.length - 1, Math.floor((px - LEFT) / width)));
  };
  /** How far a count steps aside, so that it never lies on the line of a mark. */
  const aside = (centre: number): number => {
    const near = marks.map((m) => x(m.at)).find((line) => Math.abs(line - centre) < CLEAR);
    return near == null ? 0 : near >= centre ? near - centre - CLEAR : near - centre + CLEAR;
  };
  const chosen = (i: number) => range != null && i >= range[0] && i <= range[1];
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Distribution: ${bins
        .filter((b) => b.count > 0)
        .map((b) => `${b.from} to ${b.to} ${unit}: ${b.count}`)
        .join('; ')}`}
      className="w-full cursor-col-resize touch-none select-none"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const bin = binAt(e);
        setFrom(bin);
        onRange([bin, bin]);
      }}
      onPointerMove={(e) => {
        if (from == null) return;
        const bin = binAt(e);
        onRange([Math.min(from, bin), Math.max(from, bin)]);
      }}
      onPointerUp={() => setFrom(null)}
      onPointerCancel={() => setFrom(null)}
    >
      {bins.map((b, i) => {
        // Room above the tallest for its count, and above that for the labels of the marks.
        const height = ((BASE - 34) * b.count) / most;
        return (
          <g key={b.from}>
            <rect
              x={LEFT + i * width}
              y={0}
              width={width}
              height={BASE}
              fill={chosen(i) ? 'var(--amber-wash)' : 'transparent'}
            />
            <rect
              x={LEFT + i * width + 1.5}
              y={BASE - height}
              width={Math.max(1, width - 3)}
              height={height}
              fill={chosen(i) ? 'var(--high)' : 'var(--mid)'}
            />
            {b.count > 0 ? (
              <text
                x={LEFT + (i + 0.5) * width + aside(LEFT + (i + 0.5) * width)}
                y={BASE - height - 4}
                textAnchor="middle"
                fontSize={12}
                fill="var(--ink)"
              >
                {b.count}
              </text>
            ) : null}
            <text x={LEFT + i * width} y={BASE + 14} textAnchor="middle" fontSize={11} fill="var(--muted)">
              {b.from}
            </text>
          </g>
        );
      })}
      <text x={x(end)} y={BASE + 14} textAnchor="end" fontSize={11} fill="var(--muted)">
        {end}
      </text>
      <text x={W - 6} y={H - 2} textAnchor="end" fontSize={11} fill="var(--muted)">
        {unit}
      </text>
      <line x1={LEFT} x2={W - 6} y1={BASE} y2={BASE} stroke="var(--edge)" />
      {marks.map((m) => (
        <g key={m.label}>
          <line x1={x(m.at)} x2={x(m.at)} y1={2} y2={BASE} stroke="var(--ink)" strokeDasharray="4 3" />
          <text
            x={x(m.at) + (m.at > 0.8 * end ? -4 : 4)}
            y={2}
            textAnchor={m.at > 0.8 * end ? 'end' : 'start'}
            fontSize={11}
            fill="var(--ink)"
            dominantBaseline="hanging"
          >
            {m.label}
          </text>
        </g>
      ))}
    </svg>
  );
}
