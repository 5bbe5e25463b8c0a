import { counted, listed, weekdayDay } from '../format';
import { isOpen, type StepView } from './plan';
import type { Replanned } from './replan';

/** What came into a plan and what went, beside what moved. */
export interface PlanChange {
  readonly added: number;
  readonly removed: number;
}

/** What a new plan says of itself in a line: what changed and why, and what of it does not fit. */
export function replanWords(
  steps: readonly Pick<StepView, 'id' | 'title' | 'on' | 'doneAt' | 'optional'>[],
  { on, late, afterTerm }: Replanned,
  why: string,
  { added, removed }: PlanChange = { added: 0, removed: 0 },
): string {
  const isExpected = new Set(steps.filter(isOpen).map((s) => s.id));
  const moved = steps.filter((s) => isExpected.has(s.id) && on.has(s.id) && on.get(s.id) !== s.on);
  const changed = [
    ...(added > 0 ? [`${counted(added, 'step')} ${added === 1 ? 'is' : 'are'} new`] : []),
    ...(removed > 0 ? [`${counted(removed, 'step')} ${removed === 1 ? 'was' : 'were'} removed`] : []),
    ...(moved.length > 0 ? [`${counted(moved.length, 'step')} moved`] : []),
  ];
  if (changed.length === 0) return `Nothing had to move: ${why}.`;
  const last = [...on]
    .filter(([id]) => isExpected.has(id))
    .map(([, day]) => day)
    .sort()
    .at(-1);
  const end = last == null ? '' : `; the last is now on ${weekdayDay(last)}`;
  const misfit = misfitWords(steps, { on, late, afterTerm });
  return `${listed(changed)}, since ${why}${end}.${misfit ? ` ${misfit}` : ''}`;
}

/** What of a plan does not fit, and by when it would; empty if all of it does. */
export function misfitWords(
  steps: readonly Pick<StepView, 'id' | 'title'>[],
  { on, late, afterTerm }: Pick<Replanned, 'on' | 'late' | 'afterTerm'>,
): string {
  const titleOf = new Map(steps.map((s) => [s.id, `“${s.title}”`]));
  const tooLate = late.map((id) => `${titleOf.get(id)} (now ${weekdayDay(on.get(id)!)})`);
  const words = [
    ...(tooLate.length > 0
      ? [`Not in time for ${tooLate.length === 1 ? 'its' : 'their'} due date: ${listed(tooLate)}.`]
      : []),
    ...(afterTerm.length > 0
      ? [`${counted(afterTerm.length, 'step')} ${afterTerm.length === 1 ? 'lies' : 'lie'} outside the term.`]
      : []),
  ];
  return words.join(' ');
}
