import type { ReactNode } from 'react';
import { minutesText, shortDay, weekdayAndTime, weekdayDay } from '@/core/format';
import { missedOn, type PlanView, type StepView } from '@/core/plans/plan';
import { REVIEW_PART } from '@/core/plans/reviews';
import { groupBy } from '@/core/groupBy';
import type { LocalDate } from '@/core/units';
import { classes } from '../parts/classes';

const MARK_WORDS = {
  known: 'you know this; it is open to you',
  'to skim': 'to skim: the first step is enough',
  'to study': 'to study',
} as const;

/** What is asked of a part, in words; nothing where it is all of it. */
function ruleWords({ rule, mark }: PlanView['parts'][number]): string {
  const of =
    rule.kind === 'any'
      ? `any ${rule.n} of these ${rule.n === 1 ? 'is' : 'are'} enough`
      : rule.kind === 'one set'
        ? 'one of the two sets is enough'
        : '';
  return [...(mark ? [MARK_WORDS[mark]] : []), ...(of ? [of] : [])].join('; ');
}

/** The steps of a plan in their parts, as the student reads them. */
export function PlanSteps({
  plan,
  today,
  zone,
  tick,
  title,
}: {
  readonly plan: PlanView;
  readonly today: LocalDate;
  readonly zone: string;
  /** The box that ticks a step. */
  readonly tick: (step: StepView) => ReactNode;
  readonly title: (step: StepView) => ReactNode;
}) {
  const of = groupBy(plan.steps, (s) => s.part);
  const known = new Set(plan.parts.map((p) => p.key));
  const rest = plan.steps.filter((s) => s.part == null || (s.part !== REVIEW_PART && !known.has(s.part)));
  const list = (steps: readonly StepView[]) => (
    <ol className="divide-line divide-y">
      {steps.map((step) => (
        <Step key={step.id} step={step} today={today} zone={zone} tick={tick(step)} title={title(step)} />
      ))}
    </ol>
  );
  const reviews = of.get(REVIEW_PART) ?? [];
  return (
    <>
      {reviews.length > 0 ? (
        <section aria-label="Review due">
          <h4 className="text-muted mt-2 text-[13px] font-semibold">Review due</h4>
          {list(reviews)}
        </section>
      ) : null}
      {plan.parts.map((part) => {
        const own = of.get(part.key) ?? [];
        if (own.length === 0) return null;
        const words = ruleWords(part);
        return (
          <section key={part.key} aria-label={part.title || 'Steps'}>
            {part.title || words ? (
              <h4 className="mt-2 text-[13px]">
                <span className="font-semibold">{part.title}</span>
                <span className="text-muted">
                  {part.title && words ? ': ' : ''}
                  {words}
                </span>
              </h4>
            ) : null}
            {part.purpose ? <p className="text-muted text-[13px]">{part.purpose}</p> : null}
            {list(own)}
          </section>
        );
      })}
      {rest.length > 0 ? list(rest) : null}
    </>
  );
}

/** When a step is to be done, and when it was to be. */
function dayWords(step: StepView, today: LocalDate, zone: string): string {
  if (step.lessonAt != null)
    return `${weekdayAndTime(step.lessonAt, zone)}${step.place ? `, ${step.place}` : ''}`;
  if (step.doneAt != null) return 'done';
  if (step.optional) return 'if you like';
  const missed = missedOn(step, today);
  if (missed == null || step.on < today) return `${missed == null ? 'by' : 'was for'} ${weekdayDay(step.on)}`;
  return `by ${weekdayDay(step.on)} (was for ${shortDay(missed)})`;
}

function Step({
  step,
  today,
  zone,
  tick,
  title,
}: {
  readonly step: StepView;
  readonly today: LocalDate;
  readonly zone: string;
  readonly tick: ReactNode;
  readonly title: ReactNode;
}) {
  const late = missedOn(step, today) != null;
  return (
    <li>
      <label className="flex items-baseline gap-3 py-1.5 max-sm:flex-wrap">
        {tick}
        <span className="flex-1">
          <span
            className={step.doneAt != null ? 'text-muted line-through' : step.optional ? '' : 'font-semibold'}
          >
            {title}
          </span>
          <span className="text-muted">
            {' '}
            {minutesText(step.minutes)}
            {step.byItself ? ` · ${step.byItself}` : step.why ? ` · ${step.why}` : ''}
          </span>
        </span>
        <span
          className={classes(
            'text-[13px] max-sm:basis-full max-sm:pl-7',
            late ? 'text-plum font-semibold' : 'text-muted',
          )}
        >
          {dayWords(step, today, zone)}
        </span>
      </label>
    </li>
  );
}
