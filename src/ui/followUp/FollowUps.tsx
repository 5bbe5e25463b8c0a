'use client';
import Link from 'next/link';
import { closeAgreementAction, closeFollowUpAction, moveFollowUpAction } from '@/actions/followUps';
import { KEPT } from '@/core/acts/agreement';
import { addDays } from '@/core/calendar/zone';
import { counted, firstLine, shortDay, weekdayDay } from '@/core/format';
import type { LocalDate } from '@/core/units';
import type { FollowUpLine } from '@/core/views/followUp';
import { Button } from '../parts/Button';
import { Menu } from '../parts/Menu';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { ACT_WORDS } from './actWords';
import { happenedWords } from './happenedWords';

interface Props {
  readonly code: string;
  readonly today: LocalDate;
  readonly lines: readonly FollowUpLine[];
  readonly more: number;
}

/** What is due to be looked at again, with what has happened since: one press closes it, or sets another day. */
export function FollowUps({ code, today, lines, more }: Props) {
  if (lines.length === 0) return null;
  return (
    <Panel className="mb-3 p-3">
      <section aria-label="Follow up today">
        <p className="mb-1 font-semibold">
          {counted(lines.length + more, 'follow-up')} {lines.length + more === 1 ? 'is' : 'are'} due
        </p>
        <ul className="divide-line divide-y">
          {lines.map((line) => (
            <Line key={line.actId} code={code} today={today} line={line} />
          ))}
        </ul>
        {more > 0 ? (
          <p className="text-muted mt-1 text-[13px]">{more} more come up as you close these.</p>
        ) : null}
      </section>
    </Panel>
  );
}

function Line({
  code,
  today,
  line,
}: {
  readonly code: string;
  readonly today: LocalDate;
  readonly line: FollowUpLine;
}) {
  const { busy, act } = useAct();
  const again = (on: LocalDate) =>
    act(() => moveFollowUpAction({ code, id: line.actId, on }), {
      done: `${line.name} comes up again ${weekdayDay(on)}.`,
    });
  const close = () =>
    act(() => closeFollowUpAction({ code, id: line.actId, closed: true }), {
      done: `The follow-up with ${line.name} is closed.`,
      undo: () =>
        act(() => closeFollowUpAction({ code, id: line.actId, closed: false }), {
          done: 'The follow-up is open again.',
        }),
    });
  const { agreement } = line;
  return (
    <li className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1 py-1.5">
      <div className="min-w-0 flex-1 basis-96 text-[13px]">
        <Link
          href={`/c/${code}/students/${line.enrolmentId}`}
          className="text-teal text-sm font-semibold hover:underline"
        >
          {line.name}
        </Link>{' '}
        <span className="text-muted">
          {agreement ? 'Agreed' : ACT_WORDS[line.kind]} {shortDay(line.on)}
          {line.own ? '' : `, ${line.by}`}
          {line.due < today ? `, due since ${shortDay(line.due)}` : ''}
        </span>
        <p className="truncate">
          {agreement
            ? `${agreement.goal}. First step: ${agreement.step}${agreement.said ? `. “${agreement.said}”` : ''}`
            : firstLine(line.about, 140)}
        </p>
        <p className="text-muted truncate">
          {line.answered ? <span className="text-ink">“{firstLine(line.answered, 120)}” </span> : null}
          {happenedWords(line)}
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-1">
        {agreement ? (
          KEPT.map((as) => (
            <Button
              key={as}
              small
              disabled={busy}
              onClick={() =>
                act(() => closeAgreementAction({ code, id: agreement.id, as }), {
                  done: `What you agreed with ${line.name}: ${as}.`,
                  undo: () =>
                    act(() => closeAgreementAction({ code, id: agreement.id, as: null }), {
                      done: 'It is open again.',
                    }),
                })
              }
            >
              {as === 'kept' ? 'Kept' : as === 'in part' ? 'In part' : 'Not kept'}
            </Button>
          ))
        ) : (
          <Button small disabled={busy} onClick={close}>
            Done
          </Button>
        )}
        <Menu
          label="Look again"
          items={[1, 3, 7, 14].map((days) => ({
            label: weekdayDay(addDays(today, days)),
            onSelect: () => again(addDays(today, days)),
          }))}
        />
        {line.answered ? (
          <Link
            href={`/c/${code}/conversations/${line.enrolmentId}`}
            className="text-teal px-1 text-[13px] underline"
          >
            Read and write back
          </Link>
        ) : null}
      </div>
    </li>
  );
}
