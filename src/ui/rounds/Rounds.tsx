'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import { keepPlaceAction, markSeenAction, putOffAction, undoMarkAction } from '@/actions/rounds';
import { pickedFor, type Picked } from '@/core/acts/pick';
import { PRIORITY_RULE } from '@/core/flags/priority';
import type { QueueRow, RoundFilter, RoundsView } from '@/core/views/rounds';
import { ROUND_FILTERS } from '@/core/views/rounds';
import { Brief } from '../brief/Brief';
import { FollowUps } from '../followUp/FollowUps';
import { Button, buttonClasses } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { classes } from '../parts/classes';
import { counted, shortDay, weekdayDay } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useKeys } from '../parts/useKeys';
import { usePick, type Picks } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { withScope } from '../ribbon/withScope';
import { QueueList } from './QueueList';
import { ShortOfTime } from './ShortOfTime';

const PutOffSheet = dynamic(() => import('./AnswerSheets').then((m) => m.PutOffSheet));
const TalkSheet = dynamic(() => import('../talks/TalkSheet').then((m) => m.TalkSheet));
const FeedNotices = dynamic(() => import('../feeds/FeedNotices').then((m) => m.FeedNotices));
const Words = dynamic(() => import('../rules/Words').then((m) => m.Words));
const SeenSheet = dynamic(() => import('./AnswerSheets').then((m) => m.SeenSheet));

const LABELS: Record<RoundFilter, string> = {
  all: 'All',
  'not seen': 'Not seen',
  behind: 'Behind',
  'low standing': 'Low standing',
  slipping: 'Slipping',
  'low time': 'Low time',
  'effort without progress': 'Effort, no progress',
  answered: 'Handled',
  everyone: 'Everyone',
};

/** How long somebody has between two classes. */
const MINUTES = [5, 10, 20];

/** Why a student is selected from a filtered list. */
function pickFor(filter: RoundFilter, row: QueueRow): Picked {
  const about =
    filter !== 'all' && filter !== 'answered' && filter !== 'everyone' ? filter : row.reasons[0]?.kind;
  return about ? pickedFor(LABELS[about].toLowerCase(), about) : pickedFor('selected in Rounds');
}

/** Those of one reason together. */
function merged(all: readonly Picks[], next: Picks): readonly Picks[] {
  const same = all.find((p) => p.reason === next.reason);
  return same
    ? all.map((p) => (p === same ? { ...p, students: [...p.students, ...next.students] } : p))
    : [...all, next];
}

/** The regular review, student by student, of who needs something now. */
export function Rounds({ view }: { readonly view: RoundsView }) {
  const { code } = view.course;
  const router = useRouter();
  const address = useSearchParams();
  const { busy, act } = useAct();
  const [moving, startMoving] = useTransition();
  const [sheet, setSheet] = useState<'put off' | 'seen' | 'talk' | null>(null);
  const { picked, pickAll, drop, busy: picking } = usePick(view);
  const index = view.rows.findIndex((r) => r.enrolmentId === view.selected);
  const current = view.rows[index] ?? null;
  const last = view.rows.length - 1;
  const waiting = view.counts.all;
  const { selected, filter, isKept } = view;

  useEffect(() => {
    // A place that is not kept costs one key at the next visit: nobody needs to hear of it.
    if (!isKept) void keepPlaceAction({ code, student: selected, filter }).catch(() => undefined);
  }, [code, selected, filter, isKept]);

  const go = (student: number | null, show: RoundFilter = view.filter) =>
    startMoving(() => {
      const query = new URLSearchParams({
        show,
        ...(student == null ? {} : { student: String(student) }),
        ...(view.short ? { min: String(view.short.asked) } : {}),
      });
      router.replace(withScope(`/c/${code}/rounds?${query}`, address), { scroll: false });
    });
  /** Cuts what waits to so many minutes; to nothing where that is pressed again. */
  const has = (minutes: string | null) =>
    startMoving(() => {
      const query = new URLSearchParams({ show: view.filter, ...(minutes ? { min: minutes } : {}) });
      router.replace(withScope(`/c/${code}/rounds?${query}`, address), { scroll: false });
    });
  const step = (by: number) => {
    const next = view.rows[Math.min(view.rows.length - 1, Math.max(0, index + by))];
    if (next && next.enrolmentId !== view.selected) go(next.enrolmentId);
  };
  /** After an answer the next in the queue comes up. */
  const onwards = () => go((view.rows[index + 1] ?? view.rows[index - 1])?.enrolmentId ?? null);
  const undo = (mark: number) =>
    act(() => undoMarkAction({ code, mark }), {
      done: `${current?.name ?? 'The student'} is back in the queue.`,
      then: () => go(view.selected),
    });
  const pick = (rows: readonly QueueRow[]) =>
    void pickAll(
      rows.map((row) => ({ ...pickFor(view.filter, row), students: [row.enrolmentId] })).reduce(merged, []),
    );
  /** Writes to the open student, whoever is selected. */
  const compose = (plan: boolean) => {
    if (current) router.push(`/c/${code}/compose?student=${current.enrolmentId}${plan ? '&plan=1' : ''}`);
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
    n: () => current && setSheet('talk'),
    t: () => {
      if (!current) return;
      if (picked.has(current.enrolmentId)) drop([current.enrolmentId]);
      else pick([current]);
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
      <ViewHead
        title={headline(view)}
        aside={
          <span className="flex items-center gap-2">
            <span className="text-muted text-[13px]">I have</span>
            <Chips
              label="How long you have"
              value={String(view.short?.asked ?? '')}
              options={MINUTES.map((m) => ({ value: String(m), label: `${m} min` }))}
              onChange={(m) => has(m)}
              onAgain={() => has(null)}
            />
          </span>
        }
      >
        {subline(view)}
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} days={false} />
      {view.short ? (
        <ShortOfTime
          code={code}
          short={view.short}
          label={(kind) => LABELS[kind]}
          onOpen={(id) => go(id)}
          onWrite={(ids) =>
            void pickAll(
              view
                .short!.rows.filter((r) => ids.includes(r.enrolmentId))
                .map((row) => ({ ...pickFor('all', row), students: [row.enrolmentId] }))
                .reduce(merged, []),
              { alone: true, then: () => router.push(`/c/${code}/compose?plan=1`) },
            )
          }
        />
      ) : (
        <FollowUps code={code} today={view.today} {...view.followUps} />
      )}
      {view.feeds.length > 0 ? (
        <div className="mb-3">
          <FeedNotices code={code} zone={view.course.zone} notices={view.feeds} />
        </div>
      ) : null}
      {view.words.length > 0 || view.waitingForYes > 0 ? (
        <div className="mb-3">
          <Words frame={view} lines={view.words} waiting={view.waitingForYes} />
        </div>
      ) : null}
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[minmax(19rem,23.5rem)_minmax(0,1fr)]">
        <section aria-label="Who waits" className="space-y-2">
          <div role="group" aria-label="Show" className="flex flex-wrap gap-1.5">
            {ROUND_FILTERS.filter((f) => view.counts[f] > 0 || f === 'all' || f === view.filter).map((f) => (
              <button
                key={f}
                type="button"
                aria-pressed={f === view.filter}
                onClick={() => go(null, f)}
                className={classes(
                  'rounded-md border px-2 py-0.5 text-[13px] max-sm:px-3',
                  f === view.filter
                    ? 'border-ink bg-panel text-ink'
                    : 'border-line bg-panel text-muted hover:border-ink',
                )}
              >
                {LABELS[f]} <span className="text-ink font-semibold">{view.counts[f]}</span>
              </button>
            ))}
          </div>
          {filterWords(view) ? (
            <p className="text-[13px]" role="status">
              {filterWords(view)}{' '}
              <Link
                href={withScope(`/c/${code}/rounds?g=all`, new URLSearchParams())}
                className="text-teal font-semibold underline"
              >
                Show all
              </Link>
            </p>
          ) : null}
          {view.rows.length > 0 ? (
            <>
              <div className="flex items-center justify-between text-[13px]">
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="accent-teal size-4"
                    checked={allPicked}
                    disabled={picking}
                    onChange={() => (allPicked ? drop(view.rows.map((r) => r.enrolmentId)) : pick(view.rows))}
                  />
                  Select all {view.rows.length}
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
                onPick={(r, on) => (on ? pick([r]) : drop([r.enrolmentId]))}
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
              <div className="border-line bg-panel no-print sticky bottom-0 z-10 mt-3 -mb-4 flex flex-wrap items-center gap-1 border-t py-3 max-sm:gap-1.5">
                <Button look="main" hotkey="m" onClick={() => compose(false)}>
                  Message<span className="sr-only"> {view.brief.student.given}</span>
                </Button>
                <Button hotkey="p" onClick={() => compose(true)}>
                  With plan
                </Button>
                <Button hotkey="d" disabled={!answerable} onClick={() => setSheet('put off')}>
                  Put off
                </Button>
                <Button hotkey="x" disabled={!answerable} onClick={() => setSheet('seen')}>
                  Seen
                </Button>
                <Button hotkey="n" onClick={() => setSheet('talk')}>
                  Talk
                </Button>
                <span className="ml-auto flex items-center">
                  <Button
                    small
                    look="quiet"
                    className="px-1! max-sm:px-3!"
                    hotkey="j"
                    disabled={index >= last}
                    onClick={() => step(1)}
                  >
                    Next
                  </Button>
                  <Button
                    small
                    look="quiet"
                    className="px-1! max-sm:px-3!"
                    hotkey="k"
                    disabled={index <= 0}
                    onClick={() => step(-1)}
                  >
                    Back
                  </Button>
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
      {sheet === 'talk' && current ? (
        <TalkSheet code={code} today={view.today} student={current} onClose={() => setSheet(null)} />
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
      ? 'Everyone who needed something is handled'
      : 'Nobody needs anything now';
  }
  return `${all} of ${counted(view.students, 'student')} ${all === 1 ? 'needs' : 'need'} something now`;
}

function subline(view: RoundsView): string {
  const { all, answered } = view.counts;
  const old = view.stale
    ? ` There is ${view.stale}: flags about logins and time stay as they were, and none opens.`
    : '';
  if (all === 0) return `${doneWords(view)}${old}`;
  const since = view.lastRound ? `since the round of ${weekdayDay(view.lastRound)}` : 'in the last 7 days';
  const fresh =
    view.newOnes > 0
      ? `${view.newOnes} ${view.newOnes === 1 ? 'is' : 'are'} new ${since}`
      : `Nobody is new ${since}`;
  const done = answered > 0 ? ` · ${answered} handled` : '';
  return `${fresh} · about ${counted(Math.max(1, Math.round(all * 0.75)), 'minute')}${done}${old && `.${old}`}`;
}

/** What a filter or a group hides, in words; empty if it hides nobody who needs something. */
function filterWords(view: RoundsView): string {
  const hidden = view.counts.all - (view.filter === 'everyone' ? view.counts.all : view.counts[view.filter]);
  const parts = [
    ...(view.filter === 'answered' ? [`${counted(view.counts.all, 'student')} still waiting`] : []),
    ...(view.filter !== 'answered' && hidden > 0 ? [`${hidden} with other reasons`] : []),
    ...(view.elsewhere > 0 ? [`${view.elsewhere} outside ${view.group ?? 'the group'}`] : []),
  ];
  return parts.length === 0 ? '' : `Not shown here: ${parts.join(', ')}.`;
}

function doneWords(view: RoundsView): string {
  const { answered } = view.counts;
  const next = view.nextReturn ? ` The first of them comes back on ${weekdayDay(view.nextReturn)}.` : '';
  return answered > 0
    ? `${counted(answered, 'student')} handled.${next}`
    : `All ${view.students} students are inside every threshold.`;
}
