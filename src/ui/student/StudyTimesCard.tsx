'use client';
import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { notTodayAction, planFeedAction, studyTimesAction } from '@/actions/student';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import type { StudyTimes } from '@/core/plans/replan';
import { Button } from '../parts/Button';
import { inputClasses } from '../parts/Field';
import { Panel } from '../parts/Panel';
import { classes } from '../parts/classes';
import { useAct } from '../parts/useAct';
import { NumberField } from '../parts/fields';
import { useAlive } from '../parts/useAlive';
import { useYupForm } from '../parts/useYupForm';

const loadStudyTimesForm = () => import('@/core/forms/studyTimes').then((m) => m.studyTimesForm);

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
  const { control, handleSubmit } = useYupForm(loadStudyTimesForm, {
    minutesPerDay: times.minutesPerDay,
    weekdaysOff: [...times.weekdaysOff],
  });
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
        noValidate
        className="space-y-2"
        onSubmit={(e) =>
          void handleSubmit((form) =>
            act(() => studyTimesAction({ course, form }), { done: 'Saved; your plan fits it now.' }),
          )(e)
        }
      >
        <NumberField control={control} name="minutesPerDay" label="Minutes a day" className="max-w-40" />
        <Controller
          control={control}
          name="weekdaysOff"
          render={({ field: { value: off, onChange }, fieldState: { error } }) => (
            <fieldset>
              <legend className="text-sm font-semibold">Days off</legend>
              <div className="flex flex-wrap gap-x-4">
                {WEEKDAYS.map((day, i) => (
                  <label key={day} className="inline-flex items-center gap-1.5 max-sm:min-h-11">
                    <input
                      type="checkbox"
                      className="accent-teal size-4"
                      checked={off.includes(i + 1)}
                      onChange={(e) =>
                        onChange(e.target.checked ? [...off, i + 1] : off.filter((d) => d !== i + 1))
                      }
                    />
                    {day}
                  </label>
                ))}
              </div>
              {error ? <p className="text-plum text-sm">{error.message}</p> : null}
            </fieldset>
          )}
        />
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
