import type { AheadView } from '@/core/views/live';
import { counted, dayWithYear } from '@/core/format';
import { Panel } from '../parts/Panel';

/** Statements whose source has a clock that runs ahead. */
export function Ahead({ zone, ahead }: { readonly zone: string; readonly ahead: readonly AheadView[] }) {
  const all = ahead.reduce((sum, a) => sum + a.statements, 0);
  return (
    <Panel className="p-4">
      <h2 className="font-serif text-lg font-semibold">
        {counted(all, 'statement')} dated more than a day ahead
      </h2>
      <p className="text-muted text-[13px]">
        They are kept as they came and count for nobody. Check the clock of the system that sent them.
      </p>
      <ul aria-label="Statements dated ahead" className="mt-2 space-y-1">
        {ahead.map((a) => (
          <li key={a.source} className="break-words">
            {a.statements} from {a.source}, the furthest dated {dayWithYear(a.furthest, zone)}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
