'use client';
import { useState } from 'react';
import { PASSING_RESULTS, type PassingResult } from '@/core/acts/passing';
import { counted } from '@/core/format';
import { find } from '@/core/people/find';
import type { PassingView } from '@/core/views/passing';
import { Button } from '../parts/Button';
import { TextInput } from '../parts/Field';
import { Panel, ViewHead } from '../parts/Panel';
import { usePassing } from './usePassing';

const RESULT_WORDS: Readonly<Record<PassingResult, string>> = {
  talked: 'Talked',
  'will do it': 'Will do it',
  'needs help': 'Needs help',
  'all is well': 'All is well',
  'not there': 'Not there',
};
/** Names that stand below what is typed. */
const MOST_NAMES = 5;

/** A word in passing: a name, how it went, a line. One tap on how it went saves it, with or without network. */
export function Passing({ code, view }: { readonly code: string; readonly view: PassingView }) {
  const { waiting, refused, keep, drop } = usePassing(code);
  const [typed, setTyped] = useState('');
  const [student, setStudent] = useState<PassingView['students'][number] | null>(null);
  const [text, setText] = useState('');
  const [saved, setSaved] = useState<string | null>(null);
  const names =
    typed.trim() === ''
      ? []
      : (find([{ entries: view.students }], typed)[0]?.entries.slice(0, MOST_NAMES) ?? []);
  const nameOf = (id: number) => view.students.find((s) => s.enrolmentId === id)?.name ?? 'A student';
  const save = (result: PassingResult) => {
    if (!student) return;
    keep({
      key: crypto.randomUUID(),
      student: student.enrolmentId,
      result,
      text: text.trim(),
      on: view.today,
    });
    setSaved(`${student.name}: ${RESULT_WORDS[result].toLowerCase()}`);
    setStudent(null);
    setTyped('');
    setText('');
  };
  return (
    <div className="mx-auto max-w-md">
      <ViewHead title={student ? `A word with ${student.name}` : 'A word in passing with …'} />
      <Panel className="space-y-3 p-4">
        {student ? (
          <>
            <TextInput
              aria-label="A line, if you like"
              placeholder="A line, if you like"
              maxLength={500}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <div role="group" aria-label="How it went" className="grid grid-cols-2 gap-2">
              {PASSING_RESULTS.map((result) => (
                <Button key={result} className="min-h-11" onClick={() => save(result)}>
                  {RESULT_WORDS[result]}
                </Button>
              ))}
            </div>
            <Button look="quiet" onClick={() => setStudent(null)}>
              Somebody else
            </Button>
          </>
        ) : (
          <>
            <TextInput
              autoFocus
              aria-label="Name of the student"
              placeholder="Name of the student"
              autoComplete="off"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
              onKeyDown={(e) => {
                if (e.key === 'Enter' && names[0]) setStudent(names[0]);
              }}
            />
            <ul aria-label="Students" className="space-y-1">
              {names.map((s) => (
                <li key={s.enrolmentId}>
                  <Button className="min-h-11 w-full justify-between!" onClick={() => setStudent(s)}>
                    {s.name} <span className="text-muted text-[13px]">{s.section}</span>
                  </Button>
                </li>
              ))}
            </ul>
            {typed.trim() !== '' && names.length === 0 ? (
              <p className="text-muted">Nobody by that name.</p>
            ) : null}
          </>
        )}
        <p role="status" className="text-[13px]">
          {waiting.length > 0
            ? `${counted(waiting.length, 'note')} ${waiting.length === 1 ? 'waits' : 'wait'} on this device for the network.`
            : saved
              ? `Saved: ${saved}.`
              : ''}
        </p>
        {waiting
          .filter((n) => refused.has(n.key))
          .map((n) => (
            <div key={n.key} role="alert" className="text-plum text-[13px]">
              {nameOf(n.student)}: {refused.get(n.key)}{' '}
              <button type="button" className="underline" onClick={() => drop(n.key)}>
                Remove the note
              </button>
            </div>
          ))}
      </Panel>
      <p className="text-muted mt-2 text-[13px]">
        It logs the talk, marks their flags as seen, and sets the day to look again.
      </p>
    </div>
  );
}
