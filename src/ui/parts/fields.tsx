'use client';
import type { ReactNode } from 'react';
import {
  useController,
  type Control,
  type ControllerRenderProps,
  type FieldPathByValue,
  type FieldValues,
} from 'react-hook-form';
import { instantOf, localDate, minuteOfDay } from '@/core/calendar/zone';
import type { Instant, LocalDate } from '@/core/units';
import { Choose } from './Choose';
import { DayInput } from './DayInput';
import { Field, inputClasses, TextInput } from './Field';
import { TimeInput } from './TimeInput';

/** A field of a form: the value at `name`, with its label and what is wrong with it. */
interface Bound<F extends FieldValues, V> {
  readonly control: Control<F, unknown, F>;
  readonly name: FieldPathByValue<F, V>;
  readonly label: string;
  readonly hint?: string;
  /** The label is read out but not drawn. */
  readonly quiet?: boolean;
  readonly className?: string;
}

type Ids = { id: string; 'aria-describedby': string | undefined; 'aria-invalid': boolean };

function BoundField<F extends FieldValues, V>({
  control,
  name,
  label,
  hint,
  quiet,
  className,
  children,
}: Bound<F, V> & {
  readonly children: (field: Omit<ControllerRenderProps, 'value'> & { value: V }, ids: Ids) => ReactNode;
}) {
  const { field, fieldState } = useController({ control, name });
  return (
    <Field label={label} hint={hint} quiet={quiet} className={className} error={fieldState.error?.message}>
      {(ids) => children(field, ids)}
    </Field>
  );
}

export function TextField<F extends FieldValues>({
  lines,
  most,
  placeholder,
  orNull,
  autoFocus,
  ...bound
}: Bound<F, string | null> & {
  /** For longer text: how many lines stand open. */
  readonly lines?: number;
  readonly most?: number;
  readonly placeholder?: string;
  /** Whether nothing typed is none, rather than an empty text. */
  readonly orNull?: boolean;
  /** Whether one types into it as soon as it is there. */
  readonly autoFocus?: boolean;
}) {
  return (
    <BoundField {...bound}>
      {({ value, ...field }, ids) =>
        lines ? (
          <textarea
            {...ids}
            {...field}
            autoFocus={autoFocus}
            rows={lines}
            placeholder={placeholder}
            maxLength={most}
            value={value ?? ''}
            className={inputClasses}
          />
        ) : (
          <TextInput
            {...ids}
            {...field}
            autoFocus={autoFocus}
            maxLength={most}
            placeholder={placeholder}
            value={value ?? ''}
            onChange={(e) => field.onChange(orNull && e.target.value.trim() === '' ? null : e.target.value)}
          />
        )
      }
    </BoundField>
  );
}

/** A number, or nothing where the field is empty. */
export function NumberField<F extends FieldValues>({
  step,
  ...bound
}: Bound<F, number | null> & { readonly step?: number }) {
  return (
    <BoundField {...bound}>
      {({ value, ...field }, ids) => (
        <TextInput
          {...ids}
          {...field}
          type="number"
          // The schema says which numbers are none; the step is what an arrow key does.
          step={step ?? 'any'}
          value={value ?? ''}
          onChange={(e) => field.onChange(e.target.value === '' ? null : e.target.valueAsNumber)}
        />
      )}
    </BoundField>
  );
}

/** A calendar day. */
export function DayField<F extends FieldValues>(
  bound: Bound<F, LocalDate> & {
    readonly min?: LocalDate;
    readonly max?: LocalDate;
    readonly today?: LocalDate;
  },
) {
  const { min, max, today } = bound;
  return (
    <BoundField {...bound}>
      {({ value, onChange, ref }, ids) => (
        <DayInput {...ids} ref={ref} min={min} max={max} today={today} value={value} onChange={onChange} />
      )}
    </BoundField>
  );
}

/** A calendar day, or none. */
export function OptionalDayField<F extends FieldValues>({
  placeholder,
  ...bound
}: Bound<F, LocalDate | null> & {
  readonly placeholder?: string;
  readonly min?: LocalDate;
  readonly today?: LocalDate;
}) {
  const { min, today } = bound;
  return (
    <BoundField {...bound}>
      {({ value, onChange, ref }, ids) => (
        <DayInput
          {...ids}
          ref={ref}
          min={min}
          today={today}
          placeholder={placeholder}
          value={value ?? ''}
          onChange={(day) => onChange(day || null)}
        />
      )}
    </BoundField>
  );
}

/** A time of day on the wall clock, as minutes after midnight. */
export function ClockField<F extends FieldValues>(bound: Bound<F, number>) {
  return (
    <BoundField {...bound}>
      {({ value, onChange, ref }, ids) => <TimeInput {...ids} ref={ref} value={value} onChange={onChange} />}
    </BoundField>
  );
}

/** The end of a day, for an instant of which only the day was said. */
const LAST_MINUTE = 23 * 60 + 59;

/** An instant, as day and time on the wall clock of the course; no day for none. */
export function InstantField<F extends FieldValues>({
  zone,
  ...bound
}: Bound<F, Instant | null> & { readonly zone: string }) {
  return (
    <BoundField {...bound}>
      {({ value, onChange, ref }, ids) => {
        const day = value == null ? '' : localDate(value, zone);
        const minute = value == null ? LAST_MINUTE : minuteOfDay(value, zone);
        return (
          <span className="flex gap-1.5">
            <DayInput
              {...ids}
              ref={ref}
              className="min-w-0 flex-1"
              value={day}
              onChange={(next) => onChange(next ? instantOf(next, minute, zone) : null)}
            />
            <TimeInput
              label={`${bound.label}, time`}
              className="w-20"
              disabled={!day}
              value={minute}
              onChange={(next) => day && onChange(instantOf(day, next, zone))}
            />
          </span>
        );
      }}
    </BoundField>
  );
}

/** One of several; a choice may stand for none. */
export function SelectField<F extends FieldValues, V extends string | number | null>({
  options,
  ...bound
}: Bound<F, V> & { readonly options: readonly { readonly value: V; readonly label: string }[] }) {
  return (
    <BoundField {...bound}>
      {({ value, onChange, ref }, ids) => (
        <Choose
          {...ids}
          ref={ref}
          value={String(value)}
          options={options.map((o) => ({ value: String(o.value), label: o.label }))}
          onChange={(next) => {
            const found = options.find((o) => String(o.value) === next);
            if (found) onChange(found.value);
          }}
        />
      )}
    </BoundField>
  );
}

/** A list of things of which some are ticked. */
export function TicksField<F extends FieldValues, V extends string | number>({
  control,
  name,
  label,
  options,
}: Omit<Bound<F, V[]>, 'hint'> & {
  readonly options: readonly { readonly value: V; readonly label: string }[];
}) {
  const { field } = useController({ control, name });
  return (
    <Ticks label={label} options={options} value={field.value as readonly V[]} onChange={field.onChange} />
  );
}

/** The same outside a form. */
export function Ticks<V extends string | number>({
  label,
  options,
  value,
  onChange,
}: {
  readonly label: string;
  readonly options: readonly { readonly value: V; readonly label: string }[];
  readonly value: readonly V[];
  readonly onChange: (value: V[]) => void;
}) {
  return (
    <fieldset className="space-y-1">
      <legend className="text-sm font-semibold">{label}</legend>
      <div className="border-line max-h-36 overflow-auto rounded-md border p-2">
        {options.length === 0 ? <p className="text-muted text-sm">None yet.</p> : null}
        {options.map((o) => (
          <label key={o.value} className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="accent-teal"
              checked={value.includes(o.value)}
              onChange={(e) =>
                onChange(e.target.checked ? [...value, o.value] : value.filter((v) => v !== o.value))
              }
            />
            {o.label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
