'use client';
import { useState } from 'react';
import { addGoalAction, removeGoalAction } from '@/actions/outcomes';
import { pickedFor } from '@/core/acts/pick';
import { addDays } from '@/core/calendar/zone';
import { groupBy } from '@/core/groupBy';
import { goalPlace, type GoalPlace } from '@/core/outcomes/goals';
import { median } from '@/core/statistics/quantile';
import { counted, listed, oneDigit, weekdayDay } from '@/core/format';
import type { LocalDate } from '@/core/units';
import type { GoalLine } from '@/core/views/outcomeItems';
import type { OutcomesView } from '@/core/views/outcomes';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { DayInput } from '../parts/DayInput';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useAsk } from '../parts/useAsk';
import { usePick } from '../parts/usePick';

/** Days that a new goal is given to begin with. */
const USUAL_DAYS = 21;

/** Outcomes that are to be secure by a day: how far the class or a student is, and whether the pace is enough. */
export default function Goals({ view }: { readonly view: OutcomesView }) {
  return (
    <>
      {view.goals.length === 0 ? (
        <p className="text-muted mb-2">
          No goal is set. A goal names outcomes that are to be secure by a day; what it takes a week and
          whether somebody is ahead of it are measures that audiences and rules can ask for.
        </p>
      ) : (
        <ul aria-label="Goals" className="mb-3 space-y-2">
          {view.goals.map((g) => (
            <li key={g.id}>
              <Panel className="p-4">
                <GoalCard view={view} goal={g} />
              </Panel>
            </li>
          ))}
        </ul>
      )}
      {view.mayAct ? <NewGoal view={view} /> : null}
    </>
  );
}

/** What it takes a week of those who are on the way, and how fast it goes, for the one in the middle. */
function paceWords(onTheWay: GoalLine['progress']): string {
  const paces = onTheWay.flatMap((p) => p.pace ?? []);
  const newly = onTheWay.flatMap((p) => p.newly ?? []);
  if (paces.length === 0) return 'The day is over.';
  const going =
    newly.length === 0 ? '' : `; the median so far is ${oneDigit(median(newly)!)} newly secure a week`;
  return `It takes ${oneDigit(median(paces)!)} a week (median of those who are on the way)${going}.`;
}

function GoalCard({ view, goal: g }: { readonly view: OutcomesView; readonly goal: GoalLine }) {
  const { code } = view.course;
  const { pick, busy } = usePick(view);
  const { busy: acting, act } = useAct();
  const { ask, asked } = useAsk();
  const at = groupBy(g.progress, goalPlace);
  const of = (place: GoalPlace) => at.get(place) ?? [];
  const there = of('there');
  const early = of('too early').length;
  const onTheWay = g.progress.filter((p) => goalPlace(p) !== 'there');
  const sum = (pickOf: (p: GoalLine['progress'][number]) => number) =>
    g.progress.reduce((total, p) => total + pickOf(p), 0);
  const reached = sum((p) => p.of) === 0 ? 0 : sum((p) => p.secure) / sum((p) => p.of);
  const [one] = g.progress;
  const group = (who: GoalLine['progress'], words: string) =>
    who.length === 0 ? null : (
      <Button
        small
        disabled={busy}
        aria-label={`${who.length} ${words}, select them`}
        onClick={() =>
          pick(
            who.map((p) => p.id),
            pickedFor(`${words}: ${listed([...g.titles])} by ${weekdayDay(g.by)}`),
          )
        }
      >
        {who.length} {words}
      </Button>
    );
  return (
    <section aria-label={`${listed([...g.titles])} by ${weekdayDay(g.by)}`}>
      <h2 className="font-semibold">
        {listed([...g.titles])} secure by {weekdayDay(g.by)}
        {g.student ? `, for ${g.student.name}` : ', for everybody'}
      </h2>
      <div className="bg-line my-1 h-2 rounded" aria-hidden>
        <div className="bg-teal h-2 rounded" style={{ width: `${100 * reached}%` }} />
      </div>
      {g.student && one ? (
        <p>
          {one.secure} of {one.of} secure; it takes{' '}
          {one.pace == null ? 'more than there is time for' : `${oneDigit(one.pace)} a week`}
          {one.newly == null
            ? '; too early to say how fast it goes'
            : `, and ${oneDigit(one.newly)} a week became secure`}
          .
        </p>
      ) : (
        <p>
          {Math.round(100 * reached)} % of it is secure over the class; {counted(there.length, 'student')}{' '}
          {there.length === 1 ? 'has' : 'have'} all of it.
          {onTheWay.length > 0 ? ` ${paceWords(onTheWay)}` : ''}
          {early > 0 ? ` Of ${early} it is too early to say whether they are fast enough.` : ''}
        </p>
      )}
      <p className="mt-1 flex flex-wrap gap-2">
        {group(of('too slow'), 'too slow to be there in time')}
        {group(of('fast enough'), 'fast enough')}
        {group(there, 'there already')}
        {view.mayAct ? (
          <Button
            small
            look="quiet"
            disabled={acting}
            onClick={() =>
              ask({
                title: 'Remove this goal?',
                description: 'Where everybody began is lost with it; a new goal begins today.',
                yes: 'Remove the goal',
                then: () => act(() => removeGoalAction({ code, id: g.id }), { done: 'The goal is removed.' }),
              })
            }
          >
            Remove
          </Button>
        ) : null}
      </p>
      {asked}
    </section>
  );
}

function NewGoal({ view }: { readonly view: OutcomesView }) {
  const { code } = view.course;
  const { busy, act } = useAct();
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [by, setBy] = useState<LocalDate | ''>(addDays(view.scope.today, USUAL_DAYS));
  const [student, setStudent] = useState<number | null>(null);
  const selected = view.rows.filter((r) => view.tray.includes(r.enrolmentId));
  return (
    <Panel className="p-4">
      <form
        aria-label="New goal"
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          act(() => addGoalAction({ code, form: { outcomes: [...chosen], by, student } }), {
            done: 'The goal is set.',
            then: () => setChosen([]),
          });
        }}
      >
        <fieldset>
          <legend className="font-semibold">Outcomes that are to be secure</legend>
          <div className="flex flex-wrap gap-x-4 gap-y-1">
            {view.outcomes.map((o) => (
              <label key={o.id} className="inline-flex items-center gap-1.5 max-sm:min-h-11">
                <input
                  type="checkbox"
                  className="accent-teal size-4"
                  checked={chosen.includes(o.id)}
                  onChange={(e) =>
                    setChosen(e.target.checked ? [...chosen, o.id] : chosen.filter((id) => id !== o.id))
                  }
                />
                {o.title}
              </label>
            ))}
          </div>
        </fieldset>
        <div className="flex flex-wrap items-end gap-4">
          <span>
            <span className="block font-semibold">By</span>
            <DayInput label="By" value={by} onChange={setBy} min={view.scope.today} className="w-44" />
          </span>
          <span>
            <span className="block font-semibold">For</span>
            <Choose
              label="For"
              className="w-56"
              value={student == null ? '' : String(student)}
              options={[
                { value: '', label: 'everybody' },
                ...selected.map((r) => ({ value: String(r.enrolmentId), label: `${r.given} ${r.family}` })),
              ]}
              onChange={(v) => setStudent(v === '' ? null : Number(v))}
            />
          </span>
          <Button look="main" type="submit" disabled={busy || chosen.length === 0 || by === ''}>
            Set the goal
          </Button>
        </div>
        <p className="text-muted text-[13px]">To set one for one student, select them first.</p>
      </form>
    </Panel>
  );
}
