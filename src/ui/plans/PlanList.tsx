'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import dynamic from 'next/dynamic';
import { saveDesignAction } from '@/actions/plans';
import { newDesign } from '@/core/plans/edit';
import { isOpen, missedOn, nextSteps } from '@/core/plans/plan';
import { planState } from '@/core/plans/planState';
import { PLAN_PROGRESS, planProgress, type PlanProgress } from '@/core/plans/progress';
import { DAY_MS, type Instant, type LocalDate } from '@/core/units';
import type { DesignLine } from '@/core/views/design';
import type { CoursePlanRow } from '@/core/views/plan';
import { AssignButton } from '../assign/AssignButton';
import { Button, buttonClasses } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { classes, finger } from '../parts/classes';
import { counted, dayAndTime, shortDay } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { useAct } from '../parts/useAct';
import { useAlive } from '../parts/useAlive';

const PlanSheet = dynamic(() => import('./PlanSheet').then((m) => m.PlanSheet));

/** Plans that are drawn at first, and how many more at a time. */
const SHOWN = 100;

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly at: Instant;
  readonly rows: readonly CoursePlanRow[];
  readonly designs: readonly DesignLine[];
  /** The latest quiz that is graded, by whose score a new design begins. */
  readonly quizId: number | null;
}

/** The study plans of a course: the designs they come from, how far each is, how it goes, and what comes next in it. */
export function PlanList({ code, zone, today, at, rows, designs, quizId }: Props) {
  const [only, setOnly] = useState<PlanProgress | 'all'>('all');
  const [open, setOpen] = useState<number | null>(null);
  const [most, setMost] = useState(SHOWN);
  const going = new Map(rows.map(({ plan }) => [plan.id, planProgress(plan, at)]));
  const overdue = rows.filter(({ plan }) => planState(plan, today) === 'overdue').length;
  const shown = rows.filter(({ plan }) => only === 'all' || going.get(plan.id) === only);
  const chosen = rows.find(({ plan }) => plan.id === open);
  const changedLately = rows.filter(({ plan }) => plan.saidAt != null && plan.saidAt > at - DAY_MS).length;
  const count = (p: PlanProgress) => rows.filter(({ plan }) => going.get(plan.id) === p).length;
  return (
    <>
      <ViewHead
        title={
          rows.length === 0
            ? 'Nobody has a study plan yet'
            : overdue > 0
              ? `${overdue} of ${counted(rows.length, 'plan')} ${overdue === 1 ? 'has' : 'have'} a step overdue`
              : `${counted(rows.length, 'plan')}, none with a step overdue`
        }
        aside={
          <span className="flex flex-wrap gap-2">
            <AssignButton code={code} selected={[]} label="Assign to some" />
            <NewDesign code={code} quizId={quizId} />
          </span>
        }
      >
        {[
          PLAN_PROGRESS.filter((p) => count(p) > 0)
            .map((p) => `${count(p)} ${p}`)
            .join(', '),
          ...(changedLately > 0 ? [`${changedLately} changed by themselves since yesterday`] : []),
        ].join('; ')}
      </ViewHead>
      <Designs code={code} designs={designs} />
      {rows.length > 0 ? (
        <div className="mb-2">
          <Chips
            label="How it goes"
            value={only}
            options={[
              { value: 'all', label: `All ${rows.length}` },
              ...PLAN_PROGRESS.filter((p) => count(p) > 0).map((p) => ({
                value: p,
                label: `${p} ${count(p)}`,
              })),
            ]}
            onChange={setOnly}
          />
        </div>
      ) : null}
      <Panel>
        {rows.length === 0 ? (
          <Nothing title="Send somebody a plan">
            <p>
              Choose “With study plan” in Rounds: steps are drawn from what is missing and from the weakest
              outcomes. Or design one for the class above.
            </p>
            <Link href={`/c/${code}/rounds`} className={buttonClasses('main')}>
              Go to Rounds
            </Link>
          </Nothing>
        ) : (
          <Table
            head={[
              { label: 'Student' },
              { label: 'Plan' },
              { label: 'Done' },
              { label: 'How it goes' },
              { label: 'Next steps' },
            ]}
          >
            {shown.slice(0, most).map(({ plan, name }) => {
              const asked = plan.steps.filter((s) => s.doneAt != null || isOpen(s));
              const done = asked.filter((s) => s.doneAt != null).length;
              const next = nextSteps(plan.steps);
              const goes = going.get(plan.id);
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
                  <Cell>
                    <button
                      type="button"
                      className={classes('text-teal text-left hover:underline', finger)}
                      aria-label={`Steps of ${name}, ${plan.title ?? 'made for them'}`}
                      onClick={() => setOpen(plan.id)}
                    >
                      {plan.title ?? 'Made for them'}
                    </button>
                    <span className="text-muted block text-[13px] whitespace-nowrap">
                      {dayAndTime(plan.at, zone)}
                    </span>
                  </Cell>
                  <Cell>
                    <span className="flex items-center gap-2">
                      <span aria-hidden className="flex gap-0.5">
                        {asked.map((s) => (
                          <span
                            key={s.id}
                            className={`h-3 w-2.5 rounded-sm ${s.doneAt == null ? 'bg-low' : 'bg-high'}`}
                          />
                        ))}
                      </span>
                      <span className="whitespace-nowrap">
                        {done} of {asked.length}
                      </span>
                    </span>
                  </Cell>
                  <Cell
                    className={classes('whitespace-nowrap', goes === 'stuck' && 'text-plum font-semibold')}
                  >
                    {goes}
                  </Cell>
                  <Cell className="min-w-80">
                    {plan.said ? <p className="text-muted text-[13px]">{plan.said}</p> : null}
                    {next.length > 0 ? (
                      <ol>
                        {next.map((s) => {
                          const missed = missedOn(s, today);
                          return (
                            <li key={s.id}>
                              {s.title}{' '}
                              <span className={missed ? 'text-plum font-semibold' : 'text-muted'}>
                                {missed ? `overdue since ${shortDay(missed)}` : `by ${shortDay(s.on)}`}
                                {s.pinned ? ', stays' : ''}
                              </span>
                            </li>
                          );
                        })}
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
        {shown.length > most ? (
          <p className="px-4 py-3">
            <Button onClick={() => setMost(most + SHOWN)}>
              Show {Math.min(SHOWN, shown.length - most)} more of {shown.length}
            </Button>
          </p>
        ) : null}
      </Panel>
      {chosen ? (
        <PlanSheet code={code} zone={zone} today={today} row={chosen} onClose={() => setOpen(null)} />
      ) : null}
    </>
  );
}

/** Begins a plan design by the score of the latest quiz, and opens it. */
function NewDesign({ code, quizId }: { readonly code: string; readonly quizId: number | null }) {
  const { busy, act } = useAct();
  const alive = useAlive();
  const router = useRouter();
  return (
    <Button
      look="main"
      disabled={!alive || busy}
      onClick={() =>
        act(
          () =>
            saveDesignAction({
              code,
              id: null,
              design: newDesign('A plan for the class', quizId),
              was: null,
            }),
          {
            then: (id) => router.push(`/c/${code}/plans/${id}`),
          },
        )
      }
    >
      Design a plan
    </Button>
  );
}

const STATE_WORDS = { draft: 'not switched on yet', on: 'on', ended: 'off' } as const;

function Designs({ code, designs }: { readonly code: string; readonly designs: readonly DesignLine[] }) {
  if (designs.length === 0) return null;
  return (
    <Panel className="mb-3">
      <ul aria-label="Plan designs" className="divide-line divide-y">
        {designs.map((d) => (
          <li key={d.id} className="flex flex-wrap items-baseline gap-x-4 px-4 py-2">
            <Link
              href={`/c/${code}/plans/${d.id}`}
              className={classes('font-semibold hover:underline', finger)}
            >
              {d.title}
            </Link>
            <span className="text-muted flex-1">
              {d.quiz ? `by the score of ${d.quiz}; ` : ''}
              {counted(d.handedOut, 'student')} {d.handedOut === 1 ? 'has' : 'have'} it
            </span>
            <span className={d.state === 'on' ? 'text-teal font-semibold' : 'text-muted'}>
              {STATE_WORDS[d.state]}
            </span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
