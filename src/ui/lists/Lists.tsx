'use client';
import { useSearchParams } from 'next/navigation';
import { pickedFor, type Picked } from '@/core/acts/pick';
import { pickOf } from '@/core/tables/pickOf';
import {
  isPeopleList,
  PEOPLE_LISTS,
  WORK_LISTS,
  type ListName,
  type ListsView,
  type PeopleList,
  type RosterLine,
  type WorkLine,
} from '@/core/views/lists';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { counted, spanText } from '@/core/format';
import { ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { withScope } from '../ribbon/withScope';
import { workListTable, peopleTable } from '@/core/tables/lists';
import { studentColumn } from '@/core/tables/people';

const LABELS: Record<ListName, string> = {
  missing: 'Missing',
  late: 'Late',
  awaiting: 'To grade',
  excused: 'Excused',
  roster: 'Roster',
  contacts: 'Contacts',
  'not-seen': 'Not seen',
  'joined-left': 'Joined or left',
};
const STATUS = { missing: 'missing', late: 'late', excused: 'excused', awaiting: 'awaiting grade' } as const;

const ADDRESS = address({ list: 'missing', due: null, sort: null });

/** Lists to read, to write to, to print and to take along: of assignments and of people. */
export function Lists({ view }: { readonly view: ListsView }) {
  const { code } = view.course;
  const { asked, ask } = useAddress(ADDRESS);
  const { list } = view;
  const chips = (label: string, names: readonly ListName[]) => (
    <div className="flex items-center gap-2">
      <span className="text-muted text-[13px]">{label}</span>
      <Chips
        label={label}
        value={list}
        options={names.map((value) => ({ value, label: LABELS[value], count: view.counts[value] }))}
        onChange={(v) => ask({ list: v, sort: null })}
      />
    </div>
  );
  return (
    <>
      <ViewHead title={headline(view)} />
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={!isPeopleList(list)} />
      <div className="no-print mb-2 flex flex-wrap items-center gap-x-6 gap-y-2">
        {chips('Assignments', WORK_LISTS)}
        {chips('People', PEOPLE_LISTS)}
        {isPeopleList(list) ? null : (
          <label className="flex items-center gap-1.5 text-[13px]">
            <input
              type="checkbox"
              className="accent-teal size-3.5"
              checked={view.dueInWindow}
              onChange={(e) => ask({ due: e.target.checked ? 'window' : null })}
            />
            Only what was due {spanText(view.scope.window)}
          </label>
        )}
        <span className="ml-auto">
          <ExportLinks
            code={code}
            list={list}
            extra={{ sort: asked.sort, due: view.dueInWindow ? 'window' : null }}
          />
        </span>
      </div>
      {isPeopleList(list) ? <People view={view} /> : <Works view={view} status={STATUS[list]} />}
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
  const days = spanText(view.scope.window);
  const when = view.dueInWindow ? ` of those due ${days}` : '';
  const are = n === 1 ? 'is' : 'are';
  switch (view.list) {
    case 'missing':
      return n === 0 ? 'Nothing is missing' : `${counted(n, 'assignment')} ${are} missing${when}`;
    case 'late':
      return n === 0 ? 'Nothing came late' : `${counted(n, 'assignment')} came late${when}`;
    case 'excused':
      return n === 0 ? 'Nobody is excused from anything' : `${counted(n, 'assignment')} excused${when}`;
    case 'awaiting':
      return n === 0 ? 'Nothing to grade' : `${counted(n, 'assignment')} to grade${when}`;
    case 'roster':
      return `${counted(n, 'student')} on the roster`;
    case 'contacts': {
      const without = view.people.filter((p) => p.email == null).length;
      return `${counted(n, 'student')} to write to${without > 0 ? `, ${without} without an address` : ''}`;
    }
    case 'not-seen':
      return n === 0
        ? `Everybody logged in, ${days}`
        : `${counted(n, 'student')} ${n === 1 ? 'has' : 'have'} not logged in, ${days}`;
    case 'joined-left':
      return n === 0
        ? 'Nobody has joined late or left'
        : `${counted(n, 'student')} joined after the term began, or left`;
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
  const query = useSearchParams();
  const { asked, note } = useAddress(ADDRESS);
  const { picked, pick, toggle } = usePick(view);
  const students = [...new Set(view.works.map((w) => w.enrolmentId))];
  return (
    <>
      {students.length > 0 ? (
        <div className="no-print mb-2">
          <Button small onClick={() => pick(students, pickOf(status, null))}>
            Select all {counted(students.length, 'student')}
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
        start={asked.sort ?? workListTable.usual}
        onSort={(sort) => note({ sort })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}, ${r.title}`}
        onPick={(r) => toggle(r.enrolmentId, pickOf(status, { id: r.activityId, title: r.title }))}
        empty="Nothing stands on this list."
      />
    </>
  );
}

const PEOPLE_REASONS: Record<PeopleList, (days: string) => Picked> = {
  roster: () => pickedFor('selected from the roster'),
  contacts: () => pickedFor('selected from the contacts'),
  'not-seen': (days) => pickedFor(`has not logged in, ${days}`, 'not seen'),
  'joined-left': () => pickedFor('joined after the term began, or left'),
};

function People({ view }: { readonly view: ListsView }) {
  const { code } = view.course;
  const { asked, note } = useAddress(ADDRESS);
  const { picked, pick, toggle } = usePick(view);
  const list = isPeopleList(view.list) ? view.list : 'roster';
  const reason = PEOPLE_REASONS[list](spanText(view.scope.window));
  return (
    <>
      {list === 'not-seen' && view.people.length > 0 ? (
        <div className="no-print mb-2">
          <Button
            small
            onClick={() =>
              pick(
                view.people.map((p) => p.enrolmentId),
                reason,
              )
            }
          >
            Select all {counted(view.people.length, 'student')}
          </Button>
        </div>
      ) : null}
      <DataTable
        label={LABELS[list]}
        columns={peopleTable.columns(view, {})}
        show={{ name: student(code) }}
        rows={view.people}
        idOf={(r) => r.enrolmentId}
        start={asked.sort ?? peopleTable.usual}
        onSort={(sort) => note({ sort })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}`}
        onPick={(r) => toggle(r.enrolmentId, reason)}
        empty={list === 'roster' ? 'Nobody is on the roster. Import it first.' : 'Nobody is on this list.'}
      />
    </>
  );
}
