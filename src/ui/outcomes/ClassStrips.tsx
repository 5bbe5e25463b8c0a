'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { pickedFor } from '@/core/acts/pick';
import { counted, listed } from '@/core/format';
import type { OutcomeStanding } from '@/core/outcomes/classByOutcome';
import { MASTERY_LEVELS, type MasteryLevel } from '@/core/outcomes/mastery';
import type { OutcomeRow, OutcomesView } from '@/core/views/outcomes';
import { Button } from '../parts/Button';
import { classes } from '../parts/classes';
import { inputClasses } from '../parts/Field';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { TickStrip, type Stretch } from './TickStrip';

const OutcomeItems = dynamic(() => import('./OutcomeItems'));

/** Whom somebody looks at: those at a level, or those in a stretch of the scale. */
type Chosen = { readonly outcome: number } & (
  | { readonly level: MasteryLevel; readonly stretch?: undefined }
  | { readonly stretch: Stretch; readonly level?: undefined }
);

const inIt = (row: OutcomeRow, { outcome, level, stretch }: Chosen): boolean => {
  const cell = row.cells[outcome];
  if (level) return (cell?.level ?? 'too little data') === level;
  // Where a tick stands is what was swept over, whatever is known beside it.
  return cell != null && 100 * cell.mean >= stretch[0] && 100 * cell.mean <= stretch[1];
};

/** Where the class stands with each outcome: a tick a student, and the counts in words. */
export function ClassStrips({ view }: { readonly view: OutcomesView }) {
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [opened, setOpened] = useState<readonly number[]>([]);
  const parentOf = new Map(view.outcomes.map((o) => [o.id, o.parentId]));
  const hasParts = (id: number) => view.outcomes.some((o) => o.parentId === id);
  // Parts stand below what they are part of, once that is opened.
  const shown = (
    list: readonly OutcomeStanding[],
    parent: number | null,
    depth: number,
  ): [OutcomeStanding, number][] =>
    list
      .filter((o) => o.taught && (parent == null ? isTop(o) : o.parentId === parent))
      .flatMap((o) => [
        [o, depth] as [OutcomeStanding, number],
        ...(opened.includes(o.id) ? shown(list, o.id, depth + 1) : []),
      ]);
  const isTop = (o: OutcomeStanding) => o.parentId == null || !parentOf.has(o.parentId);
  return (
    <ul aria-label="The class by outcome">
      {shown(view.outcomes, null, 0).map(([o, depth]) => (
        <li key={o.id} className="border-line border-t py-1.5 first:border-t-0">
          <Strip
            view={view}
            outcome={o}
            depth={depth}
            chosen={chosen?.outcome === o.id ? chosen : null}
            onChoose={setChosen}
            opens={hasParts(o.id) ? opened.includes(o.id) : null}
            onOpen={() =>
              setOpened(opened.includes(o.id) ? opened.filter((id) => id !== o.id) : [...opened, o.id])
            }
          />
        </li>
      ))}
    </ul>
  );
}

function Strip({
  view,
  outcome: o,
  depth,
  chosen,
  onChoose,
  opens,
  onOpen,
}: {
  readonly view: OutcomesView;
  readonly outcome: OutcomeStanding;
  readonly depth: number;
  readonly chosen: Chosen | null;
  readonly onChoose: (chosen: Chosen | null) => void;
  /** Whether its parts are shown; null if it has none. */
  readonly opens: boolean | null;
  readonly onOpen: () => void;
}) {
  const [items, setItems] = useState(false);
  const cells = view.rows.flatMap((r) => r.cells[o.id] ?? []);
  const words = MASTERY_LEVELS.map((l) => `${o.counts[l]} ${l}`).join(', ');
  const titleOf = new Map(view.outcomes.map((other) => [other.id, other.title]));
  return (
    <>
      <div className="grid grid-cols-1 items-center gap-x-4 gap-y-1 md:grid-cols-[13rem_minmax(8rem,1fr)_23rem]">
        <span style={{ paddingLeft: `${depth}rem` }} className="font-semibold">
          {o.title}
          {opens == null ? null : (
            <Button
              small
              look="quiet"
              aria-expanded={opens}
              aria-label={`${opens ? 'hide parts' : 'parts'} of ${o.title}`}
              onClick={onOpen}
            >
              {opens ? 'hide parts' : 'parts'}
            </Button>
          )}
          <Button
            small
            look="quiet"
            aria-expanded={items}
            aria-label={`${items ? 'hide items' : 'items'} behind ${o.title}`}
            onClick={() => setItems(!items)}
          >
            {items ? 'hide items' : 'items'}
          </Button>
        </span>
        <TickStrip
          label={`${o.title}: ${words}`}
          cells={cells}
          chosen={chosen?.stretch ?? null}
          onChoose={(stretch) => onChoose({ outcome: o.id, stretch })}
        />
        <span role="group" aria-label={o.title} className="flex flex-wrap gap-1">
          {MASTERY_LEVELS.map((level) => {
            const pressed = chosen?.level === level;
            return (
              <button
                key={level}
                type="button"
                aria-pressed={pressed}
                disabled={o.counts[level] === 0}
                onClick={() => onChoose(pressed ? null : { outcome: o.id, level })}
                className={classes(
                  'rounded-md border px-1.5 py-0.5 text-[13px] disabled:opacity-55 max-sm:min-h-11',
                  pressed ? 'border-ink bg-amber-wash' : 'border-line text-muted enabled:hover:border-ink',
                )}
              >
                <span className="text-ink font-semibold">{o.counts[level]}</span> {level}
              </button>
            );
          })}
        </span>
      </div>
      {o.weakBefore.length > 0 ? (
        <p className="text-muted text-[13px]" style={{ paddingLeft: `${depth}rem` }}>
          {listed(
            o.weakBefore.map(
              (b) =>
                `${b.students} of the ${o.counts['not yet']} ${b.students === 1 ? 'is' : 'are'} already weak in ${titleOf.get(b.id)}`,
            ),
          )}
          , a prerequisite.
        </p>
      ) : null}
      {items ? <OutcomeItems view={view} outcome={o.id} title={o.title} /> : null}
      {chosen ? <ChosenStudents view={view} title={o.title} chosen={chosen} onChoose={onChoose} /> : null}
    </>
  );
}

/** Names that are listed; more of them are counted. */
const NAMED = 24;

function ChosenStudents({
  view,
  title,
  chosen,
  onChoose,
}: {
  readonly view: OutcomesView;
  readonly title: string;
  readonly chosen: Chosen;
  readonly onChoose: (chosen: Chosen | null) => void;
}) {
  const { pick, busy } = usePick(view);
  const rows = view.rows.filter((r) => inIt(r, chosen));
  const where = chosen.level ?? `from ${chosen.stretch[0]} to ${chosen.stretch[1]} %`;
  const [from, to] = chosen.stretch ?? [0, 100];
  const end = (label: string, value: number, next: (value: number) => Stretch) => (
    <label className="flex items-center gap-1">
      {label}
      <input
        type="number"
        min={0}
        max={100}
        value={value}
        aria-label={`${title}, ${label} %`}
        onChange={(e) =>
          Number.isFinite(e.target.valueAsNumber) &&
          onChoose({ outcome: chosen.outcome, stretch: next(e.target.valueAsNumber) })
        }
        className={classes(inputClasses, 'w-16 py-0.5')}
      />
    </label>
  );
  return (
    <div className="border-amber mt-1 border-l-[3px] pl-3 text-[13px]">
      <p className="flex flex-wrap items-center gap-2">
        <span className="font-semibold">
          {counted(rows.length, 'student')}, {where}
        </span>
        {end('from', from, (value) => [value, to])}
        {end('to', to, (value) => [from, value])}
        <Button
          small
          look="main"
          disabled={busy || rows.length === 0}
          onClick={() =>
            pick(
              rows.map((r) => r.enrolmentId),
              pickedFor(`${title}: ${where}`),
            )
          }
        >
          Select these {rows.length}
        </Button>
        <Button small look="quiet" onClick={() => onChoose(null)}>
          Close
        </Button>
      </p>
      <p className="flex flex-wrap gap-x-3 [&_a]:inline-flex [&_a]:min-h-6 [&_a]:items-center">
        {rows.slice(0, NAMED).map((r) => (
          <StudentLink key={r.enrolmentId} code={view.course.code} id={r.enrolmentId} from="outcomes">
            {`${r.given} ${r.family}`}
          </StudentLink>
        ))}
        {rows.length > NAMED ? <span className="text-muted">and {rows.length - NAMED} more</span> : null}
      </p>
    </div>
  );
}
