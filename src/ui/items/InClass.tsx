'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { counted } from '@/core/format';
import type { InClassView } from '@/core/views/inClass';
import { Awake } from '../parts/Awake';
import { Button } from '../parts/Button';
import { classes } from '../parts/classes';
import { useAlive } from '../parts/useAlive';
import { useKeys } from '../parts/useKeys';
import { inClassAddress } from './inClassAddress';

/**
 * An item large, for the wall of a class: first what is asked, without the key; then how the answers were spread, where that is
 * wanted; then what is right and why. It covers the rest of the page. The key is not drawn before it is asked for.
 */
export function InClass({ view }: { readonly view: InClassView }) {
  const { code, quizId, title, item, items, stem, answers, sat, omitted, explanation } = view;
  const router = useRouter();
  const alive = useAlive();
  const [spread, setSpread] = useState(false);
  const [key, setKey] = useState(false);
  const place = items.indexOf(item);
  const go = (to: string | undefined) => {
    if (to != null) router.push(inClassAddress({ course: { code }, quiz: { id: quizId } }, to));
  };
  const close = () => router.push(`/c/${code}/items?work=${quizId}&item=${encodeURIComponent(item)}`);
  useKeys({
    s: () => setSpread((on) => !on),
    k: () => setKey((on) => !on),
    j: () => go(items[place + 1]),
    p: () => go(items[place - 1]),
    Escape: close,
  });
  const share = (count: number) => (sat === 0 ? 0 : count / sat);
  return (
    <section
      aria-label={`${item} of ${title}, for the class`}
      className="bg-paper fixed inset-0 z-30 flex flex-col gap-6 overflow-auto px-[5vw] py-6"
    >
      <Awake />
      <header className="flex flex-wrap items-center gap-2">
        <h1 className="text-muted flex-1 text-base">
          {title}, {item}
        </h1>
        <Button disabled={!alive || place <= 0} hotkey="P" onClick={() => go(items[place - 1])}>
          Harder
        </Button>
        <Button
          disabled={!alive || place < 0 || place >= items.length - 1}
          hotkey="J"
          onClick={() => go(items[place + 1])}
        >
          Easier
        </Button>
        <Button disabled={!alive} hotkey="Esc" onClick={close}>
          Back
        </Button>
      </header>
      <p className="font-serif text-[clamp(1.6rem,3.4vw,3.2rem)] leading-tight font-semibold break-words whitespace-pre-wrap">
        {stem ?? 'What did you answer here, and why?'}
      </p>
      <ul className="space-y-3 text-[clamp(1.2rem,2.2vw,2rem)]">
        {answers.map(({ option, text, right, count }) => (
          <li
            key={option}
            className={classes(
              'relative rounded-lg border-2 px-4 py-2',
              key && right ? 'border-teal bg-panel' : 'border-line bg-panel',
            )}
          >
            {spread ? (
              <span
                aria-hidden
                className="bg-amber-wash absolute inset-y-0 left-0 rounded-l-md"
                style={{ width: `${100 * share(count)}%` }}
              />
            ) : null}
            <span className="relative flex items-baseline gap-4">
              <span className="font-semibold break-words">{option}</span>
              <span className="flex-1 break-words">{text}</span>
              {spread ? <span className="tabular-nums">{Math.round(100 * share(count))} %</span> : null}
              {key && right ? <span className="text-teal font-semibold">right</span> : null}
            </span>
          </li>
        ))}
      </ul>
      {spread ? (
        <p className="text-muted">
          First answers of {counted(sat, 'student')}
          {omitted > 0 ? `; ${omitted} left it out` : ''}.
        </p>
      ) : null}
      {key && explanation ? (
        <p className="max-w-[60ch] text-[clamp(1.1rem,1.8vw,1.6rem)] break-words whitespace-pre-wrap">
          {explanation}
        </p>
      ) : null}
      <footer className="mt-auto flex gap-2">
        <Button
          look={spread ? 'warm' : 'plain'}
          disabled={!alive}
          aria-pressed={spread}
          hotkey="S"
          onClick={() => setSpread(!spread)}
        >
          How the answers were spread
        </Button>
        <Button
          look={key ? 'main' : 'plain'}
          disabled={!alive}
          aria-pressed={key}
          hotkey="K"
          onClick={() => setKey(!key)}
        >
          What is right
        </Button>
      </footer>
    </section>
  );
}
