'use client';
import { useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { handleQuestionsAction, leansAction } from '@/actions/items';
import { pickedFor } from '@/core/acts/pick';
import { counted, dayAndTime, listed } from '@/core/format';
import type { ItemsView, StudentLean } from '@/core/views/items';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { useAct } from '../parts/useAct';
import { useAnswer } from '../parts/useAnswer';
import { usePick } from '../parts/usePick';
import ItemKeyForm, { UndoChange } from './ItemKeyForm';

/**
 * What else is to be said of a quiz: answers that count as no evidence, whose numbers lean to one side, items that are dropped,
 * and the changes of its keys.
 */
export default function ItemNotes({ view }: { readonly view: ItemsView }) {
  const { asks, quick, random, dropped, changes, known, names, mayGrade } = view;
  const { code, zone } = view.course;
  const { pick, busy } = usePick(view);
  const { busy: handling, act } = useAct();
  const [restoring, setRestoring] = useState<string | null>(null);
  const select = (students: readonly number[], why: string) => (
    <Button
      small
      disabled={busy}
      aria-label={`Select these ${students.length}: ${why}`}
      onClick={() => pick(students, pickedFor(why, 'other', view.quiz!.id))}
    >
      Select these {students.length}
    </Button>
  );
  const named = (ids: readonly number[]) =>
    ids.length > 6
      ? `${listed(ids.slice(0, 5).map((id) => names[id]!))} and ${ids.length - 5} more`
      : listed(ids.map((id) => names[id]!));
  return (
    <Panel className="mt-3 space-y-3 p-4">
      {asks.length > 0 ? (
        <section aria-label="Who does not see why">
          <h2 className="font-semibold">Who has seen the key and still does not see why</h2>
          <ul>
            {asks.map((a) => (
              <li key={a.item} className="flex flex-wrap items-center gap-2 py-0.5">
                <span>
                  <span className="font-semibold">{a.item}:</span> {named(a.students)}
                </span>
                {select(a.students, `do not see why ${a.item} is answered so`)}
                <Button
                  small
                  disabled={handling}
                  onClick={() =>
                    act(() => handleQuestionsAction({ code, activityId: view.quiz!.id, item: a.item }), {
                      done: `${a.item} is handled.`,
                    })
                  }
                >
                  Handled
                </Button>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {quick.answers > 0 ? (
        <section aria-label="Answers that came very quickly">
          <h2 className="font-semibold">
            {counted(quick.answers, 'answer')} came faster than the item can be read
          </h2>
          <p>
            By {named(quick.students)}. They count as no evidence of what somebody knows, either way; the
            grade stays as it is. {select(quick.students, 'some answers came very quickly')}
          </p>
        </section>
      ) : null}
      {random.length > 0 ? (
        <section aria-label="Answers without relation to the items">
          <h2 className="font-semibold">
            The answers of {counted(random.length, 'student')} have no relation to the items
          </h2>
          <p>
            Of {named(random)}: the same answer throughout, or a hurried sitting in which easy items went no
            better than hard ones. There may be a good reason; they count as no evidence.{' '}
            {select(random, 'the answers had no relation to the items')}
          </p>
        </section>
      ) : null}
      <StudentLeans view={view} />
      {dropped.length > 0 ? (
        <section aria-label="Dropped items">
          <h2 className="font-semibold">Dropped, and so counting for nobody</h2>
          <ul>
            {dropped.map((item) => (
              <li key={item}>
                {item}{' '}
                {mayGrade && restoring !== item ? (
                  <Button small onClick={() => setRestoring(item)}>
                    Let it count again
                  </Button>
                ) : null}
                {restoring === item && known[item] ? (
                  <ItemKeyForm view={view} item={item} known={known[item]} answers={[]} />
                ) : null}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {changes.length > 0 ? (
        <section aria-label="Changes of keys">
          <h2 className="font-semibold">Changes of keys</h2>
          <ul>
            {changes.map((c) => (
              <li key={c.id} className="flex flex-wrap items-baseline gap-x-2">
                <span className={c.undone ? 'text-muted line-through' : undefined}>
                  {dayAndTime(c.at, zone)}
                  {c.by ? `, ${c.by}` : ''}: {c.item}: {c.words};{' '}
                  {c.moved === 0 ? 'no grade moved' : `${counted(c.moved, 'grade')} moved`}
                </span>
                {c.undone ? <span className="text-muted">undone</span> : null}
                {c.canUndo && mayGrade ? <UndoChange code={code} id={c.id} /> : null}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </Panel>
  );
}

/** Whose wrong numbers lean to one side: found once the rest stands, since it looks over all assignments. */
function StudentLeans({ view }: { readonly view: ItemsView }) {
  const { code } = view.course;
  const answer = useAnswer(leansAction, { code, g: useSearchParams().get('g') });
  if (answer.state === 'asking') return <p role="status">Looking over the wrong numbers …</p>;
  if (answer.state === 'failed') return <p className="text-plum">{answer.message}</p>;
  const few = answer.value.filter((l) => l.few);
  const clear = answer.value.filter((l) => !l.few);
  return (
    <section aria-label="Whose numbers lean to one side">
      <h2 className="font-semibold">Wrong numbers that lean to one side, over all assignments</h2>
      {answer.value.length === 0 ? <p>Nobody’s do.</p> : null}
      <Leans code={code} leans={clear} />
      {few.length > 0 ? (
        <details>
          <summary className="cursor-pointer">
            {counted(few.length, 'student')} with still few of them, all on one side
          </summary>
          <Leans code={code} leans={few} />
        </details>
      ) : null}
    </section>
  );
}

function Leans({ code, leans }: { readonly code: string; readonly leans: readonly StudentLean[] }) {
  return (
    <ul className="grid gap-x-6 sm:grid-cols-2">
      {leans.map((l) => (
        <li key={l.student}>
          <StudentLink code={code} id={l.student} from="items">
            {l.name}
          </StudentLink>
          : {l.text}
        </li>
      ))}
    </ul>
  );
}
