'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { closeWordAction } from '@/actions/rules';
import { pickedFor } from '@/core/acts/pick';
import { counted, listed } from '@/core/format';
import type { ViewFrame } from '@/core/views/frame';
import type { WordLine } from '@/core/views/rules';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';
import { OccasionHead } from './OccasionHead';

/** What rules have to say to the instructor: of whom, why, what went wrong, and a draft one press away. */
export function Words({
  frame,
  lines,
  waiting = 0,
}: {
  readonly frame: Pick<ViewFrame, 'course' | 'tray' | 'trayFrom'>;
  readonly lines: readonly WordLine[];
  /** Messages that wait for a yes, where they are not on the page themselves. */
  readonly waiting?: number;
}) {
  const { code } = frame.course;
  const router = useRouter();
  const { busy, act } = useAct();
  const { pickAll, busy: picking } = usePick(frame);
  if (lines.length === 0 && waiting === 0) return null;
  const write = (line: WordLine) => {
    const picked = pickedFor(`rule: ${line.rule}`, line.about, line.assignment?.id ?? null);
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
        <p className="px-3 pt-2 font-semibold">
          {lines.length > 0 ? `${counted(lines.length, 'word')} by your rules` : null}
          {lines.length > 0 && waiting > 0 ? ' · ' : null}
          {waiting > 0 ? (
            <Link href={`/c/${code}/rules`} className="text-teal">
              {counted(waiting, 'message')} {waiting === 1 ? 'waits' : 'wait'} for your yes
            </Link>
          ) : null}
        </p>
        <ul className="divide-line divide-y px-3 pb-1">
          {lines.map((line) => (
            <li key={line.id} className="flex flex-wrap items-start justify-between gap-2 py-1.5">
              <div className="min-w-0 flex-1">
                <OccasionHead course={frame.course} line={line} />
                {line.wrong.length > 0 ? (
                  <details className="text-[13px]">
                    <summary className="cursor-pointer">
                      {line.weakest.length > 0 ? `Weakest: ${listed(line.weakest)}; ` : ''}
                      {counted(line.wrong.length, 'wrong answer')}
                    </summary>
                    <ul className="border-line mt-1 border-l-2 pl-3">
                      {line.wrong.map((w) => (
                        <li key={w.item}>
                          {w.item}: answered “{w.answer}”
                        </li>
                      ))}
                    </ul>
                  </details>
                ) : line.weakest.length > 0 ? (
                  <p className="text-[13px]">Weakest: {listed(line.weakest)}</p>
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
