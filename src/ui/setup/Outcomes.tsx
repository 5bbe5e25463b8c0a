'use client';
import { useState } from 'react';
import { saveOutcomeAction } from '@/actions/setup';
import type { OutcomeForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { EditSheet } from './EditSheet';
import { SelectField, TextField, TicksField } from '../parts/fields';
import { useEdited } from './useEdited';

const loadOutcomeForm = () => import('@/core/forms/setup').then((m) => m.outcomeForm);

const EMPTY: OutcomeForm = { id: null, title: '', parentId: null, before: [] };

/** Outcomes under what they are part of, each with its depth. */
function inOrder(outcomes: readonly OutcomeForm[]): { outcome: OutcomeForm; depth: number }[] {
  const ids = new Set(outcomes.map((o) => o.id));
  const below = (parent: number | null, depth: number): { outcome: OutcomeForm; depth: number }[] =>
    outcomes
      .filter((o) => (o.parentId != null && ids.has(o.parentId) ? o.parentId : null) === parent)
      .flatMap((outcome) => [{ outcome, depth }, ...below(outcome.id, depth + 1)]);
  return below(null, 0);
}

/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'outcomes' | 'activities'>;

/** What is to be learnt, as a tree, with what comes before what. */
export function Outcomes({ view }: { readonly view: Drawn }) {
  const [edited, setEdited] = useState<OutcomeForm | null>(null);
  const titles = new Map(view.outcomes.map((o) => [o.id, o.title]));
  return (
    <Panel>
      <Table
        head={[
          { label: 'Outcome' },
          { label: 'Prerequisites' },
          { label: 'Assignments that cover it', right: true },
          { label: '' },
        ]}
      >
        {inOrder(view.outcomes).map(({ outcome: o, depth }) => (
          <tr key={o.id}>
            <Cell className="font-semibold">
              <span style={{ paddingLeft: `${depth * 1.25}rem` }}>{o.title}</span>
            </Cell>
            <Cell className="text-muted">
              {o.before.length === 0 ? 'nothing' : o.before.map((id) => titles.get(id)).join(', ')}
            </Cell>
            <Cell className="text-right">
              {view.activities.filter((a) => a.outcomeIds.includes(o.id ?? 0)).length}
            </Cell>
            <Cell className="text-right">
              <Button small onClick={() => setEdited(o)} aria-label={`Change ${o.title}`}>
                Change
              </Button>
            </Cell>
          </tr>
        ))}
      </Table>
      <div className="border-line border-t p-3">
        <Button onClick={() => setEdited(EMPTY)}>Add an outcome</Button>
      </div>
      {edited ? <OutcomeSheet view={view} outcome={edited} onClose={() => setEdited(null)} /> : null}
    </Panel>
  );
}

function OutcomeSheet({
  view,
  outcome,
  onClose,
}: {
  readonly view: Drawn;
  readonly outcome: OutcomeForm;
  readonly onClose: () => void;
}) {
  const { code } = view.course;
  const { control, sheet } = useEdited(loadOutcomeForm, outcome, {
    code,
    what: 'outcome',
    save: (edited, was) => saveOutcomeAction({ code, form: edited, was }),
    onClose,
  });
  const { id } = outcome;
  const others = view.outcomes.filter((o) => o.id !== id).map((o) => ({ value: o.id ?? 0, label: o.title }));
  return (
    <EditSheet title={id == null ? 'Add an outcome' : outcome.title} {...sheet}>
      <TextField control={control} name="title" label="Title" />
      <SelectField
        control={control}
        name="parentId"
        label="Part of"
        options={[{ value: null, label: 'nothing above it' }, ...others]}
      />
      <TicksField control={control} name="before" label="Prerequisites" options={others} />
    </EditSheet>
  );
}
