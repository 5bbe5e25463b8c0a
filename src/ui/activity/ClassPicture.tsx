'use client';
import { useState } from 'react';
import dynamic from 'next/dynamic';
import { busiest } from '@/core/activity/heat';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import { binned, binWidth } from '@/core/gradebook/distribution';
import type { ActivityView, ClassFigures } from '@/core/views/activity';
import { counted, minutesText, spanText } from '@/core/format';
import { classes } from '../parts/classes';
import { Panel } from '../parts/Panel';
import { usePick } from '../parts/usePick';
import { Wide } from '../parts/Wide';
import { medianChange } from './medianChange';

/** Its library comes once there is something to draw, in a space that is kept for it. */
const MinutesBars = dynamic(() => import('./MinutesBars'), { ssr: false });

/** The class in the window: how the minutes lie, when they fall, and what the session limit makes of them. */
export function ClassPicture({
  view,
  figures,
}: {
  readonly view: ActivityView;
  readonly figures: ClassFigures;
}) {
  return (
    <div className="grid grid-cols-1 items-start gap-3 xl:grid-cols-2">
      <Distribution view={view} figures={figures} />
      <Panel className="p-4">
        <Heat figures={figures} />
      </Panel>
      <Panel className="p-4">
        <h2 className="font-serif text-lg font-semibold">{inClassWords(view, figures)}</h2>
        <p className="text-muted mt-1">
          {inClassBefore(view, figures)}In class is what falls in a meeting of the student’s section.
        </p>
      </Panel>
      <Panel className="p-4">
        <Limits figures={figures} />
      </Panel>
    </div>
  );
}

const inClassWords = (view: ActivityView, f: ClassFigures) =>
  f.inClassShare == null
    ? `No time on task ${spanText(view.scope.window)}`
    : `${Math.round(f.inClassShare)} % of the time was in class, ${spanText(view.scope.window)}`;

function inClassBefore({ scope }: ActivityView, { inClassCompared: both }: ClassFigures): string {
  if (!scope.window.before || both?.now == null || both.before == null) return '';
  return `In the sections that met in both, ${Math.round(both.now)} %; ${spanText(scope.window.before)} it was ${Math.round(both.before)} %. `;
}

function Distribution({ view, figures }: { readonly view: ActivityView; readonly figures: ClassFigures }) {
  const { pick } = usePick(view);
  const most = Math.max(60, ...figures.minutes, ...(figures.minutesBefore ?? []));
  const width = binWidth(most, 10);
  const now = binned(figures.minutes, most, width);
  const before = figures.minutesBefore ? binned(figures.minutesBefore, most, width) : null;
  const data = now.map((b, i) => ({
    label: `${b.from}–${b.to}`,
    from: b.from,
    to: b.to,
    now: b.count,
    before: before?.[i]?.count ?? null,
  }));
  const last = now.length - 1;
  const within = (from: number, to: number) =>
    view.people.filter((p) => {
      const bin = Math.min(last, Math.floor(p.minutes / width));
      return bin === Math.round(from / width) && to > from;
    });
  const choose = (index: number) => {
    const bin = now[index];
    if (!bin) return;
    pick(
      within(bin.from, bin.to).map((p) => p.enrolmentId),
      `${bin.from} to ${bin.to} minutes on task ${spanText(view.scope.window)}`,
    );
  };
  const { now: s } = figures;
  const title = !s
    ? 'Nobody is in this group'
    : `Median ${minutesText(s.median)} ${spanText(view.scope.window)}${medianChange(view)}; half of the class between ${minutesText(s.low)} and ${minutesText(s.high)}`;
  return (
    <Panel className="p-4">
      <h2 className="font-serif text-lg font-semibold">{title}</h2>
      <p className="text-muted text-[13px]">
        Students by minutes on task. Dark: {spanText(view.scope.window)}
        {view.scope.window.before ? `; light: ${spanText(view.scope.window.before)}` : ''}. A click on a bar
        selects its students.
      </p>
      <div className="h-56 overflow-x-clip print:overflow-x-visible">
        <MinutesBars data={data} hasBefore={before != null} onChoose={choose} />
      </div>
      <details className="text-[13px]">
        <summary className="text-muted hover:text-ink w-fit">
          These figures as a table, to select from
        </summary>
        <Wide label="Figures">
          <table className="mt-2 w-full">
            <thead className="text-muted text-left">
              <tr>
                <th className="font-normal">Minutes</th>
                <th className="text-right font-normal">Students</th>
                {before ? <th className="text-right font-normal">Before</th> : null}
                <th />
              </tr>
            </thead>
            <tbody>
              {data.map((d, i) => (
                <tr key={d.label} className="border-line/60 border-t">
                  <td>{d.label}</td>
                  <td className="text-right">{d.now}</td>
                  {before ? <td className="text-right">{d.before}</td> : null}
                  <td className="text-right">
                    {d.now > 0 ? (
                      <button type="button" className="text-teal underline" onClick={() => choose(i)}>
                        select<span className="sr-only"> those of {d.label} minutes</span>
                      </button>
                    ) : null}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      </details>
    </Panel>
  );
}

/** Days and hours that an arrow key goes. */
const HEAT_STEPS: Readonly<Record<string, readonly [days: number, hours: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** Minutes by weekday and hour, in three steps of one hue, each with its figure within reach. */
function Heat({ figures }: { readonly figures: ClassFigures }) {
  const { hours } = figures;
  const [at, setAt] = useState<{ readonly d: number; readonly h: number } | null>(null);
  const most = Math.max(0, ...hours.flat());
  const top = busiest(hours);
  const fill = (m: number) =>
    m <= 0 ? undefined : m < most / 8 ? 'bg-low' : m < most / 2.5 ? 'bg-mid' : 'bg-high';
  return (
    <>
      <h2 className="font-serif text-lg font-semibold">
        {top ? `Most is done on ${WEEKDAYS[top.day]} from ${top.hour}:00` : 'No time on task in these days'}
      </h2>
      <p className="text-muted text-[13px]">
        Minutes of all together by weekday and hour, on the course’s clock. Three steps: up to an eighth, up
        to two fifths, more of the fullest hour ({counted(Math.round(most), 'minute')}). All kinds of
        activity.
      </p>
      <p className="min-h-5 text-[13px]" aria-live="polite">
        {at
          ? `${WEEKDAYS[at.d]} ${at.h}:00 to ${at.h + 1}:00: ${minutesText(hours[at.d]![at.h]!)}`
          : 'Point at an hour, or go along with the arrow keys.'}
      </p>
      <Wide label="Figures">
        <table
          aria-label="Minutes by weekday and hour"
          tabIndex={0}
          onKeyDown={(e) => {
            const step = HEAT_STEPS[e.key];
            if (!step) return;
            e.preventDefault();
            const from = at ?? { d: 0, h: 0 };
            setAt({ d: (from.d + step[0] + 7) % 7, h: (from.h + step[1] + 24) % 24 });
          }}
          className="mt-1 w-full table-fixed border-separate border-spacing-[2px] text-[11px]"
        >
          <thead>
            <tr className="text-muted">
              <th className="w-9">
                <span className="sr-only">Weekday</span>
              </th>
              {Array.from({ length: 24 }, (_, h) => (
                <th key={h} scope="col" className="font-normal">
                  <span className={h % 3 === 0 ? undefined : 'sr-only'}>{h}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {hours.map((row, d) => (
              <tr key={WEEKDAYS[d]}>
                <th scope="row" className="text-muted text-left font-normal">
                  {WEEKDAYS[d]!.slice(0, 3)}
                </th>
                {row.map((m, h) => (
                  <td
                    key={h}
                    onPointerEnter={() => setAt({ d, h })}
                    className={classes(
                      'h-5 rounded-[2px]',
                      fill(m) ?? 'bg-paper',
                      at?.d === d && at.h === h && 'outline-ink outline-2',
                    )}
                  >
                    <span className="sr-only">{Math.round(m)}</span>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </>
  );
}

function Limits({ figures }: { readonly figures: ClassFigures }) {
  const middle = figures.atLimits[1]!.minutes;
  const per = (m: number) => (middle > 0 ? Math.round((100 * (m - middle)) / middle) : 0);
  const [ten, , sixty] = figures.atLimits;
  return (
    <>
      <h2 className="font-serif text-lg font-semibold">
        {middle > 0 && per(ten!.minutes) === 0 && per(sixty!.minutes) === 0
          ? 'The session limit hardly moves the total'
          : middle > 0
            ? `The session limit moves the total by ${per(ten!.minutes)} to +${per(sixty!.minutes)} %`
            : 'No total to move'}
      </h2>
      <p className="text-muted mt-1">
        This course counts with {figures.sessionLimit} minutes. A longer silence ends a sitting; how long is a
        choice, and this is what it does. All kinds of activity.
      </p>
      <Wide label="Figures">
        <table className="mt-2">
          <tbody>
            {figures.atLimits.map((l) => (
              <tr key={l.limit}>
                <th scope="row" className="pr-6 text-left font-normal">
                  {l.limit} minutes
                </th>
                <td className="pr-6 text-right font-semibold">{minutesText(l.minutes)}</td>
                <td className="text-muted text-right">
                  {l.limit === 30 ? '' : `${per(l.minutes) > 0 ? '+' : ''}${per(l.minutes)} %`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </>
  );
}
