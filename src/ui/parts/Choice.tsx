'use client';
import { useSyncExternalStore } from 'react';
import { Button } from './Button';
import { Sheet } from './Sheet';

/** A question with several ways to go on. */
interface Question {
  readonly title: string;
  readonly description: string;
  readonly ways: readonly string[];
  readonly answer: (way: string | null) => void;
}

let question: Question | null = null;
const listeners = new Set<() => void>();
const tell = (next: Question | null) => {
  question = next;
  for (const listener of listeners) listener();
};

/** Asks which way to go on, from wherever; null if it is called off. */
export const askChoice = (asked: Omit<Question, 'answer'>): Promise<string | null> =>
  new Promise((resolve) => {
    question?.answer(null);
    tell({ ...asked, answer: resolve });
  });

/** The sheet in which `askChoice` asks; it stands once around every page. */
export function Choice() {
  const asked = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => question,
    () => null,
  );
  if (!asked) return null;
  const choose = (way: string | null) => {
    tell(null);
    asked.answer(way);
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && choose(null)}
      title={asked.title}
      description={asked.description}
    >
      <div className="flex flex-wrap gap-2">
        {asked.ways.map((way, i) => (
          <Button key={way} look={i === 0 ? 'main' : 'plain'} onClick={() => choose(way)}>
            {way}
          </Button>
        ))}
        <Button look="quiet" onClick={() => choose(null)}>
          Cancel
        </Button>
      </div>
    </Sheet>
  );
}
