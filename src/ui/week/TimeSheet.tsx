'use client';
import { reviewTimeAction } from '@/actions/followUps';
import type { ReviewTime as Time } from '@/core/acts/review';
import { weekdayAndTime } from '@/core/format';
import type { ReviewForm } from '@/core/forms/review';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import { Button } from '../parts/Button';
import { ClockField, SelectField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/review').then((m) => m.reviewForm);

/** Where the weekly time is chosen. */
export function TimeSheet({
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
          options={WEEKDAYS.map((label, i) => ({ value: i + 1, label }))}
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
