'use client';
import { extendAction, excuseAction } from '@/actions/grading';
import { pickReason } from '@/core/tables/pickReason';
import type { GradebookView, SeenCell } from '@/core/views/gradebook';
import { Button } from '../parts/Button';
import { counted, oneDigit, weekdayAndTime } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { ExtendForm } from './ExtendForm';
import { FILTER_WORDS, FILTERS, gradeMatches, statusAt } from '@/core/tables/gradeFilters';

/** One work for the whole class: pick by status or band, extend for those who miss it, open its page. */
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
  readonly onPick: (students: readonly number[], reason: string) => void;
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
  const whom = chosen.length > 0 ? `the ${chosen.length} picked` : `the ${missing.length} who miss it`;
  const s = column.summary;
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={column.title}
      description={`${column.kind}${column.points == null ? '' : `, ${column.points} points`}, ${column.due == null ? 'no due date' : `due ${weekdayAndTime(column.due, zone)}`}${s ? `; median ${oneDigit(s.median)}, ${s.n} graded` : ''}`}
    >
      <div className="space-y-4">
        <Button look="main" onClick={onOpen}>
          Open its page
        </Button>
        <ul className="space-y-1.5">
          {FILTERS.map((filter) => {
            const who = view.rows.filter((r) => gradeMatches(r, column, place, filter, view.bands));
            if (who.length === 0) return null;
            return (
              <li key={filter} className="flex items-center justify-between gap-3">
                <span>
                  {FILTER_WORDS[filter]}: {counted(who.length, 'student')}
                </span>
                <Button
                  small
                  onClick={() =>
                    onPick(
                      who.map((r) => r.enrolmentId),
                      pickReason(filter, column.title),
                    )
                  }
                >
                  Pick
                </Button>
              </li>
            );
          })}
          <li className="flex items-center justify-between gap-3">
            <span>Everyone in view: {counted(view.rows.length, 'student')}</span>
            <Button
              small
              onClick={() =>
                onPick(
                  view.rows.map((r) => r.enrolmentId),
                  `everyone, about ${column.title}`,
                )
              }
            >
              Pick
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
          </section>
        ) : null}
      </div>
    </Sheet>
  );
}
