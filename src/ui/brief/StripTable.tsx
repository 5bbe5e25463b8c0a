import type { StripWeek } from '@/core/views/brief';
import { percentText } from '@/core/format';
import { Wide } from '../parts/Wide';

/** The figures of the strips as a table. */
export function StripTable({ weeks }: { readonly weeks: readonly StripWeek[] }) {
  const past = weeks.filter((w) => w.own != null);
  const showsClass = weeks.some((w) => w.classMedianMinutes != null);
  return (
    <details className="no-print mt-1 text-xs">
      <summary className="text-muted hover:text-ink w-fit">These figures as a table</summary>
      <Wide label="Figures">
        <table className="mt-2 w-full text-right">
          <thead className="text-muted">
            <tr className="border-line border-b">
              <th className="py-1 text-left font-normal">Week</th>
              <th className="font-normal">Days</th>
              <th className="font-normal">Min in class</th>
              <th className="font-normal">Min outside</th>
              {showsClass ? <th className="font-normal">Class median min</th> : null}
              <th className="font-normal">Handed in</th>
              <th className="font-normal">Expected</th>
              <th className="font-normal">Standing</th>
              {showsClass ? <th className="font-normal">Class middle half</th> : null}
            </tr>
          </thead>
          <tbody>
            {past.map((w) => (
              <tr key={w.week} className="border-line/60 border-b">
                <th className="py-0.5 text-left font-normal">
                  {w.week}
                  {w.isBreak ? ' (break)' : ''}
                </th>
                <td>{w.own!.days}</td>
                <td>{Math.round(w.own!.minutesInClass)}</td>
                <td>{Math.round(w.own!.minutesOutside)}</td>
                {showsClass ? (
                  <td>{w.classMedianMinutes == null ? '' : Math.round(w.classMedianMinutes)}</td>
                ) : null}
                <td>{w.own!.done}</td>
                <td>{w.own!.expected}</td>
                <td>{percentText(w.own!.standing)}</td>
                {showsClass ? (
                  <td>
                    {w.classStanding
                      ? `${Math.round(w.classStanding.low)} to ${Math.round(w.classStanding.high)} %`
                      : 'too few'}
                  </td>
                ) : null}
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </details>
  );
}
