'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { BriefView } from '@/core/views/brief';
import { Button, buttonClasses } from '../parts/Button';
import { dayAndTime, shortDay } from '../parts/format';
import { Panel } from '../parts/Panel';
import { useKeys } from '../parts/useKeys';
import { Brief } from './Brief';

/** The student brief as a page: everything, with each message and plan in full. */
export function BriefPage({ brief, code }: { readonly brief: BriefView; readonly code: string }) {
  const router = useRouter();
  const write = (plan: boolean) =>
    router.push(`/c/${code}/compose?student=${brief.student.enrolmentId}${plan ? '&plan=1' : ''}`);
  const canWrite = brief.student.status === 'active';
  useKeys({ m: () => canWrite && write(false), p: () => canWrite && write(true) });
  return (
    <div className="space-y-4">
      <Panel className="p-5">
        <Brief
          brief={brief}
          code={code}
          whole
          aside={
            <div className="no-print flex shrink-0 gap-2">
              <Link
                href={`/c/${code}/rounds?student=${brief.student.enrolmentId}`}
                className={buttonClasses('quiet')}
              >
                Back to Rounds
              </Link>
              <Button look="main" hotkey="m" disabled={!canWrite} onClick={() => write(false)}>
                Message
              </Button>
              <Button hotkey="p" disabled={!canWrite} onClick={() => write(true)}>
                With study plan
              </Button>
            </div>
          }
        />
      </Panel>
      {brief.plans.length > 0 ? (
        <Panel className="p-5">
          <h2 className="mb-2 font-serif text-lg font-semibold">Study plans</h2>
          {brief.plans.map((plan) => (
            <div key={plan.id} className="mb-3">
              <p className="text-muted text-[13px]">
                {plan.by}, {dayAndTime(plan.at, brief.zone)}
              </p>
              <ol className="mt-1 space-y-1">
                {plan.steps.map((step) => (
                  <li key={step.id} className="flex gap-3">
                    <span className="text-muted w-14 shrink-0">{shortDay(step.on)}</span>
                    <span className="flex-1">
                      {step.title} <span className="text-muted">{step.minutes} min</span>
                    </span>
                    <span className={step.doneAt == null ? 'text-muted' : 'text-teal font-semibold'}>
                      {step.doneAt == null ? 'open' : `ticked off ${dayAndTime(step.doneAt, brief.zone)}`}
                    </span>
                  </li>
                ))}
              </ol>
            </div>
          ))}
        </Panel>
      ) : null}
      {brief.sent.length > 0 ? (
        <Panel className="p-5">
          <h2 className="mb-2 font-serif text-lg font-semibold">Messages</h2>
          {brief.sent.map((m) => (
            <details key={m.recipientId} className="border-line border-t py-2 first-of-type:border-0">
              <summary>
                <span className="font-semibold">{m.subject}</span>{' '}
                <span className="text-muted text-[13px]">
                  {m.by}, {dayAndTime(m.at, brief.zone)} · because: {m.reason} ·{' '}
                  {m.readAt == null ? 'not read yet' : `read ${dayAndTime(m.readAt, brief.zone)}`} · e-mail{' '}
                  {m.mailState}
                </span>
              </summary>
              <p className="mt-2 max-w-prose whitespace-pre-wrap">{m.body}</p>
            </details>
          ))}
        </Panel>
      ) : null}
    </div>
  );
}
