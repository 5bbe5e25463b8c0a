'use client';
import { useState } from 'react';
import { CORNER_WORDS, CORNERS, cornerOf, type Corner, type Cuts } from '@/core/activity/corners';
import { quantile } from '@/core/statistics/quantile';
import type { ActivityView, EffortRow } from '@/core/views/activity';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { counted, spanText } from '@/core/format';
import { Panel } from '../parts/Panel';
import { usePick } from '../parts/usePick';
import { useQuery } from '../ribbon/useQuery';
import { Scatter, type Area } from './Scatter';

/** Time on task against progress: where the two part, and who stands there. */
export function Effort({ view, rows }: { readonly view: ActivityView; readonly rows: readonly EffortRow[] }) {
  const { query, note } = useQuery();
  const { picked, pick } = usePick(view.course.code, view.tray);
  const measure = query.get('y') === 'completion' ? 'completion' : 'standing';
  const points = rows.flatMap((r) => {
    const progress = r[measure];
    return progress == null ? [] : [{ id: r.enrolmentId, name: r.name, minutes: r.minutes, progress }];
  });
  const usual: Cuts = {
    minutes: Math.round(
      quantile(
        points.map((p) => p.minutes),
        0.5,
      ) ?? 0,
    ),
    progress: Math.round(
      quantile(
        points.map((p) => p.progress),
        1 / 3,
      ) ?? 0,
    ),
  };
  const [own, setOwn] = useState<Partial<Cuts>>({});
  const [area, setArea] = useState<Area | null>(null);
  const cuts: Cuts = { ...usual, ...own };
  const inCorner = (corner: Corner) => points.filter((p) => cornerOf(p, cuts) === corner);
  const swept = area
    ? points.filter(
        (p) =>
          p.minutes >= area.minutes[0] &&
          p.minutes <= area.minutes[1] &&
          p.progress >= area.progress[0] &&
          p.progress <= area.progress[1],
      )
    : [];
  const stuck = inCorner('much time, little progress');
  if (points.length === 0) {
    return (
      <Panel className="p-4">
        <p className="text-muted">
          Nothing is graded in this group yet, so there is no progress to set against the time.
        </p>
      </Panel>
    );
  }
  return (
    <Panel className="p-4">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <h2 className="font-serif text-lg font-semibold">
          {stuck.length === 0
            ? 'Nobody works much and gets little for it'
            : `${counted(stuck.length, 'student')} ${stuck.length === 1 ? 'works' : 'work'} as long as half the class and ${stuck.length === 1 ? 'gets' : 'get'} little for it`}
        </h2>
        <Chips
          label="Progress is"
          value={measure}
          options={[
            { value: 'standing', label: 'Standing' },
            { value: 'completion', label: 'Work handed in' },
          ]}
          onChange={(v) => {
            note({ y: v === 'standing' ? null : v });
            setOwn({});
            setArea(null);
          }}
        />
      </div>
      <p className="text-muted text-[13px]">
        Minutes {spanText(view.scope.window)} against{' '}
        {measure === 'standing' ? 'the standing' : 'the share of expected work handed in'} now. Sweep over an
        area to pick its students; move the lines by the fields or by dragging them.
      </p>
      <div className="mt-2 grid gap-4 lg:grid-cols-[minmax(0,1fr)_21rem]">
        <div>
          <Scatter
            points={points}
            cuts={cuts}
            area={area}
            picked={picked}
            label={measure === 'standing' ? 'standing, %' : 'handed in, %'}
            onArea={setArea}
            onCuts={setOwn}
          />
          <div className="mt-1 flex flex-wrap items-center gap-3 text-[13px]">
            <label>
              Line at{' '}
              <input
                type="number"
                min={0}
                className="border-edge/70 bg-panel w-20 rounded border px-1"
                value={cuts.minutes}
                onChange={(e) => setOwn({ ...own, minutes: Number(e.target.value) })}
              />{' '}
              minutes
            </label>
            <label>
              and at{' '}
              <input
                type="number"
                min={0}
                max={100}
                className="border-edge/70 bg-panel w-16 rounded border px-1"
                value={cuts.progress}
                onChange={(e) => setOwn({ ...own, progress: Number(e.target.value) })}
              />{' '}
              %
            </label>
            <Button look="quiet" small onClick={() => setOwn({})}>
              Median and lowest third
            </Button>
            {area ? (
              <span className="ml-auto flex items-center gap-2" role="status">
                {counted(swept.length, 'student')} in the area
                <Button
                  small
                  disabled={swept.length === 0}
                  onClick={() => {
                    pick(
                      swept.map((p) => p.id),
                      `${Math.round(area.minutes[0])} to ${Math.round(area.minutes[1])} minutes and ${Math.round(area.progress[0])} to ${Math.round(area.progress[1])} % ${measure === 'standing' ? 'standing' : 'handed in'}`,
                    );
                    setArea(null);
                  }}
                >
                  Pick these {swept.length}
                </Button>
              </span>
            ) : null}
          </div>
        </div>
        <ul className="space-y-3">
          {CORNERS.map((corner) => {
            const who = inCorner(corner);
            return (
              <li key={corner}>
                <div className="flex items-baseline justify-between gap-2">
                  <span className="font-semibold first-letter:uppercase">
                    {corner}: {who.length}
                  </span>
                  {who.length > 0 ? (
                    <Button
                      small
                      aria-label={`Pick ${who.length} with ${corner}`}
                      onClick={() =>
                        pick(
                          who.map((p) => p.id),
                          corner,
                        )
                      }
                    >
                      Pick {who.length}
                    </Button>
                  ) : null}
                </div>
                <p className="text-muted text-[13px]">{CORNER_WORDS[corner]}</p>
              </li>
            );
          })}
        </ul>
      </div>
      <details className="mt-2 text-[13px]">
        <summary className="text-muted hover:text-ink w-fit">These figures as a table</summary>
        <table className="mt-2 w-full max-w-2xl">
          <thead className="text-muted text-left">
            <tr>
              <th className="font-normal">Student</th>
              <th className="text-right font-normal">Minutes</th>
              <th className="text-right font-normal">{measure === 'standing' ? 'Standing' : 'Handed in'}</th>
              <th className="pl-4 font-normal">Corner</th>
            </tr>
          </thead>
          <tbody>
            {points.map((p) => (
              <tr key={p.id} className="border-line/60 border-t">
                <td>{p.name}</td>
                <td className="text-right">{Math.round(p.minutes)}</td>
                <td className="text-right">{Math.round(p.progress)} %</td>
                <td className="pl-4">{cornerOf(p, cuts)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Panel>
  );
}
