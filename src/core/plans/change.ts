import { localDate } from '../calendar/zone';
import { counted, oneDigit } from '../format';
import type { LocalDate } from '../units';
import type { DecidingScore } from './attemptScore';
import { withExpected } from './expected';
import { laneKey, mergeSteps, type Wanted, type WantedStep } from './handOut';
import { isOpen, type PlanView, type StepView } from './plan';
import type { PlanSetting } from './replan';

/** What happens to a plan that is there. */
export interface PlanChanged {
  readonly plan: PlanView;
  readonly why: string;
  readonly wanted: Wanted | null;
  readonly remove: readonly number[];
  readonly add: readonly WantedStep[];
  readonly keep: readonly { readonly id: number; readonly as: WantedStep | null }[];
  readonly done: ReadonlyMap<number, number>;
}

/** A plan of which nothing changes. */
export const unchanged = (plan: PlanView): PlanChanged => ({
  plan,
  why: '',
  wanted: null,
  remove: [],
  add: [],
  keep: [],
  done: new Map(),
});

/** What a design asks of a plan that was handed out, and why; null for nothing. */
export function changeOf(
  plan: PlanView,
  wanted: Wanted | null,
  score: DecidingScore | null,
): PlanChanged | null {
  // A score that was taken away, or an excuse: what was handed out stays until there is another.
  if (wanted == null || (wanted.band == null && plan.parts.some((p) => p.key.startsWith(laneKey('')))))
    return null;
  const { keep, remove, add } = mergeSteps(plan.steps, wanted.steps);
  const parts = namesOf(wanted.parts) !== namesOf(plan.parts);
  if (!parts && remove.length === 0 && add.length === 0) return null;
  return {
    ...unchanged(plan),
    why: whyChanged(plan, wanted, score),
    wanted,
    remove,
    add,
    keep,
  };
}

/** Parts as a text that is the same exactly if they are. */
const namesOf = (parts: PlanView['parts']): string =>
  JSON.stringify(
    parts.map(({ key, title, purpose, mark, rule, order }) => [
      key,
      title,
      purpose,
      mark,
      rule.kind,
      rule.kind === 'any' ? rule.n : null,
      order,
    ]),
  );

/** Why a plan that was handed out is another now. */
function whyChanged(plan: PlanView, wanted: Wanted, score: DecidingScore | null): string {
  const lanes = (parts: PlanView['parts']) =>
    parts.map((p) => p.key).filter((k) => k.startsWith(laneKey('')));
  const [before, after] = [lanes(plan.parts), lanes(wanted.parts)];
  if (before.join() !== after.join() && score && typeof score === 'object')
    return before.length === 0 ? 'your quiz is graded' : `your score is now ${oneDigit(score.percent)} %`;
  const marks = (parts: PlanView['parts']) => parts.map((p) => `${p.key} ${p.mark}`).join();
  if (marks(plan.parts) !== marks(wanted.parts) && plan.parts.length > 0)
    return 'your pre-check says more now';
  return 'the plan was changed by whoever made it';
}

/** Why a plan has to be made anew though nothing of it changed: a missed day, or something done before its day; else nothing. */
export function missedOrEarly(plan: PlanView, today: LocalDate, dayOf: (at: number) => LocalDate): string {
  const missed = plan.steps.filter((s) => isOpen(s) && s.on < today && !s.pinned && s.lessonAt == null);
  if (missed.length > 0)
    return missed.length === 1
      ? `“${missed[0]!.title}” was not done on its day`
      : `${counted(missed.length, 'step')} were not done on their days`;
  const since = plan.saidAt ?? plan.at;
  const early = plan.steps.find((s) => s.doneAt != null && s.doneAt > since && dayOf(s.doneAt) < s.on);
  const later = early && plan.steps.some((s) => isOpen(s) && s.on > dayOf(early.doneAt!) && !s.pinned);
  return early && later ? `you did “${early.title}” before its day` : '';
}

/** A step that is not stored yet, as it is planned; its id is a number of its own below zero. */
export function asPlanned(s: WantedStep, id: number, setting: PlanSetting): StepView {
  const lessonOn = s.lessonAt == null ? null : localDate(s.lessonAt, setting.term.zone);
  return {
    ...s,
    id,
    on: lessonOn ?? setting.from,
    doneAt: null,
    wasOn: null,
    pinned: false,
  };
}

/** A plan as it is once a change is written: in the order of the design, so that a fixed one holds. */
export function afterChange(
  { plan, wanted, keep, remove, done }: PlanChanged,
  added: readonly { readonly s: WantedStep; readonly id: number }[],
  setting: PlanSetting,
): PlanView {
  const parts = wanted?.parts ?? plan.parts;
  const asOf = new Map(keep.flatMap((k) => (k.as ? [[k.id, k.as] as const] : [])));
  const steps: StepView[] = [
    ...plan.steps
      .filter((s) => !remove.includes(s.id))
      .map((s) => ({ ...s, ...asOf.get(s.id), id: s.id, doneAt: s.doneAt ?? done.get(s.id) ?? null })),
    ...added.map(({ s, id }) => asPlanned(s, id, setting)),
  ];
  const place = new Map((wanted?.steps ?? []).map((w, i) => [`${w.part} ${w.designStep}`, i]));
  const rank = (s: StepView) => place.get(`${s.part} ${s.designStep}`) ?? -1;
  return {
    ...plan,
    parts,
    steps: withExpected(parts, wanted ? steps.toSorted((a, b) => rank(a) - rank(b)) : steps),
  };
}
