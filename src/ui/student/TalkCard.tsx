'use client';
import { useState } from 'react';
import { cancelTalkAction, takeTalkAction } from '@/actions/talks';
import { groupBy } from '@/core/groupBy';
import { dayAndTime, weekdayAndTime, weekdayDay } from '@/core/format';
import type { OwnTalk, TalkOffer } from '@/core/views/talks';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** Where the talks of a course stand on the page. */
export const talksOf = (course: string): string => `talks-${course}`;

interface Props {
  readonly course: string;
  readonly zone: string;
  readonly talks: readonly OwnTalk[];
  readonly offers: readonly TalkOffer[];
}

/** The talks that a student has, each to be moved or cancelled, and the times they can take. */
export function TalkCard({ course, zone, talks, offers }: Props) {
  const free = offers.filter((o) => !talks.some((t) => t.userId === o.userId));
  if (talks.length === 0 && free.length === 0) return null;
  return (
    <Panel className="space-y-4 p-5">
      <h3 className="font-serif text-lg font-semibold" id={talksOf(course)}>
        {talks[0] ? `Your talk: ${weekdayAndTime(talks[0].startsAt, zone)}` : 'A time for a talk'}
      </h3>
      {talks.map((talk) => (
        <Taken
          key={talk.id}
          zone={zone}
          talk={talk}
          offer={offers.find((o) => o.userId === talk.userId) ?? null}
        />
      ))}
      {free.map((offer) => (
        <div key={offer.userId} className="space-y-2">
          <p>
            {offer.slots.length > 0
              ? `${offer.with} can be seen at these times; choose one.`
              : `All the times that ${offer.with} offered are taken. Look again in a day or two, or write an answer.`}
          </p>
          <Slots zone={zone} offer={offer} />
        </div>
      ))}
    </Panel>
  );
}

function Taken({
  zone,
  talk,
  offer,
}: {
  readonly zone: string;
  readonly talk: OwnTalk;
  readonly offer: TalkOffer | null;
}) {
  const { busy, act } = useAct();
  const [moving, setMoving] = useState(false);
  return (
    <div className="space-y-2">
      <p>
        {weekdayAndTime(talk.startsAt, zone)} with <span className="font-semibold">{talk.with}</span>,{' '}
        {talk.place}
      </p>
      <div className="flex flex-wrap gap-2">
        {offer && offer.slots.length > 0 ? (
          <Button aria-expanded={moving} onClick={() => setMoving(!moving)}>
            Move it
          </Button>
        ) : null}
        <Button
          disabled={busy}
          onClick={() =>
            act(() => cancelTalkAction({ talk: talk.id, why: '' }), {
              done: `Cancelled; ${talk.with} gets word of it.`,
            })
          }
        >
          Cancel it
        </Button>
        <a href={`/api/talks/${talk.id}`} download className="text-teal self-center px-1 underline">
          For your calendar
        </a>
      </div>
      {moving && offer ? <Slots zone={zone} offer={offer} onTaken={() => setMoving(false)} /> : null}
    </div>
  );
}

/** Days that stand open; the others come with a press. */
const DAYS = 3;

/** Free times by day; one press takes one. */
function Slots({
  zone,
  offer,
  onTaken,
}: {
  readonly zone: string;
  readonly offer: TalkOffer;
  readonly onTaken?: () => void;
}) {
  const { busy, act } = useAct();
  const [all, setAll] = useState(false);
  const days = [...groupBy(offer.slots, (s) => s.on)];
  return (
    <div className="space-y-2">
      {(all ? days : days.slice(0, DAYS)).map(([day, slots]) => (
        <div
          key={day}
          role="group"
          aria-label={weekdayDay(day)}
          className="flex flex-wrap items-center gap-2"
        >
          <span className="text-muted w-24 text-[13px]">{weekdayDay(day)}</span>
          {slots.map((slot) => (
            <Button
              key={`${slot.times} ${slot.startsAt}`}
              disabled={busy}
              aria-label={`${weekdayAndTime(slot.startsAt, zone)}, ${slot.place}`}
              onClick={() =>
                act(() => takeTalkAction({ times: slot.times, startsAt: slot.startsAt }), {
                  done: `Taken: ${weekdayAndTime(slot.startsAt, zone)} with ${offer.with}, ${slot.place}.`,
                  then: onTaken,
                })
              }
            >
              {dayAndTime(slot.startsAt, zone).split(', ')[1]}
            </Button>
          ))}
        </div>
      ))}
      {!all && days.length > DAYS ? (
        <Button look="quiet" onClick={() => setAll(true)}>
          Later days
        </Button>
      ) : null}
    </div>
  );
}
