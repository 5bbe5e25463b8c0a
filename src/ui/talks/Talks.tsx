'use client';
import Link from 'next/link';
import { useState } from 'react';
import { cancelTalkAction, removeTimesAction, saveTimesAction } from '@/actions/talks';
import { localDate } from '@/core/calendar/zone';
import { counted, dayAndTime, listed, shortDay, weekdayAndTime, weekdayDay } from '@/core/format';
import type { TalkTimesForm } from '@/core/forms/talk';
import type { LocalDate } from '@/core/units';
import type { TalkLine, TalksView, TimesLine } from '@/core/views/talks';
import { Button } from '../parts/Button';
import { Menu } from '../parts/Menu';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useKeys } from '../parts/useKeys';
import { TalkSheet } from './TalkSheet';
import { timesMore, timesWords } from './timesWords';
import { TimesSheet } from './TimesSheet';

const newTimes = (today: LocalDate, lastOn: LocalDate): TalkTimesForm => ({
  id: null,
  repeat: 'weekly',
  firstOn: today,
  lastOn: lastOn < today ? today : lastOn,
  from: 14 * 60,
  until: 15 * 60,
  minutes: 20,
  place: '',
  seats: 1,
  open: false,
  except: [],
});

/** The talks of a course: those to come, those that are over and what was kept of them, and when one can be seen. */
export function Talks({
  code,
  zone,
  view,
}: {
  readonly code: string;
  readonly zone: string;
  readonly view: TalksView;
}) {
  const { busy, act } = useAct();
  const [times, setTimes] = useState<TalkTimesForm | null>(null);
  const [noting, setNoting] = useState<TalkLine | null>(null);
  const open = view.past.filter((t) => !t.noted && t.own);
  const next = view.coming[0];
  useKeys({ n: () => open[0] && setNoting(open[0]) });
  const cancel = (talk: TalkLine) =>
    act(() => cancelTalkAction({ talk: talk.id, why: '' }), {
      done: `The talk with ${talk.name} is cancelled; both of you get word of it.`,
    });
  return (
    <>
      <ViewHead
        title={
          open.length > 0
            ? `${counted(open.length, 'talk')} ${open.length === 1 ? 'is' : 'are'} over; note what was agreed`
            : next
              ? `Next talk ${weekdayAndTime(next.startsAt, zone)}, with ${next.name}`
              : view.times.length > 0
                ? 'No talk is booked'
                : 'Give times when you can be seen'
        }
        aside={
          <Button look="main" onClick={() => setTimes(newTimes(view.today, view.termEnd))}>
            Give times
          </Button>
        }
      >
        Offer them in a message, and each student takes one; both get it for their calendar.
      </ViewHead>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-2">
        <div className="space-y-4">
          <Panel className="p-4">
            <h2 className="mb-2 font-semibold">To come</h2>
            {view.coming.length === 0 ? <p className="text-muted">Nobody has taken a time.</p> : null}
            <ul className="divide-line divide-y">
              {view.coming.map((talk) => (
                <li
                  key={talk.id}
                  className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 py-2"
                >
                  <Who code={code} talk={talk} when={weekdayAndTime(talk.startsAt, zone)} />
                  {talk.own ? (
                    <span className="flex items-baseline gap-1">
                      <a href={`/api/talks/${talk.id}`} download className="text-teal text-[13px] underline">
                        Calendar file
                      </a>
                      <Button small look="quiet" disabled={busy} onClick={() => cancel(talk)}>
                        Cancel
                      </Button>
                    </span>
                  ) : null}
                </li>
              ))}
            </ul>
          </Panel>
          <Panel className="p-4">
            <h2 className="mb-2 font-semibold">Over</h2>
            {view.past.length === 0 ? <p className="text-muted">None in the last four weeks.</p> : null}
            <ul className="divide-line divide-y">
              {view.past.map((talk) => (
                <li
                  key={talk.id}
                  className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 py-2"
                >
                  <Who code={code} talk={talk} when={dayAndTime(talk.startsAt, zone)} />
                  {talk.noted ? (
                    <span className="text-muted text-[13px]">noted</span>
                  ) : (
                    <Button small hotkey={talk === open[0] ? 'n' : undefined} onClick={() => setNoting(talk)}>
                      Add a note
                    </Button>
                  )}
                </li>
              ))}
            </ul>
          </Panel>
        </div>
        <Panel className="p-4">
          <h2 className="mb-2 font-semibold">When you can be seen</h2>
          {view.times.length === 0 ? (
            <Nothing title="No times yet">
              <p>Give a stretch of an afternoon once or each week; it is cut into talks of one length.</p>
            </Nothing>
          ) : null}
          <ul className="divide-line divide-y">
            {view.times.map((line) => (
              <Times key={line.id} line={line} code={code} onEdit={() => setTimes(line.form)} />
            ))}
          </ul>
        </Panel>
      </div>
      {times ? (
        <TimesSheet code={code} today={view.today} start={times} onClose={() => setTimes(null)} />
      ) : null}
      {noting ? (
        <TalkSheet
          code={code}
          today={view.today}
          student={noting}
          talk={noting.id}
          on={localDate(noting.startsAt, zone)}
          onClose={() => setNoting(null)}
        />
      ) : null}
    </>
  );
}

function Who({
  code,
  talk,
  when,
}: {
  readonly code: string;
  readonly talk: TalkLine;
  readonly when: string;
}) {
  return (
    <span className="min-w-0">
      <span className="text-muted mr-2 whitespace-nowrap">{when}</span>
      <Link
        href={`/c/${code}/students/${talk.enrolmentId}`}
        className="text-teal font-semibold hover:underline"
      >
        {talk.name}
      </Link>
      <span className="text-muted block text-[13px]">
        {talk.place}
        {talk.own ? '' : `, with ${talk.with}`}
      </span>
    </span>
  );
}

/** One stretch of times: its days can be left out one by one. */
function Times({
  line,
  code,
  onEdit,
}: {
  readonly line: TimesLine;
  readonly code: string;
  readonly onEdit: () => void;
}) {
  const { busy, act } = useAct();
  const { form } = line;
  const except = (day: LocalDate, out: boolean) => {
    const days = out ? [...form.except, day] : form.except.filter((d) => d !== day);
    const times = { ...form, except: days };
    act(() => saveTimesAction({ code, times, was: form }), {
      edit: { mine: times, over: (was) => saveTimesAction({ code, times, was }) },
      done: out
        ? `No talks on ${weekdayDay(day)}. What is booked then stays; cancel it above.`
        : `Talks on ${weekdayDay(day)} again.`,
    });
  };
  return (
    <li className="space-y-1.5 py-2.5">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <span className="font-semibold">{timesWords(form)}</span>
        <span className="flex gap-1">
          <Button small look="quiet" onClick={onEdit}>
            Change
          </Button>
          <Button
            small
            look="quiet"
            disabled={busy}
            onClick={() =>
              act(() => removeTimesAction({ code, id: line.id }), {
                done:
                  line.booked > 0
                    ? `The times are removed. ${counted(line.booked, 'talk')} stay${line.booked === 1 ? 's' : ''} booked.`
                    : 'The times are removed.',
                undo: () =>
                  act(() => saveTimesAction({ code, times: { ...form, id: null }, was: null }), {
                    done: 'The times are restored.',
                  }),
              })
            }
          >
            Remove
          </Button>
        </span>
      </div>
      <p className="text-muted text-[13px]">
        {timesMore(form)}. {form.open ? 'Open to the course' : 'For those you offer it to'}.{' '}
        {counted(line.free, 'free time')} in the next three weeks, {line.booked} booked.
      </p>
      <div className="flex flex-wrap items-center gap-2 text-[13px]">
        {line.days.length > 0 ? (
          <Menu
            label="Leave a day out"
            items={line.days.map((day) => ({ label: weekdayDay(day), onSelect: () => except(day, true) }))}
          />
        ) : null}
        {line.except.length > 0 ? (
          <>
            <span className="text-muted">Left out: {listed(line.except.map(shortDay))}</span>
            <Menu
              label="Restore a day"
              items={line.except.map((day) => ({
                label: weekdayDay(day),
                onSelect: () => except(day, false),
              }))}
            />
          </>
        ) : null}
      </div>
    </li>
  );
}
