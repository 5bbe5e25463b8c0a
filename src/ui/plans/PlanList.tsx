import Link from 'next/link';
import { planState } from '@/core/plans/planState';
import type { LocalDate } from '@/core/units';
import type { CoursePlanRow } from '@/core/views/plan';
import { buttonClasses } from '../parts/Button';
import { counted, dayAndTime, shortDay } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly rows: readonly CoursePlanRow[];
}

/** The study plans of a course: how far each is, and what comes next in it. */
export function PlanList({ code, zone, today, rows }: Props) {
  const overdue = rows.filter(({ plan }) => planState(plan, today) === 'overdue').length;
  const finished = rows.filter(({ plan }) => planState(plan, today) === 'finished').length;
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
        {rows.length > 0 ? `${finished} finished` : null}
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
            head={[{ label: 'Student' }, { label: 'Sent' }, { label: 'Ticked off' }, { label: 'Next step' }]}
          >
            {rows.map(({ plan, name }) => {
              const done = plan.steps.filter((s) => s.doneAt != null).length;
              const next = plan.steps.find((s) => s.doneAt == null);
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
                      {done} of {plan.steps.length}
                    </span>
                  </Cell>
                  <Cell>
                    {next ? (
                      <>
                        {next.title}{' '}
                        <span className={next.on < today ? 'text-plum font-semibold' : 'text-muted'}>
                          {next.on < today ? 'overdue since' : 'by'} {shortDay(next.on)}
                        </span>
                      </>
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
