import type { AttemptsLine } from '@/core/views/brief';
import { dayAndTime } from '@/core/format';

/** Works that were tried more than once, with the first, best and last attempt; then how many were tried once. */
export function Attempts({
  lines,
  zone,
}: {
  readonly lines: readonly AttemptsLine[];
  readonly zone: string;
}) {
  const several = lines.filter((l) => l.count > 1);
  if (lines.length === 0) return <p className="text-muted">Nothing has been handed in yet.</p>;
  return (
    <>
      {several.length > 0 ? (
        <table className="w-full text-right text-[13px]">
          <thead className="text-muted">
            <tr>
              <th className="text-left font-normal">Work</th>
              <th className="font-normal">Attempts</th>
              <th className="font-normal">First</th>
              <th className="font-normal">Best</th>
              <th className="font-normal">Last</th>
            </tr>
          </thead>
          <tbody>
            {several.map((l) => (
              <tr key={l.activityId} className="border-line/60 border-t">
                <th className="py-0.5 text-left font-normal">{l.title}</th>
                <td>{l.count}</td>
                <td title={dayAndTime(l.first.at, zone)}>{l.first.points ?? 'to grade'}</td>
                <td className="font-semibold">{l.best == null ? '' : `${l.best} of ${l.maximum}`}</td>
                <td title={dayAndTime(l.last.at, zone)}>{l.last.points ?? 'to grade'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      <p className="text-muted text-[13px]">
        {lines.length - several.length} of {lines.length} works were handed in at the first attempt.
      </p>
    </>
  );
}
