'use client';
import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import {
  releaseDesignAction,
  removeDesignAction,
  saveDesignAction,
  switchDesignAction,
} from '@/actions/plans';
import { bandNote, bandOf, bandWords } from '@/core/plans/bands';
import { counted, listed } from '@/core/format';
import {
  DESIGN_LIMITS,
  type DesignStep,
  type PlanDesign,
  type Section,
  type StepGroup,
} from '@/core/plans/design';
import {
  emptyGroup,
  groupsInView,
  moveStep,
  placeAfter,
  widestMiddle,
  withGroup,
  withMark,
  withoutMark,
  withoutStep,
  withStep,
  type StepAt,
  type StepMove,
} from '@/core/plans/edit';
import { PLAN_PROGRESS } from '@/core/plans/progress';
import type { LocalDate } from '@/core/units';
import type { CourseHead } from '@/core/views/courseHead';
import type { BandStudent, DesignView } from '@/core/views/design';
import { Button } from '../../parts/Button';
import { classes, finger } from '../../parts/classes';
import { Panel, ViewHead } from '../../parts/Panel';
import { useAct } from '../../parts/useAct';
import { useAlive } from '../../parts/useAlive';
import { useAsk } from '../../parts/useAsk';
import { useUnsavedWarning } from '../../parts/useUnsavedWarning';
import { DesignHead } from './DesignHead';
import { Group } from './Group';
import { Ruler } from './Ruler';
import { SectionHead } from './SectionHead';

const StepSheet = dynamic(() => import('./StepSheet').then((m) => m.StepSheet));
const TrySheet = dynamic(() => import('./TrySheet').then((m) => m.TrySheet));

const newId = (what: string): string => `${what}-${crypto.randomUUID().slice(0, 8)}`;
const newStep = (): DesignStep => ({
  id: newId('step'),
  kind: 'activity',
  activityId: null,
  outcomeId: null,
  title: '',
  minutes: 20,
  set: 'a',
  lesson: null,
});
/** A plan design: what decides, the scale of scores with its marks, and a lane of steps for each band. */
export function DesignPage({
  course,
  view,
  today,
}: {
  readonly course: CourseHead;
  readonly view: DesignView;
  readonly today: LocalDate;
}) {
  const { code, zone } = course;
  const router = useRouter();
  const alive = useAlive();
  const { busy, act } = useAct();
  const { ask, asked } = useAsk();
  const [design, setDesign] = useState(view.design);
  // Others may save it meanwhile, and the page be drawn anew: what was opened stays what is compared with.
  const [opened, setOpened] = useState(view.design);
  const [open, setOpen] = useState<{
    readonly group: string;
    readonly step: DesignStep;
    readonly isNew: boolean;
  } | null>(null);
  const [tries, setTries] = useState(false);
  const [said, setSaid] = useState('');
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const { branch } = design;
  const changed = JSON.stringify(design) !== JSON.stringify(view.design);
  useUnsavedWarning(changed);
  const points = view.activities.find((a) => a.id === branch?.quizId)?.points ?? null;
  const sameQuiz =
    branch?.quizId === view.design.branch?.quizId && branch?.attempt === view.design.branch?.attempt;
  const students = sameQuiz ? view.students : [];
  const nameOf = (id: string): string => {
    const section = design.sections.findIndex((s) => s.id === id);
    if (section >= 0) return `section ${section + 1}`;
    const lane = branch?.lanes.findIndex((l) => l.id === id) ?? -1;
    return branch ? bandWords(lane, branch.marks, points) : '';
  };

  /** Moves a step, says where it went, and leaves the focus on it. */
  function toPlace(from: StepAt, group: string, at: number) {
    const next = moveStep(design, from, group, at);
    setDesign(next);
    const steps = groupsInView(next).find((g) => g.id === group)!.steps;
    const place = steps.findIndex((s) => s.id === from.step);
    setSaid(`“${steps[place]?.title}” is now ${place + 1} of ${steps.length} in ${nameOf(group)}.`);
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-step="${CSS.escape(from.step)}"]`)?.focus(),
    );
  }
  const moveBy = (group: string, step: string, move: StepMove) => {
    const to = placeAfter(design, { group, step }, move);
    if (to) toPlace({ group, step }, to.group, to.at);
  };
  function onDragEnd({ active, over }: DragEndEvent) {
    const from = active.data.current as StepAt | undefined;
    const to = over?.data.current as { group: string; before?: string } | undefined;
    if (!from || !to || to.before === from.step) return;
    const steps = groupsInView(design)
      .find((g) => g.id === to.group)!
      .steps.filter((s) => s.id !== from.step);
    const before = steps.findIndex((s) => s.id === to.before);
    toPlace(from, to.group, before < 0 ? steps.length : before);
  }

  const save = (next: PlanDesign, done: string) =>
    act(() => saveDesignAction({ code, id: view.id, design: next, was: opened }), {
      done,
      edit: { mine: next, over: (was) => saveDesignAction({ code, id: view.id, design: next, was }) },
      then: () => setOpened(next),
      undo: () => {
        setDesign(opened);
        act(() => saveDesignAction({ code, id: view.id, design: opened, was: next }), {
          then: () => setOpened(opened),
        });
      },
    });
  const group = (g: StepGroup, head: React.ReactNode) => (
    <Group
      key={g.id}
      group={g}
      name={nameOf(g.id)}
      head={head}
      view={view}
      zone={zone}
      onChange={(set) => setDesign(withGroup(design, g.id, set))}
      onAdd={() => setOpen({ group: g.id, step: newStep(), isNew: true })}
      onOpen={(step) => setOpen({ group: g.id, step, isNew: false })}
      onMove={(step, move) => moveBy(g.id, step, move)}
    />
  );
  const setSection = (id: string, set: Partial<Section>) =>
    setDesign({ ...design, sections: design.sections.map((s) => (s.id === id ? { ...s, ...set } : s)) });
  const on = view.state === 'on';
  const ready = view.students.filter((s) => s.goes == null);
  return (
    <>
      <ViewHead
        title={design.title || 'A plan without a title'}
        aside={
          <span className="flex flex-wrap gap-2">
            <Button disabled={!alive} onClick={() => setTries(true)}>
              Try a score
            </Button>
            {changed ? (
              <Button look="quiet" onClick={() => setDesign(view.design)}>
                Discard changes
              </Button>
            ) : null}
            <Button
              look={changed ? 'main' : 'plain'}
              disabled={!alive || busy || !changed}
              onClick={() => save(design, 'The plan is saved.')}
            >
              Save
            </Button>
            <Button
              look={changed || on ? 'plain' : 'main'}
              disabled={!alive || busy || changed}
              onClick={() =>
                act(() => switchDesignAction({ code, id: view.id, state: on ? 'ended' : 'on' }), {
                  done: on ? 'The plan is off; what was handed out stays.' : 'The plan is on.',
                  undo: () => act(() => switchDesignAction({ code, id: view.id, state: view.state })),
                })
              }
            >
              {on ? 'Switch off' : 'Switch on'}
            </Button>
            <Button
              look="quiet"
              disabled={!alive || busy}
              onClick={() =>
                ask({
                  title: 'Remove this plan design?',
                  description: 'What was handed out from it stays with the students.',
                  yes: 'Remove it',
                  then: () =>
                    act(() => removeDesignAction({ code, id: view.id }), {
                      done: 'The plan design is removed.',
                      then: () => router.push(`/c/${code}/plans`),
                    }),
                })
              }
            >
              Remove
            </Button>
          </span>
        }
      >
        <Link href={`/c/${code}/plans`} className={classes('text-teal underline', finger)}>
          All plans
        </Link>{' '}
        · {handedWords(view)}
      </ViewHead>
      {view.gone.length > 0 ? (
        <Panel className="border-l-plum mb-3 border-l-[3px] p-3">
          <p role="alert">{view.gone.join(' ')} It is left out of what is handed out.</p>
        </Panel>
      ) : null}
      {on && design.handOut === 'released' && !view.released && ready.length > 0 ? (
        <Panel className="border-l-amber mb-3 flex flex-wrap items-center justify-between gap-3 border-l-[3px] p-3">
          <p>{readyWords(ready, view.design)}</p>
          <Button
            look="main"
            disabled={!alive || busy}
            onClick={() =>
              act(() => releaseDesignAction({ code, id: view.id }), {
                done: `${counted(ready.length, 'student')} get their plans; whoever is graded later does too.`,
              })
            }
          >
            Hand them out
          </Button>
        </Panel>
      ) : null}
      <DesignHead design={design} view={view} onChange={setDesign} />
      <p className="sr-only" role="status" aria-live="polite">
        {said}
      </p>
      <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={onDragEnd}>
        <div className="mb-3 space-y-3">
          {design.sections.map((s) =>
            group(
              s,
              <SectionHead
                section={s}
                view={view}
                preCheckId={design.preCheckId}
                onChange={(set) => setSection(s.id, set)}
                onRemove={() =>
                  setDesign({ ...design, sections: design.sections.filter((o) => o.id !== s.id) })
                }
              />,
            ),
          )}
          <Button
            small
            onClick={() =>
              setDesign({
                ...design,
                sections: [
                  ...design.sections,
                  { ...emptyGroup(newId('section')), outcomeId: null, purpose: '', items: [] },
                ],
              })
            }
          >
            Add a section for everybody
          </Button>
        </div>
        {branch ? (
          <div className="grid gap-3 sm:grid-cols-[7.5rem_1fr]">
            <div>
              <Ruler
                marks={branch.marks}
                points={points}
                students={students}
                onChange={(marks) => setDesign({ ...design, branch: { ...branch, marks } })}
              />
              <p className="mt-5 text-center">
                <Button
                  small
                  disabled={branch.marks.length >= DESIGN_LIMITS.marks}
                  onClick={() =>
                    setDesign({
                      ...design,
                      branch: withMark(branch, widestMiddle(branch.marks), emptyGroup(newId('lane'))),
                    })
                  }
                >
                  Add a mark
                </Button>
              </p>
            </div>
            <div className="space-y-3">
              {branch.lanes
                .map((lane, band) => ({ lane, band }))
                .toReversed()
                .map(({ lane, band }) => {
                  const inside = students.filter((s) => bandOf(s.percent, branch.marks) === band);
                  return group(
                    lane,
                    <div>
                      <h2 className="font-semibold">
                        {bandWords(band, branch.marks, points)}
                        {students.length > 0 ? ` · ${counted(inside.length, 'student')}` : ''}
                      </h2>
                      <p className="text-muted text-[13px]">{laneWords(inside, students.length)}</p>
                      <div className="flex flex-wrap items-start gap-x-3">
                        {inside.length > 0 ? (
                          <details className="text-[13px]">
                            <summary className="text-muted inline-block min-h-6 cursor-pointer py-1 max-sm:min-h-11">
                              Who they are
                            </summary>
                            <p>{listed(inside.map((s) => s.name))}</p>
                          </details>
                        ) : null}
                        {band > 0 ? (
                          <Button
                            small
                            look="quiet"
                            onClick={() => setDesign({ ...design, branch: withoutMark(branch, band - 1) })}
                          >
                            Remove the mark below
                          </Button>
                        ) : null}
                      </div>
                    </div>,
                  );
                })}
            </div>
          </div>
        ) : null}
      </DndContext>
      <p className="text-muted mt-3 text-[13px]">
        A score on a mark goes up. Drag a step by its grip, or press Alt with an arrow on it. Regraded into
        another band: what was done stays, what was not begun changes, and both of you are told.
        {changed ? ' There are changes that are not saved.' : ''}
      </p>
      {open ? (
        <StepSheet
          key={open.step.id}
          step={open.step}
          isNew={open.isNew}
          twoSets={groupsInView(design).find((g) => g.id === open.group)?.rule.kind === 'one set'}
          view={{ ...view, design }}
          today={today}
          zone={zone}
          onClose={() => setOpen(null)}
          onRemove={() => {
            setDesign(withoutStep(design, { group: open.group, step: open.step.id }));
            setOpen(null);
          }}
          onSave={(step) => {
            const steps = groupsInView(design).find((g) => g.id === open.group)!.steps;
            const at = steps.findIndex((s) => s.id === step.id);
            setDesign(withStep(design, open.group, step, at < 0 ? steps.length : at));
            setOpen(null);
          }}
        />
      ) : null}
      {tries ? (
        <TrySheet
          code={code}
          design={design}
          points={points}
          today={today}
          zone={zone}
          onClose={() => setTries(false)}
        />
      ) : null}
      {asked}
    </>
  );
}

/** Who is in a band, how it goes for them, and whether that says anything. */
function laneWords(inside: readonly BandStudent[], graded: number): string {
  const note = bandNote(inside.length, graded);
  if (inside.length === 0) return note ?? '';
  const goes = PLAN_PROGRESS.map((p) => ({ p, n: inside.filter((s) => s.goes === p).length })).filter(
    (g) => g.n > 0,
  );
  const words = goes.length === 0 ? '' : `${listed(goes.map(({ p, n }) => `${n} ${p}`))}. `;
  return `${words}${note ?? ''}`.trim();
}

function handedWords({ state, handedOut, waiting, excused, design }: DesignView): string {
  const parts = [
    state === 'on' ? 'switched on' : state === 'draft' ? 'not switched on yet' : 'switched off',
    `${counted(handedOut, 'student')} ${handedOut === 1 ? 'has' : 'have'} a plan of it`,
    ...(design.branch && waiting > 0 ? [`${waiting} wait for a score`] : []),
    ...(excused > 0 ? [`${excused} excused`] : []),
  ];
  return `${parts.join('; ')}.`;
}

/** "27 results are ready: 9, 12 and 6, from the lowest band up." */
function readyWords(ready: readonly BandStudent[], { branch }: PlanDesign): string {
  if (!branch) return `${counted(ready.length, 'plan')} ready.`;
  const counts = branch.lanes.map(
    (_, band) => ready.filter((s) => bandOf(s.percent, branch.marks) === band).length,
  );
  return `${counted(ready.length, 'result')} ${ready.length === 1 ? 'is' : 'are'} ready: ${listed(counts.map(String))}, from the lowest band up.`;
}
