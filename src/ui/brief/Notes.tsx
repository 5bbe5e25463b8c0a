'use client';
import { useState } from 'react';
import { addNoteAction, removeNoteAction } from '@/actions/notes';
import type { LocalDate } from '@/core/units';
import { type NoteView } from '@/core/views/notes';
import { NOTE_KINDS, type NoteKind } from '@/core/acts/act';
import { Button } from '../parts/Button';
import { inputClasses } from '../parts/Field';
import { weekdayDay } from '@/core/format';
import { useAct } from '../parts/useAct';

const WORDS: Record<NoteKind, string> = { note: 'Note', talk: 'Talk', call: 'Call' };

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
  const [kind, setKind] = useState<NoteKind>('note');
  const [on, setOn] = useState(today);
  const [text, setText] = useState('');
  const remove = (note: number, done: string) =>
    act(() => removeNoteAction({ code, student, note }), { done });
  return (
    <section aria-label="Notes and talks">
      <h3 className="mb-1.5 font-semibold">Notes and talks</h3>
      <form
        className="no-print mb-2 space-y-1.5"
        onSubmit={(e) => {
          e.preventDefault();
          act(() => addNoteAction({ code, student, kind, on, text }), {
            done: `${WORDS[kind]} written down.`,
            undo: (id) => remove(id, 'Taken back.'),
            then: () => setText(''),
          });
        }}
      >
        <textarea
          aria-label="Text of the note"
          className={inputClasses}
          rows={2}
          maxLength={4000}
          placeholder="What was seen, said or agreed"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <div className="flex flex-wrap items-center gap-2">
          <select
            aria-label="Kind of note"
            className={`${inputClasses} w-auto py-1`}
            value={kind}
            onChange={(e) => setKind(NOTE_KINDS.find((k) => k === e.target.value) ?? 'note')}
          >
            {NOTE_KINDS.map((k) => (
              <option key={k} value={k}>
                {WORDS[k]}
              </option>
            ))}
          </select>
          <input
            type="date"
            aria-label="Day it is about"
            className={`${inputClasses} w-auto py-1`}
            max={today}
            value={on}
            onChange={(e) => setOn(e.target.value)}
          />
          <Button type="submit" disabled={busy || text.trim() === ''}>
            Write down
          </Button>
        </div>
      </form>
      {notes.length === 0 ? <p className="text-muted">Nothing has been written down yet.</p> : null}
      <ul className="space-y-1.5">
        {notes.map((n) => (
          <li key={n.id} className="text-[13px]">
            <span className={n.kind === 'note' ? 'text-muted' : 'text-teal font-semibold'}>
              {WORDS[n.kind]}
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
                    done: 'The note is gone.',
                    undo: () =>
                      act(() => addNoteAction({ code, student, kind: k, on: day, text: words }), {
                        done: 'It is back.',
                      }),
                  });
                }}
              >
                take out
              </button>
            ) : null}
            <p className="whitespace-pre-wrap">{n.text}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
