'use client';
import { useEffect, useState } from 'react';
import { askForHelpAction, closeHelpingAction } from '@/actions/followUps';
import { finderAction } from '@/actions/views';
import { addDays } from '@/core/calendar/zone';
import type { HelpingForm } from '@/core/forms/talk';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { DayField, SelectField, TextField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/talk').then((m) => m.helpingForm);

interface Other {
  readonly id: number;
  readonly name: string;
}

/** Asks whether another student may help this one: they are asked first, and the helper only once they agree. */
export function HelpSheet(sheet: Omit<FormProps, 'others'>) {
  const { code, student, onClose } = sheet;
  const { act } = useAct();
  const [others, setOthers] = useState<readonly Other[] | null>(null);
  useEffect(() => {
    act(() => finderAction({ code }), {
      then: ({ students }) => setOthers(students.filter((s) => s.id !== student.enrolmentId)),
    });
    // Asked once for the student it was opened for.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [code, student.enrolmentId]);
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Ask for a helper for ${student.name}`}
      description="They are asked first. Only if they agree is the helper asked, who learns the name and the topic and nothing of scores. Either may decline."
    >
      {others ? (
        <HelpForm {...sheet} others={others} />
      ) : (
        <p role="status" className="text-muted">
          Loading the names …
        </p>
      )}
    </Sheet>
  );
}

interface FormProps {
  readonly code: string;
  readonly today: LocalDate;
  readonly student: { readonly enrolmentId: number; readonly name: string };
  readonly topic: string;
  readonly others: readonly Other[];
  readonly onClose: () => void;
}

function HelpForm({ code, today, student, topic, others, onClose }: FormProps) {
  const { busy, act } = useAct();
  const { control, handleSubmit } = useYupForm<HelpingForm>(loadForm, {
    helped: student.enrolmentId,
    helper: others[0]?.id ?? 0,
    topic,
    until: addDays(today, 14),
  });
  return (
    <form
      className="space-y-3"
      onSubmit={handleSubmit((form) =>
        act(() => askForHelpAction({ code, ...form }), {
          done: `${student.name} is asked.`,
          undo: (id) => act(() => closeHelpingAction({ code, id }), { done: 'That is called off.' }),
          then: onClose,
        }),
      )}
    >
      <SelectField
        control={control}
        name="helper"
        label="Who could help"
        options={others.map((o) => ({ value: o.id, label: o.name }))}
      />
      <TextField control={control} name="topic" label="With what" most={120} />
      <DayField control={control} name="until" label="Until" min={addDays(today, 1)} today={today} />
      <Button type="submit" look="main" disabled={busy}>
        {busy ? 'Asking …' : 'Ask'}
      </Button>
    </form>
  );
}
