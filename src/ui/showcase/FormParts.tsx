'use client';
import { useState } from 'react';
import * as yup from 'yup';
import { dayText, name, number } from '@/core/forms/rules';
import { Button } from '../parts/Button';
import { DayField, NumberField, SelectField, TextField, TicksField, ClockField } from '../parts/fields';
import { useYupForm } from '../parts/useYupForm';

const KINDS = ['quiz', 'report'] as const;
const OUTCOMES = ['Tides', 'Bearings'];

const form = yup.object({
  title: name('The title', 40),
  points: number('Points', 0, 100),
  kind: yup
    .string()
    .oneOf([...KINDS])
    .required(),
  due: dayText,
  minute: number('The time', 0, 1439),
  outcomes: yup.array(yup.number().required()).required(),
});
const loadForm = () => Promise.resolve(form);

/** The fields of a form, one of them wrong until it is mended. */
export function FormParts() {
  const { control, handleSubmit } = useYupForm(loadForm, {
    title: '',
    points: 20,
    kind: KINDS[0],
    due: '2026-11-25',
    minute: 1080,
    outcomes: [2],
  });
  const [saved, setSaved] = useState(false);
  return (
    <form className="space-y-3" onSubmit={handleSubmit(() => setSaved(true))}>
      <TextField control={control} name="title" label="Title" hint="Up to 40 characters" />
      <div className="grid grid-cols-2 gap-3">
        <NumberField control={control} name="points" label="Points" />
        <SelectField
          control={control}
          name="kind"
          label="Kind"
          options={KINDS.map((value) => ({ value, label: value }))}
        />
        <DayField control={control} name="due" label="Due" />
        <ClockField control={control} name="minute" label="At" />
      </div>
      <TicksField
        control={control}
        name="outcomes"
        label="Outcomes"
        options={OUTCOMES.map((label, i) => ({ value: i + 1, label }))}
      />
      <Button type="submit" look="main">
        {saved ? 'Saved' : 'Save'}
      </Button>
    </form>
  );
}
