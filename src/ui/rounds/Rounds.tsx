'use client';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useOptimistic, useState, useTransition } from 'react';
import { keepPlaceAction, markSeenAction, putOffAction, undoMarkAction } from '@/actions/rounds';
import { dropAction, pickAction } from '@/actions/tray';
import { PRIORITY_RULE } from '@/core/flags/priority';
import type { QueueRow, RoundFilter, RoundsView } from '@/core/views/rounds';
import { ROUND_FILTERS } from '@/core/views/rounds';
import { Brief } from '../brief/Brief';
import { Button, buttonClasses, Key } from '../parts/Button';
import { classes } from '../parts/classes';
import { counted, shortDay, weekdayDay } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useKeys } from '../parts/useKeys';
import { ScopeBar } from '../ribbon/ScopeBar';
import { withScope } from '../ribbon/useQuery';
import { PutOffSheet, SeenSheet } from './AnswerSheets';
import { QueueList } from './QueueList';

const LABELS: Record<RoundFilter, string> = {
  all: 'All',
  'not seen': 'Not seen',
  behind: 'Behind',
  'low standing': 'Low standing',
  slipping: 'Slipping',
  'low time': 'Low time',
  'effort without progress': 'Effort, no progress',
  answered: 'Answered',
  everyone: 'Everyone',
};

/** Why a student is picked from a filtered list. */
function pickReason(filter: RoundFilter, row: QueueRow): string {
  if (filter !== 'all' && filter !== 'answered' && filter !== 'everyone') return LABELS[filter].toLowerCase();
  return row.reasons[0] ? LABELS[row.reasons[0].kind].toLowerCase() : 'picked from the list';
}

/** The regular review, student by student, of who needs something now. */
export function Rounds({ view }: { readonly view: RoundsView }) {
  const { code } = view.course;
  const router = useRouter();
  const address = useSearchParams();
  const { busy, act } = useAct();
  const [moving, startMoving] = useTransition();
  const [sheet, setSheet] = useState<'put off' | 'seen' | null>(null);
  const [picked, showPicked] = useOptimistic(
    new Set(view.tray) as ReadonlySet<number>,
    (now, { students, on }: { students: readonly number[]; on: boolean }) =>
      new Set(on ? [...now, ...students] : [...now].filter((id) => !students.includes(id))),
  );
  const index = view.rows.findIndex((r) => r.enrolmentId === view.selected);
  const current = view.rows[index] ?? null;
  const waiting = view.counts.all;
  const { selected, filter, isKept } = view;

  useEffect(() => {
    // A place that is not kept costs one key at the next visit: nobody needs to hear of it.
    if (!isKept) void keepPlaceAction({ code, student: selected, filter }).catch(() => undefined);
  }, [code, selected, filter, isKept]);

  const go = (student: number | null, show: RoundFilter = view.filter) =>
    startMoving(() => {
      const query = new URLSearchParams({ show, ...(student == null ? {} : { student: String(student) }) });
      router.replace(withScope(`/c/${code}/rounds?${query}`, address), { scroll: false });
    });
  const step = (by: number) => {
    const next = view.rows[Math.min(view.rows.length - 1, Math.max(0, index + by))];
    if (next && next.enrolmentId !== view.selected) go(next.enrolmentId);
  };
  /** After an answer the next in the queue comes up. */
  const onwards = () => go((view.rows[index + 1] ?? view.rows[index - 1])?.enrolmentId ?? null);
  const undo = (mark: number) =>
    act(() => undoMarkAction({ code, mark }), { done: 'Taken back.', then: () => go(view.selected) });
  const pick = (rows: readonly QueueRow[], reason: (row: QueueRow) => string) => {
    const byReason = new Map<string, number[]>();
    for (const row of rows)
      byReason.set(reason(row), [...(byReason.get(reason(row)) ?? []), row.enrolmentId]);
    act(async () => {
      showPicked({ students: rows.map((r) => r.enrolmentId), on: true });
      for (const [why, students] of byReason) {
        const outcome = await pickAction({ code, students, reason: why });
        if (!outcome.ok) return outcome;
      }
      return { ok: true, value: null };
    });
  };
  const drop = (students: number[]) =>
    act(async () => {
      showPicked({ students, on: false });
      return dropAction({ code, students });
    });
  const compose = (plan: boolean) => {
    if (picked.size > 0) router.push(`/c/${code}/compose${plan ? '?plan=1' : ''}`);
    else if (current)
      router.push(`/c/${code}/compose?student=${current.enrolmentId}${plan ? '&plan=1' : ''}`);
  };
  const answerable = current != null && current.level !== 'steady';

  useKeys({
    j: () => step(1),
    k: () => step(-1),
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
    o: () => current && router.push(`/c/${code}/students/${current.enrolmentId}`),
    m: () => compose(false),
    p: () => compose(true),
    d: () => answerable && setSheet('put off'),
    x: () => answerable && setSheet('seen'),
    t: () => {
      if (!current) return;
      if (picked.has(current.enrolmentId)) drop([current.enrolmentId]);
      else pick([current], (r) => pickReason(view.filter, r));
    },
  });

  if (view.course.dataUntil == null && view.students === 0) {
    return (
      <>
        <ViewHead title={`Nothing is known of ${view.course.title} yet`} />
        <Panel>
          <Nothing title="Bring in the course’s records">
            <p>Import the roster, the activities, the gradebook and the events, in one go or one by one.</p>
            <Link href={`/c/${code}/import`} className={buttonClasses('main')}>
              Import files
            </Link>
          </Nothing>
        </Panel>
      </>
    );
  }
  const allPicked = view.rows.length > 0 && view.rows.every((r) => picked.has(r.enrolmentId));
  return (
    <>
      <ViewHead title={headline(view)}>{subline(view)}</ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} />
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(19rem,23.5rem)_minmax(0,1fr)]">
        <section aria-label="Who waits" className="space-y-2">
          <div role="group" aria-label="Show" className="flex flex-wrap gap-1.5">
            {ROUND_FILTERS.filter((f) => view.counts[f] > 0 || f === 'all' || f === view.filter).map((f) => (
              <button
                key={f}
                type="button"
                aria-pressed={f === view.filter}
                onClick={() => go(null, f)}
                className={classes(
                  'rounded-md border px-2 py-0.5 text-[13px]',
                  f === view.filter
                    ? 'border-ink bg-panel text-ink'
                    : 'border-line bg-panel text-muted hover:border-ink',
                )}
              >
                {LABELS[f]} <span className="text-ink font-semibold">{view.counts[f]}</span>
              </button>
            ))}
          </div>
          {view.rows.length > 0 ? (
            <>
              <div className="flex items-center justify-between text-[13px]">
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="accent-teal size-4"
                    checked={allPicked}
                    disabled={busy}
                    onChange={() =>
                      allPicked
                        ? drop(view.rows.map((r) => r.enrolmentId))
                        : pick(view.rows, (r) => pickReason(view.filter, r))
                    }
                  />
                  Pick all {view.rows.length}
                </label>
                <details className="text-muted relative text-right">
                  <summary className="hover:text-ink">Why this order</summary>
                  <p className="border-line bg-panel text-ink absolute right-0 z-10 mt-1 w-72 rounded-md border p-3 text-left shadow-lg">
                    {PRIORITY_RULE}
                  </p>
                </details>
              </div>
              <QueueList
                rows={view.rows}
                selected={view.selected}
                picked={picked}
                onSelect={(r) => go(r.enrolmentId)}
                onPick={(r, on) =>
                  on ? pick([r], (x) => pickReason(view.filter, x)) : drop([r.enrolmentId])
                }
              />
            </>
          ) : (
            <Panel>
              <Nothing title={waiting === 0 ? 'The round is done' : 'Nobody here'}>
                <p>
                  {waiting === 0 ? doneWords(view) : 'Nobody stands under this reason. Choose another above.'}
                </p>
              </Nothing>
            </Panel>
          )}
        </section>
        <Panel className={classes('p-4 transition-opacity', moving && 'opacity-60')}>
          {view.brief ? (
            <>
              <Brief
                brief={view.brief}
                code={code}
                aside={
                  <div className="text-muted shrink-0 text-right text-[13px]">
                    {index >= 0 ? `${index + 1} of ${view.rows.length}` : ''}
                    {answerable && index >= 0 && view.filter === 'all' ? <br /> : null}
                    {answerable && index >= 0 && view.filter === 'all' ? `priority ${index + 1}` : null}
                  </div>
                }
              />
              <div className="border-line bg-panel no-print sticky bottom-0 z-10 mt-3 -mb-4 flex flex-wrap items-center gap-2 border-t py-3">
                <Button look="main" hotkey="m" onClick={() => compose(false)}>
                  {picked.size > 0 ? `Message ${picked.size} picked` : 'Message'}
                </Button>
                <Button hotkey="p" onClick={() => compose(true)}>
                  Study plan
                </Button>
                <Button hotkey="d" disabled={!answerable} onClick={() => setSheet('put off')}>
                  Put off
                </Button>
                <Button hotkey="x" disabled={!answerable} onClick={() => setSheet('seen')}>
                  Seen
                </Button>
                <span className="text-muted ml-auto flex items-center gap-1.5 text-[13px]">
                  next <Key>j</Key> back <Key>k</Key> keys <Key>?</Key>
                </span>
              </div>
            </>
          ) : (
            <Nothing title="Nobody is chosen">
              <p>{waiting === 0 ? doneWords(view) : 'Choose a student on the left.'}</p>
              <Button onClick={() => go(null, 'everyone')}>Show everyone in the course</Button>
            </Nothing>
          )}
        </Panel>
      </div>
      {sheet === 'put off' && current ? (
        <PutOffSheet
          name={current.name}
          today={view.today}
          busy={busy}
          onClose={() => setSheet(null)}
          onPutOff={(until) =>
            act(() => putOffAction({ code, student: current.enrolmentId, until }), {
              done: `${current.name} comes back on ${shortDay(until)}.`,
              undo,
              then: () => {
                setSheet(null);
                onwards();
              },
            })
          }
        />
      ) : null}
      {sheet === 'seen' && current ? (
        <SeenSheet
          name={current.name}
          busy={busy}
          onClose={() => setSheet(null)}
          onSeen={(reason) =>
            act(() => markSeenAction({ code, student: current.enrolmentId, reason }), {
              done: `${current.name} is marked as seen.`,
              undo,
              then: () => {
                setSheet(null);
                onwards();
              },
            })
          }
        />
      ) : null}
    </>
  );
}

function headline(view: RoundsView): string {
  const { all } = view.counts;
  if (all === 0) {
    return view.counts.answered > 0
      ? 'Everyone who needed something has an answer'
      : 'Nobody needs anything now';
  }
  return `${all} of ${counted(view.students, 'student')} ${all === 1 ? 'needs' : 'need'} something now`;
}

function subline(view: RoundsView): string {
  const { all, answered } = view.counts;
  if (all === 0) return doneWords(view);
  const since = view.lastRound ? `since the round of ${weekdayDay(view.lastRound)}` : 'in the last 7 days';
  const fresh =
    view.newOnes > 0
      ? `${view.newOnes} ${view.newOnes === 1 ? 'is' : 'are'} new ${since}`
      : `Nobody is new ${since}`;
  const done = answered > 0 ? ` · ${answered} answered` : '';
  return `${fresh} · about ${counted(Math.max(1, Math.round(all * 0.75)), 'minute')}${done}`;
}

function doneWords(view: RoundsView): string {
  const { answered } = view.counts;
  const next = view.nextReturn ? ` The first of them comes back on ${weekdayDay(view.nextReturn)}.` : '';
  return answered > 0
    ? `${counted(answered, 'student')} answered.${next}`
    : `All ${view.students} students are inside every threshold.`;
}
