'use client';
import Link from 'next/link';
import { useState } from 'react';
import { extendAction, excuseAction, grantAttemptAction } from '@/actions/grading';
import { pickedFor, type Picked } from '@/core/acts/pick';
import { pickOf } from '@/core/tables/pickOf';
import type { GradebookView, SeenCell } from '@/core/views/gradebook';
import { Button, buttonClasses } from '../parts/Button';
import { classes } from '../parts/classes';
import { inputClasses } from '../parts/Field';
import { audienceHref } from '@/core/people/audienceHref';
import { gradeSelection } from '@/core/tables/gradeSelection';
import { cutsFor } from '@/core/gradebook/bands';
import { counted, oneDigit, weekdayAndTime } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { ExtendForm } from './ExtendForm';
import { FILTER_WORDS, FILTERS, gradeMatches, statusAt } from '@/core/tables/gradeFilters';

/** One assignment for the whole class: select by status or band, extend for those who miss it, open its page. */
export function ColumnSheet({
  view,
  place,
  onClose,
  onPick,
  onOpen,
  onUndo,
}: {
  readonly view: GradebookView;
  readonly place: number;
  readonly onClose: () => void;
  readonly onPick: (students: readonly number[], why: Picked) => void;
  readonly onOpen: () => void;
  readonly onUndo: (batch: string) => void;
}) {
  const { busy, act } = useAct();
  const column = view.columns[place]!;
  const { code, zone } = view.course;
  const missing = view.rows.filter((r) => statusAt(r, place) === 'missing');
  const chosen = view.rows.filter((r) => view.tray.includes(r.enrolmentId));
  const seen = (r: (typeof view.rows)[number]): SeenCell => ({
    enrolmentId: r.enrolmentId,
    activityId: column.id,
    seen: { points: r.points[place] ?? null, excused: statusAt(r, place) === 'excused' },
  });
  const target = chosen.length > 0 ? chosen : missing;
  const whom = chosen.length > 0 ? `the ${chosen.length} selected` : `the ${missing.length} who miss it`;
  const s = column.summary;
  const [limit, setLimit] = useState(() =>
    String(Math.round(((column.points ?? 0) * cutsFor(view.bands, column.kind).low) / 100)),
  );
  const below =
    limit === ''
      ? []
      : view.rows.filter(
          (r) => statusAt(r, place) === 'graded' && (r.points[place] ?? Infinity) < Number(limit),
        );
  const narrow = audienceHref(
    code,
    column.points == null
      ? { all: [{ measure: `status:${column.id}`, is: 'in', value: ['missing'] }] }
      : { all: [{ measure: `score:${column.id}`, is: '<', value: Number(limit) }] },
  );
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={column.title}
      description={`${column.kind}${column.points == null ? '' : `, ${column.points} points`}, ${column.due == null ? 'no due date' : `due ${weekdayAndTime(column.due, zone)}`}${s ? `; median ${oneDigit(s.median)}, ${s.n} graded` : ''}`}
    >
      <div className="space-y-4">
        <div className="flex flex-wrap gap-2">
          <Button look="main" onClick={onOpen}>
            Open its page
          </Button>
          <Link href={narrow} className={buttonClasses('plain')}>
            Build an audience from this
          </Link>
        </div>
        <ul className="space-y-1.5">
          {FILTERS.map((filter) => {
            const who = view.rows.filter((r) => gradeMatches(r, column, place, filter, view.bands));
            if (who.length === 0) return null;
            return (
              <li key={filter} className="flex items-center justify-between gap-3">
                <span>
                  {FILTER_WORDS[filter]}: {counted(who.length, 'student')}
                </span>
                <span className="flex items-center gap-2">
                  <Link
                    href={audienceHref(code, gradeSelection(filter, column, view.bands))}
                    className={buttonClasses('quiet', undefined, true)}
                  >
                    Audience<span className="sr-only">: {FILTER_WORDS[filter]}</span>
                  </Link>
                  <Button
                    small
                    onClick={() =>
                      onPick(
                        who.map((r) => r.enrolmentId),
                        pickOf(filter, column),
                      )
                    }
                  >
                    Select
                  </Button>
                </span>
              </li>
            );
          })}
          {column.points == null ? null : (
            <li className="flex items-center justify-between gap-3">
              <label className="flex items-center gap-1.5">
                Under
                <input
                  type="number"
                  min={0}
                  max={column.points}
                  step="any"
                  value={limit}
                  onChange={(e) => setLimit(e.target.value)}
                  className={classes(inputClasses, 'max-w-18 py-0.5')}
                />
                of {column.points}: {counted(below.length, 'student')}
              </label>
              <Button
                small
                disabled={below.length === 0}
                onClick={() =>
                  onPick(
                    below.map((r) => r.enrolmentId),
                    pickedFor(
                      `under ${limit} of ${column.points} on ${column.title}`,
                      'low score',
                      column.id,
                    ),
                  )
                }
              >
                Select
              </Button>
            </li>
          )}
          <li className="flex items-center justify-between gap-3">
            <span>Everyone in view: {counted(view.rows.length, 'student')}</span>
            <Button
              small
              onClick={() =>
                onPick(
                  view.rows.map((r) => r.enrolmentId),
                  pickedFor(`everyone, about ${column.title}`, 'other', column.id),
                )
              }
            >
              Select
            </Button>
          </li>
        </ul>
        {target.length > 0 ? (
          <section aria-label="Change for several" className="border-line space-y-2 border-t pt-3">
            <h3 className="font-semibold">For {whom}</h3>
            <ExtendForm
              today={view.scope.today}
              zone={zone}
              busy={busy}
              onExtend={(due) =>
                act(() => extendAction({ code, cells: target.map(seen), due }), {
                  done: (v) => `Extended for ${counted(v.changed, 'student')}.`,
                  undoable: (v) => (v.batch ? () => onUndo(v.batch!) : undefined),
                  then: onClose,
                })
              }
            />
            <Button
              disabled={busy}
              onClick={() =>
                act(() => excuseAction({ code, cells: target.map(seen), on: true }), {
                  done: (v) => `${counted(v.changed, 'student')} excused.`,
                  undoable: (v) => (v.batch ? () => onUndo(v.batch!) : undefined),
                  then: onClose,
                })
              }
            >
              Excuse {target.length}
            </Button>
            <Button
              disabled={busy}
              onClick={() =>
                act(() => grantAttemptAction({ code, cells: target.map(seen) }), {
                  done: (v) => `One more attempt for ${counted(v.changed, 'student')}.`,
                  undoable: (v) => (v.batch ? () => onUndo(v.batch!) : undefined),
                  then: onClose,
                })
              }
            >
              One more attempt for {target.length}
            </Button>
          </section>
        ) : null}
      </div>
    </Sheet>
  );
}
