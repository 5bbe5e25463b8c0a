'use client';
import dynamic from 'next/dynamic';
import { pickedFor } from '@/core/acts/pick';
import { counted } from '@/core/format';
import { NOT_YET_UNDER, SECURE_FROM } from '@/core/outcomes/mastery';
import { outcomeKey, outcomesTable } from '@/core/tables/outcomes';
import { studentColumn } from '@/core/tables/people';
import type { OutcomeRow, OutcomesView } from '@/core/views/outcomes';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { Panel, ViewHead } from '../parts/Panel';
import { RangeBar } from '../parts/RangeBar';
import { StudentLink } from '../parts/StudentLink';
import { address, useAddress } from '../parts/useAddress';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { ClassStrips } from './ClassStrips';

const TABS = ['class', 'groups', 'pairs', 'changed', 'goals'] as const;
const Changes = dynamic(() => import('./Changes'));
const Goals = dynamic(() => import('./Goals'));
const LessonGroups = dynamic(() => import('./LessonGroups').then((m) => m.LessonGroups));
const LearningPairs = dynamic(() => import('./LessonGroups').then((m) => m.LearningPairs));
const ADDRESS = address({ tab: 'class', sort: outcomesTable.usual });

/** The class by outcome: what tomorrow's hour is about, and whom to teach together. */
export function Outcomes({ view }: { readonly view: OutcomesView }) {
  const { asked, note } = useAddress(ADDRESS);
  const tab = TABS.find((t) => t === asked.tab) ?? 'class';
  const untaught = view.outcomes.filter((o) => !o.taught);
  return (
    <>
      <ViewHead title={headline(view)}>{subline(view)}</ViewHead>
      <ScopeBar
        ribbon={view.ribbon}
        scope={view.scope}
        course={view.course}
        kinds={false}
        days={tab === 'changed'}
      />
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Look at"
          value={tab}
          options={[
            { value: 'class', label: 'Students' },
            { value: 'groups', label: 'Groups for a lesson', count: view.groups.length },
            { value: 'pairs', label: 'Pairs', count: view.pairs.length },
            { value: 'changed', label: 'What changed' },
            { value: 'goals', label: 'Goals', count: view.goals.length },
          ]}
          onChange={(v) => note({ tab: v })}
        />
        {tab === 'class' ? (
          <span className="ml-auto">
            <ExportLinks code={view.course.code} list="outcomes" extra={{ sort: asked.sort }} />
          </span>
        ) : null}
      </div>
      {tab === 'groups' ? <LessonGroups view={view} /> : null}
      {tab === 'changed' ? <Changes view={view} /> : null}
      {tab === 'goals' ? <Goals view={view} /> : null}
      {tab === 'pairs' ? <LearningPairs view={view} /> : null}
      {tab === 'class' ? (
        <>
          <Panel className="mb-3 px-4 py-2">
            <p className="text-muted mb-1 text-[13px]">
              A tick a student; left of the plum line ({100 * NOT_YET_UNDER} %) not yet, right of the teal
              line ({100 * SECURE_FROM} %) secure, once that is probable; faint where too little is known.
              Sweep over ticks, or press a count.
            </p>
            <ClassStrips view={view} />
            {untaught.length > 0 ? (
              <p className="text-muted mt-1 text-[13px]">
                Nothing is known yet of {untaught.map((o) => o.title).join(', ')}.
              </p>
            ) : null}
          </Panel>
          <Students view={view} sort={asked.sort} onSort={(sort) => note({ sort })} />
        </>
      ) : null}
    </>
  );
}

function Students({
  view,
  sort,
  onSort,
}: {
  readonly view: OutcomesView;
  readonly sort: string;
  readonly onSort: (sort: string) => void;
}) {
  const { code } = view.course;
  const { picked, toggle } = usePick(view);
  const cell = (id: number) =>
    function Cell(r: OutcomeRow) {
      const known = r.cells[id];
      if (!known) return <span className="text-muted text-xs">nothing yet</span>;
      return (
        <span className="flex items-center gap-1.5">
          <RangeBar outcome={known} className="w-24" />
          {known.old ? <span className="text-muted text-xs">long ago</span> : null}
        </span>
      );
    };
  return (
    <DataTable
      label="Outcomes of each student"
      columns={outcomesTable.columns(view, {})}
      show={{
        name: (r) => (
          <StudentLink code={code} id={r.enrolmentId} from="outcomes">
            {studentColumn.words!(r)}
          </StudentLink>
        ),
        ...Object.fromEntries(view.outcomes.map((o) => [outcomeKey(o.id), cell(o.id)])),
      }}
      rows={outcomesTable.rows(view, {})}
      idOf={(r) => r.enrolmentId}
      start={sort}
      onSort={onSort}
      picked={picked}
      pickId={(r) => r.enrolmentId}
      nameOf={(r) => `${r.given} ${r.family}`}
      onPick={(r) => toggle(r.enrolmentId, pickedFor('selected from the outcomes'))}
      empty="Nobody is in this group."
    />
  );
}

function headline({ outcomes, rows }: OutcomesView): string {
  const [worst] = outcomes;
  if (!worst || worst.middle == null) return 'Too little is known of any outcome yet';
  const behind = worst.counts['not yet'];
  return behind === 0
    ? `${worst.title} is where the class stands lowest, and nobody is behind`
    : `${worst.title} is where the class stands lowest: ${behind} of ${counted(rows.length, 'student')} ${behind === 1 ? 'is' : 'are'} not there yet`;
}

function subline({ outcomes }: OutcomesView): string {
  const [worst] = outcomes;
  const before = worst?.weakBefore[0];
  const title = outcomes.find((o) => o.id === before?.id)?.title;
  return before && title
    ? `${before.students} of them ${before.students === 1 ? 'is' : 'are'} already weak in ${title}, a prerequisite.`
    : 'The lowest median estimate of those with enough data comes first.';
}
