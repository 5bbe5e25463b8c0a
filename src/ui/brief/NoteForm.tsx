'use client';
import { addNoteAction, removeNoteAction } from '@/actions/notes';
import { NOTE_KINDS } from '@/core/acts/act';
import type { NoteForm as Note } from '@/core/forms/note';
import { addDays } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { DayField, OptionalDayField, SelectField, TextField } from '../parts/fields';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';
import { NOTE_WORDS } from './noteWords';

const loadNoteForm = () => import('@/core/forms/note').then((m) => m.noteForm);

/** The line on which the next note, talk or call is written. */
export default function NoteForm({
  code,
  student,
  today,
}: {
  readonly code: string;
  readonly student: number;
  readonly today: LocalDate;
}) {
  const { busy, act } = useAct();
  const start: Note = { kind: 'note', on: today, text: '', followUpOn: null };
  const { control, handleSubmit, resetField, formState } = useYupForm(loadNoteForm, start);
  const remove = (note: number, done: string) =>
    act(() => removeNoteAction({ code, student, note }), { done });
  return (
    <form
      className="space-y-1.5"
      onSubmit={handleSubmit((note) =>
        act(() => addNoteAction({ code, student, ...note }), {
          done: `${NOTE_WORDS[note.kind]} saved.`,
          undo: (id) => remove(id, 'The note is removed.'),
          then: () => {
            resetField('text');
            resetField('followUpOn');
          },
        }),
      )}
    >
      <TextField
        control={control}
        name="text"
        label="Text of the note"
        quiet
        lines={2}
        most={4000}
        placeholder="What was seen, said or agreed"
      />
      <div className="flex flex-wrap items-start gap-2">
        <SelectField
          control={control}
          name="kind"
          label="Kind of note"
          quiet
          className="w-28"
          options={NOTE_KINDS.map((k) => ({ value: k, label: NOTE_WORDS[k] }))}
        />
        <DayField
          control={control}
          name="on"
          label="Day it is about"
          quiet
          className="w-40"
          max={today}
          today={today}
        />
        <OptionalDayField
          control={control}
          name="followUpOn"
          label="Day to look again"
          quiet
          placeholder="look again on"
          className="w-40"
          min={addDays(today, 1)}
          today={today}
        />
        <Button type="submit" disabled={busy || !formState.dirtyFields.text}>
          Save note
        </Button>
      </div>
    </form>
  );
}
