'use client';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { eraseStudentAction, joinCodeAction, moveStudentsAction, setStatusAction } from '@/actions/setup';
import { ENROLMENT_STATUSES, type EnrolmentStatus } from '@/core/course/kinds';
import { NOBODY } from '@/core/formats/xapi/studentForm';
import type { StudentForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Chips } from '../parts/Chips';
import { inputClasses } from '../parts/Field';
import { counted } from '@/core/format';
import { Nothing, Panel } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { Cell, Table } from '../parts/Table';
import { useAct } from '../parts/useAct';
import { useAsk } from '../parts/useAsk';

const StudentSheet = dynamic(() => import('./StudentSheet').then((m) => m.StudentSheet));
/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'students' | 'sections' | 'joinCode'>;

/** Who is in the course: found by name, moved between sections, withdrawn, archived, taken back. */
export function Students({ view }: { readonly view: Drawn }) {
  const { code } = view.course;
  const [find, setFind] = useState('');
  const [status, setStatus] = useState<EnrolmentStatus | 'all'>('active');
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const [edited, setEdited] = useState<StudentForm | null>(null);
  const { busy, act } = useAct();
  const { ask, asked } = useAsk();
  const names = new Map(view.sections.map((s) => [s.id, s.name]));
  const shown = useMemo(() => {
    const text = find.trim().toLowerCase();
    return view.students.filter(
      (s) =>
        (status === 'all' || s.status === status) &&
        `${s.name} ${s.externalId} ${s.email ?? ''}`.toLowerCase().includes(text),
    );
  }, [view.students, find, status]);
  const ids = shown.filter((s) => picked.has(s.id)).map((s) => s.id);
  const before = new Map(view.students.map((s) => [s.id, s]));
  const move = (sectionId: number | null) => {
    const from = ids.map((id) => ({ id, sectionId: before.get(id)?.sectionId ?? null }));
    act(() => moveStudentsAction({ code, ids, sectionId }), {
      done: (n) => `${counted(n, 'student')} moved`,
      undo: () => {
        for (const old of new Set(from.map((f) => f.sectionId)))
          act(() =>
            moveStudentsAction({
              code,
              ids: from.filter((f) => f.sectionId === old).map((f) => f.id),
              sectionId: old,
            }),
          );
      },
      then: () => setPicked(new Set()),
    });
  };
  const change = (to: EnrolmentStatus, done: string) => {
    const from = ids.map((id) => ({ id, status: before.get(id)!.status }));
    act(() => setStatusAction({ code, ids, status: to }), {
      done: (n) => `${counted(n, 'student')} ${done}; nothing of them is lost`,
      undo: () => {
        for (const old of ENROLMENT_STATUSES) {
          const theirs = from.filter((f) => f.status === old).map((f) => f.id);
          if (theirs.length > 0) act(() => setStatusAction({ code, ids: theirs, status: old }));
        }
      },
      then: () => setPicked(new Set()),
    });
  };
  const erase = (id: number, name: string) => {
    ask({
      title: `Erase ${name}?`,
      description: 'All that this course has on record about them goes. It cannot be undone.',
      yes: 'Erase',
      typed: name,
      then: () => act(() => eraseStudentAction({ code, id }), { done: (n) => `${counted(n, 'row')} erased` }),
    });
  };
  const all = shown.length > 0 && ids.length === shown.length;
  return (
    <div className="space-y-4">
      {asked}
      {edited ? (
        <StudentSheet code={code} sections={view.sections} student={edited} onClose={() => setEdited(null)} />
      ) : null}
      <Panel className="flex flex-wrap items-center gap-3 p-4">
        <p className="flex-1">
          {view.joinCode ? (
            <>
              Students join by typing{' '}
              <strong className="bg-amber-wash rounded px-1.5 font-mono tracking-widest">
                {view.joinCode}
              </strong>{' '}
              on their own page.
            </>
          ) : (
            'Students come by a roster file, or one by one. With a code they can join by themselves.'
          )}
        </p>
        <Button disabled={busy} onClick={() => setEdited(NOBODY)}>
          Add a student
        </Button>
        <Button
          disabled={busy}
          onClick={() => act(() => joinCodeAction({ code, on: view.joinCode == null }))}
        >
          {view.joinCode ? 'Delete the code' : 'Make a code to join by'}
        </Button>
      </Panel>
      <Panel>
        <div className="border-line flex flex-wrap items-center gap-3 border-b p-3">
          <input
            type="search"
            aria-label="Find a student"
            placeholder="Name, id or address"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            className={`${inputClasses} w-60!`}
          />
          <Chips
            label="Status"
            value={status}
            onChange={(s) => {
              setStatus(s);
              setPicked(new Set());
            }}
            options={[
              ...ENROLMENT_STATUSES.map((s) => ({
                value: s as EnrolmentStatus | 'all',
                label: s,
                count: view.students.filter((x) => x.status === s).length,
              })),
              { value: 'all' as const, label: 'all', count: view.students.length },
            ]}
          />
          {ids.length > 0 ? (
            <div className="ml-auto flex flex-wrap items-center gap-2">
              <span className="font-semibold">{ids.length} selected</span>
              <Choose
                label="Move to a section"
                className="w-40"
                placeholder="Move to …"
                value=""
                disabled={busy}
                options={[
                  ...view.sections.map((x) => ({ value: String(x.id ?? 0), label: x.name })),
                  { value: 'none', label: 'no section' },
                ]}
                onChange={(to) => move(to === 'none' ? null : Number(to))}
              />
              <Button disabled={busy} onClick={() => change('withdrawn', 'withdrawn')}>
                Withdraw
              </Button>
              <Button disabled={busy} onClick={() => change('archived', 'archived')}>
                Archive
              </Button>
              <Button disabled={busy} onClick={() => change('active', 'restored')}>
                Restore
              </Button>
            </div>
          ) : null}
        </div>
        {shown.length === 0 ? (
          <Nothing title="Nobody like that" />
        ) : (
          <Table
            head={[
              { label: 'Select' },
              { label: 'Student' },
              { label: 'Id' },
              { label: 'Address' },
              { label: 'Section' },
              { label: 'Status' },
              { label: 'On record' },
            ]}
          >
            <tr>
              <Cell>
                <input
                  type="checkbox"
                  aria-label="Select all shown"
                  className="accent-teal"
                  checked={all}
                  onChange={() => setPicked(all ? new Set() : new Set(shown.map((s) => s.id)))}
                />
              </Cell>
              <td colSpan={6} className="text-muted px-3 py-2">
                {counted(shown.length, 'student')} shown
              </td>
            </tr>
            {shown.map((s) => (
              <tr key={s.id}>
                <Cell>
                  <input
                    type="checkbox"
                    aria-label={`Select ${s.name}`}
                    className="accent-teal"
                    checked={picked.has(s.id)}
                    onChange={(e) => {
                      const next = new Set(picked);
                      if (e.target.checked) next.add(s.id);
                      else next.delete(s.id);
                      setPicked(next);
                    }}
                  />
                </Cell>
                <Cell className="font-semibold">
                  <StudentLink code={code} id={s.id} from="setup" list={() => shown.map((x) => x.id)}>
                    {s.name}
                  </StudentLink>
                </Cell>
                <Cell className="text-muted">{s.externalId}</Cell>
                <Cell className="text-muted break-all">{s.email ?? 'none'}</Cell>
                <Cell className="whitespace-nowrap">{names.get(s.sectionId) ?? 'none'}</Cell>
                <Cell>{s.status}</Cell>
                <Cell className="whitespace-nowrap">
                  <Button
                    look="quiet"
                    small
                    disabled={busy}
                    aria-label={`Change ${s.name}`}
                    onClick={() => setEdited(s)}
                  >
                    Change
                  </Button>
                  <a
                    href={`/api/courses/${code}/students/${s.id}/archive`}
                    download
                    className="text-teal font-semibold hover:underline"
                    aria-label={`All on record about ${s.name}, as zip`}
                  >
                    .zip
                  </a>{' '}
                  <Button
                    look="quiet"
                    small
                    disabled={busy}
                    aria-label={`Erase ${s.name}`}
                    onClick={() => erase(s.id, s.name)}
                  >
                    Erase
                  </Button>
                </Cell>
              </tr>
            ))}
          </Table>
        )}
      </Panel>
    </div>
  );
}
