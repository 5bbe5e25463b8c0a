'use client';
import { useState } from 'react';
import { addDays, weekday } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { DayInput } from '../parts/DayInput';
import { Field } from '../parts/Field';
import { TextField } from '../parts/fields';
import { weekdayDay } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { useYupForm } from '../parts/useYupForm';

const loadSeenForm = () => import('@/core/forms/note').then((m) => m.seenForm);

interface PutOffProps {
  readonly name: string;
  readonly today: LocalDate;
  readonly busy: boolean;
  readonly onClose: () => void;
  readonly onPutOff: (until: LocalDate) => void;
}

/** Chooses the day on which a student comes back into the queue. */
export function PutOffSheet({ name, today, busy, onClose, onPutOff }: PutOffProps) {
  const [until, setUntil] = useState(addDays(today, 3));
  const monday = addDays(today, 8 - weekday(today));
  const choices = [...new Set([addDays(today, 1), addDays(today, 3), monday, addDays(today, 7)])].sort();
  return (
    <Sheet open onOpenChange={(open) => !open && onClose()} title={`Put ${name} off until`}>
      <form
        className="space-y-4"
        onSubmit={(e) => {
          e.preventDefault();
          onPutOff(until);
        }}
      >
        <div className="flex flex-wrap gap-2">
          {choices.map((day) => (
            <Button
              key={day}
              look={day === until ? 'main' : 'plain'}
              aria-pressed={day === until}
              onClick={() => setUntil(day)}
            >
              {weekdayDay(day)}
            </Button>
          ))}
        </div>
        <Field label="Or another day" hint="Back at once if something new comes up before.">
          {(ids) => (
            <DayInput
              min={addDays(today, 1)}
              today={today}
              required
              value={until}
              onChange={(day) => day && setUntil(day)}
              {...ids}
            />
          )}
        </Field>
        <Button type="submit" look="main" disabled={busy}>
          Put off
        </Button>
      </form>
    </Sheet>
  );
}

interface SeenProps {
  readonly name: string;
  readonly busy: boolean;
  readonly onClose: () => void;
  readonly onSeen: (reason: string) => void;
}

const REASONS = ['Talked after class', 'Already has a plan', 'Ill, and known', 'Waiting for an answer'];

/** Asks why nothing more is needed for a student at the moment. */
export function SeenSheet({ name, busy, onClose, onSeen }: SeenProps) {
  const { control, handleSubmit, setValue } = useYupForm(loadSeenForm, { reason: '' });
  return (
    <Sheet open onOpenChange={(open) => !open && onClose()} title={`Mark ${name} as seen`}>
      <form className="space-y-4" onSubmit={handleSubmit(({ reason }) => onSeen(reason))}>
        <TextField
          control={control}
          name="reason"
          label="Why nothing more is needed now"
          hint="Back in a week, or at once if something new comes up."
          most={500}
          autoFocus
        />
        <div className="flex flex-wrap gap-2">
          {REASONS.map((text) => (
            <Button key={text} onClick={() => setValue('reason', text, { shouldValidate: true })}>
              {text}
            </Button>
          ))}
        </div>
        <Button type="submit" look="main" disabled={busy}>
          Mark as seen
        </Button>
      </form>
    </Sheet>
  );
}
