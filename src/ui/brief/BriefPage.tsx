'use client';
import { MAIL_SAYS } from '@/core/messages/mailState';
import { DocText } from '../parts/DocText';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { BriefPageView } from '@/core/views/brief';
import { Awake } from '../parts/Awake';
import { Button, buttonClasses, Key } from '../parts/Button';
import { counted, dayAndTime, minutesText, shortDay, spanText } from '@/core/format';
import { Accommodations } from './Accommodations';
import { PlanLine } from './PlanLine';
import { Panel } from '../parts/Panel';
import { rememberedList } from '../parts/studentList';
import { useAlive } from '../parts/useAlive';
import { useKeys } from '../parts/useKeys';
import { withScope } from '../ribbon/withScope';
import { ScopeBar } from '../ribbon/ScopeBar';
import { ReportTable } from '../session/ReportTable';
import { Helping } from '../followUp/Helping';
import { Assignments } from './Assignments';
import { Contacts } from './Contacts';
import { FlagHistory } from './FlagHistory';
import { Notes } from './Notes';
import { Since } from './Since';
import { Beside } from './Beside';
import { Brief } from './Brief';

const TalkSheet = dynamic(() => import('../talks/TalkSheet').then((m) => m.TalkSheet));

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
export function BriefPage({ view, code }: { readonly view: BriefPageView; readonly code: string }) {
  const { brief, report } = view;
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
  const [talking, setTalking] = useState(false);
  const canWrite = brief.student.status === 'active';
  useKeys({
    n: () => setTalking(true),
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
            <div className="no-print flex shrink-0 gap-2 max-sm:shrink max-sm:flex-wrap">
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
                  <ChevronLeft className="size-4 sm:hidden" aria-hidden />
                  <span className="max-sm:hidden">
                    <Key>k</Key>
                  </span>
                </Link>
              ) : null}
              {place >= 0 ? (
                <span className="text-muted self-center text-[13px] whitespace-nowrap">
                  {place + 1} of {list!.ids.length}
                </span>
              ) : null}
              {after ? (
                <Link href={after} className={buttonClasses('quiet')} aria-label="Next student of the list">
                  <ChevronRight className="size-4 sm:hidden" aria-hidden />
                  <span className="max-sm:hidden">
                    <Key>j</Key>
                  </span>
                </Link>
              ) : null}
              <Button onClick={() => window.print()}>Print</Button>
              <Button hotkey="n" onClick={() => setTalking(true)}>
                Talk
              </Button>
              <Button look="main" hotkey="m" disabled={!canWrite} onClick={() => write(false)}>
                Message
              </Button>
              <Button hotkey="p" disabled={!canWrite} onClick={() => write(true)}>
                Message with plan
              </Button>
            </div>
          }
        />
      </Panel>
      {brief.more ? (
        <Panel className="brief-more grid grid-cols-1 gap-x-8 gap-y-4 p-5 lg:grid-cols-2">
          <div className="space-y-4">
            <section aria-label="Since the last talk">
              <h3 className="mb-1.5 font-semibold">Since the last talk</h3>
              <Since since={brief.more.sinceTalk} />
            </section>
            <Helping
              code={code}
              today={brief.more.today}
              student={brief.student}
              topic={
                brief.outcomes.find((o) => o.level === 'not yet')?.title ?? brief.outcomes[0]?.title ?? ''
              }
              lines={brief.more.helpings}
            />
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
        </Panel>
      ) : null}
      {brief.more ? (
        <Panel className="p-5 print:hidden">
          <section aria-label="Assignments">
            <h2 className="mb-2 font-serif text-lg font-semibold">Assignments</h2>
            <Assignments list={brief.more.assignments} zone={brief.zone} code={code} />
          </section>
        </Panel>
      ) : null}
      <section aria-label="Day by day" className="print:hidden">
        <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} groups={false} />
        <Panel className="p-5">
          <h2 className="font-serif text-lg font-semibold">
            {spanText(view.scope.window)}: {minutesText(report.minutes)} on {counted(report.days, 'day')},{' '}
            {minutesText(report.inClass)} of it in class
          </h2>
          <ReportTable report={report} />
        </Panel>
      </section>
      {brief.more ? (
        <Panel className="p-5 print:hidden">
          <Contacts
            code={code}
            zone={brief.zone}
            student={brief.student.enrolmentId}
            contacts={brief.more.contacts}
          />
        </Panel>
      ) : null}
      {brief.plans.length > 0 ? (
        <Panel className="p-5 print:hidden">
          <h2 className="mb-2 font-serif text-lg font-semibold">Study plans</h2>
          {brief.plans.map((plan) => (
            <div key={plan.id} className="mb-3">
              <p className="text-muted text-[13px]">
                {plan.title ? `${plan.title}. ` : ''}
                {plan.by}, {dayAndTime(plan.at, brief.zone)}: <PlanLine plan={plan} at={brief.at} />
              </p>
              {plan.said ? <p className="text-[13px]">{plan.said}</p> : null}
              <ol className="mt-1 space-y-1">
                {plan.steps.map((step) => (
                  <li key={step.id} className="flex gap-3">
                    <span className="text-muted w-14 shrink-0">{shortDay(step.on)}</span>
                    <span className="flex-1">
                      {step.activityId == null ? (
                        step.title
                      ) : (
                        <Link
                          href={withScope(`/c/${code}/work/${step.activityId}`, query)}
                          className="hover:underline"
                        >
                          {step.title}
                        </Link>
                      )}{' '}
                      <span className="text-muted">{step.minutes} min</span>
                    </span>
                    <span className={step.doneAt == null ? 'text-muted' : 'text-teal font-semibold'}>
                      {step.doneAt == null
                        ? step.optional
                          ? 'to choose'
                          : 'open'
                        : `${step.byItself ?? 'ticked off'} ${dayAndTime(step.doneAt, brief.zone)}`}
                    </span>
                  </li>
                ))}
              </ol>
            </div>
          ))}
        </Panel>
      ) : null}
      {brief.more ? (
        <Panel className="p-5 print:hidden">
          <h2 className="mb-2 font-serif text-lg font-semibold">Accommodations</h2>
          <Accommodations
            key={JSON.stringify(brief.more.accommodation)}
            code={code}
            start={brief.more.accommodation}
          />
        </Panel>
      ) : null}
      {brief.sent.length > 0 ? (
        <Panel className="p-5 print:hidden">
          <div className="mb-2 flex items-baseline justify-between gap-3">
            <h2 className="font-serif text-lg font-semibold">Messages</h2>
            <Link
              href={`/c/${code}/conversations/${brief.student.enrolmentId}`}
              className="text-teal font-semibold hover:underline"
            >
              The conversation, {counted(brief.answers.length, 'answer')}
            </Link>
          </div>
          {brief.sent.map((m) => (
            <details key={m.recipientId} className="border-line border-t py-2 first-of-type:border-0">
              <summary>
                <span className="font-semibold">{m.subject}</span>{' '}
                <span className="text-muted text-[13px]">
                  {m.by}, {dayAndTime(m.at, brief.zone)} · because: {m.reason} ·{' '}
                  {m.goesAt != null
                    ? `goes ${dayAndTime(m.goesAt, brief.zone)}`
                    : m.readAt == null
                      ? 'not read yet'
                      : `read ${dayAndTime(m.readAt, brief.zone)}`}{' '}
                  · e-mail: {MAIL_SAYS[m.mailState]}
                </span>
              </summary>
              <div className="mt-2 max-w-prose">
                <DocText doc={m.doc} />
              </div>
            </details>
          ))}
        </Panel>
      ) : null}
      {talking && brief.more ? (
        <TalkSheet
          code={code}
          today={brief.more.today}
          student={brief.student}
          onClose={() => setTalking(false)}
        />
      ) : null}
    </div>
  );
}
