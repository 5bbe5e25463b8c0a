'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import {
  giveAction,
  giveChoicesAction,
  previewGiveAction,
  removeGivenAction,
  undoGivenAction,
} from '@/actions/plans';
import type { GiveForm } from '@/core/forms/give';
import { counted, listed } from '@/core/format';
import type { GiveChoices, GivePreview } from '@/core/views/give';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Field } from '../parts/Field';
import { InstantField } from '../parts/fields';
import { LabelledTick } from '../parts/LabelledTick';
import { Loading } from '../parts/Loading';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useAnswer } from '../parts/useAnswer';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/give').then((m) => m.giveForm);

/** Names that are said before the rest is counted. */
const NAMED = 4;
const named = (names: readonly string[]): string =>
  names.length <= NAMED
    ? listed(names)
    : `${listed(names.slice(0, NAMED))} and ${counted(names.length - NAMED, 'other')}`;

/** Assigns activities to some students with dates of their own, or removes them again: what it does is said first. */
export function AssignSheet({
  code,
  selected,
  onClose,
}: {
  readonly code: string;
  /** Those who are selected. */
  readonly selected: readonly number[];
  readonly onClose: () => void;
}) {
  const answer = useAnswer(giveChoicesAction, { code });
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title="Assign"
      description="Pages, films and assignments for some, with dates of their own."
    >
      {answer.state === 'asking' ? <Loading /> : null}
      {answer.state === 'failed' ? <p className="text-plum">{answer.message}</p> : null}
      {answer.state === 'there' ? (
        <AssignForm code={code} selected={selected} choices={answer.value} onClose={onClose} />
      ) : null}
    </Sheet>
  );
}

function AssignForm({
  code,
  selected,
  choices,
  onClose,
}: {
  readonly code: string;
  readonly selected: readonly number[];
  readonly choices: GiveChoices;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const { control, handleSubmit, setValue, formState } = useYupForm(loadForm, {
    target: selected.length > 0 ? null : 'all',
    students: [...selected],
    activities: [],
    opensAt: null,
    dueAt: null,
    closesAt: null,
    onlyTheirs: false,
    again: false,
  } as GiveForm);
  const form = useWatch({ control }) as GiveForm;
  const [preview, setPreview] = useState<{ readonly of: string; readonly seen: GivePreview } | null>(null);
  const titleOf = new Map(choices.activities.map((a) => [a.id, a.title]));
  const toActivities = (ids: number[]) => setValue('activities', ids);
  const shown = preview?.of === JSON.stringify(form) ? preview.seen : null;
  const undo = (batch: number) => act(() => undoGivenAction({ code, batch }), { done: 'Undone.' });
  const finish = {
    done: ({ words }: { readonly words: string }) => `${words}.`,
    undo: ({ batch }: { readonly batch: number }) => undo(batch),
    then: onClose,
  };
  const options = (resource: boolean) =>
    choices.activities
      .filter((a) => a.resource === resource && !form.activities.includes(a.id))
      .map((a) => ({ value: String(a.id), label: a.title }));
  return (
    <form
      noValidate
      className="space-y-3"
      onSubmit={(e) =>
        void handleSubmit((checked) =>
          shown
            ? act(() => giveAction({ code, form: checked }), finish)
            : act(() => previewGiveAction({ code, form: checked }), {
                then: (seen) => setPreview({ of: JSON.stringify(checked), seen }),
              }),
        )(e)
      }
    >
      <Field label="To whom" className="max-w-80">
        {(ids) => (
          <Choose
            {...ids}
            label="To whom"
            value={form.target ?? 'selected'}
            options={[
              ...(selected.length > 0
                ? [{ value: 'selected', label: `the ${counted(selected.length, 'selected student')}` }]
                : []),
              ...choices.targets,
            ]}
            onChange={(v) => setValue('target', v === 'selected' ? null : (v as GiveForm['target']))}
          />
        )}
      </Field>
      <Field label="What" error={formState.errors.activities?.message}>
        {(ids) => (
          <Choose
            {...ids}
            label="What"
            value=""
            placeholder={
              form.activities.length === 0 ? 'Choose a page, film or assignment' : 'Choose another'
            }
            options={[
              { heading: 'Assignments', options: options(false) },
              { heading: 'Pages and films', options: options(true) },
            ]}
            onChange={(v) => toActivities([...form.activities, Number(v)])}
          />
        )}
      </Field>
      {form.activities.length > 0 ? (
        <ul aria-label="To be assigned" className="flex flex-wrap gap-2">
          {form.activities.map((id) => (
            <li
              key={id}
              className="bg-amber-wash inline-flex items-center gap-1 rounded-md px-2 py-0.5 text-sm"
            >
              {titleOf.get(id)}
              <button
                type="button"
                aria-label={`Leave out ${titleOf.get(id)}`}
                className="text-muted hover:text-ink"
                onClick={() => toActivities(form.activities.filter((a) => a !== id))}
              >
                <X className="size-3.5" aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      ) : null}
      <div className="grid gap-3 sm:grid-cols-3">
        <InstantField control={control} name="opensAt" label="Opens" zone={choices.zone} />
        <InstantField control={control} name="dueAt" label="Due" zone={choices.zone} />
        <InstantField control={control} name="closesAt" label="Closes" zone={choices.zone} />
      </div>
      <LabelledTick
        label="It is theirs alone: nobody else is behind on it"
        checked={form.onlyTheirs}
        onChange={(on) => setValue('onlyTheirs', on)}
      />
      <LabelledTick
        label="Again for whoever has it or has done it, with one more attempt"
        checked={form.again}
        onChange={(on) => setValue('again', on)}
      />
      {shown ? <Preview seen={shown} onMix={(id) => toActivities([...form.activities, id])} /> : null}
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy || (shown != null && shown.gives === 0)}>
          {shown ? `Assign to ${counted(shown.gives, 'student')}` : 'Preview'}
        </Button>
        <Button
          disabled={busy || form.activities.length === 0}
          onClick={() =>
            act(
              () =>
                removeGivenAction({
                  code,
                  form: { target: form.target, students: form.students, activities: form.activities },
                }),
              finish,
            )
          }
        >
          Remove from them
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

/** What assigning would do, in sentences. */
function Preview({ seen, onMix }: { readonly seen: GivePreview; readonly onMix: (id: number) => void }) {
  return (
    <section
      aria-label="What it does"
      aria-live="polite"
      className="border-amber space-y-1 border-l-[3px] pl-3"
    >
      <p className="font-semibold">
        {seen.gives} of {counted(seen.students, 'student')} get it.
      </p>
      {seen.have.length > 0 ? (
        <p>
          {seen.have.length} {seen.have.length === 1 ? 'has' : 'have'} some of it already: {named(seen.have)}.
        </p>
      ) : null}
      {seen.done.length > 0 ? (
        <p>
          {seen.done.length} {seen.done.length === 1 ? 'has' : 'have'} done some of it: {named(seen.done)}.
        </p>
      ) : null}
      {seen.later.length > 0 ? <p>Due later, since they get more time: {named(seen.later)}.</p> : null}
      {seen.narrows.length > 0 ? (
        <p>Nobody else is expected to do {listed(seen.narrows)} from then on.</p>
      ) : null}
      {seen.mixIn.length > 0 ? (
        <p className="flex flex-wrap items-center gap-2">
          Worth mixing in, on what it rests on:
          {seen.mixIn.map((m) => (
            <Button key={m.id} small onClick={() => onMix(m.id)}>
              {m.title} ({m.outcome})
            </Button>
          ))}
        </p>
      ) : null}
    </section>
  );
}
