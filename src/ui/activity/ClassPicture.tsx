'use client';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { busiest } from '@/core/activity/heat';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import { binned, binWidth } from '@/core/gradebook/distribution';
import type { ActivityView, ClassFigures } from '@/core/views/activity';
import { counted, minutesText, spanText } from '@/core/format';
import { Panel } from '../parts/Panel';
import { usePick } from '../parts/usePick';

const axis = { stroke: 'var(--muted)', fontSize: 12, tickLine: false } as const;

/** The class in the window: how the minutes lie, when they fall, and what the session limit makes of them. */
export function ClassPicture({
  view,
  figures,
}: {
  readonly view: ActivityView;
  readonly figures: ClassFigures;
}) {
  const { scope } = view;
  return (
    <div className="grid items-start gap-3 xl:grid-cols-2">
      <Distribution view={view} figures={figures} />
      <Panel className="p-4">
        <Heat figures={figures} />
      </Panel>
      <Panel className="p-4">
        <h2 className="font-serif text-lg font-semibold">{inClassWords(figures)}</h2>
        <p className="text-muted mt-1">
          {figures.inClassShareBefore == null
            ? 'In class is what falls in a meeting of the student’s section.'
            : `In ${spanText(scope.window.before!)} it was ${Math.round(figures.inClassShareBefore)} %. In class is what falls in a meeting of the student’s section.`}
        </p>
      </Panel>
      <Panel className="p-4">
        <Limits figures={figures} />
      </Panel>
    </div>
  );
}

const inClassWords = (f: ClassFigures) =>
  f.inClassShare == null
    ? 'No time on task in these days'
    : `${Math.round(f.inClassShare)} % of the time was in class`;

function Distribution({ view, figures }: { readonly view: ActivityView; readonly figures: ClassFigures }) {
  const { pick } = usePick(view.course.code, view.tray);
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
  const { now: s, before: b } = figures;
  const title = !s
    ? 'Nobody is in this group'
    : `Median ${minutesText(s.median)}${b && b.median > 0 ? `, ${s.median >= b.median ? 'up' : 'down'} ${Math.abs(Math.round((100 * (s.median - b.median)) / b.median))} %` : ''}; half of the class between ${minutesText(s.low)} and ${minutesText(s.high)}`;
  return (
    <Panel className="p-4">
      <h2 className="font-serif text-lg font-semibold">{title}</h2>
      <p className="text-muted text-[13px]">
        Students by minutes on task. Dark: {spanText(view.scope.window)}
        {view.scope.window.before ? `; light: ${spanText(view.scope.window.before)}` : ''}. A click on a bar
        picks its students.
      </p>
      <div className="h-56">
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 480, height: 224 }}>
          <BarChart
            data={data}
            margin={{ top: 10, right: 8, bottom: 18, left: 0 }}
            accessibilityLayer={false}
            barGap={0}
          >
            <CartesianGrid vertical={false} stroke="var(--line)" />
            <XAxis
              dataKey="label"
              {...axis}
              label={{
                value: 'minutes',
                position: 'insideBottom',
                offset: -12,
                fill: 'var(--muted)',
                fontSize: 12,
              }}
            />
            <YAxis {...axis} width={34} allowDecimals={false} />
            <Tooltip
              isAnimationActive={false}
              cursor={{ fill: 'var(--amber-wash)' }}
              contentStyle={{
                background: 'var(--panel)',
                border: '1px solid var(--line)',
                color: 'var(--ink)',
              }}
            />
            {before ? (
              <Bar
                dataKey="before"
                name="before"
                fill="var(--low)"
                stroke="var(--mid)"
                isAnimationActive={false}
              />
            ) : null}
            <Bar
              dataKey="now"
              name="students"
              fill="var(--high)"
              isAnimationActive={false}
              cursor="pointer"
              onClick={(_, index) => choose(index)}
            />
          </BarChart>
        </ResponsiveContainer>
      </div>
      <details className="text-[13px]">
        <summary className="text-muted hover:text-ink w-fit">These figures as a table, to pick from</summary>
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
                      pick<span className="sr-only"> those of {d.label} minutes</span>
                    </button>
                  ) : null}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Panel>
  );
}

/** Minutes by weekday and hour, in three steps of one hue, each with its figure within reach. */
function Heat({ figures }: { readonly figures: ClassFigures }) {
  const { hours } = figures;
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
      <table className="mt-2 w-full table-fixed border-separate border-spacing-[2px] text-[11px]">
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
                  title={`${WEEKDAYS[d]} ${h}:00 to ${h + 1}:00: ${Math.round(m)} min`}
                  className={`h-5 rounded-[2px] ${fill(m) ?? 'bg-paper'}`}
                >
                  <span className="sr-only">{Math.round(m)}</span>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
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
    </>
  );
}
