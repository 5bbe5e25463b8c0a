'use client';
import { removeNoteAction } from '@/actions/notes';
import { talkNoteAction } from '@/actions/talks';
import { addDays } from '@/core/calendar/zone';
import { weekdayDay } from '@/core/format';
import type { TalkNoteForm } from '@/core/forms/talk';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { DayField, TextField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/talk').then((m) => m.talkNoteForm);

interface Props {
  readonly code: string;
  readonly today: LocalDate;
  readonly student: { readonly enrolmentId: number; readonly name: string };
  /** The booked talk that it is of. */
  readonly talk?: number;
  /** The day of the talk; today if left out. */
  readonly on?: LocalDate;
  readonly onClose: () => void;
}

/** After a talk: what was said, for those who teach; and what both agreed on, which the student sees too. */
export function TalkSheet({ code, today, student, talk, on, onClose }: Props) {
  const { busy, act } = useAct();
  const agreed = { goal: '', step: '', on: addDays(today, 7), said: '' };
  const { control, handleSubmit, watch, setValue } = useYupForm<TalkNoteForm>(loadForm, {
    on: on ?? today,
    text: '',
    agreed,
  });
  const agrees = watch('agreed') != null;
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Talk with ${student.name}, ${weekdayDay(on ?? today)}`}
    >
      <form
        className="space-y-4"
        onSubmit={handleSubmit((note) =>
          act(() => talkNoteAction({ code, student: student.enrolmentId, talk: talk ?? null, note }), {
            done: note.agreed
              ? `Saved; you look at it again ${weekdayDay(note.agreed.on)}.`
              : 'The talk is saved.',
            undo: (id) =>
              act(() => removeNoteAction({ code, student: student.enrolmentId, note: id }), {
                done: 'The note of the talk is removed.',
              }),
            then: onClose,
          }),
        )}
      >
        <TextField
          control={control}
          name="text"
          label="What was said"
          hint="Only those who teach the course read this."
          lines={2}
          most={4000}
          autoFocus
        />
        <label className="flex items-center gap-2 font-semibold">
          <input
            type="checkbox"
            className="accent-teal size-4"
            checked={agrees}
            onChange={(e) => setValue('agreed', e.target.checked ? agreed : null)}
          />
          We agreed on something
        </label>
        {agrees ? (
          <fieldset className="border-amber space-y-3 border-l-3 pl-3">
            <legend className="text-muted mb-2 text-[13px]">{student.name} sees this too.</legend>
            <TextField control={control} name="agreed.goal" label="Goal" most={300} />
            <TextField control={control} name="agreed.step" label="First step" most={300} />
            <DayField
              control={control}
              name="agreed.on"
              label="Look at it together on"
              min={addDays(today, 1)}
              today={today}
            />
            <TextField
              control={control}
              name="agreed.said"
              label="In the student’s words, if you like"
              most={500}
            />
          </fieldset>
        ) : null}
        <Button type="submit" look="main" disabled={busy}>
          {busy ? 'Saving …' : 'Save the talk'}
        </Button>
      </form>
    </Sheet>
  );
}
