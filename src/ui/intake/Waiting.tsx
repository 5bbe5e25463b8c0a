'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { dropWaitingAction, matchByRuleAction, matchPersonAction, undoImportAction } from '@/actions/course';
import { saidOf } from '@/core/formats/xapi/studentForm';
import type { WaitingPerson } from '@/core/views/live';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { counted } from '@/core/format';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { useAct } from '../parts/useAct';
import { useAsk } from '../parts/useAsk';

const StudentSheet = dynamic(() => import('../setup/StudentSheet').then((m) => m.StudentSheet));
interface Props {
  readonly code: string;
  readonly waiting: readonly WaitingPerson[];
  readonly students: readonly { readonly id: number; readonly name: string }[];
  readonly sections: readonly { readonly id: number; readonly name: string }[];
}

/** Rows whose person nobody knows yet: say who it is, and they go in. */
export function Waiting({ code, waiting, students, sections }: Props) {
  const [added, setAdded] = useState<WaitingPerson | null>(null);
  const { busy, act } = useAct();
  const rows = waiting.reduce((sum, w) => sum + w.rows, 0);
  return (
    <Panel className="p-4">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
        <div>
          <h2 className="font-serif text-lg font-semibold">
            {counted(rows, 'row')} of {counted(waiting.length, 'person', 'people')} nobody knows yet
          </h2>
          <p className="text-muted text-[13px]">
            Say who it is: the name is remembered, and the rows go in now and from now on.
          </p>
        </div>
        <Button
          disabled={busy}
          onClick={() =>
            act(() => matchByRuleAction({ code }), {
              done: (n) => (n > 0 ? `${counted(n, 'row')} went in` : 'Still nobody with that id or address'),
            })
          }
        >
          Look again by id and address
        </Button>
      </div>
      <Table
        head={[
          { label: 'The source calls them' },
          { label: 'Rows', right: true },
          { label: 'Who is it?' },
          { label: '' },
        ]}
      >
        {waiting.map((w) => (
          <Row
            key={w.person}
            code={code}
            waiting={w}
            students={students}
            busy={busy}
            act={act}
            onAdd={() => setAdded(w)}
          />
        ))}
      </Table>
      {added ? (
        <StudentSheet
          code={code}
          sections={sections}
          student={saidOf(added)}
          person={added.person}
          onClose={() => setAdded(null)}
        />
      ) : null}
    </Panel>
  );
}

function Row({
  code,
  waiting,
  students,
  busy,
  act,
  onAdd,
}: {
  readonly code: string;
  readonly waiting: WaitingPerson;
  readonly students: Props['students'];
  readonly busy: boolean;
  readonly act: ReturnType<typeof useAct>['act'];
  readonly onAdd: () => void;
}) {
  const { person, name, rows, likely } = waiting;
  const [chosen, setChosen] = useState(likely[0] ?? 0);
  const { ask, asked } = useAsk();
  const nameOf = (id: number) => students.find((s) => s.id === id)?.name;
  return (
    <tr>
      <Cell className="break-words">
        {name ? <span className="font-semibold">{name} </span> : null}
        <span className="text-muted break-all">{person}</span>
      </Cell>
      <Cell className="text-right">{rows.toLocaleString('en')}</Cell>
      <Cell>
        <Choose
          label={`Student for ${name ?? person}`}
          className="min-w-52"
          placeholder="Choose a student"
          value={chosen === 0 ? '' : String(chosen)}
          options={[
            ...(likely.length > 0
              ? [
                  {
                    heading: 'Likely',
                    options: likely.map((id) => ({ value: String(id), label: nameOf(id) ?? '' })),
                  },
                ]
              : []),
            {
              heading: 'Everybody',
              options: students
                .filter((s) => !likely.includes(s.id))
                .map((s) => ({ value: String(s.id), label: s.name })),
            },
          ]}
          onChange={(id) => setChosen(Number(id))}
        />
      </Cell>
      <Cell className="text-right whitespace-nowrap">
        <Button
          look="main"
          small
          disabled={busy || chosen === 0}
          onClick={() =>
            act(() => matchPersonAction({ code, person, enrolmentId: chosen }), {
              done: ({ rows }) => `${counted(rows, 'row')} went in for ${nameOf(chosen)}`,
              undo: ({ importId }) =>
                act(() => undoImportAction({ code, id: importId }), {
                  done: `${name ?? person} waits again`,
                }),
            })
          }
        >
          It is this student
        </Button>{' '}
        <Button
          look="quiet"
          small
          disabled={busy}
          aria-label={`Add as student: ${name ?? person}`}
          onClick={onAdd}
        >
          Add as student
        </Button>{' '}
        <Button
          look="quiet"
          small
          disabled={busy}
          onClick={() =>
            ask({
              title: `Leave out ${counted(rows, 'row')} of ${name ?? person}?`,
              description: 'They cannot be brought back but by importing again.',
              yes: 'Leave them out',
              then: () =>
                act(() => dropWaitingAction({ code, person }), {
                  done: (n) => `${counted(n, 'row')} left out`,
                }),
            })
          }
        >
          Leave out
        </Button>
        {asked}
      </Cell>
    </tr>
  );
}
