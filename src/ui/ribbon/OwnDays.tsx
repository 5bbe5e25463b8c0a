'use client';
import { useState } from 'react';
import { windowText } from '@/core/calendar/window';
import type { LocalDate } from '@/core/units';
import type { ScopeView } from '@/core/views/scope';
import { Button } from '../parts/Button';
import { DayInput } from '../parts/DayInput';
import { Field } from '../parts/Field';
import { Sheet } from '../parts/Sheet';

/** Two days of one's own for the window. */
export function OwnDays({
  scope,
  onClose,
  onChoose,
}: {
  readonly scope: ScopeView;
  readonly onClose: () => void;
  readonly onChoose: (w: string) => void;
}) {
  const [from, setFrom] = useState<LocalDate | ''>(scope.window.from);
  const [to, setTo] = useState<LocalDate | ''>(scope.window.to);
  const error = !from || !to ? 'Choose both days.' : from > to ? 'The first day is after the last.' : null;
  return (
    <Sheet open onOpenChange={onClose} title="Custom dates">
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (error || !from || !to) return;
          onChoose(windowText({ from, to }));
          onClose();
        }}
      >
        <div className="flex gap-3">
          {(
            [
              ['From', from, setFrom],
              ['To', to, setTo],
            ] as const
          ).map(([label, value, set]) => (
            <Field
              key={label}
              label={label}
              className="flex-1"
              error={label === 'To' ? (error ?? undefined) : undefined}
            >
              {(ids) => (
                <DayInput
                  {...ids}
                  min={scope.termStart}
                  max={scope.today}
                  today={scope.today}
                  value={value}
                  onChange={set}
                />
              )}
            </Field>
          ))}
        </div>
        <Button type="submit" look="main" disabled={error != null}>
          Show these days
        </Button>
      </form>
    </Sheet>
  );
}
