'use client';
import { answerHelpAction, endHelpAction } from '@/actions/student';
import type { OwnHelping } from '@/core/acts/helping';
import { shortDay } from '@/core/format';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** What asks the student to help or to be helped, and what was agreed: the topic and the names, nothing of scores. */
export function HelpCard({ helpings }: { readonly helpings: readonly OwnHelping[] }) {
  const { busy, act } = useAct();
  if (helpings.length === 0) return null;
  return (
    <Panel className="divide-line divide-y px-5 py-2">
      {helpings.map((h) => (
        <div key={h.id} className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 py-2.5">
          <p className="min-w-0 flex-1 basis-72">{words(h)}</p>
          {h.asksMe ? (
            <span className="flex gap-2">
              <Button
                look="main"
                disabled={busy}
                onClick={() =>
                  act(() => answerHelpAction({ id: h.id, yes: true }), {
                    done:
                      h.side === 'helped' ? 'Thank you; now the other is asked.' : 'Thank you for helping.',
                  })
                }
              >
                Yes
              </Button>
              <Button
                disabled={busy}
                onClick={() =>
                  act(() => answerHelpAction({ id: h.id, yes: false }), { done: 'Declined; that is fine.' })
                }
              >
                No, thank you
              </Button>
            </span>
          ) : (
            <Button
              look="quiet"
              disabled={busy}
              onClick={() => act(() => endHelpAction({ id: h.id }), { done: 'That is ended.' })}
            >
              End it
            </Button>
          )}
        </div>
      ))}
    </Panel>
  );
}

function words({ side, other, topic, until, asksMe, state, by }: OwnHelping): string {
  const end = `until ${shortDay(until)}`;
  if (side === 'helper')
    return asksMe
      ? `${by} asks: would you help ${other} with ${topic}, ${end}? ${other} agrees that you are asked.`
      : `You help ${other} with ${topic}, ${end}.`;
  if (asksMe)
    return `${by} asks: may another student help you with ${topic}, ${end}? They would learn your name and the topic, nothing else.`;
  return state === 'agreed'
    ? `${other} helps you with ${topic}, ${end}.`
    : `Somebody is asked to help you with ${topic}, ${end}.`;
}
