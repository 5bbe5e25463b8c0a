import { classes } from '../parts/classes';
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { BriefView } from '@/core/views/brief';
import { counted, dayAndTime, percentText } from '@/core/format';
import { Circumstances } from './Circumstances';
import { History } from './History';
import { isOpen } from '@/core/plans/plan';
import { PlanLine } from './PlanLine';
import { OutcomeRanges } from './OutcomeRanges';
import { Reasons } from './Reasons';
import { Strips } from './Strips';

/** Words for the trend of the grades against the class, with how sure they are. */
function trendWords(brief: BriefView): string {
  const trend = brief.measures?.trend;
  if (!trend || trend.relativePerWeek == null) return 'trend: too little data';
  const { relativePerWeek: slope, test } = trend;
  if (test.p == null || test.p > 0.1) return 'no trend';
  return `${slope < 0 ? 'falling' : 'rising'} ${Math.abs(slope).toFixed(1)} a week`;
}

function usualWords(brief: BriefView): string {
  const gap = brief.measures?.rhythm.usualGap;
  if (gap == null) return 'no rhythm yet';
  return gap <= 1 ? 'usually every day' : `usually every ${gap % 1 === 0 ? gap : gap.toFixed(1)} days`;
}

function possibleWords(brief: BriefView): string {
  const s = brief.measures?.standing;
  if (s?.lowestPossible == null || s.highestPossible == null) return '';
  return `Final grade still between ${Math.round(s.lowestPossible)} and ${percentText(s.highestPossible)}.`;
}

interface Props {
  readonly brief: BriefView;
  readonly code: string;
  readonly aside?: ReactNode;
  /** The page shows everything; the panel beside the queue what fits. */
  readonly whole?: boolean;
}

/** The one-page picture of a student: reasons, four strips, outcomes, and what was done so far. */
export function Brief({ brief, code, aside, whole }: Props) {
  const { student } = brief;
  const { missing } = brief;
  const unread = brief.answers.filter((a) => a.isNew).length;
  const Name = whole ? 'h1' : 'h2';
  return (
    <div className="space-y-3">
      <div className={classes('flex items-start justify-between gap-4', whole && 'max-sm:flex-col')}>
        <div className="min-w-0">
          <Name className="font-serif text-xl leading-tight font-semibold break-words">
            {whole ? (
              student.name
            ) : (
              <Link href={`/c/${code}/students/${student.enrolmentId}`} className="hover:underline">
                {student.name}
              </Link>
            )}
          </Name>
          <p className="text-muted text-[13px]">
            {student.section ? `${student.section} section` : 'No section'}
            {student.status === 'active' ? '' : ` · ${student.status}`} ·{' '}
            {brief.lastSeen == null ? 'never seen' : `last seen ${dayAndTime(brief.lastSeen, brief.zone)}`}
            {whole ? (
              <>
                {' '}
                ·{' '}
                {student.email ? (
                  <a href={`mailto:${student.email}`} className="underline">
                    {student.email}
                  </a>
                ) : (
                  'no e-mail address'
                )}
              </>
            ) : null}
          </p>
        </div>
        {aside}
      </div>
      {brief.mailFault ? (
        <p className="text-plum text-[13px] font-semibold">
          E-mail does not arrive since {dayAndTime(brief.mailFault.at, brief.zone)}: {brief.mailFault.why}
        </p>
      ) : null}
      {unread > 0 ? (
        <Link
          href={`/c/${code}/conversations/${student.enrolmentId}`}
          className="text-teal text-[13px] font-semibold hover:underline"
        >
          {counted(unread, 'answer')} to read
        </Link>
      ) : null}
      <Circumstances brief={brief} />
      <Reasons reasons={brief.reasons} />
      <div className="border-line border-t pt-2">
        <Strips
          weeks={brief.weeks}
          currentWeek={brief.week}
          usualDays={usualWords(brief)}
          handedIn={missing.length === 0 ? 'nothing missing' : `${missing.length} missing`}
          trend={trendWords(brief)}
        />
      </div>
      <div className="border-line grid grid-cols-1 gap-x-6 gap-y-3 border-t pt-3 xl:grid-cols-[1.25fr_1fr]">
        <section aria-label="Outcomes">
          <h3 className="mb-1.5 font-semibold">
            {whole ? 'Outcomes, weakest first' : 'Outcomes to catch up on'}
          </h3>
          <OutcomeRanges outcomes={brief.outcomes} most={whole ? undefined : 3} />
          {whole ? (
            <p className="text-muted mt-2">
              {possibleWords(brief)} {brief.more?.standingTrend}
            </p>
          ) : null}
        </section>
        {whole
          ? null
          : brief.plans
              .filter((p) => p.steps.some(isOpen))
              .slice(0, 1)
              .map((plan) => (
                <p key={plan.id} className="text-[13px] xl:col-span-2">
                  <span className="font-semibold">{plan.title ?? 'Study plan'}:</span>{' '}
                  <PlanLine plan={plan} at={brief.at} />
                </p>
              ))}
        <section aria-label="What was done">
          <h3 className="mb-1.5 font-semibold">What was done</h3>
          <History brief={brief} most={whole ? undefined : 4} />
        </section>
      </div>
    </div>
  );
}
