'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { addNoteAction, removeNoteAction } from '@/actions/notes';
import { CHECK_STATES, CHECK_WORDS, type CheckState } from '@/core/activity/sessionCheck';
import type { LocalDate } from '@/core/units';
import type { CheckRow, SessionView } from '@/core/views/session';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { Choose } from '../parts/Choose';
import { classes } from '../parts/classes';
import { Definition } from '../parts/Definition';
import { dayAndTime } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';
import { Tick } from '../parts/Tick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { EndSign } from './EndSign';
import { Pieces } from './Pieces';
import { StudentReport } from './StudentReport';

const BACKS = ['15', '30', '60', '90', '180'] as const;
/** The period ends now, so it moves on by itself. */
const MOVE_ON_MS = 60_000;

const LOOK: Record<CheckState, string> = {
  'nothing opened': 'text-plum font-semibold',
  stopped: 'text-ochre font-semibold',
  stuck: 'text-ochre font-semibold',
  'little time': 'text-ochre font-semibold',
  reading: 'text-ink',
  working: 'text-ink',
  done: 'text-teal font-semibold',
};

const ADDRESS = address({ show: 'all', back: null, meeting: null, student: null });

/** For the end of a class or a lab: what each student has worked on, and who needs a word. */
export function SessionCheck({ view }: { readonly view: SessionView }) {
  const { code, zone } = view.course;
  const router = useRouter();
  const { asked, ask, note } = useAddress(ADDRESS);
  const { picked, pick, toggle } = usePick(view);
  useEffect(() => {
    if (!view.running) return;
    const timer = setInterval(() => router.refresh(), MOVE_ON_MS);
    return () => clearInterval(timer);
  }, [router, view.running]);
  const shown = CHECK_STATES.find((s) => s === asked.show) ?? 'all';
  const rows = view.rows.filter((r) => shown === 'all' || r.state === shown);
  const groups = CHECK_STATES.map((state) => ({ state, rows: rows.filter((r) => r.state === state) }));
  const period = `${dayAndTime(view.from, zone)} to ${dayAndTime(view.until, zone).split(', ')[1]}`;
  const about = view.meeting ? `the meeting of ${period}` : `the time from ${period}`;
  if (view.report) return <StudentReport report={view.report} view={view} />;
  return (
    <>
      <ViewHead title={headline(view)}>
        {view.meeting ? `${view.meeting.section}, ` : ''}
        {period}
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} />
      {view.meeting && view.running ? (
        <EndSign code={code} until={view.meeting.until} now={view.scope.now} minutes={view.signMinutes} />
      ) : null}
      <div className="no-print mb-3 flex flex-wrap items-center gap-3">
        <Chips
          label="Period"
          value={view.back == null ? 'meeting' : String(view.back)}
          options={[
            ...(view.meetings.length > 0 ? [{ value: 'meeting', label: 'A meeting' }] : []),
            ...BACKS.map((b) => ({ value: b as string, label: `Last ${b} min` })),
            ...(view.back == null || BACKS.some((b) => b === String(view.back))
              ? []
              : [
                  {
                    value: String(view.back),
                    label: view.back === 1440 ? 'Last 24 h' : `Last ${view.back} min`,
                  },
                ]),
          ]}
          onChange={(back) => ask({ back: back === 'meeting' ? null : back, meeting: null })}
        />
        {view.meetings.length > 0 ? (
          <Choose
            label="Meeting"
            small
            className="w-64"
            placeholder="Choose a meeting"
            value={view.back == null ? String(view.from) : ''}
            options={view.meetings.map((m) => ({
              value: String(m.from),
              label: `${m.section}, ${dayAndTime(m.from, zone)}`,
            }))}
            onChange={(from) => ask({ meeting: from, back: null })}
          />
        ) : null}
        <Button look="quiet" small className="ml-auto" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <div className="no-print mb-3">
        <Chips
          label="Show"
          value={shown}
          options={[
            { value: 'all', label: 'Everyone', count: view.rows.length },
            ...CHECK_STATES.map((value) => ({
              value,
              label: value[0]!.toUpperCase() + value.slice(1),
              count: view.rows.filter((r) => r.state === value).length,
            })),
          ]}
          onChange={(v) => note({ show: v })}
        />
      </div>
      {rows.length === 0 ? (
        <Panel>
          <Nothing title="Nobody here">
            <p>
              {view.rows.length === 0
                ? 'Choose another section, or import the roster.'
                : 'Choose “Everyone”.'}
            </p>
          </Nothing>
        </Panel>
      ) : null}
      {groups
        .filter((g) => g.rows.length > 0)
        .map(({ state, rows: own }) => (
          <section key={state} aria-label={state} className="mb-4">
            <div className="mb-1 flex items-center gap-3">
              <h2 className={classes('font-serif text-lg first-letter:uppercase', LOOK[state])}>
                {state}: {own.length}
              </h2>
              <span className="text-muted text-[13px]">{CHECK_WORDS[state]}</span>
              <Button
                small
                className="ml-auto"
                aria-label={`Select ${own.length}: ${state}`}
                onClick={() =>
                  pick(
                    own.map((r) => r.enrolmentId),
                    `${state} from ${period}`,
                  )
                }
              >
                Select {own.length}
              </Button>
            </div>
            <Panel>
              <ul
                className={
                  state === 'nothing opened'
                    ? 'grid grid-cols-1 gap-x-4 sm:grid-cols-2 xl:grid-cols-3'
                    : 'divide-line divide-y'
                }
              >
                {own.map((row) => (
                  <li key={row.enrolmentId} className="flex gap-x-3 gap-y-1 px-3 py-1.5 max-sm:flex-wrap">
                    <Tick
                      label={`Select ${row.name}`}
                      className="self-start sm:mt-1"
                      checked={picked.has(row.enrolmentId)}
                      onChange={() => toggle(row.enrolmentId, `${state} from ${period}`)}
                    />
                    <span className={state === 'nothing opened' ? 'min-w-0 flex-1' : 'shrink-0 sm:w-52'}>
                      <StudentLink code={code} id={row.enrolmentId} from="session">
                        {row.name}
                      </StudentLink>
                      <span className="text-muted block text-xs">
                        {row.section ?? 'no section'}
                        {state === 'nothing opened'
                          ? `, ${row.loggedIn ? 'logged in, opened nothing' : 'not logged in'}`
                          : ''}
                      </span>
                    </span>
                    {state === 'nothing opened' ? null : (
                      <span className="min-w-0 max-sm:order-last max-sm:basis-full sm:flex-1">
                        <Pieces check={row} />
                      </span>
                    )}
                    <span className="text-muted ml-auto shrink-0 text-right text-[13px] sm:w-36">
                      {row.last == null ? '' : `last ${dayAndTime(row.last, zone).split(', ')[1]}`}
                      <Spoken code={code} row={row} today={view.scope.today} about={`in ${about}`} />
                      <button
                        type="button"
                        className="no-print hover:text-ink block min-h-6 w-full text-right underline"
                        onClick={() => ask({ student: String(row.enrolmentId) })}
                      >
                        other days<span className="sr-only"> of {row.name}</span>
                      </button>
                    </span>
                  </li>
                ))}
              </ul>
            </Panel>
          </section>
        ))}
      <p className="text-muted text-xs">
        How the groups are told apart
        <Definition of="How the groups are told apart">
          {`Judged in this order: done, nothing opened, stopped, stuck, little time, reading, working. ${CHECK_STATES.map((state) => `${state[0]!.toUpperCase()}${state.slice(1)}: ${CHECK_WORDS[state]}`).join(' ')} Minutes are those of the sessions, cut at the ends of the period. How many activities fit: the period over the class median of minutes for their kind.`}
        </Definition>
      </p>
    </>
  );
}

/** One press notes that somebody was talked to or helped. */
function Spoken({ code, row, today, about }: SpokenProps) {
  const { busy, act } = useAct();
  const note = (word: 'Talked' | 'Helped') =>
    act(
      () =>
        addNoteAction({
          code,
          student: row.enrolmentId,
          kind: 'talk',
          on: today,
          followUpOn: null,
          text: `${word} ${about}.`,
        }),
      {
        done: `Noted: ${word === 'Talked' ? 'talked with' : 'helped'} ${row.name}.`,
        undo: (id) =>
          act(() => removeNoteAction({ code, student: row.enrolmentId, note: id }), {
            done: `The note about ${row.name} is removed.`,
          }),
      },
    );
  return (
    <span className="no-print flex justify-end gap-1">
      {(['Talked', 'Helped'] as const).map((word) => (
        <Button
          key={word}
          small
          disabled={busy}
          aria-label={`Note: ${word === 'Talked' ? 'talked with' : 'helped'} ${row.name}`}
          onClick={() => note(word)}
        >
          {word}
        </Button>
      ))}
    </span>
  );
}

interface SpokenProps {
  readonly code: string;
  readonly row: CheckRow;
  readonly today: LocalDate;
  /** When it was, as it stands in the note. */
  readonly about: string;
}

const VERBS: Readonly<Record<CheckState, readonly [one: string, many: string]>> = {
  'nothing opened': ['opened nothing', 'opened nothing'],
  stopped: ['has stopped', 'have stopped'],
  stuck: ['is stuck', 'are stuck'],
  'little time': ['spent little time', 'spent little time'],
  reading: ['is reading', 'are reading'],
  working: ['is at work', 'are at work'],
  done: ['is done', 'are done'],
};

/** "3 opened nothing, 1 is stuck, 20 are at work, 4 are done". */
function headline({ rows, meetings }: SessionView): string {
  if (rows.length === 0) return meetings.length === 0 ? 'No section has met yet' : 'Nobody is in this group';
  const parts = CHECK_STATES.flatMap((state) => {
    const n = rows.filter((r) => r.state === state).length;
    return n === 0 ? [] : [`${n} ${VERBS[state][n === 1 ? 0 : 1]}`];
  });
  return parts.join(', ');
}
