'use client';
import { useState } from 'react';
import { pickedFor, type About } from '@/core/acts/pick';
import { EFFORT_GROUPS, EFFORT_WORDS, type EffortGroup } from '@/core/activity/effort';
import { PROGRESS, type ActivityView, type EffortFigures, type Progress } from '@/core/views/activity';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { Definition } from '../parts/Definition';
import { counted, minutesText, spanText } from '@/core/format';
import { Panel } from '../parts/Panel';
import { usePick } from '../parts/usePick';
import { Wide } from '../parts/Wide';
import { address, useAddress } from '../parts/useAddress';
import { Scatter, type Area } from './Scatter';

const WORDS: Readonly<
  Record<Progress, { readonly choice: string; readonly axis: string; readonly long: string }>
> = {
  standing: { choice: 'Standing', axis: 'standing, %', long: 'the standing' },
  completion: {
    choice: 'Handed in',
    axis: 'handed in, %',
    long: 'the share of expected assignments handed in',
  },
};

const ABOUT: Readonly<Record<EffortGroup, About>> = {
  'much time, little progress': 'effort without progress',
  'little time, little progress': 'low time',
  above: 'other',
};

const ADDRESS = address({ y: 'standing' });

/** Time on task against progress: the course's own relation, and who lies outside of it. */
export function Effort({ view, figures }: { readonly view: ActivityView; readonly figures: EffortFigures }) {
  const { asked, note } = useAddress(ADDRESS);
  const { picked, pick } = usePick(view);
  const by = PROGRESS.find((p) => p === asked.y) ?? 'standing';
  const points = figures.rows.flatMap((r) => {
    const progress = r.progress[by];
    return progress == null
      ? []
      : [{ id: r.enrolmentId, name: r.name, minutes: r.minutes, progress, group: r.group[by] }];
  });
  const [area, setArea] = useState<Area | null>(null);
  const swept = area
    ? points.filter(
        (p) =>
          p.minutes >= area.minutes[0] &&
          p.minutes <= area.minutes[1] &&
          p.progress >= area.progress[0] &&
          p.progress <= area.progress[1],
      )
    : [];
  const stuck = points.filter((p) => p.group === 'much time, little progress').length;
  const days = spanText(view.scope.window);
  if (points.length === 0) {
    return (
      <Panel className="p-4">
        <p className="text-muted">Nothing is graded in this group yet, so there is no progress to compare.</p>
      </Panel>
    );
  }
  return (
    <Panel className="p-4">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <h2 className="font-serif text-lg font-semibold">
          {stuck === 0
            ? `Nobody puts in much time for little progress, ${days}`
            : `${counted(stuck, 'student')} ${stuck === 1 ? 'puts' : 'put'} in much time for little progress, ${days}`}
        </h2>
        <Chips
          label="Progress is"
          value={by}
          options={PROGRESS.map((value) => ({ value, label: WORDS[value].choice }))}
          onChange={(v) => {
            note({ y: v });
            setArea(null);
          }}
        />
      </div>
      <p className="text-muted text-[13px]">
        Minutes {days} and {WORDS[by].long} now. Band: the middle half of students with about as much time.
        <Definition of="The band">
          {
            'For each student, the quartiles of progress of the third of the class nearest in time on task, at least 15 students. Little progress: more than 5 points under the band. In a class of under 15 the band is the middle third of all. Rounds uses the same rule over the last four weeks.'
          }
        </Definition>{' '}
        Sweep over an area to select its students.
      </p>
      <div className="mt-2 grid grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_21rem]">
        <div>
          <Scatter
            points={points}
            band={figures.band[by]}
            middle={figures.medianMinutes}
            area={area}
            picked={picked}
            label={WORDS[by].axis}
            onArea={setArea}
          />
          {area ? (
            <p className="mt-1 flex items-center justify-end gap-2 text-[13px]" role="status">
              {counted(swept.length, 'student')} in the area
              <Button
                small
                disabled={swept.length === 0}
                onClick={() => {
                  pick(
                    swept.map((p) => p.id),
                    `${Math.round(area.minutes[0])} to ${Math.round(area.minutes[1])} minutes ${days} and ${Math.round(area.progress[0])} to ${Math.round(area.progress[1])} % ${by === 'standing' ? 'standing' : 'handed in'}`,
                  );
                  setArea(null);
                }}
              >
                Select these {swept.length}
              </Button>
            </p>
          ) : null}
        </div>
        <ul className="space-y-3">
          {EFFORT_GROUPS.map((group) => {
            const who = points.filter((p) => p.group === group);
            const { head, next } = EFFORT_WORDS[group];
            return (
              <li key={group}>
                <div className="flex items-baseline justify-between gap-2">
                  <span className="font-semibold">
                    {head}: {who.length}
                  </span>
                  {who.length > 0 ? (
                    <Button
                      small
                      aria-label={`Select ${who.length}: ${head}`}
                      onClick={() =>
                        pick(
                          who.map((p) => p.id),
                          pickedFor(`${head.toLowerCase()}, ${days}`, ABOUT[group]),
                        )
                      }
                    >
                      Select {who.length}
                    </Button>
                  ) : null}
                </div>
                <p className="text-muted text-[13px]">{next}</p>
              </li>
            );
          })}
          <li className="text-muted text-[13px]">
            Median time of the class {days}: {minutesText(figures.medianMinutes)} (the upright line).
          </li>
        </ul>
      </div>
      <details className="mt-2 text-[13px]">
        <summary className="text-muted hover:text-ink w-fit">These figures as a table</summary>
        <Wide label="Figures">
          <table className="mt-2 w-full max-w-2xl">
            <thead className="text-muted text-left">
              <tr>
                <th className="font-normal">Student</th>
                <th className="text-right font-normal">Minutes</th>
                <th className="text-right font-normal">{WORDS[by].choice}</th>
                <th className="pl-4 font-normal">Group</th>
              </tr>
            </thead>
            <tbody>
              {points.map((p) => (
                <tr key={p.id} className="border-line/60 border-t">
                  <td>{p.name}</td>
                  <td className="text-right">{Math.round(p.minutes)}</td>
                  <td className="text-right">{Math.round(p.progress)} %</td>
                  <td className="pl-4">{p.group ? EFFORT_WORDS[p.group].head : 'with the others'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      </details>
    </Panel>
  );
}
