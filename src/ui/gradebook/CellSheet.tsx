'use client';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { cellAction, excuseAction, extendAction, grantAttemptAction } from '@/actions/grading';
import type { GradeAction, ScoreState } from '@/core/gradebook/changes';
import { audienceHref } from '@/core/people/audienceHref';
import { statusSelection } from '@/core/tables/gradeSelection';
import type { LocalDate } from '@/core/units';
import type { CellView, Changed, ChangeView, SeenCell } from '@/core/views/gradebook';
import { Button, buttonClasses } from '../parts/Button';
import { dayAndTime, minutesText, oneDigit, weekdayAndTime } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { Cell, Table } from '../parts/Table';
import { useAct } from '../parts/useAct';
import { ExtendForm } from './ExtendForm';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly cell: SeenCell;
  readonly onClose: () => void;
  readonly onUndo: (batch: string) => void;
}

/** Everything about one student's work: attempts with their minutes, what can be done, and what was done. */
export function CellSheet({ code, zone, today, cell, onClose, onUndo }: Props) {
  const { busy, act } = useAct();
  const [view, setView] = useState<CellView | null>(null);
  const { enrolmentId, activityId } = cell;
  useEffect(() => {
    let gone = false;
    act(() => cellAction({ code, enrolmentId, activityId }), { then: (v) => !gone && setView(v) });
    return () => {
      gone = true;
    };
    // Asked once for the cell that was opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [code, enrolmentId, activityId]);
  const seen = view ? { points: view.state.points, excused: view.state.excused } : cell.seen;
  const change = (action: () => ReturnType<typeof excuseAction>, done: string) =>
    act(action, {
      done: (value: Changed) =>
        value.conflicts.length > 0 ? 'Somebody changed it meanwhile; nothing was changed.' : done,
      undoable: (value) => (value.batch ? () => onUndo(value.batch!) : undefined),
      then: onClose,
    });
  const cells = [{ enrolmentId, activityId, seen }];
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={view ? `${view.student}, ${view.title}` : 'One moment …'}
      description={view ? statusWords(view, zone) : undefined}
    >
      {view == null ? (
        <p role="status" className="text-muted">
          Loading this assignment …
        </p>
      ) : (
        <div className="space-y-4">
          {view.attempts.length > 0 ? (
            <Table
              head={[
                { label: 'Attempt' },
                { label: 'Handed in' },
                { label: 'Minutes', right: true },
                { label: 'Points', right: true },
              ]}
            >
              {view.attempts.map((a) => (
                <tr key={a.number}>
                  <Cell className="py-1">
                    {a.number} {a.note ? <span className="text-muted">{a.note}</span> : null}
                  </Cell>
                  <Cell className="py-1">{weekdayAndTime(a.submitted, zone)}</Cell>
                  <Cell className="py-1 text-right">{oneDigit(a.minutes)}</Cell>
                  <Cell className="py-1 text-right">{a.points ?? 'to grade'}</Cell>
                </tr>
              ))}
            </Table>
          ) : (
            <p>Nothing was handed in.</p>
          )}
          <p className="text-muted text-[13px]">
            {minutesText(view.minutes)} on this assignment in all.{' '}
            {view.attemptsAllowed == null
              ? 'It may be handed in as often as one likes.'
              : `${view.attempts.length} of ${view.attemptsAllowed} attempts used.`}
          </p>
          <div className="flex flex-wrap items-end gap-2">
            <Link
              href={audienceHref(code, statusSelection(activityId, view.status))}
              className={buttonClasses('plain')}
            >
              Audience of this status
            </Link>
            <Button
              disabled={busy}
              onClick={() =>
                change(
                  () => excuseAction({ code, cells, on: !view.state.excused }),
                  view.state.excused ? 'No longer excused.' : 'Excused.',
                )
              }
            >
              {view.state.excused ? 'End the excuse' : 'Excuse'}
            </Button>
            <Button
              disabled={busy || view.attemptsAllowed == null}
              onClick={() =>
                change(() => grantAttemptAction({ code, cells }), 'One more attempt is granted.')
              }
            >
              Grant an attempt
            </Button>
            {view.state.ownDue != null ? (
              <Button
                disabled={busy}
                onClick={() =>
                  change(() => extendAction({ code, cells, due: null }), 'The extension is gone.')
                }
              >
                End the extension
              </Button>
            ) : null}
            <ExtendForm
              today={today}
              zone={zone}
              busy={busy}
              onExtend={(due) => change(() => extendAction({ code, cells, due }), 'Extended.')}
            />
          </div>
          {view.changes.length > 0 ? (
            <section aria-label="History">
              <h3 className="font-semibold">What was changed here</h3>
              <ul className="text-[13px]">
                {view.changes.map((c) => (
                  <li key={c.id} className={c.undone ? 'text-muted line-through' : undefined}>
                    {dayAndTime(c.at, zone)}, {c.by ?? 'somebody who is gone'}: {changeWords(c, zone)}
                  </li>
                ))}
              </ul>
            </section>
          ) : null}
        </div>
      )}
    </Sheet>
  );
}

function statusWords(view: CellView, zone: string): string {
  const due = view.due == null ? 'no due date' : `due ${weekdayAndTime(view.due, zone)}`;
  const own = view.state.ownDue == null ? '' : ' (extended)';
  const grade = view.state.points == null ? '' : `, ${view.state.points} of ${view.maximum}`;
  return `${view.status}${grade}; ${due}${own}`;
}

function changeWords(c: ChangeView, zone: string): string {
  const points = (s: ScoreState) => (s.points == null ? 'no grade' : String(s.points));
  const words: Record<GradeAction, () => string> = {
    grade: () => `${points(c.before)} → ${points(c.after)}`,
    paste: () => `${points(c.before)} → ${points(c.after)}, pasted`,
    excuse: () => (c.after.excused ? 'excused' : 'no longer excused'),
    extend: () =>
      c.after.ownDue == null ? 'extension ended' : `extended to ${dayAndTime(c.after.ownDue, zone)}`,
    'grant attempt': () => 'one more attempt',
    key: () => `${points(c.before)} → ${points(c.after)}, by another key of an item`,
    attempts: () => `${points(c.before)} → ${points(c.after)}, by which attempt counts`,
  };
  return words[c.action]();
}
