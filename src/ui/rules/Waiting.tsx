'use client';
import { answerWaitingAction } from '@/actions/rules';
import { counted } from '@/core/format';
import type { CourseHead } from '@/core/views/courseHead';
import type { WaitingLine } from '@/core/views/rules';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { OccasionHead } from './OccasionHead';

/** Messages that wait for a yes, each with its reason and its own text. */
export function Waiting({
  course,
  lines,
}: {
  readonly course: CourseHead;
  readonly lines: readonly WaitingLine[];
}) {
  const { code } = course;
  const { busy, act } = useAct();
  if (lines.length === 0) return null;
  const answer = (list: readonly WaitingLine[], yes: boolean) =>
    act(() => answerWaitingAction({ code, ids: list.map((l) => l.id), yes }), {
      done: (n) =>
        yes
          ? `${counted(n, 'message')} ${n === 1 ? 'goes' : 'go'} now, or when the quiet hours are over.`
          : `${counted(n, 'message')} will not go.`,
    });
  const sound = lines.filter((l) => l.fault == null);
  return (
    <Panel className="border-l-amber border-l-[3px]">
      <section aria-label="Waiting for your yes">
        <div className="flex flex-wrap items-center justify-between gap-2 px-4 pt-3">
          <h2 className="font-serif text-lg font-semibold">
            {counted(lines.length, 'message')} {lines.length === 1 ? 'waits' : 'wait'} for your yes
          </h2>
          {sound.length > 1 ? (
            <Button look="main" disabled={busy} onClick={() => answer(sound, true)}>
              Send all {sound.length}
            </Button>
          ) : null}
        </div>
        <p className="text-muted px-4 text-[13px]">
          Anyone who teaches this course can approve them. A message goes in the name of whoever approves it.
        </p>
        <ul className="divide-line divide-y px-4 pb-2">
          {lines.map((line) => (
            <li key={line.id} className="py-2.5">
              <div className="flex flex-wrap items-start justify-between gap-2">
                <div className="min-w-0 flex-1">
                  <OccasionHead course={course} line={line} />
                </div>
                <span className="flex gap-1.5">
                  <Button
                    small
                    look="main"
                    disabled={busy || line.fault != null}
                    aria-label={`Send to ${line.name}`}
                    onClick={() => answer([line], true)}
                  >
                    Send
                  </Button>
                  <Button
                    small
                    disabled={busy}
                    aria-label={`Do not send to ${line.name}`}
                    onClick={() => answer([line], false)}
                  >
                    Do not send
                  </Button>
                </span>
              </div>
              {line.fault ? (
                <p className="text-plum text-[13px]">{line.fault}</p>
              ) : (
                <details className="mt-1">
                  <summary className="text-muted cursor-pointer text-[13px]">{line.subject}</summary>
                  <p className="border-line mt-1 max-w-prose border-l-2 pl-3 whitespace-pre-wrap">
                    {line.text}
                  </p>
                </details>
              )}
            </li>
          ))}
        </ul>
      </section>
    </Panel>
  );
}
