'use client';
import Link from 'next/link';
import { pickReason } from '@/core/tables/pickReason';
import { LISTS, type ListName, type ListsView, type RosterLine, type WorkLine } from '@/core/views/lists';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { counted } from '@/core/format';
import { ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery, withScope } from '../ribbon/useQuery';
import { workListTable, rosterTable } from '@/core/tables/lists';
import { studentColumn } from '@/core/tables/people';

const LABELS: Record<ListName, string> = {
  missing: 'Missing',
  late: 'Late',
  excused: 'Excused',
  awaiting: 'Awaiting grade',
  roster: 'Roster',
};
const STATUS = { missing: 'missing', late: 'late', excused: 'excused', awaiting: 'awaiting grade' } as const;
/** Lists to read, to write to, to print and to take along. */
export function Lists({ view }: { readonly view: ListsView }) {
  const { code } = view.course;
  const { query, change } = useQuery();
  const { list } = view;
  return (
    <>
      <ViewHead title={headline(view)} />
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={list !== 'roster'} />
      <div className="no-print mb-2 flex flex-wrap items-center gap-3">
        <Chips
          label="List"
          value={list}
          options={LISTS.map((value) => ({ value, label: LABELS[value], count: view.counts[value] }))}
          onChange={(v) => change({ list: v === 'missing' ? null : v, sort: null })}
        />
        <Link
          href={withScope(`/c/${code}/activity`, query)}
          className="text-muted hover:text-ink text-[13px] underline"
        >
          Activity of each
        </Link>
        {list === 'roster' ? null : (
          <label className="flex items-center gap-1.5 text-[13px]">
            <input
              type="checkbox"
              className="accent-teal size-3.5"
              checked={view.dueInWindow}
              onChange={(e) => change({ due: e.target.checked ? 'window' : null })}
            />
            Only what was due in the window
          </label>
        )}
        <span className="ml-auto">
          <ExportLinks
            code={code}
            list={list}
            extra={{ sort: query.get('sort'), due: view.dueInWindow ? 'window' : null }}
          />
        </span>
      </div>
      {list === 'roster' ? <Roster view={view} /> : <Works view={view} status={STATUS[list]} />}
    </>
  );
}

/** The cell of who a row is about. */
const student = (code: string) =>
  function Student(r: WorkLine | RosterLine) {
    return (
      <StudentLink code={code} id={r.enrolmentId} from="lists">
        {studentColumn.words!(r)}
      </StudentLink>
    );
  };

function headline(view: ListsView): string {
  const n = view.counts[view.list];
  const when = view.dueInWindow ? ' of what was due in these days' : '';
  switch (view.list) {
    case 'missing':
      return n === 0
        ? 'Nothing is missing'
        : `${counted(n, 'piece')} of work ${n === 1 ? 'is' : 'are'} missing${when}`;
    case 'late':
      return n === 0 ? 'Nothing came late' : `${counted(n, 'piece')} of work came late${when}`;
    case 'excused':
      return n === 0 ? 'Nobody is excused from anything' : `${counted(n, 'excuse')}${when}`;
    case 'awaiting':
      return n === 0
        ? 'Nothing waits for a grade'
        : `${counted(n, 'piece')} of work ${n === 1 ? 'waits' : 'wait'} for a grade${when}`;
    case 'roster':
      return `${counted(n, 'student')} on the roster`;
  }
}

function Works({
  view,
  status,
}: {
  readonly view: ListsView;
  readonly status: (typeof STATUS)[keyof typeof STATUS];
}) {
  const { code } = view.course;
  const { query, note } = useQuery();
  const { picked, pick, toggle } = usePick(code, view.tray);
  const students = [...new Set(view.works.map((w) => w.enrolmentId))];
  return (
    <>
      {students.length > 0 ? (
        <div className="no-print mb-2">
          <Button small onClick={() => pick(students, pickReason(status, null))}>
            Pick all {counted(students.length, 'student')}
          </Button>
        </div>
      ) : null}
      <DataTable
        label={LABELS[view.list]}
        columns={workListTable.columns(view, {})}
        show={{
          name: student(code),
          title: (r) => (
            <a href={withScope(`/c/${code}/work/${r.activityId}`, query)} className="hover:underline">
              {r.title}
            </a>
          ),
        }}
        rows={view.works}
        idOf={(r) => `${r.enrolmentId}-${r.activityId}`}
        start={query.get('sort') ?? rosterTable.usual}
        onSort={(sort) => note({ sort })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}, ${r.title}`}
        onPick={(r) => toggle(r.enrolmentId, pickReason(status, r.title))}
        empty="Nothing stands on this list."
      />
    </>
  );
}

function Roster({ view }: { readonly view: ListsView }) {
  const { code } = view.course;
  const { query, note } = useQuery();
  const { picked, toggle } = usePick(code, view.tray);
  return (
    <DataTable
      label="Roster"
      columns={rosterTable.columns(view, {})}
      show={{ name: student(code) }}
      rows={view.roster}
      idOf={(r) => r.enrolmentId}
      start={query.get('sort') ?? rosterTable.usual}
      onSort={(sort) => note({ sort })}
      picked={picked}
      pickId={(r) => r.enrolmentId}
      nameOf={(r) => `${r.given} ${r.family}`}
      onPick={(r) => toggle(r.enrolmentId, 'picked from the roster')}
      empty="Nobody is on the roster. Import it first."
    />
  );
}
