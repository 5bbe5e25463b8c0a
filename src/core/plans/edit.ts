import type { Percent } from '../units';
import type { Branch, DesignStep, PlanDesign, StepGroup } from './design';

/** Where a step of a design is. */
export interface StepAt {
  readonly group: string;
  readonly step: string;
}

/** The groups of steps of a design as they stand on the page: sections, then the bands from the highest down. */
export const groupsInView = ({ sections, branch }: PlanDesign): readonly StepGroup[] => [
  ...sections,
  ...(branch ? branch.lanes.toReversed() : []),
];

const groupOf = (design: PlanDesign, id: string): StepGroup | undefined =>
  groupsInView(design).find((g) => g.id === id);

/** A design with some groups replaced. */
function withGroups(design: PlanDesign, change: <G extends StepGroup>(group: G) => G): PlanDesign {
  const { branch } = design;
  return {
    ...design,
    sections: design.sections.map(change),
    branch: branch && { ...branch, lanes: branch.lanes.map(change) },
  };
}

/** A design with what one group says changed. */
export const withGroup = (design: PlanDesign, id: string, set: Partial<StepGroup>): PlanDesign =>
  withGroups(design, (g) => (g.id === id ? { ...g, ...set } : g));

/** A design with a step put in a group at a place, the end if it is over it; a step of the same id elsewhere goes. */
export function withStep(design: PlanDesign, group: string, step: DesignStep, at = Infinity): PlanDesign {
  const cleared = withGroups(design, (g) => ({ ...g, steps: g.steps.filter((s) => s.id !== step.id) }));
  return withGroups(cleared, (g) =>
    g.id === group
      ? { ...g, steps: [...g.steps.slice(0, at), step, ...g.steps.slice(Math.min(at, g.steps.length))] }
      : g,
  );
}

/** A design without a step. */
export const withoutStep = (design: PlanDesign, { group, step }: StepAt): PlanDesign =>
  withGroups(design, (g) => (g.id === group ? { ...g, steps: g.steps.filter((s) => s.id !== step) } : g));

/** A design with a step moved to a place in a group, its own or another; as it is if there is no such step. */
export function moveStep(design: PlanDesign, from: StepAt, to: string, at: number): PlanDesign {
  const step = groupOf(design, from.group)?.steps.find((s) => s.id === from.step);
  return step && groupOf(design, to) ? withStep(design, to, step, at) : design;
}

export type StepMove = 'earlier' | 'later' | 'up' | 'down';

/** Where a step goes that is moved by one; null if there is nothing there. */
export function placeAfter(
  design: PlanDesign,
  { group, step }: StepAt,
  move: StepMove,
): { readonly group: string; readonly at: number } | null {
  const groups = groupsInView(design);
  const index = groups.findIndex((g) => g.id === group);
  const own = groups[index];
  const place = own?.steps.findIndex((s) => s.id === step) ?? -1;
  if (!own || place < 0) return null;
  if (move === 'earlier' || move === 'later') {
    const at = place + (move === 'earlier' ? -1 : 1);
    return at < 0 || at >= own.steps.length ? null : { group, at };
  }
  const other = groups[index + (move === 'up' ? -1 : 1)];
  return other ? { group: other.id, at: Math.min(place, other.steps.length) } : null;
}

/** A branch with a mark more; what is in the band that it cuts stays below it. As it is if the mark is there already. */
export function withMark(branch: Branch, mark: Percent, lane: StepGroup): Branch {
  if (branch.marks.includes(mark)) return branch;
  const at = branch.marks.filter((m) => m < mark).length;
  return {
    ...branch,
    marks: [...branch.marks.slice(0, at), mark, ...branch.marks.slice(at)],
    lanes: [...branch.lanes.slice(0, at + 1), lane, ...branch.lanes.slice(at + 1)],
  };
}

/** Where a mark goes that is added: into the middle of the widest band, in whole per cent. */
export function widestMiddle(marks: readonly Percent[]): Percent {
  const edges = [0, ...marks, 100];
  const gaps = edges.slice(1).map((to, i) => ({ to, from: edges[i]! }));
  const widest = gaps.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a));
  return Math.round((widest.from + widest.to) / 2);
}

/** A branch without a mark, by number: the steps above it come into the band below it. */
export function withoutMark(branch: Branch, index: number): Branch {
  const [below, above] = [branch.lanes[index], branch.lanes[index + 1]];
  if (!below || !above) return branch;
  return {
    ...branch,
    marks: branch.marks.filter((_, i) => i !== index),
    lanes: branch.lanes
      .map((lane, i) => (i === index ? { ...below, steps: [...below.steps, ...above.steps] } : lane))
      .filter((_, i) => i !== index + 1),
  };
}

/** A group without steps. */
export const emptyGroup = (id: string): StepGroup => ({
  id,
  rule: { kind: 'all' },
  order: 'fixed',
  steps: [],
});

/** Where bands begin in a new design (common practice). */
const USUAL_MARKS: readonly Percent[] = [50, 80];

/** A new design by the score of a quiz, or of sections if there is no quiz. */
export const newDesign = (title: string, quizId: number | null): PlanDesign => ({
  title,
  purpose: '',
  preCheckId: null,
  sections: quizId == null ? [{ ...emptyGroup('section-1'), outcomeId: null, purpose: '', items: [] }] : [],
  branch:
    quizId == null
      ? null
      : {
          quizId,
          attempt: 'first',
          marks: USUAL_MARKS,
          lanes: [...USUAL_MARKS, null].map((_, i) => emptyGroup(`lane-${i + 1}`)),
        },
  handOut: 'by itself',
});
