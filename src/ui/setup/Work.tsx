'use client';
import { useState } from 'react';
import { dueEffectAction, saveActivityAction, saveCategoryAction } from '@/actions/setup';
import { ACTIVITY_KINDS } from '@/core/course/kinds';
import type { ActivityForm, CategoryForm, DueEffect, SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { counted, dayAndTime } from '@/core/format';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { EditSheet } from './EditSheet';
import { InstantField, NumberField, SelectField, TextField, Ticks } from './fields';
import { useEdited } from './useEdited';

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

/** Categories with their weights, and every activity with its dates, points and outcomes. */
export function Work({ view }: { readonly view: SetupView }) {
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
            { label: 'Works', right: true },
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
            { label: 'Work' },
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
          <Button onClick={() => setWork(NEW_WORK)}>Add a work</Button>
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
  const { form, set, sheet } = useEdited(category, {
    code,
    what: 'category',
    save: (edited) => saveCategoryAction({ code, form: edited }),
    onClose,
  });
  return (
    <EditSheet title={category.id == null ? 'Add a category' : `Category ${category.name}`} {...sheet}>
      <TextField label="Name" value={form.name} onChange={(name) => set({ name })} />
      <NumberField label="Weight, %" value={form.weight} onChange={(n) => set({ weight: n ?? 0 })} />
      <NumberField
        label="How many works of lowest per cent are left out"
        value={form.dropLowest}
        step={1}
        onChange={(n) => set({ dropLowest: n ?? 0 })}
      />
    </EditSheet>
  );
}

function WorkSheet({
  view,
  work,
  onClose,
}: {
  readonly view: SetupView;
  readonly work: ActivityForm;
  readonly onClose: () => void;
}) {
  const { code, zone } = view.course;
  const {
    form,
    set: put,
    act,
    sheet,
  } = useEdited(work, {
    code,
    what: 'activity',
    save: (edited) => saveActivityAction({ code, form: edited }),
    onClose,
  });
  const [effect, setEffect] = useState<DueEffect | null>(null);
  const set = (more: Partial<ActivityForm>) => {
    put(more);
    if ('due' in more) setEffect(null);
  };
  const { id } = form;
  const save = () => {
    // What another due date does to whom is said before it is done.
    if (id != null && form.due !== work.due && !effect) {
      act(() => dueEffectAction({ code, id, due: form.due }), { then: setEffect });
      return;
    }
    sheet.onSave();
  };
  return (
    <EditSheet
      title={id == null ? 'Add a work' : work.title}
      {...sheet}
      onSave={save}
      saveLabel={effect ? 'Save with this due date' : 'Save'}
    >
      <TextField label="Title" value={form.title} onChange={(title) => set({ title })} />
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label="Kind"
          value={form.kind}
          options={ACTIVITY_KINDS.map((k) => ({ value: k, label: k }))}
          onChange={(kind) => set({ kind })}
        />
        <SelectField
          label="Category"
          value={form.categoryId ?? 0}
          options={[
            { value: 0, label: 'none' },
            ...view.categories.map((c) => ({ value: c.id ?? 0, label: c.name })),
          ]}
          onChange={(c) => set({ categoryId: c || null })}
        />
        <NumberField label="Points" value={form.points} onChange={(points) => set({ points })} />
        <NumberField
          label="Estimated minutes"
          value={form.minutes}
          step={1}
          onChange={(minutes) => set({ minutes })}
        />
        <InstantField label="Opens" value={form.opens} zone={zone} onChange={(opens) => set({ opens })} />
        <InstantField label="Due" value={form.due} zone={zone} onChange={(due) => set({ due })} />
        <InstantField label="Closes" value={form.closes} zone={zone} onChange={(closes) => set({ closes })} />
        <NumberField
          label="Attempts allowed"
          value={form.attempts}
          step={1}
          hint="Empty for as often as one likes"
          onChange={(attempts) => set({ attempts })}
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
      <Ticks
        label="Outcomes it covers"
        options={view.outcomes.map((o) => ({ value: o.id ?? 0, label: o.title }))}
        value={form.outcomeIds}
        onChange={(outcomeIds) => set({ outcomeIds })}
      />
    </EditSheet>
  );
}
