'use client';
import Link from 'next/link';
import { counted, weekdayDay } from '@/core/format';
import type { RoundsView } from '@/core/views/rounds';
import type { Timed } from '@/core/weekly/shortOfTime';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';

interface Props {
  readonly code: string;
  readonly short: NonNullable<RoundsView['short']>;
  readonly label: (kind: Extract<Timed, { kind: 'batch' }>['about']) => string;
  /** Opens a student in the queue below. */
  readonly onOpen: (id: number) => void;
  /** Selects alike cases and goes to their drafts. */
  readonly onWrite: (ids: readonly number[]) => void;
}

/** What fits into the minutes there are, with minutes beside each, and until when the others can wait. */
export function ShortOfTime({ code, short, label, onOpen, onWrite }: Props) {
  const nameOf = new Map(short.rows.map((r) => [r.enrolmentId, r]));
  const waiting = short.later.reduce((n, l) => n + l.ids.length, 0);
  return (
    <Panel className="mb-3 p-3">
      <section aria-label="In the time you have">
        <p className="mb-1 font-semibold">
          {short.now.length === 0
            ? `Nothing fits into ${counted(short.asked, 'minute')}`
            : `In ${counted(short.asked, 'minute')}: ${counted(short.now.length, 'thing')}, about ${counted(short.minutes, 'minute')}`}
        </p>
        <ol className="divide-line divide-y">
          {short.now.map((task) => {
            const first = nameOf.get(task.ids[0]!);
            const followUp =
              task.kind === 'follow-up' ? short.followUps.find((f) => f.actId === task.actId) : undefined;
            const name = first?.name ?? followUp?.name ?? 'A student';
            return (
              <li
                key={`${task.kind} ${task.ids.join(' ')}`}
                className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1.5"
              >
                <span className="text-muted w-14 shrink-0 text-[13px]">{task.minutes} min</span>
                <span className="min-w-0 flex-1 basis-64">
                  {task.kind === 'batch' ? (
                    <>
                      <span className="font-semibold">
                        {counted(task.ids.length, 'student')}: {label(task.about).toLowerCase()}
                      </span>{' '}
                      <span className="text-muted text-[13px]">
                        {task.ids
                          .slice(0, 4)
                          .map((id) => nameOf.get(id)?.name)
                          .join(', ')}
                        {task.ids.length > 4 ? ' …' : ''}
                      </span>
                    </>
                  ) : (
                    <>
                      <span className="font-semibold">{name}</span>{' '}
                      <span className="text-muted text-[13px]">
                        {task.kind === 'follow-up' ? 'follow-up' : first?.reasons[0]?.head}
                      </span>
                    </>
                  )}
                </span>
                {task.kind === 'batch' ? (
                  <Button small look="main" onClick={() => onWrite(task.ids)}>
                    Look over {task.ids.length} drafts
                  </Button>
                ) : task.kind === 'case' ? (
                  <Button small onClick={() => onOpen(task.ids[0]!)}>
                    Open<span className="sr-only"> {name}</span>
                  </Button>
                ) : (
                  <Link
                    href={`/c/${code}/${followUp?.answered ? 'conversations' : 'students'}/${task.ids[0]!}`}
                    className="text-teal text-[13px] font-semibold hover:underline"
                  >
                    {followUp?.answered ? 'Read the answer' : 'Look'}
                    <span className="sr-only"> at {name}</span>
                  </Link>
                )}
              </li>
            );
          })}
        </ol>
        {waiting > 0 || short.followUpsLater > 0 ? (
          <p className="text-muted mt-1.5 text-[13px]">
            Can wait:{' '}
            {[
              ...short.later.map(
                ({ until, ids }) =>
                  `${counted(ids.length, 'student')} ${until ? `until their class on ${weekdayDay(until)}` : 'until you have more time, as their section does not meet'}`,
              ),
              ...(short.followUpsLater > 0
                ? [`${counted(short.followUpsLater, 'follow-up')} until tomorrow`]
                : []),
            ].join('; ')}
            .
          </p>
        ) : null}
      </section>
    </Panel>
  );
}
