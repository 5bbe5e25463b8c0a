'use client';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { DayPicker } from 'react-day-picker';
import { enGB } from 'react-day-picker/locale';
import type { LocalDate } from '@/core/units';
import { dayOf } from './dayOf';

const noon = (day: LocalDate): Date => new Date(`${day}T12:00:00`);

/** The calendar of `DayInput`; its weeks begin on Monday. */
export default function Calendar({
  name,
  look,
  sign,
  disabled,
  value,
  near,
  min,
  max,
  onChoose,
}: {
  readonly name: string;
  readonly look: string;
  readonly sign: ReactNode;
  readonly disabled?: boolean;
  readonly value: LocalDate | '';
  /** A day of the month that shows while none is chosen. */
  readonly near: LocalDate;
  readonly min?: LocalDate;
  readonly max?: LocalDate;
  readonly onChoose: (day: LocalDate) => void;
}) {
  const [open, setOpen] = useState(true);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger type="button" disabled={disabled} aria-label={name} className={look}>
        {sign}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="border-line bg-panel text-ink z-50 rounded-md border p-3 text-sm shadow-lg"
        >
          <DayPicker
            mode="single"
            autoFocus
            locale={enGB}
            weekStartsOn={1}
            selected={value ? noon(value) : undefined}
            defaultMonth={noon(value || near)}
            disabled={[...(min ? [{ before: noon(min) }] : []), ...(max ? [{ after: noon(max) }] : [])]}
            onSelect={(date) => {
              if (!date) return;
              onChoose(dayOf(date));
              setOpen(false);
            }}
            components={{
              Chevron: ({ orientation }) =>
                orientation === 'left' ? (
                  <ChevronLeft className="size-4" aria-hidden />
                ) : (
                  <ChevronRight className="size-4" aria-hidden />
                ),
            }}
            classNames={{
              months: 'relative',
              month_caption: 'mb-2 px-8 text-center font-semibold leading-7',
              nav: 'absolute inset-x-0 top-0 flex justify-between',
              button_previous: 'hover:bg-amber-wash grid size-7 place-items-center rounded',
              button_next: 'hover:bg-amber-wash grid size-7 place-items-center rounded',
              weekday: 'text-muted size-8 text-xs font-normal',
              day: 'p-0',
              day_button:
                'hover:bg-amber-wash size-8 rounded aria-selected:bg-teal disabled:cursor-not-allowed disabled:opacity-40',
              selected: '[&>button]:bg-teal [&>button]:text-on-teal [&>button]:font-semibold',
              today: '[&>button]:outline-1 [&>button]:outline-amber',
              outside: 'text-muted',
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
