'use client';
import { ArrowDown, ArrowUp, Plus, X } from 'lucide-react';
import { useId, useState } from 'react';
import type { LocalDate } from '@/core/units';
import type { ComposeView } from '@/core/views/compose';
import { Button } from '../parts/Button';
import { inputClasses } from '../parts/Field';
import type { DraftStep } from './draft';

interface Props {
  readonly name: string;
  readonly steps: readonly DraftStep[];
  readonly activities: ComposeView['activities'];
  readonly today: LocalDate;
  readonly onChange: (steps: DraftStep[]) => void;
}

const small = `${inputClasses} px-1.5 py-1 text-[13px]`;
const iconButton = 'text-muted hover:text-ink disabled:opacity-35 grid size-6 place-items-center rounded';

/** The steps of one student's plan: worded, timed, dated, put in order, taken out and added. */
export function PlanEditor({ name, steps, activities, today, onChange }: Props) {
  const [chosen, setChosen] = useState('');
  const chooseId = useId();
  const change = (index: number, part: Partial<DraftStep>) =>
    onChange(steps.map((s, i) => (i === index ? { ...s, ...part } : s)));
  const move = (index: number, by: number) => {
    const next = [...steps];
    const [step] = next.splice(index, 1);
    next.splice(index + by, 0, step!);
    onChange(next);
  };
  const add = () => {
    const activity = activities.find((a) => a.id === chosen);
    onChange([
      ...steps,
      {
        key: `new-${crypto.randomUUID()}`,
        activityId: activity ? Number(activity.id) : null,
        title: activity?.title ?? 'Come to the next office hour',
        minutes: activity?.minutes ?? 20,
        on: steps.at(-1)?.on ?? today,
        why: '',
      },
    ]);
  };
  const total = steps.reduce((sum, s) => sum + s.minutes, 0);
  return (
    <div className="space-y-2">
      {steps.length === 0 ? (
        <p className="text-muted">
          Nothing is missing and no outcome is weak. Add a step, or send without a plan.
        </p>
      ) : (
        <ol className="space-y-1.5">
          {steps.map((step, i) => (
            <li
              key={step.key}
              className="grid grid-cols-[1.2rem_minmax(0,1fr)_3.6rem_8.2rem_auto] items-start gap-1.5"
            >
              <span className="text-muted pt-1 text-[13px]">{i + 1}.</span>
              <span>
                <input
                  className={small}
                  aria-label={`Step ${i + 1} for ${name}`}
                  value={step.title}
                  maxLength={200}
                  onChange={(e) => change(i, { title: e.target.value })}
                />
                {step.why ? <span className="text-muted block px-1.5 text-xs">{step.why}</span> : null}
              </span>
              <input
                className={small}
                type="number"
                min={1}
                max={1000}
                aria-label={`Minutes of step ${i + 1}`}
                value={Number.isNaN(step.minutes) ? '' : step.minutes}
                onChange={(e) => change(i, { minutes: e.target.valueAsNumber })}
              />
              <input
                className={small}
                type="date"
                min={today}
                aria-label={`Date of step ${i + 1}`}
                aria-invalid={step.on < today}
                value={step.on}
                onChange={(e) => change(i, { on: e.target.value })}
              />
              <span className="flex pt-0.5">
                <button
                  type="button"
                  className={iconButton}
                  disabled={i === 0}
                  onClick={() => move(i, -1)}
                  aria-label={`Move step ${i + 1} up`}
                >
                  <ArrowUp className="size-3.5" aria-hidden />
                </button>
                <button
                  type="button"
                  className={iconButton}
                  disabled={i === steps.length - 1}
                  onClick={() => move(i, 1)}
                  aria-label={`Move step ${i + 1} down`}
                >
                  <ArrowDown className="size-3.5" aria-hidden />
                </button>
                <button
                  type="button"
                  className={iconButton}
                  onClick={() => onChange(steps.filter((_, other) => other !== i))}
                  aria-label={`Take out step ${i + 1}`}
                >
                  <X className="size-3.5" aria-hidden />
                </button>
              </span>
            </li>
          ))}
        </ol>
      )}
      <div className="flex items-center gap-2">
        <label htmlFor={chooseId} className="sr-only">
          Step to add
        </label>
        <select
          id={chooseId}
          className={`${small} max-w-64`}
          value={chosen}
          onChange={(e) => setChosen(e.target.value)}
        >
          <option value="">Something of your own</option>
          {activities.map((a) => (
            <option key={a.id} value={a.id}>
              {a.title}
            </option>
          ))}
        </select>
        <Button onClick={add} disabled={steps.length >= 20}>
          <Plus className="size-3.5" aria-hidden /> Add step
        </Button>
        <span className="text-muted ml-auto text-[13px]">
          {Number.isNaN(total) ? '' : `${total} min in all`}
        </span>
      </div>
    </div>
  );
}
