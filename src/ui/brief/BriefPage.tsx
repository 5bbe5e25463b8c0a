'use client';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useMemo } from 'react';
import type { BriefView } from '@/core/views/brief';
import { Awake } from '../parts/Awake';
import { Button, buttonClasses, Key } from '../parts/Button';
import { dayAndTime, shortDay } from '@/core/format';
import { Panel } from '../parts/Panel';
import { rememberedList } from '../parts/studentList';
import { useAlive } from '../parts/useAlive';
import { useKeys } from '../parts/useKeys';
import { withScope } from '../ribbon/useQuery';
import { Attempts } from './Attempts';
import { FlagHistory } from './FlagHistory';
import { Notes } from './Notes';
import { Since } from './Since';
import { Beside } from './Beside';
import { Brief } from './Brief';

/** Views that one can come from, and how they are called. */
const FROM = ['rounds', 'week', 'activity', 'session', 'gradebook', 'trends', 'lists'] as const;
const FROM_WORDS: Record<(typeof FROM)[number], string> = {
  rounds: 'Rounds',
  week: 'the weekly look',
  activity: 'Activity',
  session: 'the session check',
  gradebook: 'the Gradebook',
  trends: 'Trends',
  lists: 'Lists',
};

/** The student brief as a page: everything, with each message and plan in full. */
export function BriefPage({ brief, code }: { readonly brief: BriefView; readonly code: string }) {
  const router = useRouter();
  const query = useSearchParams();
  const alive = useAlive();
  const list = useMemo(() => (alive ? rememberedList(code) : null), [alive, code]);
  const place = list?.ids.indexOf(brief.student.enrolmentId) ?? -1;
  const from = query.get('from') ?? 'rounds';
  const at = (id: number | undefined) =>
    id == null ? null : withScope(`/c/${code}/students/${id}?from=${from}`, query);
  const before = place > 0 ? at(list!.ids[place - 1]) : null;
  const after = place >= 0 ? at(list!.ids[place + 1]) : null;
  const back = FROM.find((f) => f === from) ?? 'rounds';
  const write = (plan: boolean) =>
    router.push(`/c/${code}/compose?student=${brief.student.enrolmentId}${plan ? '&plan=1' : ''}`);
  const canWrite = brief.student.status === 'active';
  useKeys({
    m: () => canWrite && write(false),
    p: () => canWrite && write(true),
    j: () => after && router.push(after),
    k: () => before && router.push(before),
  });
  return (
    <div className="space-y-4">
      <Awake />
      <Panel className="p-5">
        <Brief
          brief={brief}
          code={code}
          whole
          aside={
            <div className="no-print flex shrink-0 gap-2">
              <Link
                href={withScope(
                  back === 'rounds'
                    ? `/c/${code}/rounds?student=${brief.student.enrolmentId}`
                    : `/c/${code}/${back}`,
                  query,
                )}
                className={buttonClasses('quiet')}
              >
                Back to {FROM_WORDS[back]}
              </Link>
              {before ? (
                <Link
                  href={before}
                  className={buttonClasses('quiet')}
                  aria-label="Previous student of the list"
                >
                  <Key>k</Key>
                </Link>
              ) : null}
              {place >= 0 ? (
                <span className="text-muted self-center text-[13px] whitespace-nowrap">
                  {place + 1} of {list!.ids.length}
                </span>
              ) : null}
              {after ? (
                <Link href={after} className={buttonClasses('quiet')} aria-label="Next student of the list">
                  <Key>j</Key>
                </Link>
              ) : null}
              <Button onClick={() => window.print()}>Print</Button>
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
      {brief.more ? (
        <Panel className="brief-more grid gap-x-8 gap-y-4 p-5 lg:grid-cols-2">
          <div className="space-y-4">
            <section aria-label="Since the last talk">
              <h3 className="mb-1.5 font-semibold">Since the last talk</h3>
              <Since since={brief.more.sinceTalk} />
            </section>
            <section aria-label="On record beside the course">
              <h3 className="mb-1.5 font-semibold">Attendance, credits, exams, referrals</h3>
              <Beside beside={brief.more.beside} />
            </section>
          </div>
          <Notes
            code={code}
            student={brief.student.enrolmentId}
            notes={brief.more.notes}
            today={brief.more.today}
          />
          <section aria-label="Flags and their history">
            <h3 className="mb-1.5 font-semibold">Flags and their history</h3>
            <FlagHistory open={brief.reasons} past={brief.pastFlags} />
          </section>
          <section aria-label="Attempts">
            <h3 className="mb-1.5 font-semibold">Attempts</h3>
            <Attempts lines={brief.more.attempts} zone={brief.zone} />
          </section>
        </Panel>
      ) : null}
      {brief.plans.length > 0 ? (
        <Panel className="p-5 print:hidden">
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
        <Panel className="p-5 print:hidden">
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
