'use client';
import { useSearchParams } from 'next/navigation';
import { outcomeChangesAction } from '@/actions/outcomes';
import { pickedFor } from '@/core/acts/pick';
import { counted, listed, spanText } from '@/core/format';
import { LEVEL_CHANGES } from '@/core/outcomes/changed';
import type { OutcomesView } from '@/core/views/outcomes';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAnswer } from '../parts/useAnswer';
import { usePick } from '../parts/usePick';

/** Names that are listed; more of them are counted. */
const NAMED = 8;

/** What became of each outcome over the window: who is newly secure, still learning, or slipped. */
export default function Changes({ view }: { readonly view: OutcomesView }) {
  const { code } = view.course;
  const query = useSearchParams();
  const { pick, busy } = usePick(view);
  const answer = useAnswer(outcomeChangesAction, { code, w: query.get('w'), g: query.get('g') });
  if (answer.state === 'asking') return <p role="status">Comparing the levels …</p>;
  if (answer.state === 'failed') return <p className="text-plum">{answer.message}</p>;
  const { window, changes } = answer.value;
  return (
    <Panel className="px-4 py-2">
      <p className="text-muted mb-1 text-[13px]">
        {spanText(window)}: levels at its end beside those when the window before it ended, by what is on
        record today.
      </p>
      {changes.length === 0 ? <p>No level changed, and nobody was asked who is still learning.</p> : null}
      <ul aria-label="What changed by outcome">
        {changes.map((c) => (
          <li key={c.outcome} className="border-line border-t py-1.5 first:border-t-0">
            <h2 className="font-semibold">{c.title}</h2>
            <ul>
              {LEVEL_CHANGES.filter((l) => c.students[l].length > 0).map((l) => {
                const who = c.students[l];
                return (
                  <li key={l} className="flex items-baseline gap-x-2 py-0.5">
                    <Button
                      small
                      disabled={busy}
                      aria-label={`Select ${counted(who.length, 'student')}: ${c.title}, ${l}`}
                      onClick={() =>
                        pick(
                          who.map((s) => s.id),
                          pickedFor(`${c.title}: ${l}`),
                        )
                      }
                    >
                      Select {who.length}
                    </Button>
                    <span className="min-w-0 flex-1">
                      <span className="font-semibold">
                        {who.length} {l}
                      </span>
                      :{' '}
                      {who.length > NAMED
                        ? `${who
                            .slice(0, NAMED)
                            .map((s) => s.name)
                            .join(', ')} and ${who.length - NAMED} more`
                        : listed(who.map((s) => s.name))}
                    </span>
                  </li>
                );
              })}
            </ul>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
