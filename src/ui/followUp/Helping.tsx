'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { closeHelpingAction } from '@/actions/followUps';
import type { HelpingLine, HelpingState } from '@/core/acts/helping';
import { shortDay } from '@/core/format';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { useAct } from '../parts/useAct';

const HelpSheet = dynamic(() => import('./HelpSheet').then((m) => m.HelpSheet));

const STATE_WORDS: Readonly<Record<HelpingState, string>> = {
  'asked who is helped': 'asked, waiting for consent',
  'asked the helper': 'consented; the helper is asked',
  agreed: 'agreed',
  declined: 'declined',
  closed: 'closed',
};

/** Who helps this student, and whom they help; and the way to ask. */
export function Helping({
  code,
  today,
  student,
  topic,
  lines,
}: {
  readonly code: string;
  readonly today: LocalDate;
  readonly student: { readonly enrolmentId: number; readonly name: string };
  /** What the help would be with: the weakest outcome. */
  readonly topic: string;
  readonly lines: readonly HelpingLine[];
}) {
  const { busy, act } = useAct();
  const [asking, setAsking] = useState(false);
  return (
    <section aria-label="Help from other students">
      <h3 className="mb-1.5 font-semibold">Help from other students</h3>
      <ul className="space-y-1 text-[13px]">
        {lines.map((line) => {
          const helped = line.helped.enrolmentId === student.enrolmentId;
          const open = line.state !== 'closed' && line.state !== 'declined';
          return (
            <li key={line.id} className="flex flex-wrap items-baseline gap-x-2">
              <span>
                {helped ? `${line.helper.name} helps` : `Helps ${line.helped.name}`} with {line.topic}
              </span>
              <span className="text-muted">
                {STATE_WORDS[line.state]}, until {shortDay(line.until)}
              </span>
              {open ? (
                <Button
                  small
                  look="quiet"
                  disabled={busy}
                  onClick={() =>
                    act(() => closeHelpingAction({ code, id: line.id }), { done: 'The helping is closed.' })
                  }
                >
                  Close
                </Button>
              ) : null}
            </li>
          );
        })}
      </ul>
      <div className="no-print mt-1.5">
        <Button small onClick={() => setAsking(true)}>
          Ask for a helper …
        </Button>
      </div>
      {asking ? (
        <HelpSheet
          code={code}
          today={today}
          student={student}
          topic={topic}
          onClose={() => setAsking(false)}
        />
      ) : null}
    </section>
  );
}
