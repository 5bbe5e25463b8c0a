'use client';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { dueEffectAction, saveActivityAction, saveCategoryAction } from '@/actions/setup';
import { ACTIVITY_KINDS } from '@/core/course/kinds';
import type { ActivityForm, CategoryForm } from '@/core/forms/setup';
import type { Instant } from '@/core/units';
import type { DueEffect, SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { counted, dayAndTime } from '@/core/format';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { EditSheet } from './EditSheet';
import { InstantField, NumberField, SelectField, TextField, TicksField } from '../parts/fields';
import { useEdited } from './useEdited';

const loadActivityForm = () => import('@/core/forms/setup').then((m) => m.activityForm);
const loadCategoryForm = () => import('@/core/forms/setup').then((m) => m.categoryForm);

const NEW_WORK: ActivityForm = {
  id: null,
  title: '',
  kind: 'assignment',
  categoryId: null,
  points: null,
  opens: null,
  due: null,
  closes: null,
  attempts: null,
  minutes: null,
  outcomeIds: [],
};
const NEW_CATEGORY: CategoryForm = { id: null, name: '', weight: 0, dropLowest: 0 };

/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'categories' | 'activities' | 'outcomes'>;

/** Categories with their weights, and every activity with its dates, points and outcomes. */
export function Work({ view }: { readonly view: Drawn }) {
  const [work, setWork] = useState<ActivityForm | null>(null);
  const [category, setCategory] = useState<CategoryForm | null>(null);
  const { code, zone } = view.course;
  const names = new Map(view.categories.map((c) => [c.id, c.name]));
  const sum = view.categories.reduce((s, c) => s + c.weight, 0);
  return (
    <div className="space-y-4">
      <Panel>
        <Table
          head={[
            { label: 'Category' },
            { label: 'Weight', right: true },
            { label: 'Lowest dropped', right: true },
            { label: 'Assignments', right: true },
            { label: '' },
          ]}
        >
          {view.categories.map((c) => (
            <tr key={c.id}>
              <Cell className="font-semibold">{c.name}</Cell>
              <Cell className="text-right">{c.weight} %</Cell>
              <Cell className="text-right">{c.dropLowest || 'none'}</Cell>
              <Cell className="text-right">
                {view.activities.filter((a) => a.categoryId === c.id).length}
              </Cell>
              <Cell className="text-right">
                <Button small onClick={() => setCategory(c)} aria-label={`Change ${c.name}`}>
                  Change
                </Button>
              </Cell>
            </tr>
          ))}
        </Table>
        <div className="border-line flex items-center gap-3 border-t p-3">
          <Button onClick={() => setCategory(NEW_CATEGORY)}>Add a category</Button>
          <span className="text-muted">The weights add up to {Math.round(sum * 100) / 100} %.</span>
        </div>
      </Panel>
      <Panel>
        <Table
          head={[
            { label: 'Assignment' },
            { label: 'Kind' },
            { label: 'Category' },
            { label: 'Points', right: true },
            { label: 'Due' },
            { label: 'Outcomes', right: true },
            { label: '' },
          ]}
        >
          {view.activities.map((a) => (
            <tr key={a.id}>
              <Cell className="font-semibold">{a.title}</Cell>
              <Cell>{a.kind}</Cell>
              <Cell className="text-muted">{names.get(a.categoryId ?? -1) ?? 'none'}</Cell>
              <Cell className="text-right">{a.points ?? 'none'}</Cell>
              <Cell className="whitespace-nowrap">{a.due == null ? 'no date' : dayAndTime(a.due, zone)}</Cell>
              <Cell className="text-right">{a.outcomeIds.length}</Cell>
              <Cell className="text-right">
                <Button small onClick={() => setWork(a)} aria-label={`Change ${a.title}`}>
                  Change
                </Button>
              </Cell>
            </tr>
          ))}
        </Table>
        <div className="border-line border-t p-3">
          <Button onClick={() => setWork(NEW_WORK)}>Add an assignment</Button>
        </div>
      </Panel>
      {work ? <WorkSheet view={view} work={work} onClose={() => setWork(null)} /> : null}
      {category ? <CategorySheet code={code} category={category} onClose={() => setCategory(null)} /> : null}
    </div>
  );
}

function CategorySheet({
  code,
  category,
  onClose,
}: {
  readonly code: string;
  readonly category: CategoryForm;
  readonly onClose: () => void;
}) {
  const { control, sheet } = useEdited(loadCategoryForm, category, {
    code,
    what: 'category',
    save: (edited, was) => saveCategoryAction({ code, form: edited, was }),
    onClose,
  });
  return (
    <EditSheet title={category.id == null ? 'Add a category' : `Category ${category.name}`} {...sheet}>
      <TextField control={control} name="name" label="Name" />
      <NumberField control={control} name="weight" label="Weight, %" />
      <NumberField control={control} name="dropLowest" label="How many of the lowest scores are dropped" />
    </EditSheet>
  );
}

function WorkSheet({
  view,
  work,
  onClose,
}: {
  readonly view: Drawn;
  readonly work: ActivityForm;
  readonly onClose: () => void;
}) {
  const { code, zone } = view.course;
  const { form, control, act, sheet } = useEdited(loadActivityForm, work, {
    code,
    what: 'activity',
    save: (edited, was) => saveActivityAction({ code, form: edited, was }),
    onClose,
  });
  const { id } = work;
  const due = useWatch({ control, name: 'due' });
  /** What a due date does to whom, and which date that is: another date is looked at anew. */
  const [looked, setLooked] = useState<{ readonly due: Instant | null; readonly effect: DueEffect } | null>(
    null,
  );
  const effect = looked && looked.due === due ? looked.effect : null;
  // What another due date does to whom is said before it is done.
  const look = form.handleSubmit(() => {
    if (id != null)
      act(() => dueEffectAction({ code, id, due }), { then: (found) => setLooked({ due, effect: found }) });
  });
  const save = () => (id != null && due !== work.due && !effect ? look() : sheet.onSave());
  return (
    <EditSheet
      title={id == null ? 'Add an assignment' : work.title}
      {...sheet}
      onSave={save}
      saveLabel={effect ? 'Save with this due date' : 'Save'}
    >
      <TextField control={control} name="title" label="Title" />
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          control={control}
          name="kind"
          label="Kind"
          options={ACTIVITY_KINDS.map((k) => ({ value: k, label: k }))}
        />
        <SelectField
          control={control}
          name="categoryId"
          label="Category"
          options={[
            { value: null, label: 'none' },
            ...view.categories.map((c) => ({ value: c.id, label: c.name })),
          ]}
        />
        <NumberField control={control} name="points" label="Points" />
        <NumberField control={control} name="minutes" label="Estimated minutes" />
        <InstantField control={control} name="opens" label="Opens" zone={zone} />
        <InstantField control={control} name="due" label="Due" zone={zone} />
        <InstantField control={control} name="closes" label="Closes" zone={zone} />
        <NumberField
          control={control}
          name="attempts"
          label="Attempts allowed"
          hint="Empty for as often as one likes"
        />
      </div>
      {effect ? (
        <div role="status" className="border-amber bg-amber-wash rounded-md border p-3">
          <p className="font-semibold">
            {effect.changes.length === 0
              ? 'Nobody’s status changes by this due date.'
              : `The status of ${counted(effect.changes.length, 'student')} changes by this due date`}
          </p>
          <ul className="mt-1 max-h-40 overflow-auto text-[13px]">
            {effect.changes.map((c) => (
              <li key={c.name}>
                {c.name}: {c.from} → <span className="font-semibold">{c.to}</span>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <TicksField
        control={control}
        name="outcomeIds"
        label="Outcomes it covers"
        options={view.outcomes.map((o) => ({ value: o.id ?? 0, label: o.title }))}
      />
    </EditSheet>
  );
}
