'use client';
import { useState } from 'react';
import { reviewTimeAction } from '@/actions/followUps';
import type { ReviewTime as Time } from '@/core/acts/review';
import { clockText } from '@/core/calendar/clock';
import { weekdayAndTime } from '@/core/format';
import type { ReviewForm } from '@/core/forms/review';
import { Button } from '../parts/Button';
import { ClockField, SelectField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const loadForm = () => import('@/core/forms/review').then((m) => m.reviewForm);

/** The viewer's weekly time for a course: they are reminded by e-mail, with the link to what is unfinished. */
export function ReviewTime({
  code,
  zone,
  time,
}: {
  readonly code: string;
  readonly zone: string;
  readonly time: Time | null;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        {time ? `${DAYS[time.weekday - 1]}s at ${clockText(time.minute)}` : 'Weekly time …'}
      </Button>
      {open ? <TimeSheet code={code} zone={zone} time={time} onClose={() => setOpen(false)} /> : null}
    </>
  );
}

function TimeSheet({
  code,
  zone,
  time,
  onClose,
}: {
  readonly code: string;
  readonly zone: string;
  readonly time: Time | null;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const { control, handleSubmit } = useYupForm<ReviewForm>(loadForm, time ?? { weekday: 5, minute: 9 * 60 });
  return (
    <Sheet
      open
      onOpenChange={(o) => !o && onClose()}
      title="A weekly time for this course"
      description="At this time an e-mail says what is unfinished, with the link to go on. It names no students."
    >
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={handleSubmit((form) =>
          act(() => reviewTimeAction({ code, time: form }), {
            done: (at) => (at == null ? 'Saved.' : `You are reminded ${weekdayAndTime(at, zone)}.`),
            then: onClose,
          }),
        )}
      >
        <SelectField
          control={control}
          name="weekday"
          label="Day"
          className="w-40"
          options={DAYS.map((label, i) => ({ value: i + 1, label }))}
        />
        <ClockField control={control} name="minute" label="Time" className="w-24" />
        <Button type="submit" look="main" disabled={busy}>
          Save
        </Button>
        {time ? (
          <Button
            look="quiet"
            disabled={busy}
            onClick={() =>
              act(() => reviewTimeAction({ code, time: null }), {
                done: 'No reminder any more.',
                undo: () =>
                  act(() => reviewTimeAction({ code, time }), { done: 'The reminder is set again.' }),
                then: onClose,
              })
            }
          >
            Remove
          </Button>
        ) : null}
      </form>
    </Sheet>
  );
}
