'use client';
import { useState } from 'react';
import { notTodayAction, planFeedAction, studyTimesAction } from '@/actions/student';
import type { StudyTimes } from '@/core/plans/replan';
import { Button } from '../parts/Button';
import { inputClasses } from '../parts/Field';
import { Panel } from '../parts/Panel';
import { classes } from '../parts/classes';
import { useAct } from '../parts/useAct';
import { useAlive } from '../parts/useAlive';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** When a student learns, a way out for today, and their plan in a calendar of their own. */
export function StudyTimesCard({
  course,
  times,
  hasOpenPlan,
}: {
  readonly course: string;
  readonly times: StudyTimes;
  readonly hasOpenPlan: boolean;
}) {
  const { busy, act } = useAct();
  const alive = useAlive();
  const [minutes, setMinutes] = useState(String(times.minutesPerDay));
  const [off, setOff] = useState(times.weekdaysOff);
  const [address, setAddress] = useState<string | null>(null);
  if (!hasOpenPlan) return null;
  return (
    <Panel className="space-y-3 p-5">
      <h3 className="font-serif text-lg font-semibold">When you learn</h3>
      <p>
        <Button
          look="warm"
          disabled={busy || !alive}
          onClick={() => act(() => notTodayAction({ course }), { done: (said) => said })}
        >
          I cannot today
        </Button>
      </p>
      <form
        className="space-y-2"
        onSubmit={(e) => {
          e.preventDefault();
          act(
            () =>
              studyTimesAction({ course, form: { minutesPerDay: Number(minutes), weekdaysOff: [...off] } }),
            { done: 'Saved; your plan fits it now.' },
          );
        }}
      >
        <label className="flex items-center gap-2">
          Minutes a day
          <input
            type="number"
            min={5}
            max={600}
            required
            value={minutes}
            onChange={(e) => setMinutes(e.target.value)}
            className={classes(inputClasses, 'w-24')}
          />
        </label>
        <fieldset>
          <legend>Days off</legend>
          <div className="flex flex-wrap gap-x-4">
            {WEEKDAYS.map((day, i) => (
              <label key={day} className="inline-flex items-center gap-1.5 max-sm:min-h-11">
                <input
                  type="checkbox"
                  className="accent-teal size-4"
                  checked={off.includes(i + 1)}
                  onChange={(e) =>
                    setOff(e.target.checked ? [...off, i + 1] : off.filter((d) => d !== i + 1))
                  }
                />
                {day}
              </label>
            ))}
          </div>
        </fieldset>
        <Button type="submit" disabled={busy || !alive}>
          Save
        </Button>
      </form>
      <div>
        <Button
          disabled={busy || !alive}
          onClick={() =>
            act(() => planFeedAction({}), {
              done: 'The address is made; one you had before has ended.',
              then: (token) => setAddress(`${window.location.origin}/api/plans/${token}.ics`),
            })
          }
        >
          My plan in my calendar
        </Button>
        {address ? (
          <p className="mt-2">
            Subscribe to this address in your calendar. It is private: whoever has it sees your plan. It is
            shown only now; make a new one to end it.
            <input
              aria-label="Address of your plan"
              readOnly
              value={address}
              className={classes(inputClasses, 'mt-1')}
              onFocus={(e) => e.target.select()}
            />
          </p>
        ) : null}
      </div>
    </Panel>
  );
}
