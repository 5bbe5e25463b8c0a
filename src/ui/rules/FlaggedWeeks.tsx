import Link from 'next/link';
import { counted, listed } from '@/core/format';
import type { IndicatorPreview } from '@/core/views/indicators';

/** Names that are listed; more of them are counted. */
const NAMED = 4;
const H = 34;
const W = 13;

const names = (list: IndicatorPreview['now']): string =>
  list.length <= NAMED
    ? listed(list.map((s) => s.name))
    : `${list
        .slice(0, NAMED)
        .map((s) => s.name)
        .join(', ')} and ${list.length - NAMED} more`;

/** How many students an indicator would have flagged in each week, and who comes and goes with what is typed. */
export function FlaggedWeeks({
  code,
  before,
  found,
}: {
  readonly code: string;
  /** With the thresholds that are saved. */
  readonly before: IndicatorPreview | null;
  readonly found: IndicatorPreview;
}) {
  const most = Math.max(1, ...found.weeks.map((w) => w.watch + w.act));
  const height = (n: number) => (n / most) * H;
  const was = new Set(before?.now.map((s) => s.id));
  const is = new Set(found.now.map((s) => s.id));
  const come = before ? found.now.filter((s) => !was.has(s.id)) : [];
  const gone = before ? before.now.filter((s) => !is.has(s.id)) : [];
  const words = found.weeks.map((w, i) => `week ${i + 1}: ${w.watch + w.act}, ${w.act} to act on`).join('; ');
  const act = found.now.filter((s) => s.level === 'act').length;
  return (
    <div className="border-line mt-3 flex min-h-22 flex-wrap items-end gap-3 border-t pt-3">
      <svg
        width={W * found.weeks.length}
        height={H + 2}
        role="img"
        aria-label={`Students it would have flagged: ${words}`}
      >
        {found.weeks.map((w, i) => (
          <g key={i}>
            <rect
              x={i * W}
              width={W - 3}
              y={H - height(w.watch + w.act)}
              height={height(w.watch + w.act)}
              fill="var(--amber)"
              opacity={0.55}
            />
            <rect x={i * W} width={W - 3} y={H - height(w.act)} height={height(w.act)} fill="var(--plum)" />
            <rect x={i * W} width={W - 3} y={H} height={1} fill="var(--edge)" />
          </g>
        ))}
      </svg>
      <div className="min-w-0 flex-1 text-[13px]" aria-live="polite">
        <p>
          <span className="font-semibold">{counted(found.now.length, 'student')} now</span>
          {act > 0 ? `, ${act} to act on` : ''}; the bars are the weeks of the term.
        </p>
        {come.length > 0 ? <p>Would come: {names(come)}</p> : null}
        {gone.length > 0 ? <p>Would go: {names(gone)}</p> : null}
        {before && come.length + gone.length === 0 && found.now.length > 0 ? (
          <p className="text-muted">
            <Link href={`/c/${code}/rounds?show=${encodeURIComponent(found.kind)}`} className="text-teal">
              See them in Rounds
            </Link>
          </p>
        ) : null}
      </div>
    </div>
  );
}
