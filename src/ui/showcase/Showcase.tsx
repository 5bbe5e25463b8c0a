'use client';
import { useState, type ReactNode } from 'react';
import type { Column } from '@/core/tables/table';
import { Button, Key } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { Choose } from '../parts/Choose';
import { DataTable } from '../parts/DataTable';
import { DayInput } from '../parts/DayInput';
import { Definition } from '../parts/Definition';
import { Failed } from '../parts/Failed';
import { Field, TextInput } from '../parts/Field';
import { Hint } from '../parts/Hint';
import { LevelMark, LevelWord, type LevelName } from '../parts/Level';
import { Loading } from '../parts/Loading';
import { Menu } from '../parts/Menu';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { say } from '../parts/say';
import { Sheet } from '../parts/Sheet';
import { Sparkline } from '../parts/Sparkline';
import { Cell, Table } from '../parts/Table';
import { Tick } from '../parts/Tick';
import { TimeInput } from '../parts/TimeInput';
import { useAsk } from '../parts/useAsk';
import { FormParts } from './FormParts';

const LEVELS: readonly LevelName[] = ['act', 'watch', 'steady', 'too little data'];
const PLACES = ['Harbour', 'Estuary', 'Open sea'] as const;
const ROWS = [
  { id: 1, name: 'Harbour', depth: 6.5, weeks: [40, 55, 62] },
  { id: 2, name: 'Estuary', depth: 12, weeks: [70, null, 66] },
  { id: 3, name: 'Open sea', depth: null, weeks: [] },
];
type Row = (typeof ROWS)[number];
const COLUMNS: readonly Column<Row>[] = [
  { key: 'name', label: 'Place', value: (r) => r.name },
  { key: 'depth', label: 'Depth, m', right: true, means: 'Mean depth at low water.', value: (r) => r.depth },
  { key: 'weeks', label: 'By week', value: (r) => r.weeks.at(-1) ?? null },
];

function Part({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <section className="space-y-2">
      <h2 className="text-muted text-xs font-semibold">{title}</h2>
      {children}
    </section>
  );
}

function Parts() {
  const [place, setPlace] = useState<(typeof PLACES)[number]>('Harbour');
  const [day, setDay] = useState('2026-11-25');
  const [minute, setMinute] = useState(1110);
  const [on, setOn] = useState(true);
  const [open, setOpen] = useState(false);
  const { ask, asked } = useAsk();
  const options = PLACES.map((value) => ({ value, label: value }));
  return (
    <div className="bg-paper text-ink space-y-5 p-5">
      {asked}
      <ViewHead title="A finding as a sentence" aside={<Button look="main">What to do</Button>}>
        What stands under it, in words.
      </ViewHead>
      <Part title="Buttons">
        <div className="flex flex-wrap items-center gap-2">
          <Button look="main">Main</Button>
          <Button hotkey="k">Plain</Button>
          <Button look="quiet">Quiet</Button>
          <Button look="warm">Warm</Button>
          <Button small>Small</Button>
          <Button disabled>Disabled</Button>
          <span className="bg-night rounded p-1">
            <Button look="night">Night</Button>
          </span>
          <Key>j</Key>
        </div>
      </Part>
      <Part title="Fields">
        <div className="grid grid-cols-2 gap-3">
          <Field label="Text" hint="A hint under it">
            {(ids) => <TextInput {...ids} defaultValue="As it is typed" />}
          </Field>
          <Field label="Wrong" error="Says what is wrong.">
            {(ids) => <TextInput {...ids} defaultValue="no" />}
          </Field>
          <Field label="Choose one">
            {(ids) => <Choose {...ids} value={place} options={options} onChange={setPlace} />}
          </Field>
          <Field label="Day">{(ids) => <DayInput {...ids} value={day} onChange={setDay} />}</Field>
          <Field label="Time">{(ids) => <TimeInput {...ids} value={minute} onChange={setMinute} />}</Field>
          <Field label="Not now">{(ids) => <TextInput {...ids} disabled defaultValue="Disabled" />}</Field>
        </div>
      </Part>
      <Part title="A form">
        <FormParts />
      </Part>
      <Part title="Toggle group, tick, definition, hint, menu">
        <div className="flex flex-wrap items-center gap-3">
          <Chips label="Place" value={place} options={options} onChange={setPlace} />
          <Tick label="Tick" checked={on} onChange={setOn} />
          <span>
            A figure <Definition of="A figure">What it means, and where it comes from.</Definition>
          </span>
          <Hint says="The name of the sign">
            <Button small aria-label="The name of the sign">
              ⚓
            </Button>
          </Hint>
          <Menu
            label="Menu"
            items={[
              { label: 'A command', onSelect: () => undefined },
              { label: 'A switch', on, onSelect: () => setOn(!on) },
            ]}
          />
        </div>
      </Part>
      <Part title="Sheet, question, notice">
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => setOpen(true)}>Open a sheet</Button>
          <Button
            onClick={() =>
              ask({
                title: 'Delete it?',
                description: 'It is gone then.',
                yes: 'Delete',
                then: () => undefined,
              })
            }
          >
            Ask first
          </Button>
          <Button onClick={() => say.success('It is done.', () => undefined)}>Say it is done</Button>
          <Button onClick={() => say.error('It was not done, and why.')}>Say what went wrong</Button>
        </div>
        <Sheet open={open} onOpenChange={setOpen} title="A sheet" description="What it is for">
          <p>What it holds.</p>
        </Sheet>
      </Part>
      <Part title="Levels">
        <p className="flex flex-wrap gap-4">
          {LEVELS.map((level) => (
            <span key={level} className="flex items-center gap-1">
              <LevelMark level={level} /> <LevelWord level={level} />
            </span>
          ))}
        </p>
      </Part>
      <Part title="Tables">
        <Panel>
          <Table head={[{ label: 'Place' }, { label: 'Depth', right: true }]}>
            {ROWS.map((r) => (
              <tr key={r.id}>
                <Cell className="font-semibold">{r.name}</Cell>
                <Cell className="text-right">{r.depth ?? 'none'}</Cell>
              </tr>
            ))}
          </Table>
        </Panel>
        <DataTable
          label="Places"
          columns={COLUMNS}
          rows={ROWS}
          idOf={(r) => r.id}
          start="depth-"
          show={{ weeks: (r) => <Sparkline values={r.weeks} /> }}
          empty="No place."
        />
      </Part>
      <Part title="Nothing, loading, failed">
        <Panel>
          <Nothing title="Nothing yet">What to do next.</Nothing>
        </Panel>
        <Loading />
        <Panel>
          <Failed onAgain={() => undefined} />
        </Panel>
      </Part>
    </div>
  );
}

/** Every part, light on the left and dark on the right. */
export function Showcase() {
  return (
    <main className="grid grid-cols-1 lg:grid-cols-2">
      <h1 className="sr-only">The parts of the interface</h1>
      <div>
        <Parts />
      </div>
      <div className="dark">
        <Parts />
      </div>
    </main>
  );
}
