'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { passingAction } from '@/actions/followUps';
import { removeNoteAction } from '@/actions/notes';
import { putOffAction, undoMarkAction } from '@/actions/rounds';
import { counted, shortDay, weekdayAndTime } from '@/core/format';
import type { CardPerson, CardView } from '@/core/views/card';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { classes, finger } from '../parts/classes';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** The card for the next meeting of a section, one page for a phone. */
export function Card({
  code,
  zone,
  card,
}: {
  readonly code: string;
  readonly zone: string;
  readonly card: CardView;
}) {
  const router = useRouter();
  const { section, meeting } = card;
  return (
    <div className="mx-auto max-w-xl">
      <ViewHead
        title={
          !section
            ? 'The course has no sections'
            : !meeting
              ? `${section.name}: no meeting to come`
              : meeting.running
                ? `${section.name} meets now`
                : `${section.name}, ${weekdayAndTime(meeting.from, zone)}`
        }
      />
      {card.sections.length > 1 && section ? (
        <div className="mb-3">
          <Chips
            label="Section"
            value={String(section.id)}
            options={card.sections.map((s) => ({ value: String(s.id), label: s.name }))}
            onChange={(id) => router.replace(`/c/${code}/card?s=${id}`)}
          />
        </div>
      ) : null}
      <div className="space-y-3">
        <Panel className="p-4">
          <h2 className="mb-1 font-semibold">Speak to</h2>
          {card.people.length === 0 ? <p className="text-muted">Nobody needs a word.</p> : null}
          <ul className="divide-line divide-y">
            {card.people.map((person) => (
              <Person key={person.enrolmentId} code={code} card={card} person={person} />
            ))}
          </ul>
        </Panel>
        {card.outcome ? (
          <Panel className="p-4">
            <h2 className="font-semibold">Begin with {card.outcome.title}</h2>
            <p className="text-muted">
              “Not yet” for {card.outcome.behind} of {card.outcome.of} of whom enough is known.
            </p>
          </Panel>
        ) : null}
        {card.groups.length > 0 ? (
          <Panel className="p-4">
            <h2 className="mb-1 font-semibold">Groups</h2>
            <ul className="space-y-1.5">
              {card.groups.map((g) => (
                <li key={g.names.join(' ')}>
                  <span className="text-muted block text-[13px]">{g.outcome}</span>
                  {g.names.join(', ')}
                </li>
              ))}
            </ul>
          </Panel>
        ) : null}
        {card.back.length > 0 ? (
          <Panel className="p-4">
            <h2 className="mb-1 font-semibold">Back after an absence</h2>
            <ul>
              {card.back.map((b) => (
                <li key={b.enrolmentId}>
                  <Link
                    href={`/c/${code}/students/${b.enrolmentId}`}
                    className={classes('inline-block hover:underline', finger)}
                  >
                    {b.name}
                  </Link>{' '}
                  <span className="text-muted text-[13px]">after {counted(b.days, 'day')}</span>
                </li>
              ))}
            </ul>
          </Panel>
        ) : null}
        {!section ? (
          <Panel>
            <Nothing title="Give the course sections with meetings">
              <p>Then the card says whom to speak to in the next one.</p>
            </Nothing>
          </Panel>
        ) : null}
      </div>
    </div>
  );
}

function Person({
  code,
  card,
  person: p,
}: {
  readonly code: string;
  readonly card: CardView;
  readonly person: CardPerson;
}) {
  const { busy, act } = useAct();
  const [key] = useState(() => crypto.randomUUID());
  const { today, nextDay } = card;
  const note = (result: 'talked' | 'not there', done: string) =>
    act(() => passingAction({ code, key, student: p.enrolmentId, result, text: '', on: today }), {
      done,
      undo: (id) =>
        act(() => removeNoteAction({ code, student: p.enrolmentId, note: id }), {
          done: `The note about ${p.name} is removed.`,
        }),
    });
  return (
    <li className="space-y-1.5 py-2.5">
      <Link
        href={`/c/${code}/students/${p.enrolmentId}`}
        className={classes('text-teal block font-semibold hover:underline', finger)}
      >
        {p.name}
      </Link>
      <p className="text-muted text-[13px]">{p.why}</p>
      <p>“{p.opening}”</p>
      <div className="flex flex-wrap gap-2">
        <Button disabled={busy} onClick={() => note('talked', `Noted: talked with ${p.name}.`)}>
          Talked<span className="sr-only"> with {p.name}</span>
        </Button>
        <Button disabled={busy} onClick={() => note('not there', `Noted: ${p.name} was not there.`)}>
          Absent<span className="sr-only">: {p.name}</span>
        </Button>
        <Button
          disabled={busy || nextDay == null}
          onClick={() =>
            act(() => putOffAction({ code, student: p.enrolmentId, until: nextDay! }), {
              done: `${p.name} comes up again ${shortDay(nextDay!)}.`,
              undo: (mark) =>
                act(() => undoMarkAction({ code, mark }), { done: `${p.name} is on the card again.` }),
            })
          }
        >
          Later<span className="sr-only">: {p.name}</span>
        </Button>
      </div>
    </li>
  );
}
