import type { Agreement } from '@/core/acts/agreement';
import { weekdayDay } from '@/core/format';
import { Panel } from '../parts/Panel';

/** What the student and those who teach agreed on, and when both look at it. */
export function AgreementCard({ agreements }: { readonly agreements: readonly Agreement[] }) {
  const open = agreements.filter((a) => a.closedAs == null);
  if (open.length === 0) return null;
  return (
    <Panel className="border-l-teal space-y-3 border-l-4 p-5">
      <h3 className="font-serif text-lg font-semibold">What you agreed on</h3>
      {open.map((a) => (
        <div key={a.id}>
          <p className="font-semibold">{a.goal}</p>
          <p>First step: {a.step}</p>
          {a.said ? <p>“{a.said}”</p> : null}
          <p className="text-muted text-[13px]">
            With {a.with}; you look at it together {weekdayDay(a.on)}.
          </p>
        </div>
      ))}
    </Panel>
  );
}
