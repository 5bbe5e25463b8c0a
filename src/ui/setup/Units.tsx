'use client';
import { useState } from 'react';
import { saveUnitAction } from '@/actions/setup';
import type { UnitRow } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { EditSheet } from './EditSheet';
import type { UnitForm } from '@/core/forms/setup';
import { SelectField, TextField } from '../parts/fields';
import { PROPOSED, useEdited } from './useEdited';

const loadUnitForm = () => import('@/core/forms/setup').then((m) => m.unitForm);

/** Units in the order of their tree, each with how deep it is. */
export function unitTree(units: readonly UnitRow[]): { readonly unit: UnitRow; readonly depth: number }[] {
  const below = (parent: number | null, depth: number): { unit: UnitRow; depth: number }[] =>
    units
      .filter((u) => u.parentId === parent)
      .flatMap((unit) => [{ unit, depth }, ...below(unit.id, depth + 1)]);
  return below(null, 0);
}

/** The same as the options of a list. */
export const unitOptions = (units: readonly UnitRow[]): { value: number; label: string }[] =>
  unitTree(units).map(({ unit, depth }) => ({
    value: unit.id,
    label: `${'\u2003'.repeat(depth)}${unit.name}`,
  }));

/** The institution and its units as a tree: added, renamed, moved, taken away. */
export function Units({ code, units }: { readonly code: string; readonly units: readonly UnitRow[] }) {
  const [edited, setEdited] = useState<UnitForm | null>(null);
  return (
    <Panel className="p-4">
      <h2 className="mb-2 font-serif text-lg font-semibold">The institution</h2>
      {units.length === 0 ? (
        <p className="text-muted mb-2">No unit yet. Units are a school, its departments, their programmes.</p>
      ) : (
        <ul className="mb-3 space-y-1">
          {unitTree(units).map(({ unit, depth }) => (
            <li
              key={unit.id}
              className="flex items-center gap-3"
              style={{ paddingLeft: `${depth * 1.5}rem` }}
            >
              <span className="break-words">{unit.name}</span>
              <Button small aria-label={`Change ${unit.name}`} onClick={() => setEdited(unit)}>
                Change
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Button onClick={() => setEdited({ id: null, name: '', parentId: null })}>Add a unit</Button>
      {edited ? <UnitSheet code={code} units={units} unit={edited} onClose={() => setEdited(null)} /> : null}
    </Panel>
  );
}

function UnitSheet({
  code,
  units,
  unit,
  onClose,
}: {
  readonly code: string;
  readonly units: readonly UnitRow[];
  readonly unit: UnitForm;
  readonly onClose: () => void;
}) {
  const { control, sheet } = useEdited(loadUnitForm, unit, {
    code,
    what: 'unit',
    save: (edited, was) => saveUnitAction({ ...edited, was }),
    done: ({ proposed }) => (proposed ? PROPOSED : ''),
    onClose,
  });
  const { id } = unit;
  return (
    <EditSheet title={id == null ? 'Add a unit' : unit.name} {...sheet}>
      <TextField control={control} name="name" label="Name" />
      <SelectField
        control={control}
        name="parentId"
        label="Part of"
        options={[
          { value: null, label: 'nothing above it' },
          ...unitOptions(units).filter((o) => o.value !== id),
        ]}
      />
    </EditSheet>
  );
}
