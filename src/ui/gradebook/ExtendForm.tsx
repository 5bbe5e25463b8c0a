'use client';
import { useState } from 'react';
import { addDays, instantOf, weekday } from '@/core/calendar/zone';
import type { Instant, LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { DayInput } from '../parts/DayInput';
import { Field } from '../parts/Field';

/** Chooses the day until whose end an assignment is extended. */
export function ExtendForm({
  today,
  zone,
  busy,
  onExtend,
}: {
  readonly today: LocalDate;
  readonly zone: string;
  readonly busy: boolean;
  readonly onExtend: (due: Instant) => void;
}) {
  const [day, setDay] = useState<LocalDate | ''>(addDays(today, 7 - (weekday(today) % 7)));
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (day) onExtend(instantOf(day, 23 * 60 + 59, zone));
      }}
    >
      <Field label="Extend to the end of">
        {(ids) => <DayInput {...ids} today={today} value={day} onChange={setDay} />}
      </Field>
      <Button type="submit" disabled={busy || !day}>
        Extend
      </Button>
    </form>
  );
}
