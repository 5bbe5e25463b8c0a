'use client';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useEffect, type RefObject } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { MOST_STEPS } from '@/core/plans/plan';
import type { LocalDate } from '@/core/units';
import type { ComposeView } from '@/core/views/compose';
import { classes } from '../parts/classes';
import { DayField, NumberField, TextField } from '../parts/fields';
import { useYupForm } from '../parts/useYupForm';
import { minutesText } from '@/core/format';
import { coverWords, newStep, type DraftStep } from './draft';
import { StepChooser } from './StepChooser';

const loadStepsForm = () => import('@/core/forms/message').then((m) => m.stepsForm);

interface Props {
  readonly name: string;
  readonly steps: readonly DraftStep[];
  readonly activities: ComposeView['activities'];
  /** Assignments that are missing, by id. */
  readonly missing: readonly number[];
  /** The first day on which a step may fall: the day after it is sent. */
  readonly first: LocalDate;
  /** To be asked whether what is typed in it can be read. */
  readonly form: RefObject<HTMLFormElement | null>;
  /** Must take what is typed however old it is. */
  readonly onChange: (steps: DraftStep[]) => void;
}

const small = '[&_input]:px-1.5 [&_input]:py-1 [&_input]:text-[13px]';
const iconButton = 'text-muted hover:text-ink disabled:opacity-35 grid size-6 place-items-center rounded';

/** The steps of one student's plan: worded, timed, dated, put in order, removed and added. */
export function PlanEditor({ form, name, steps: given, activities, missing, first, onChange }: Props) {
  const { control, subscribe } = useYupForm(loadStepsForm, { steps: [...given] }, 'onChange');
  const { fields, append, remove, swap } = useFieldArray({ control, name: 'steps', keyName: 'at' });
  const steps = useWatch({ control, name: 'steps' });
  useEffect(
    () => subscribe({ formState: { values: true }, callback: ({ values }) => onChange(values.steps) }),
    // It belongs to the form, which lives as long as this does.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [subscribe],
  );
  const total = steps.reduce((sum, s) => sum + (s.minutes || 0), 0);
  return (
    <form ref={form} className="space-y-2" onSubmit={(e) => e.preventDefault()}>
      {steps.length === 0 ? (
        <p className="text-muted">No step yet. Add one, or send without a plan.</p>
      ) : (
        <ol className="space-y-1.5">
          {fields.map((step, i) => (
            <li
              key={step.key}
              className="grid grid-cols-[1.2rem_minmax(0,1fr)_3.6rem_8.4rem_auto] items-start gap-1.5 max-sm:grid-cols-[1.2rem_4rem_minmax(0,1fr)]"
            >
              <span className="text-muted pt-1 text-[13px]">{i + 1}.</span>
              <span className="max-sm:col-span-2">
                <TextField
                  control={control}
                  name={`steps.${i}.title`}
                  label={`Step ${i + 1} for ${name}`}
                  quiet
                  className={small}
                  most={200}
                />
                {step.why ? <span className="text-muted block px-1.5 text-xs">{step.why}</span> : null}
              </span>
              <NumberField
                control={control}
                name={`steps.${i}.minutes`}
                label={`Minutes of step ${i + 1}`}
                quiet
                className={classes(small, 'max-sm:col-start-2')}
              />
              <DayField
                control={control}
                name={`steps.${i}.on`}
                label={`Date of step ${i + 1}`}
                quiet
                min={first}
                today={first}
              />
              <span className="flex pt-0.5 max-sm:col-span-2 max-sm:col-start-2 max-sm:justify-end">
                <button
                  type="button"
                  className={iconButton}
                  disabled={i === 0}
                  onClick={() => swap(i, i - 1)}
                  aria-label={`Move step ${i + 1} up`}
                >
                  <ArrowUp className="size-3.5" aria-hidden />
                </button>
                <button
                  type="button"
                  className={iconButton}
                  disabled={i === fields.length - 1}
                  onClick={() => swap(i, i + 1)}
                  aria-label={`Move step ${i + 1} down`}
                >
                  <ArrowDown className="size-3.5" aria-hidden />
                </button>
                <button
                  type="button"
                  className={iconButton}
                  onClick={() => remove(i)}
                  aria-label={`Remove step ${i + 1}`}
                >
                  <X className="size-3.5" aria-hidden />
                </button>
              </span>
            </li>
          ))}
        </ol>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <StepChooser
          activities={activities}
          label="Add step"
          disabled={steps.length >= MOST_STEPS}
          onAdd={(activity) => append(newStep(activity, steps.at(-1)?.on ?? first))}
        />
        <span className="text-muted ml-auto text-[13px]">
          {coverWords(steps, missing)} {minutesText(total)} in all
        </span>
      </div>
    </form>
  );
}
