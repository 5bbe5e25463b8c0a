'use client';
import { useState } from 'react';
import { askWhyAction, ownAnswersAction } from '@/actions/student';
import type { OwnAnswerView } from '@/core/views/ownAnswers';
import { Button } from '../parts/Button';
import { useAct } from '../parts/useAct';
import { useAnswer } from '../parts/useAnswer';
import { ReadAloud } from './ReadAloud';

/** A student's own answers, quiz by quiz, with what is right and why: those whose keys they may see. */
export function OwnQuizzes({
  quizzes,
  readAloud,
}: {
  readonly readAloud: boolean;
  readonly quizzes: readonly { readonly id: number; readonly title: string }[];
}) {
  const [opened, setOpened] = useState<number | null>(null);
  return (
    <section aria-label="Your answers">
      <h4 className="font-semibold">Your answers, and why the right ones are right</h4>
      <ul>
        {quizzes.map((q) => (
          <li key={q.id} className="py-0.5">
            <Button
              small
              look="quiet"
              aria-expanded={opened === q.id}
              onClick={() => setOpened(opened === q.id ? null : q.id)}
            >
              {q.title}
            </Button>
            {opened === q.id ? <Answers activity={q.id} readAloud={readAloud} /> : null}
          </li>
        ))}
      </ul>
    </section>
  );
}

const scoreWords = (score: number | null): string => {
  if (score == null) return 'does not count';
  if (score >= 1) return 'right';
  return score <= 0 ? 'not right' : 'right in part';
};

const optionWords = (option: string, text: string): string => (text ? `${option}: ${text}` : option);

function Answers({ activity, readAloud }: { readonly activity: number; readonly readAloud: boolean }) {
  const answer = useAnswer(ownAnswersAction, { activity });
  if (answer.state === 'asking') return <p role="status">Loading your answers …</p>;
  if (answer.state === 'failed') return <p className="text-plum">{answer.message}</p>;
  return (
    <ol className="border-teal ml-2 border-l-[3px] pl-3">
      {answer.value.map((a) => (
        <li key={`${a.item} ${a.attempt}`} className="border-line border-b py-2 last:border-0">
          <OwnAnswer activity={activity} answer={a} />
          {readAloud ? <ReadAloud what={a.item} text={spoken(a)} /> : null}
        </li>
      ))}
    </ol>
  );
}

/** An item as it is read aloud: its text, what is right and why. */
const spoken = (a: OwnAnswerView): string =>
  [
    a.stem ?? a.item,
    a.right.length > 0 ? `Right is ${a.right.map((r) => r.text || r.option).join(' or ')}.` : '',
    a.explanation ?? '',
  ].join(' ');

function OwnAnswer({ activity, answer: a }: { readonly activity: number; readonly answer: OwnAnswerView }) {
  const { busy, act } = useAct();
  const [asked, setAsked] = useState(a.asked);
  const isRight = a.score != null && a.score >= 1;
  return (
    <>
      <p className="break-words">
        <span className="font-semibold">
          {a.item}
          {a.attempt > 1 ? `, attempt ${a.attempt}` : ''}.
        </span>{' '}
        {a.stem}
      </p>
      <p className="break-words">
        You answered{' '}
        {a.answer.trim() === '' ? (
          'nothing'
        ) : (
          <span className="font-semibold">{optionWords(a.answer, a.answerText)}</span>
        )}
        : <span className={isRight ? 'text-teal' : 'text-plum'}>{scoreWords(a.score)}</span>.
        {!isRight && a.right.length > 0
          ? ` Right is ${a.right.map((r) => optionWords(r.option, r.text)).join(' or ')}.`
          : ''}
      </p>
      {a.explanation ? <p className="text-muted break-words">{a.explanation}</p> : null}
      {isRight && !asked ? null : (
        <Button
          small
          disabled={busy}
          aria-pressed={asked}
          onClick={() =>
            act(() => askWhyAction({ activity, item: a.item, on: !asked }), {
              done: asked ? 'Undone.' : 'Your instructor is told.',
              then: () => setAsked(!asked),
            })
          }
        >
          {asked ? 'Told your instructor; undo' : 'I still do not see why'}
        </Button>
      )}
    </>
  );
}
