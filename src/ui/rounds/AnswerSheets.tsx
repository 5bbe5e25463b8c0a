'use client';
import { useState } from 'react';
import { addDays, weekday } from '@/core/calendar/zone';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { Field, TextInput } from '../parts/Field';
import { weekdayDay } from '@/core/format';
import { Sheet } from '../parts/Sheet';

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
            <TextInput
              type="date"
              min={addDays(today, 1)}
              value={until}
              onChange={(e) => setUntil(e.target.value)}
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
  const [reason, setReason] = useState('');
  return (
    <Sheet open onOpenChange={(open) => !open && onClose()} title={`Mark ${name} as seen`}>
      <form
        className="space-y-4"
        onSubmit={(e) => {
          e.preventDefault();
          onSeen(reason);
        }}
      >
        <Field
          label="Why nothing more is needed now"
          hint="Back in a week, or at once if something new comes up."
        >
          {(ids) => (
            <TextInput
              autoFocus
              maxLength={500}
              value={reason}
              onChange={(e) => setReason(e.target.value)}
              {...ids}
            />
          )}
        </Field>
        <div className="flex flex-wrap gap-2">
          {REASONS.map((text) => (
            <Button key={text} onClick={() => setReason(text)}>
              {text}
            </Button>
          ))}
        </div>
        <Button type="submit" look="main" disabled={busy || reason.trim() === ''}>
          Mark as seen
        </Button>
      </form>
    </Sheet>
  );
}
