'use client';
import { useState, type ReactNode } from 'react';
import { Button } from './Button';
import { Field, TextInput } from './Field';
import { Sheet } from './Sheet';

/** A question before something that cannot simply be undone. */
interface Question {
  readonly title: string;
  /** What happens then, in a sentence. */
  readonly description: string;
  /** The word on the button that does it. */
  readonly yes: string;
  /** What must be typed first, where a slip would be grave. */
  readonly typed?: string;
  readonly then: () => void;
}

/** The one way to ask before something is done: the question, and the sheet that it is asked in. */
export function useAsk(): { ask: (question: Question) => void; asked: ReactNode } {
  const [question, setQuestion] = useState<Question | null>(null);
  return {
    ask: setQuestion,
    asked: question ? (
      <AskSheet key={question.title} question={question} onClose={() => setQuestion(null)} />
    ) : null,
  };
}

function AskSheet({ question, onClose }: { readonly question: Question; readonly onClose: () => void }) {
  const { title, description, yes, typed, then } = question;
  const [text, setText] = useState('');
  return (
    <Sheet open onOpenChange={(open) => !open && onClose()} title={title} description={description}>
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          onClose();
          then();
        }}
      >
        {typed ? (
          <Field label={`Type “${typed}” to go on`}>
            {(ids) => <TextInput {...ids} value={text} onChange={(e) => setText(e.target.value)} />}
          </Field>
        ) : null}
        <div className="flex gap-2">
          <Button look="main" type="submit" disabled={typed != null && text.trim() !== typed}>
            {yes}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Sheet>
  );
}
