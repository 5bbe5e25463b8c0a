'use client';
import { useState } from 'react';
import { addDays, instantOf, weekday } from '@/core/calendar/zone';
import type { Instant, LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { Field, TextInput } from '../parts/Field';

/** Chooses the day until whose end work is extended. */
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
  const [day, setDay] = useState(addDays(today, 7 - (weekday(today) % 7)));
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (day) onExtend(instantOf(day, 23 * 60 + 59, zone));
      }}
    >
      <Field label="Extend to the end of">
        {(ids) => <TextInput {...ids} type="date" value={day} onChange={(e) => setDay(e.target.value)} />}
      </Field>
      <Button type="submit" disabled={busy || !day}>
        Extend
      </Button>
    </form>
  );
}
