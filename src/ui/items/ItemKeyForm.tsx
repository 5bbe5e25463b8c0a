'use client';
import { useState } from 'react';
import { changeItemAction, previewItemAction, undoItemAction } from '@/actions/items';
import { counted, oneDigit } from '@/core/format';
import { sameKeys, type Treatment } from '@/core/items/treatment';
import type { ItemChangePreview, ItemMove } from '@/core/views/itemChange';
import type { ItemsView, KnownItem } from '@/core/views/items';
import { Button } from '../parts/Button';
import { TextInput } from '../parts/Field';
import { useAct } from '../parts/useAct';
import { useAnswer } from '../parts/useAnswer';

const TREATMENT_WORDS: Readonly<Record<Treatment, string>> = {
  scored: 'Counts by its key',
  given: 'Everybody gets the point',
  dropped: 'Dropped: counts for nobody',
};

/** Lines of a preview that are shown at once. */
const SHOWN = 12;

const moveWords = (m: ItemMove): string => {
  const standing =
    m.standingFrom == null || m.standingTo == null
      ? ''
      : `, standing ${oneDigit(m.standingFrom)} → ${oneDigit(m.standingTo)} %`;
  return `${m.name}: ${oneDigit(m.from)} → ${oneDigit(m.to)}${standing}`;
};

/** What a change would do, in a sentence. */
function previewWords({ moves, maximum }: ItemChangePreview): string {
  if (maximum == null) return 'The assignment has no points, so no grade moves.';
  if (moves.length === 0) return 'No grade moves.';
  const up = moves.filter((m) => m.to > m.from).length;
  const down = moves.length - up;
  const parts = [
    ...(up > 0 ? [`${counted(up, 'grade')} ${up === 1 ? 'rises' : 'rise'}`] : []),
    ...(down > 0 ? [`${counted(down, 'grade')} ${down === 1 ? 'falls' : 'fall'}`] : []),
  ];
  return `${parts.join(', ')}, of ${maximum} points:`;
}

/** How an item counts: what is right, with whose grade and standing would move before anything is changed. */
export default function ItemKeyForm({
  view,
  item,
  known,
  answers,
}: {
  readonly view: ItemsView;
  readonly item: string;
  readonly known: KnownItem;
  /** Answers that were given, those given most first. */
  readonly answers: readonly string[];
}) {
  const { code } = view.course;
  const { busy, act } = useAct();
  const [keys, setKeys] = useState<readonly string[]>(known.keys);
  const [treatment, setTreatment] = useState<Treatment>(known.treatment);
  const [other, setOther] = useState('');
  const isChanged = !sameKeys(keys, known.keys) || treatment !== known.treatment;
  const change = { activityId: view.quiz!.id, item, keys: [...keys], treatment, rev: known.rev };
  const toggle = (answer: string, on: boolean) =>
    setKeys(on ? [...keys, answer] : keys.filter((k) => k !== answer));
  const names = [...new Set([...known.options.map((o) => o.option), ...answers, ...keys])];
  const textOf = new Map(known.options.map((o) => [o.option, o.text]));
  return (
    <form
      aria-label={`Key of ${item}`}
      className="border-line mt-3 space-y-3 border-t pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!isChanged) return;
        act(() => changeItemAction({ code, change }), {
          done: (moved) =>
            moved === 0 ? 'Changed; no grade moved.' : `Changed; ${counted(moved, 'grade')} moved.`,
        });
      }}
    >
      <fieldset>
        <legend className="font-semibold">Right answers</legend>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {names.map((answer) => (
            <label key={answer} className="inline-flex items-center gap-1.5 max-sm:min-h-11">
              <input
                type="checkbox"
                className="accent-teal size-4"
                checked={keys.includes(answer)}
                onChange={(e) => toggle(answer, e.target.checked)}
              />
              <span className="break-all">{answer}</span>
              {textOf.get(answer) ? <span className="text-muted">{textOf.get(answer)}</span> : null}
            </label>
          ))}
        </div>
        {known.options.length === 0 ? (
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <TextInput
              aria-label="Another right answer"
              className="w-48"
              value={other}
              maxLength={4000}
              onChange={(e) => setOther(e.target.value)}
            />
            <Button
              small
              disabled={other.trim() === '' || keys.includes(other.trim())}
              onClick={() => {
                toggle(other.trim(), true);
                setOther('');
              }}
            >
              Accept it, too
            </Button>
          </div>
        ) : null}
      </fieldset>
      <fieldset>
        <legend className="font-semibold">How it counts</legend>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {(Object.keys(TREATMENT_WORDS) as Treatment[]).map((t) => (
            <label key={t} className="inline-flex items-center gap-1.5 max-sm:min-h-11">
              <input
                type="radio"
                name="treatment"
                className="accent-teal size-4"
                checked={treatment === t}
                onChange={() => setTreatment(t)}
              />
              {TREATMENT_WORDS[t]}
            </label>
          ))}
        </div>
      </fieldset>
      {isChanged ? (
        <Preview code={code} change={change} busy={busy} />
      ) : (
        <p className="text-muted">Change something to see whose grade would move.</p>
      )}
    </form>
  );
}

/** Whose grade a change would move, and the button that makes it: nobody changes a key before they have seen that. */
function Preview({
  code,
  change,
  busy,
}: {
  readonly code: string;
  readonly change: Parameters<typeof previewItemAction>[0]['change'];
  readonly busy: boolean;
}) {
  const answer = useAnswer(previewItemAction, { code, change });
  return (
    <>
      <div role="status" className="min-h-6">
        {answer.state === 'asking' ? (
          <span className="text-muted">Looking whose grade would move …</span>
        ) : answer.state === 'failed' ? (
          <span className="text-plum font-semibold">{answer.message}</span>
        ) : (
          <Moves preview={answer.value} />
        )}
      </div>
      <Button look="main" type="submit" disabled={busy || answer.state !== 'there'}>
        Change it
      </Button>
    </>
  );
}

function Moves({ preview }: { readonly preview: ItemChangePreview }) {
  const { moves } = preview;
  return (
    <>
      <p className="font-semibold">{previewWords(preview)}</p>
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {moves.slice(0, SHOWN).map((m) => (
          <li key={m.enrolmentId}>{moveWords(m)}</li>
        ))}
      </ul>
      {moves.length > SHOWN ? (
        <details>
          <summary className="cursor-pointer">and {moves.length - SHOWN} more</summary>
          <ul className="grid gap-x-6 sm:grid-cols-2">
            {moves.slice(SHOWN).map((m) => (
              <li key={m.enrolmentId}>{moveWords(m)}</li>
            ))}
          </ul>
        </details>
      ) : null}
    </>
  );
}

/** Undoes a change of an item. */
export function UndoChange({ code, id }: { readonly code: string; readonly id: number }) {
  const { busy, act } = useAct();
  return (
    <Button
      small
      disabled={busy}
      onClick={() =>
        act(() => undoItemAction({ code, id }), {
          done: (moved) => `Undone; ${counted(moved, 'grade')} went back.`,
        })
      }
    >
      Undo
    </Button>
  );
}
