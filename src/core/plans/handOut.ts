import type { Instant, Minutes } from '../units';
import type { DecidingScore } from './attemptScore';
import { bandOf } from './bands';
import type { DesignStep, PlanDesign, StepGroup, StepSet } from './design';
import type { PlanPart, StepView } from './plan';
import type { SectionMark } from './preCheck';

/** A step that a student is to have. */
export interface WantedStep {
  readonly part: string;
  /** Its name in the design, or what stands in for it; null for a review, which no design names. */
  readonly designStep: string | null;
  readonly activityId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly why: string;
  readonly set: StepSet;
  readonly lessonAt: Instant | null;
  readonly place: string | null;
  /** The outcome that a review is of. */
  readonly outcomeId: number | null;
  /** It is done by a further attempt, not by the one that was there. */
  readonly further: boolean;
}

export interface Wanted {
  readonly parts: readonly PlanPart[];
  readonly steps: readonly WantedStep[];
  /** The lane of the branch that they are in, by number from the lowest; null for none. */
  readonly band: number | null;
}

/** An activity that a step can be made from. */
export interface StepActivity {
  readonly id: number;
  readonly title: string;
  readonly minutes: Minutes;
}

/** What decides what a student gets from a design. */
export interface HandOutFacts {
  /** Null where the design has no branch. */
  readonly score: DecidingScore | null;
  /** What the pre-check said of a section; null without one, or while it is not taken. */
  readonly mark: (sectionId: string) => SectionMark | null;
  /** Whether there is a pre-check that they have not taken. */
  readonly preCheckOpen: boolean;
  /** An activity of the course that is still there. */
  readonly activity: (id: number) => StepActivity | null;
  /** Practice on an outcome that they have not done yet. */
  readonly practice: (outcomeId: number) => StepActivity | null;
  readonly outcomeTitle: (outcomeId: number) => string | null;
  /** What to go over before a further attempt at the quiz. */
  readonly goOver: readonly StepActivity[];
}

export const sectionKey = (id: string): string => `section ${id}`;
export const laneKey = (id: string): string => `lane ${id}`;

/**
 * What a student gets from a design as things stand: its sections, once the pre-check is taken where there is one, and the
 * lane of their score. Null while there is nothing to give. A step whose activity is gone is left out.
 */
export function wantedFrom(design: PlanDesign, facts: HandOutFacts): Wanted | null {
  const { branch } = design;
  const score = branch ? facts.score : null;
  const band = branch && score && typeof score === 'object' ? bandOf(score.percent, branch.marks) : null;
  const lane = band == null ? null : branch!.lanes[band]!;
  const sections = facts.preCheckOpen ? [] : design.sections;
  if (lane == null && sections.length === 0) return null;
  const parts: PlanPart[] = sections.map((s) => ({
    ...partOf(s, sectionKey(s.id)),
    title: (s.outcomeId == null ? null : facts.outcomeTitle(s.outcomeId)) ?? '',
    purpose: s.purpose,
    mark: facts.mark(s.id),
  }));
  const steps = sections.flatMap((s) => stepsOf(s, sectionKey(s.id), facts));
  if (lane) {
    // The name of a lane is nobody's to read: it only says what comes next.
    parts.push({ ...partOf(lane, laneKey(lane.id)), title: 'What comes next for you' });
    steps.push(...stepsOf(lane, laneKey(lane.id), facts));
  }
  return { parts, steps, band };
}

const partOf = ({ rule, order }: StepGroup, key: string): PlanPart => ({
  key,
  title: '',
  purpose: '',
  mark: null,
  rule,
  order,
});

function stepsOf({ steps }: StepGroup, part: string, facts: HandOutFacts): WantedStep[] {
  // What is a step already need not be gone over as another.
  const own = new Set(steps.map((s) => s.activityId));
  const goOver = facts.goOver.filter((a) => !own.has(a.id));
  return steps.flatMap((step) => wantedSteps(step, part, { ...facts, goOver }));
}

function wantedSteps(step: DesignStep, part: string, facts: HandOutFacts): WantedStep[] {
  const base = {
    part,
    designStep: step.id,
    activityId: null,
    title: step.title,
    minutes: step.minutes,
    why: '',
    set: step.set,
    lessonAt: step.lesson?.at ?? null,
    place: step.lesson?.place ?? null,
    outcomeId: null,
    further: false,
  };
  const activity = step.activityId == null ? null : facts.activity(step.activityId);
  switch (step.kind) {
    case 'activity':
      return activity ? [{ ...base, activityId: activity.id, title: activity.title }] : [];
    case 'practice': {
      const outcome = step.outcomeId == null ? null : facts.outcomeTitle(step.outcomeId);
      if (outcome == null) return [];
      const found = facts.practice(step.outcomeId!);
      return [
        {
          ...base,
          activityId: found?.id ?? null,
          title: found?.title ?? `Practice: ${outcome}`,
          why: `Practice on ${outcome}`,
        },
      ];
    }
    case 'attempt':
      return activity
        ? [
            ...facts.goOver.map((a) => ({
              ...base,
              designStep: `${step.id} ${a.id}`,
              activityId: a.id,
              title: a.title,
              minutes: a.minutes,
              why: `Before your next attempt at ${activity.title}`,
            })),
            {
              ...base,
              activityId: activity.id,
              title: step.title || `Another attempt at ${activity.title}`,
              further: true,
            },
          ]
        : [];
    default:
      return [base];
  }
}

/**
 * The same for somebody who has a plan of it: what it names to go over before a further attempt stays, whatever was opened
 * since, as long as they are in the same lane.
 */
export function wantedAgain(
  design: PlanDesign,
  { parts, steps }: { readonly parts: readonly PlanPart[]; readonly steps: readonly NamedStep[] },
  facts: HandOutFacts,
): Wanted | null {
  const wanted = wantedFrom(design, facts);
  const lane = wanted?.parts.find((p) => p.key.startsWith(laneKey('')));
  if (lane == null || !parts.some((p) => p.key === lane.key)) return wanted;
  const goOver = steps.flatMap(({ designStep, activityId, title, minutes }) =>
    activityId != null && designStep?.endsWith(` ${activityId}`) ? [{ id: activityId, title, minutes }] : [],
  );
  return wantedFrom(design, { ...facts, goOver });
}

type NamedStep = Pick<StepView, 'designStep' | 'activityId' | 'title' | 'minutes'>;

/** A step as it is stored. */
export type StoredStep = Pick<StepView, 'id' | 'activityId' | 'doneAt' | 'begun' | 'part' | 'designStep'>;

export interface Merged {
  /** Steps that stay, with what they are of now; in the order of the design, what is of no part of it first. */
  readonly keep: readonly { readonly id: number; readonly as: WantedStep | null }[];
  readonly remove: readonly number[];
  readonly add: readonly WantedStep[];
}

/**
 * What changes in a plan for it to be what is wanted: what was done or begun stays, what was not goes if it is wanted no
 * more, what is new comes. A step on the same activity is the same step, in whatever part. Steps of no part (those made
 * for this student, and reviews) are left alone. Applied to its own result it changes nothing.
 */
export function mergeSteps(current: readonly StoredStep[], wanted: readonly WantedStep[]): Merged {
  const left = new Set(current);
  const same = (w: WantedStep) =>
    current.find((s) => left.has(s) && s.part === w.part && s.designStep === w.designStep) ??
    current.find(
      (s) => left.has(s) && s.designStep != null && w.activityId != null && s.activityId === w.activityId,
    );
  const keep: { id: number; as: WantedStep | null }[] = [];
  const add: WantedStep[] = [];
  for (const w of wanted) {
    const found = same(w);
    if (found) {
      left.delete(found);
      keep.push({ id: found.id, as: w });
    } else add.push(w);
  }
  const remove: number[] = [];
  for (const s of left) {
    const stays = s.designStep == null || s.doneAt != null || s.begun === true;
    if (stays) keep.push({ id: s.id, as: null });
    else remove.push(s.id);
  }
  return { keep, remove, add };
}
