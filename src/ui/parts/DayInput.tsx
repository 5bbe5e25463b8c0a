'use client';
import { CalendarDays } from 'lucide-react';
import { useId, useImperativeHandle, type Ref } from 'react';
import { typedDay } from '@/core/calendar/typedDay';
import { dayWithYear } from '@/core/format';
import type { LocalDate } from '@/core/units';
import { classes } from './classes';
import { inputClasses } from './Field';
import { dayOf } from './dayOf';
import { useLater } from './useLater';
import { useTyped } from './useTyped';
import { Wrong } from './Wrong';

const loadCalendar = () => import('./Calendar');

interface Props {
  /** Its name, where no label stands beside it. */
  readonly label?: string;
  readonly id?: string;
  readonly ref?: Ref<HTMLInputElement>;
  readonly 'aria-describedby'?: string;
  readonly 'aria-invalid'?: boolean;
  /** Empty for none. */
  readonly value: LocalDate | '';
  readonly onChange: (day: LocalDate | '') => void;
  readonly min?: LocalDate;
  readonly max?: LocalDate;
  /** What a day without a year is near to; the value, or the first that may be chosen, if left out. */
  readonly today?: LocalDate;
  readonly disabled?: boolean;
  readonly required?: boolean;
  readonly className?: string;
  readonly placeholder?: string;
}

/** "25 Nov 2026" */
const words = (day: LocalDate | ''): string =>
  day ? dayWithYear(Date.parse(`${day}T00:00:00Z`), 'UTC') : '';

/** A calendar day: typed as people write it, or chosen from a calendar whose weeks begin on Monday. */
export function DayInput({
  label,
  value,
  onChange,
  min,
  max,
  today,
  disabled,
  required,
  className,
  placeholder = 'day month',
  ref,
  ...given
}: Props) {
  const { Part, ask } = useLater(loadCalendar);
  const error = useId();
  const near = today ?? (value || min || max || dayOf(new Date()));
  const { wrong, clear, field } = useTyped(words(value), (text) => {
    if (text.trim() === '') {
      if (required) return 'Write a day, like 25 Nov.';
      onChange('');
      return null;
    }
    const day = typedDay(text, near);
    if (!day) return 'Write a day, like 25 Nov.';
    if (min && day < min) return `Not before ${words(min)}.`;
    if (max && day > max) return `Not after ${words(max)}.`;
    onChange(day);
    return null;
  });
  useImperativeHandle(ref, () => field.ref.current!, [field.ref]);
  const calendar = {
    name: `Calendar${label ? `: ${label}` : ''}`,
    look: 'text-muted hover:text-ink absolute inset-y-0 right-0 grid w-8 place-items-center',
    sign: <CalendarDays className="size-4" aria-hidden />,
    disabled,
    value,
    near,
    min,
    max,
    onChoose: (day: LocalDate) => {
      onChange(day);
      clear();
    },
  };
  return (
    <span className={classes('inline-block', className ?? 'w-full')}>
      <span className="relative block">
        <input
          {...given}
          {...field}
          aria-label={label}
          aria-invalid={given['aria-invalid'] || wrong != null}
          aria-describedby={wrong ? error : given['aria-describedby']}
          placeholder={placeholder}
          disabled={disabled}
          required={required}
          className={classes(inputClasses, 'pr-8')}
        />
        {Part ? (
          <Part {...calendar} />
        ) : (
          <button
            type="button"
            disabled={disabled}
            aria-label={calendar.name}
            aria-haspopup="dialog"
            aria-expanded={false}
            onClick={ask}
            className={calendar.look}
          >
            {calendar.sign}
          </button>
        )}
      </span>
      <Wrong id={error}>{wrong}</Wrong>
    </span>
  );
}
