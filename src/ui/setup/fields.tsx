'use client';
import { instantOf, localDate, minuteOfDay } from '@/core/calendar/zone';
import type { Instant, LocalDate } from '@/core/units';
import { Field, TextInput, inputClasses } from '../parts/Field';

/** "18:30" of minutes after midnight, and back. */
export const clockText = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
export const clockMinute = (text: string): number => {
  const [h, m] = text.split(':').map(Number);
  return (h ?? 0) * 60 + (m ?? 0);
};

/** A time of day on the wall clock, as minutes after midnight. */
export function ClockField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly onChange: (minute: number) => void;
}) {
  return (
    <Field label={label}>
      {(ids) => (
        <TextInput
          {...ids}
          type="time"
          required
          value={clockText(value)}
          // Half typed it is no time yet: the field keeps what is typed, and the last whole one stands.
          onChange={(e) => e.target.value && onChange(clockMinute(e.target.value))}
        />
      )}
    </Field>
  );
}

/** A calendar day; empty while it is not whole. */
export function DayField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: LocalDate;
  readonly onChange: (day: LocalDate) => void;
}) {
  return (
    <Field label={label}>
      {(ids) => <TextInput {...ids} type="date" value={value} onChange={(e) => onChange(e.target.value)} />}
    </Field>
  );
}

export function TextField({
  label,
  value,
  onChange,
  hint,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly hint?: string;
}) {
  return (
    <Field label={label} hint={hint}>
      {(ids) => <TextInput {...ids} value={value} onChange={(e) => onChange(e.target.value)} />}
    </Field>
  );
}

/** A number, or nothing where the field is empty. */
export function NumberField({
  label,
  value,
  onChange,
  hint,
  step,
}: {
  readonly label: string;
  readonly value: number | null;
  readonly onChange: (value: number | null) => void;
  readonly hint?: string;
  readonly step?: number;
}) {
  return (
    <Field label={label} hint={hint}>
      {(ids) => (
        <TextInput
          {...ids}
          type="number"
          step={step ?? 'any'}
          value={value ?? ''}
          onChange={(e) => onChange(e.target.value === '' ? null : Number(e.target.value))}
        />
      )}
    </Field>
  );
}

/** An instant, typed as day and time on the wall clock of the course; empty for none. */
export function InstantField({
  label,
  value,
  zone,
  onChange,
}: {
  readonly label: string;
  readonly value: Instant | null;
  readonly zone: string;
  readonly onChange: (value: Instant | null) => void;
}) {
  const text = value == null ? '' : `${localDate(value, zone)}T${clockText(minuteOfDay(value, zone))}`;
  return (
    <Field label={label}>
      {(ids) => (
        <TextInput
          {...ids}
          type="datetime-local"
          value={text}
          onChange={(e) => {
            const [day, time] = e.target.value.split('T');
            onChange(day && time ? instantOf(day, clockMinute(time), zone) : null);
          }}
        />
      )}
    </Field>
  );
}

export function SelectField<V extends string | number>({
  label,
  value,
  options,
  onChange,
  hint,
}: {
  readonly label: string;
  readonly value: V;
  readonly options: readonly { readonly value: V; readonly label: string }[];
  readonly onChange: (value: V) => void;
  readonly hint?: string;
}) {
  return (
    <Field label={label} hint={hint}>
      {(ids) => (
        <select
          {...ids}
          className={inputClasses}
          value={value}
          onChange={(e) => {
            const found = options.find((o) => String(o.value) === e.target.value);
            if (found) onChange(found.value);
          }}
        >
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

/** A list of things of which some are ticked. */
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
