'use client';
import Link from 'next/link';
import { pickReason } from '@/core/tables/pickReason';
import { LISTS, type ListName, type ListsView, type RosterLine, type WorkLine } from '@/core/views/lists';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable, type DataColumn } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { counted, percentText, shortDay, weekdayAndTime } from '../parts/format';
import { ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery, withScope } from '../ribbon/useQuery';
import { startSort } from '../activity/People';

const LABELS: Record<ListName, string> = {
  missing: 'Missing',
  late: 'Late',
  excused: 'Excused',
  awaiting: 'Awaiting grade',
  roster: 'Roster',
};
const STATUS = { missing: 'missing', late: 'late', excused: 'excused', awaiting: 'awaiting grade' } as const;
const DAYS: Record<ListName, string> = {
  missing: 'Days ago',
  late: 'Days late',
  excused: 'Days',
  awaiting: 'Days waiting',
  roster: '',
};

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
  const { code, zone } = view.course;
  const { query, note } = useQuery();
  const { picked, pick, toggle } = usePick(code, view.tray);
  const time = (at: number | null) => (at == null ? '' : weekdayAndTime(at, zone));
  const columns: DataColumn<WorkLine>[] = [
    {
      key: 'name',
      label: 'Student',
      value: (r) => `${r.family} ${r.given}`,
      show: (r) => (
        <StudentLink code={code} id={r.enrolmentId} from="lists">{`${r.family}, ${r.given}`}</StudentLink>
      ),
    },
    { key: 'section', label: 'Section', value: (r) => r.section },
    {
      key: 'title',
      label: 'Work',
      value: (r) => r.title,
      show: (r) => (
        <a href={withScope(`/c/${code}/work/${r.activityId}`, query)} className="hover:underline">
          {r.title}
        </a>
      ),
    },
    { key: 'due', label: 'Due', right: true, value: (r) => r.due, show: (r) => time(r.due) || 'no due date' },
    ...(view.list === 'missing'
      ? []
      : [
          {
            key: 'submitted',
            label: 'Handed in',
            right: true,
            value: (r: WorkLine) => r.submitted,
            show: (r: WorkLine) => time(r.submitted),
          },
        ]),
    ...(view.list === 'excused'
      ? []
      : [{ key: 'days', label: DAYS[view.list], right: true, value: (r: WorkLine) => r.days }]),
    ...(view.list === 'late'
      ? [
          {
            key: 'points',
            label: 'Points',
            right: true,
            value: (r: WorkLine) => r.points,
            show: (r: WorkLine) => (r.points == null ? 'to grade' : `${r.points} of ${r.maximum}`),
          },
        ]
      : []),
  ];
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
        columns={columns}
        rows={view.works}
        idOf={(r) => `${r.enrolmentId}-${r.activityId}`}
        start={startSort(query.get('sort'))}
        onSort={(s) => note({ sort: `${s.by}${s.down ? '-' : ''}` })}
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
  const columns: DataColumn<RosterLine>[] = [
    {
      key: 'name',
      label: 'Student',
      value: (r) => `${r.family} ${r.given}`,
      show: (r) => (
        <StudentLink code={code} id={r.enrolmentId} from="lists">{`${r.family}, ${r.given}`}</StudentLink>
      ),
    },
    { key: 'id', label: 'Student id', value: (r) => r.studentId },
    { key: 'email', label: 'E-mail', value: (r) => r.email },
    { key: 'section', label: 'Section', value: (r) => r.section },
    { key: 'status', label: 'Status', value: (r) => r.status },
    {
      key: 'seen',
      label: 'Last seen',
      right: true,
      value: (r) => r.lastSeen,
      show: (r) => (r.lastSeen ? shortDay(r.lastSeen) : 'never'),
    },
    { key: 'missing', label: 'Missing', right: true, value: (r) => r.missing },
    {
      key: 'standing',
      label: 'Standing',
      right: true,
      value: (r) => r.standing,
      show: (r) => percentText(r.standing),
    },
  ];
  return (
    <DataTable
      label="Roster"
      columns={columns}
      rows={view.roster}
      idOf={(r) => r.enrolmentId}
      start={startSort(query.get('sort'))}
      onSort={(s) => note({ sort: `${s.by}${s.down ? '-' : ''}` })}
      picked={picked}
      pickId={(r) => r.enrolmentId}
      nameOf={(r) => `${r.given} ${r.family}`}
      onPick={(r) => toggle(r.enrolmentId, 'picked from the roster')}
      empty="Nobody is on the roster. Import it first."
    />
  );
}
