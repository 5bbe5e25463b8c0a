'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { closeWordAction } from '@/actions/rules';
import type { Picked } from '@/core/acts/pick';
import { counted, listed, weekdayAndTime } from '@/core/format';
import type { ViewFrame } from '@/core/views/frame';
import type { WordLine } from '@/core/views/rules';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';

/** What rules have to say to the instructor: of whom, why, what went wrong, and a draft one press away. */
export function Words({
  frame,
  lines,
}: {
  readonly frame: Pick<ViewFrame, 'course' | 'tray' | 'trayFrom'>;
  readonly lines: readonly WordLine[];
}) {
  const { code, zone } = frame.course;
  const router = useRouter();
  const { busy, act } = useAct();
  const { pickAll, busy: picking } = usePick(frame);
  if (lines.length === 0) return null;
  const write = (line: WordLine) => {
    const picked: Picked = {
      reason: `rule: ${line.rule}`,
      about: line.about,
      activityId: line.assignment?.id ?? null,
    };
    void pickAll([{ ...picked, students: [line.enrolmentId] }], {
      alone: true,
      then: () => router.push(`/c/${code}/compose`),
    });
  };
  const close = (line: WordLine, done: boolean) =>
    act(() => closeWordAction({ code, id: line.id, done }), {
      done: done ? `Done with ${line.name}.` : `${line.name} is back.`,
      undo: done ? () => close(line, false) : undefined,
    });
  return (
    <Panel className="border-l-amber border-l-[3px]">
      <section aria-label="Words by your rules">
        <h2 className="px-4 pt-3 font-serif text-lg font-semibold">
          {counted(lines.length, 'word')} by your rules
        </h2>
        <ul className="divide-line divide-y px-4 pb-2">
          {lines.map((line) => (
            <li key={line.id} className="flex flex-wrap items-start justify-between gap-2 py-2.5">
              <div className="min-w-0 flex-1">
                <p>
                  <Link href={`/c/${code}/students/${line.enrolmentId}`} className="text-teal font-semibold">
                    {line.name}
                  </Link>{' '}
                  · {line.rule}
                  {line.assignment ? ` · ${line.assignment.title}` : ''}
                  <span className="text-muted block text-[13px]">
                    {weekdayAndTime(line.at, zone)}
                    {line.facts.length > 0 ? `: ${listed(line.facts)}` : ''}
                  </span>
                </p>
                {line.weakest.length > 0 ? (
                  <p className="text-[13px]">Weakest: {listed(line.weakest)}</p>
                ) : null}
                {line.wrong.length > 0 ? (
                  <details>
                    <summary className="text-muted cursor-pointer text-[13px]">
                      {counted(line.wrong.length, 'wrong answer')}
                    </summary>
                    <ul className="border-line mt-1 border-l-2 pl-3 text-[13px]">
                      {line.wrong.map((w) => (
                        <li key={w.item}>
                          {w.item}: answered “{w.answer}”
                        </li>
                      ))}
                    </ul>
                  </details>
                ) : null}
              </div>
              <span className="flex gap-1.5">
                <Button
                  small
                  look="main"
                  disabled={busy || picking}
                  aria-label={`Open the draft to ${line.name}`}
                  onClick={() => write(line)}
                >
                  Open the draft
                </Button>
                <Button
                  small
                  disabled={busy}
                  aria-label={`Done with ${line.name}`}
                  onClick={() => close(line, true)}
                >
                  Done
                </Button>
              </span>
            </li>
          ))}
        </ul>
      </section>
    </Panel>
  );
}
