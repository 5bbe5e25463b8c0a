import Link from 'next/link';
import { planState } from '@/core/plans/planState';
import { PLAN_PROGRESS, planProgress } from '@/core/plans/progress';
import type { Instant, LocalDate } from '@/core/units';
import type { CoursePlanRow } from '@/core/views/plan';
import { buttonClasses } from '../parts/Button';
import { counted, dayAndTime, shortDay } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly at: Instant;
  readonly rows: readonly CoursePlanRow[];
}

/** Open steps of a plan that are named. */
const NEXT_STEPS = 3;

/** The study plans of a course: how far each is, how it goes, and what comes next in it. */
export function PlanList({ code, zone, today, at, rows }: Props) {
  const going = rows.map(({ plan }) => planProgress(plan, at));
  const overdue = rows.filter(({ plan }) => planState(plan, today) === 'overdue').length;
  return (
    <>
      <ViewHead
        title={
          rows.length === 0
            ? 'No study plan has been sent yet'
            : overdue > 0
              ? `${overdue} of ${counted(rows.length, 'plan')} ${overdue === 1 ? 'has' : 'have'} a step overdue`
              : `${counted(rows.length, 'plan')}, none with a step overdue`
        }
      >
        {PLAN_PROGRESS.map((p) => ({ p, n: going.filter((g) => g === p).length }))
          .filter(({ n }) => n > 0)
          .map(({ p, n }) => `${n} ${p}`)
          .join(', ')}
      </ViewHead>
      <Panel>
        {rows.length === 0 ? (
          <Nothing title="Send somebody a plan">
            <p>
              Choose “With study plan” in Rounds: steps are drawn from what is missing and from the weakest
              outcomes.
            </p>
            <Link href={`/c/${code}/rounds`} className={buttonClasses('main')}>
              Go to Rounds
            </Link>
          </Nothing>
        ) : (
          <Table
            head={[
              { label: 'Student' },
              { label: 'Sent' },
              { label: 'Done' },
              { label: 'How it goes' },
              { label: 'Next steps' },
            ]}
          >
            {rows.map(({ plan, name }, i) => {
              const done = plan.steps.filter((s) => s.doneAt != null).length;
              const next = plan.steps.filter((s) => s.doneAt == null).slice(0, NEXT_STEPS);
              return (
                <tr key={plan.id}>
                  <Cell>
                    <Link
                      href={`/c/${code}/students/${plan.enrolmentId}`}
                      className="font-semibold hover:underline"
                    >
                      {name}
                    </Link>
                  </Cell>
                  <Cell className="whitespace-nowrap">{dayAndTime(plan.at, zone)}</Cell>
                  <Cell>
                    <span className="flex items-center gap-2">
                      <span aria-hidden className="flex gap-0.5">
                        {plan.steps.map((s) => (
                          <span
                            key={s.id}
                            className={`h-3 w-2.5 rounded-sm ${s.doneAt == null ? 'bg-low' : 'bg-high'}`}
                          />
                        ))}
                      </span>
                      <span className="whitespace-nowrap">
                        {done} of {plan.steps.length}
                      </span>
                    </span>
                  </Cell>
                  <Cell className={going[i] === 'stuck' ? 'text-plum font-semibold' : undefined}>
                    {going[i]}
                  </Cell>
                  <Cell className="min-w-80">
                    {plan.said ? <p className="text-muted text-[13px]">{plan.said}</p> : null}
                    {next.length > 0 ? (
                      <ol>
                        {next.map((s) => (
                          <li key={s.id}>
                            {s.title}{' '}
                            <span className={s.on < today ? 'text-plum font-semibold' : 'text-muted'}>
                              {s.on < today ? 'overdue since' : 'by'} {shortDay(s.on)}
                            </span>
                          </li>
                        ))}
                      </ol>
                    ) : (
                      <span className="text-teal font-semibold">finished</span>
                    )}
                  </Cell>
                </tr>
              );
            })}
          </Table>
        )}
      </Panel>
    </>
  );
}
