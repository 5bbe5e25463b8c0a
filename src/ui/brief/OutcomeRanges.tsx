import { HALF_LIFE_DAYS, LATELY_DAYS, NOT_YET_UNDER, SECURE_FROM, SURE_FROM } from '@/core/outcomes/mastery';
import { Definition } from '../parts/Definition';
import { RangeBar } from '../parts/RangeBar';
import type { OutcomeView } from '@/core/views/brief';

/** Outcomes, the weakest first, with how sure we are. */
export function OutcomeRanges({
  outcomes,
  most,
}: {
  readonly outcomes: readonly OutcomeView[];
  readonly most?: number;
}) {
  const unknown = (o: OutcomeView) => (o.level === 'too little data' ? 1 : 0);
  const sorted = [...outcomes].sort((a, b) => unknown(a) - unknown(b) || a.mean - b.mean);
  const shown = most == null ? sorted : sorted.filter((o) => o.level !== 'secure').slice(0, most);
  if (shown.length === 0) return <p className="text-muted">Nothing to catch up on.</p>;
  return (
    <>
      <ul className="space-y-1.5">
        {shown.map((o) => (
          <li key={o.id} className="flex items-center gap-2">
            <span className="w-32 shrink-0 text-[13px] leading-tight print:truncate">{o.title}</span>
            <RangeBar outcome={o} className="flex-1" />
            <span className="text-muted w-24 shrink-0 text-xs leading-tight">
              {o.level}
              {o.old ? <span className="block">not asked lately</span> : null}
            </span>
          </li>
        ))}
      </ul>
      <p className="text-muted mt-1.5 text-xs">
        The bar is where the true level most likely lies; newer results count more. Dotted: secure from{' '}
        {100 * SECURE_FROM} %.
        <Definition of="Outcomes">
          {`The bar is the 80 % interval of a beta posterior, its tick the mean. Evidence: answers to questions where they are known, else graded assignments; it counts half after ${HALF_LIFE_DAYS} days. Secure: at least ${100 * SURE_FROM} % probable that the true share is ${100 * SECURE_FROM} % or more. Not yet: at least ${100 * SURE_FROM} % probable that it is under ${100 * NOT_YET_UNDER} %. Too little data: less than two assignments' worth. Not asked lately: nothing in the last ${LATELY_DAYS / 7} weeks.`}
        </Definition>
      </p>
    </>
  );
}
