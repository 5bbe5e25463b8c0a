'use client';
import { useId, useState } from 'react';
import { checkInAction, removeCheckInAction } from '@/actions/student';
import { HOWS, IN_THE_WAY, type CheckIn, type How, type InTheWay } from '@/core/acts/checkIn';
import { dayAndTime, listed } from '@/core/format';
import { Button } from '../parts/Button';
import { inputClasses } from '../parts/Field';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

const HOW_WORDS: Readonly<Record<How, string>> = { well: 'Well', 'so so': 'So so', 'not well': 'Not well' };
const WAY_WORDS: Readonly<Record<InTheWay, string>> = {
  time: 'Time',
  'the material': 'The material',
  access: 'Access',
  health: 'Health',
  other: 'Something else',
};

/** Two taps, whenever the student likes: how it goes, and what is in the way. */
export function CheckInCard({
  course,
  zone,
  checkIn,
}: {
  readonly course: string;
  readonly zone: string;
  readonly checkIn: CheckIn | null;
}) {
  const { busy, act } = useAct();
  const question = useId();
  const [how, setHow] = useState<How | null>(null);
  const [word, setWord] = useState('');
  const [ways, setWays] = useState<readonly InTheWay[]>([]);
  const save = (inTheWay: readonly InTheWay[], chosen: How) =>
    act(() => checkInAction({ course, how: chosen, inTheWay: [...inTheWay], word }), {
      done: 'Thank you. Those who teach you see it, nobody else.',
      undo: (id) => act(() => removeCheckInAction({ id }), { done: 'That is removed.' }),
      then: () => {
        setHow(null);
        setWays([]);
        setWord('');
      },
    });
  return (
    <Panel className="space-y-3 p-5">
      <h3 className="font-serif text-lg font-semibold">How does it go?</h3>
      <div role="group" aria-label="How it goes" className="flex flex-wrap gap-2">
        {HOWS.map((value) => (
          <Button
            key={value}
            aria-pressed={how === value}
            look={how === value ? 'main' : 'plain'}
            disabled={busy}
            onClick={() => setHow(value)}
          >
            {HOW_WORDS[value]}
          </Button>
        ))}
      </div>
      {how ? (
        <div className="space-y-3">
          <p id={question}>Is anything in the way?</p>
          <div role="group" aria-labelledby={question} className="flex flex-wrap gap-2">
            {IN_THE_WAY.map((way) => (
              <Button
                key={way}
                aria-pressed={ways.includes(way)}
                look={ways.includes(way) ? 'warm' : 'plain'}
                disabled={busy}
                onClick={() => setWays(ways.includes(way) ? ways.filter((w) => w !== way) : [...ways, way])}
              >
                {WAY_WORDS[way]}
              </Button>
            ))}
          </div>
          <label className="block">
            <span className="text-muted text-[13px]">A word, if you like</span>
            <textarea
              rows={2}
              maxLength={500}
              value={word}
              onChange={(e) => setWord(e.target.value)}
              className={inputClasses}
            />
          </label>
          <Button look="main" disabled={busy} onClick={() => save(ways, how)}>
            {ways.length === 0 ? 'Nothing is in the way' : 'Let them know'}
          </Button>
        </div>
      ) : null}
      <p className="text-muted text-[13px]">
        {checkIn ? (
          <>
            You said {dayAndTime(checkIn.at, zone)}: it goes {checkIn.how}
            {checkIn.inTheWay.length > 0 ? `; in the way: ${listed(checkIn.inTheWay)}` : ''}.{' '}
            <button
              type="button"
              className="underline max-sm:min-h-11"
              disabled={busy}
              onClick={() => act(() => removeCheckInAction({ id: checkIn.id }), { done: 'That is removed.' })}
            >
              Remove it
            </button>{' '}
          </>
        ) : null}
        Those who teach you see it; it is never part of a grade. If something is in the way, automatic
        messages pause for a week.
      </p>
    </Panel>
  );
}
