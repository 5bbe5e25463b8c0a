'use client';
import dynamic from 'next/dynamic';
import { addNoteAction, removeNoteAction } from '@/actions/notes';
import type { LocalDate } from '@/core/units';
import { type NoteView } from '@/core/views/notes';
import { weekdayDay } from '@/core/format';
import { NOTE_WORDS } from './noteWords';
import { useAct } from '../parts/useAct';

/** What it takes to write one comes once the notes stand there. */
const NoteForm = dynamic(() => import('./NoteForm'), { ssr: false });

/** Notes and talks with their day and author, and a line to write the next one. */
export function Notes({
  code,
  student,
  notes,
  today,
}: {
  readonly code: string;
  readonly student: number;
  readonly notes: readonly NoteView[];
  readonly today: LocalDate;
}) {
  const { busy, act } = useAct();
  return (
    <section aria-label="Notes and talks">
      <h3 className="mb-1.5 font-semibold">Notes and talks</h3>
      <div className="no-print mb-2 min-h-24">
        <NoteForm code={code} student={student} today={today} />
      </div>
      {notes.length === 0 ? <p className="text-muted">No notes yet.</p> : null}
      <ul className="space-y-1.5">
        {notes.map((n) => (
          <li key={n.id} className="text-[13px]">
            <span className={n.kind === 'note' ? 'text-muted' : 'text-teal font-semibold'}>
              {NOTE_WORDS[n.kind]}
            </span>{' '}
            <span className="text-muted">
              {weekdayDay(n.on)}, {n.by}
            </span>
            {n.own ? (
              <button
                type="button"
                className="no-print text-muted hover:text-ink ml-2 underline"
                disabled={busy}
                onClick={() => {
                  const { kind: k, on: day, text: words } = n;
                  act(() => removeNoteAction({ code, student, note: n.id }), {
                    done: 'The note is removed.',
                    undo: () =>
                      act(
                        () =>
                          addNoteAction({ code, student, kind: k, on: day, text: words, followUpOn: null }),
                        {
                          done: 'The note is restored.',
                        },
                      ),
                  });
                }}
              >
                remove
              </button>
            ) : null}
            <p className="whitespace-pre-wrap">{n.text}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
