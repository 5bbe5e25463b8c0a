'use client';
import { pickedFor } from '@/core/acts/pick';
import { counted, listed } from '@/core/format';
import type { OutcomeGroup, OutcomesView } from '@/core/views/outcomes';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';

const useNames = (view: OutcomesView) => {
  const rows = new Map(view.rows.map((r) => [r.enrolmentId, r]));
  const titles = new Map(view.outcomes.map((o) => [o.id, o.title]));
  return {
    name: (id: number) => `${rows.get(id)?.given ?? ''} ${rows.get(id)?.family ?? ''}`,
    title: (id: number) => titles.get(id) ?? '',
    percent: (id: number, outcome: number) => Math.round(100 * (rows.get(id)?.cells[outcome]?.mean ?? 0)),
  };
};

/** Students by what they need next, three to six together. */
export function LessonGroups({ view }: { readonly view: OutcomesView }) {
  const { code } = view.course;
  const { pick, busy } = usePick(view);
  const { name, title, percent } = useNames(view);
  return (
    <>
      {view.groups.length === 0 ? (
        <p className="text-muted p-4">No three students need the same thing next.</p>
      ) : (
        <ul aria-label="Groups for a lesson" className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
          {view.groups.map((g) => (
            <li key={`${g.outcome} ${g.members[0]}`}>
              <Panel className="h-full p-3">
                <h3 className="font-serif text-lg font-semibold">{title(g.outcome)}</h3>
                <ul>
                  {g.members.map((id) => (
                    <li
                      key={id}
                      className="flex min-h-6 items-center justify-between gap-2 [&_a]:inline-flex [&_a]:min-h-6 [&_a]:items-center"
                    >
                      <StudentLink code={code} id={id} from="outcomes">
                        {name(id)}
                      </StudentLink>
                      <span className="text-muted whitespace-nowrap">{percent(id, g.outcome)} %</span>
                    </li>
                  ))}
                </ul>
                <Button
                  small
                  className="mt-2"
                  disabled={busy}
                  aria-label={`Select these ${g.members.length}: ${name(g.members[0]!)} and others`}
                  onClick={() => pick(g.members, pickedFor(`lesson on ${title(g.outcome)}`))}
                >
                  Select these {g.members.length}
                </Button>
              </Panel>
            </li>
          ))}
        </ul>
      )}
      {view.alone.length > 0 ? (
        <p className="text-muted mt-2 text-[13px]">
          In no group, since fewer than three need the same:{' '}
          {view.alone.map((g) => `${listed(g.members.map(name))} (${title(g.outcome)})`).join('; ')}.
        </p>
      ) : null}
    </>
  );
}

/** Somebody who is sure of an outcome beside somebody who is not there yet. */
export function LearningPairs({ view }: { readonly view: OutcomesView }) {
  const { code } = view.course;
  const { pick, busy } = usePick(view);
  const { name, title } = useNames(view);
  if (view.pairs.length === 0)
    return (
      <p className="text-muted p-4">
        Nobody is secure and steady in what somebody else needs next. A lesson in a small group helps more.
      </p>
    );
  const line = ({ outcome, members: [helper, helped] }: OutcomeGroup) => (
    <li
      key={helped}
      className="border-line flex flex-wrap items-center justify-between gap-2 border-t py-1.5 first:border-t-0"
    >
      <span>
        <StudentLink code={code} id={helper!} from="outcomes">
          {name(helper!)}
        </StudentLink>{' '}
        beside{' '}
        <StudentLink code={code} id={helped!} from="outcomes">
          {name(helped!)}
        </StudentLink>
        <span className="text-muted"> · {title(outcome)}</span>
      </span>
      <Button
        small
        disabled={busy}
        aria-label={`Select both: ${name(helper!)} and ${name(helped!)}`}
        onClick={() => pick([helper!, helped!], pickedFor(`pair for ${title(outcome)}`))}
      >
        Select both
      </Button>
    </li>
  );
  return (
    <Panel className="p-3">
      <p className="text-muted mb-1 text-[13px]">
        {counted(view.pairs.length, 'pair')}: secure and with no flag, beside not yet. Nobody is in two.
      </p>
      <ul aria-label="Pairs">{view.pairs.map(line)}</ul>
    </Panel>
  );
}
