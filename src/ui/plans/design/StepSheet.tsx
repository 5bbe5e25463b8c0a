'use client';
import { useState } from 'react';
import { instantOf, localDate, minuteOfDay } from '@/core/calendar/zone';
import { isResource } from '@/core/course/kinds';
import { DESIGN_STEP_KINDS, type DesignStep, type DesignStepKind, type StepSet } from '@/core/plans/design';
import { USUAL_MINUTES } from '@/core/plans/propose';
import type { LocalDate } from '@/core/units';
import type { DesignView } from '@/core/views/design';
import { Button } from '../../parts/Button';
import { Choose } from '../../parts/Choose';
import { DayInput } from '../../parts/DayInput';
import { Field, TextInput } from '../../parts/Field';
import { Sheet } from '../../parts/Sheet';
import { TimeInput } from '../../parts/TimeInput';

const KINDS: Readonly<Record<DesignStepKind, string>> = {
  activity: 'A page, film or assignment',
  practice: 'Practice on an outcome',
  talk: 'A talk',
  text: 'A task, in your own words',
  lesson: 'A lesson for all who get it',
  attempt: 'Another attempt at the quiz',
};

/** Minutes that a new step of a kind takes (common practice). */
const MINUTES: Readonly<Record<DesignStepKind, number>> = {
  activity: USUAL_MINUTES,
  practice: 25,
  talk: 10,
  text: 15,
  lesson: 45,
  attempt: 20,
};
const LESSON_MINUTE = 18 * 60;

/** A step of a plan design: what it is, how long it takes, and for a lesson when and where. */
export function StepSheet({
  step,
  isNew,
  twoSets,
  view,
  today,
  zone,
  onSave,
  onRemove,
  onClose,
}: {
  readonly step: DesignStep;
  readonly isNew: boolean;
  /** Whether it belongs to one of two sets. */
  readonly twoSets: boolean;
  readonly view: DesignView;
  readonly today: LocalDate;
  readonly zone: string;
  readonly onSave: (step: DesignStep) => void;
  readonly onRemove: () => void;
  readonly onClose: () => void;
}) {
  const [draft, setDraft] = useState(step);
  const [minutes, setMinutes] = useState(String(step.minutes));
  const set = (change: Partial<DesignStep>) => setDraft((now) => ({ ...now, ...change }));
  const { branch } = view.design;
  const quiz = view.activities.find((a) => a.id === branch?.quizId);
  const kinds = DESIGN_STEP_KINDS.filter((k) => k !== 'attempt' || quiz);
  const toKind = (kind: DesignStepKind) => {
    setMinutes(String(MINUTES[kind]));
    set({
      kind,
      minutes: MINUTES[kind],
      activityId: kind === 'attempt' ? (quiz?.id ?? null) : null,
      outcomeId: null,
      title: kind === 'attempt' && quiz ? `Another attempt at ${quiz.title}` : '',
      lesson: kind === 'lesson' ? { at: instantOf(today, LESSON_MINUTE, zone), place: '' } : null,
    });
  };
  const toActivity = (value: string) => {
    const found = view.activities.find((a) => String(a.id) === value);
    if (!found) return;
    const usual = found.minutes ?? USUAL_MINUTES;
    setMinutes(String(usual));
    set({ activityId: found.id, title: found.title, minutes: usual });
  };
  const options = (of: 'resource' | 'assignment') =>
    view.activities
      .filter((a) => isResource(a.kind) === (of === 'resource'))
      .map((a) => ({ value: String(a.id), label: a.title }));
  const whole = Number(minutes);
  const fault =
    !Number.isInteger(whole) || whole < 1 || whole > 1000
      ? 'Minutes are a whole number from 1 to 1,000.'
      : draft.kind === 'activity' && draft.activityId == null
        ? 'Choose what it is.'
        : draft.kind === 'practice' && draft.outcomeId == null
          ? 'Choose an outcome.'
          : draft.kind !== 'practice' && draft.title.trim() === ''
            ? 'Give it a title.'
            : null;
  return (
    <Sheet open onOpenChange={(open) => !open && onClose()} title={isNew ? 'A new step' : 'A step'}>
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (!fault) onSave({ ...draft, title: draft.title.trim(), minutes: whole });
        }}
      >
        <Field label="What it is">
          {(ids) => (
            <Choose<DesignStepKind>
              {...ids}
              label="What it is"
              value={draft.kind}
              options={kinds.map((value) => ({ value, label: KINDS[value] }))}
              onChange={toKind}
            />
          )}
        </Field>
        {draft.kind === 'activity' ? (
          <Field label="Page, film or assignment">
            {(ids) => (
              <Choose
                {...ids}
                label="Page, film or assignment"
                value={draft.activityId == null ? '' : String(draft.activityId)}
                options={[
                  { heading: 'Pages and films', options: options('resource') },
                  { heading: 'Assignments', options: options('assignment') },
                ]}
                onChange={toActivity}
              />
            )}
          </Field>
        ) : null}
        {draft.kind === 'practice' ? (
          <Field label="Outcome" hint="Each gets practice on it that they have not done yet.">
            {(ids) => (
              <Choose
                {...ids}
                label="Outcome"
                value={draft.outcomeId == null ? '' : String(draft.outcomeId)}
                options={view.outcomes.map((o) => ({ value: String(o.id), label: o.title }))}
                onChange={(v) =>
                  set({
                    outcomeId: Number(v),
                    title: `Practice: ${view.outcomes.find((o) => String(o.id) === v)?.title ?? ''}`,
                  })
                }
              />
            )}
          </Field>
        ) : null}
        {draft.kind === 'attempt' ? (
          <p className="text-muted text-[13px]">
            Before it each gets what to go over: pages and films on their weakest outcomes of the quiz that
            they have not opened in full.
          </p>
        ) : null}
        {draft.kind === 'talk' || draft.kind === 'text' || draft.kind === 'lesson' ? (
          <Field label="Title">
            {(ids) => (
              <TextInput
                {...ids}
                maxLength={200}
                value={draft.title}
                onChange={(e) => set({ title: e.target.value })}
              />
            )}
          </Field>
        ) : null}
        {draft.lesson ? (
          <div className="flex flex-wrap gap-3">
            <Field label="On" className="w-40">
              {(ids) => (
                <DayInput
                  {...ids}
                  required
                  value={localDate(draft.lesson!.at, zone)}
                  onChange={(day) =>
                    day &&
                    set({
                      lesson: {
                        ...draft.lesson!,
                        at: instantOf(day, minuteOfDay(draft.lesson!.at, zone), zone),
                      },
                    })
                  }
                />
              )}
            </Field>
            <Field label="At" className="w-28">
              {(ids) => (
                <TimeInput
                  {...ids}
                  value={minuteOfDay(draft.lesson!.at, zone)}
                  onChange={(minute) =>
                    set({
                      lesson: {
                        ...draft.lesson!,
                        at: instantOf(localDate(draft.lesson!.at, zone), minute, zone),
                      },
                    })
                  }
                />
              )}
            </Field>
            <Field label="Where" className="min-w-40 flex-1">
              {(ids) => (
                <TextInput
                  {...ids}
                  maxLength={200}
                  value={draft.lesson!.place}
                  onChange={(e) => set({ lesson: { ...draft.lesson!, place: e.target.value } })}
                />
              )}
            </Field>
          </div>
        ) : null}
        <div className="flex flex-wrap gap-3">
          <Field label="Minutes" className="w-28">
            {(ids) => (
              <TextInput
                {...ids}
                inputMode="numeric"
                value={minutes}
                onChange={(e) => setMinutes(e.target.value)}
              />
            )}
          </Field>
          {twoSets ? (
            <Field label="Set" className="w-28">
              {(ids) => (
                <Choose<StepSet>
                  {...ids}
                  label="Set"
                  value={draft.set}
                  options={[
                    { value: 'a', label: 'A' },
                    { value: 'b', label: 'B' },
                  ]}
                  onChange={(value) => set({ set: value })}
                />
              )}
            </Field>
          ) : null}
        </div>
        {fault ? <p className="text-muted text-sm">{fault}</p> : null}
        <div className="flex flex-wrap gap-2">
          <Button look="main" type="submit" disabled={fault != null}>
            {isNew ? 'Add the step' : 'Change the step'}
          </Button>
          {isNew ? null : <Button onClick={onRemove}>Remove it</Button>}
          <Button look="quiet" onClick={onClose}>
            Cancel
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
