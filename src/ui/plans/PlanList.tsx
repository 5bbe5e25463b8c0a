import Link from 'next/link';
import type { LocalDate } from '@/core/units';
import type { CoursePlanRow } from '@/core/views/plan';
import { buttonClasses } from '../parts/Button';
import { counted, dayAndTime, shortDay } from '../parts/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly rows: readonly CoursePlanRow[];
}

const head = 'px-3 py-2 text-left font-semibold';

/** The study plans of a course: how far each is, and what comes next in it. */
export function PlanList({ code, zone, today, rows }: Props) {
  const overdue = rows.filter(({ plan }) => plan.steps.some((s) => s.doneAt == null && s.on < today)).length;
  const finished = rows.filter(({ plan }) => plan.steps.every((s) => s.doneAt != null)).length;
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
      <Panel className="overflow-x-auto">
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
          <table className="w-full">
            <thead className="border-line border-b">
              <tr>
                <th className={head}>Student</th>
                <th className={head}>Sent</th>
                <th className={head}>Ticked off</th>
                <th className={head}>Next step</th>
              </tr>
            </thead>
            <tbody className="divide-line divide-y">
              {rows.map(({ plan, name }) => {
                const done = plan.steps.filter((s) => s.doneAt != null).length;
                const next = plan.steps.find((s) => s.doneAt == null);
                return (
                  <tr key={plan.id}>
                    <td className="px-3 py-2">
                      <Link
                        href={`/c/${code}/students/${plan.enrolmentId}`}
                        className="font-semibold hover:underline"
                      >
                        {name}
                      </Link>
                    </td>
                    <td className="px-3 py-2 whitespace-nowrap">{dayAndTime(plan.at, zone)}</td>
                    <td className="px-3 py-2">
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
                    </td>
                    <td className="px-3 py-2">
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
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
      </Panel>
    </>
  );
}
