'use client';
import { saveTimesAction } from '@/actions/talks';
import type { TalkTimesForm } from '@/core/forms/talk';
import { REPEATS } from '@/core/talks/times';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { ClockField, DayField, NumberField, SelectField, TextField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';
import { REPEAT_WORDS } from './timesWords';

const loadForm = () => import('@/core/forms/talk').then((m) => m.talkTimesForm);

/** Gives times at which one can be seen, or changes them. */
export function TimesSheet({
  code,
  today,
  start,
  onClose,
}: {
  readonly code: string;
  readonly today: LocalDate;
  readonly start: TalkTimesForm;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const { control, handleSubmit, watch, setValue } = useYupForm<TalkTimesForm>(loadForm, start);
  const repeat = watch('repeat');
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={start.id == null ? 'Times when you can be seen' : 'Change these times'}
    >
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={handleSubmit((times) =>
          act(() => saveTimesAction({ code, times, was: start.id == null ? null : start }), {
            edit: { mine: times, over: (was) => saveTimesAction({ code, times, was }) },
            done: start.id == null ? 'The times are set.' : 'The times are changed.',
            then: onClose,
          }),
        )}
      >
        <DayField
          control={control}
          name="firstOn"
          label={repeat === 'once' ? 'Day' : 'First day'}
          today={today}
        />
        <SelectField
          control={control}
          name="repeat"
          label="Repeats"
          options={REPEATS.map((value) => ({ value, label: REPEAT_WORDS[value] }))}
        />
        <ClockField control={control} name="from" label="From" />
        <ClockField control={control} name="until" label="Until" />
        <NumberField control={control} name="minutes" label="Minutes each" step={5} />
        <NumberField control={control} name="seats" label="Students at once" step={1} />
        {repeat === 'once' ? null : (
          <DayField control={control} name="lastOn" label="Last day" today={today} />
        )}
        <TextField
          control={control}
          name="place"
          label="Place, or address of a call"
          most={200}
          className="col-span-2"
        />
        <label className="col-span-2 flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-teal size-4"
            checked={watch('open')}
            onChange={(e) => setValue('open', e.target.checked)}
          />
          Anybody in the course can take one; else only those whom you offer it in a message
        </label>
        <Button type="submit" look="main" disabled={busy} className="col-span-2 justify-self-start">
          {busy ? 'Saving …' : 'Save the times'}
        </Button>
      </form>
    </Sheet>
  );
}
