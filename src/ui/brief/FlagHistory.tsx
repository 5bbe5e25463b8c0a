import type { ReasonView } from '@/core/views/reason';
import { shortDay } from '@/core/format';
import { LevelMark } from '../parts/Level';

/** Every flag of a student, open and past, with the days between which it stood. */
export function FlagHistory({
  open,
  past,
}: {
  readonly open: readonly ReasonView[];
  readonly past: readonly ReasonView[];
}) {
  const all = [...open, ...past].sort((a, b) => (a.openedOn < b.openedOn ? 1 : -1));
  if (all.length === 0) return <p className="text-muted">No threshold was ever crossed.</p>;
  return (
    <ul className="space-y-0.5 text-[13px]">
      {all.map((f, i) => (
        <li key={`${f.kind}-${f.openedOn}-${i}`} className="flex gap-2">
          <LevelMark level={f.level} />
          <span className="w-32 shrink-0">{f.kind}</span>
          <span className="text-muted">
            {shortDay(f.openedOn)} {f.closedOn ? `to ${shortDay(f.closedOn)}` : 'until now'}
          </span>
          <span className="text-muted min-w-0 print:truncate">{f.head}</span>
        </li>
      ))}
    </ul>
  );
}
