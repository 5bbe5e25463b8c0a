'use client';
import { useId, useImperativeHandle, type Ref } from 'react';
import { clockMinute, clockText } from '@/core/calendar/clock';
import { classes } from './classes';
import { inputClasses } from './Field';
import { useTyped } from './useTyped';
import { Wrong } from './Wrong';

interface Props {
  readonly label?: string;
  readonly id?: string;
  readonly ref?: Ref<HTMLInputElement>;
  readonly 'aria-describedby'?: string;
  readonly 'aria-invalid'?: boolean;
  readonly value: number;
  readonly onChange: (minute: number) => void;
  readonly disabled?: boolean;
  readonly className?: string;
}

/** A time of day on the wall clock of 24 hours, as minutes after midnight. */
export function TimeInput({ label, value, onChange, className, ref, ...given }: Props) {
  const error = useId();
  const { wrong, field } = useTyped(clockText(value), (text) => {
    const minute = clockMinute(text);
    if (minute == null) return 'Write a time, like 18:30.';
    onChange(minute);
    return null;
  });
  useImperativeHandle(ref, () => field.ref.current!, [field.ref]);
  return (
    <span className={classes('inline-block', className ?? 'w-full')}>
      <input
        {...given}
        {...field}
        inputMode="numeric"
        aria-label={label}
        aria-invalid={given['aria-invalid'] || wrong != null}
        aria-describedby={wrong ? error : given['aria-describedby']}
        placeholder="18:30"
        className={inputClasses}
      />
      <Wrong id={error}>{wrong}</Wrong>
    </span>
  );
}
