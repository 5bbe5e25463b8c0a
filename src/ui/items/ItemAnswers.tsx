'use client';
import { pickedFor } from '@/core/acts/pick';
import { counted } from '@/core/format';
import type { AnswerLook, ItemLook } from '@/core/items/look';
import type { ItemsView } from '@/core/views/items';
import Link from 'next/link';
import { Button, buttonClasses } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useLater } from '../parts/useLater';
import { usePick } from '../parts/usePick';
import { inClassAddress } from './inClassAddress';

const THIRDS = ['weakest third', 'middle third', 'best third'] as const;
const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** How many of each third gave an answer, as three bars. */
function Thirds({ answer: { thirds, right } }: { readonly answer: AnswerLook }) {
  const words = thirds.map((share, i) => `${percent(share)} of the ${THIRDS[i]}`).join(', ');
  return (
    <svg width={66} height={24} role="img" aria-label={words}>
      <title>{words}</title>
      {thirds.map((share, i) => (
        <rect
          key={THIRDS[i]}
          x={i * 22}
          width={18}
          y={22 - 20 * share}
          height={20 * share}
          fill={right ? 'var(--teal)' : 'var(--mid)'}
        />
      ))}
      <rect x={0} width={62} y={22} height={1} fill="var(--edge)" />
    </svg>
  );
}

const loadKeyForm = () => import('./ItemKeyForm');

/** The answers to one item: how many gave each, by thirds of the total, and who. */
export function ItemAnswers({
  view,
  item,
  onClose,
}: {
  readonly view: ItemsView;
  readonly item: ItemLook;
  readonly onClose: () => void;
}) {
  const { pick, busy } = usePick(view);
  const { Part: KeyForm, ask: askKeyForm } = useLater(loadKeyForm);
  const { quiz, names } = view;
  const known = view.known[item.item];
  const textOf = new Map(known?.options.map((o) => [o.option, o.text]));
  return (
    <Panel className="mb-3 p-4">
      <section aria-label={`Answers to ${item.item}`}>
        <div className="flex flex-wrap items-baseline justify-between gap-2">
          <h2 className="font-serif text-lg font-semibold break-words">{item.item}</h2>
          <span className="flex gap-2">
            <Link href={inClassAddress(view, item.item)} className={buttonClasses('plain', undefined, true)}>
              Show in class
            </Link>
            {view.mayGrade && known ? (
              <Button small onClick={askKeyForm} disabled={KeyForm != null}>
                Change the key
              </Button>
            ) : null}
            <Button small look="quiet" onClick={onClose}>
              Close
            </Button>
          </span>
        </div>
        {known?.stem ? <p className="mb-1 break-words whitespace-pre-wrap">{known.stem}</p> : null}
        {item.call ? <p className="text-plum">{item.call}</p> : null}
        {item.lean ? <p>{item.lean}</p> : null}
        <ul>
          {item.answers.map((a) => (
            <li key={a.answer} className="border-line flex flex-wrap items-center gap-3 border-t py-1.5">
              <Thirds answer={a} />
              <span className="min-w-40 flex-1 break-words">
                <span className="font-semibold">{a.answer}</span>{' '}
                {textOf.get(a.answer) ? <span>{textOf.get(a.answer)} </span> : null}
                <span className="text-muted">
                  {a.right ? 'right, ' : ''}
                  {counted(a.students.length, 'student')}
                </span>
              </span>
              <details className="text-[13px]">
                <summary className="cursor-pointer">who</summary>
                {a.students.map((id) => names[id]).join(', ')}
              </details>
              <Button
                small
                disabled={busy}
                aria-label={`Select these ${a.students.length} who answered ${a.answer}`}
                onClick={() =>
                  pick(
                    a.students,
                    pickedFor(`answered “${a.answer}” to ${item.item}`, 'other', quiz?.id ?? null, item.item),
                  )
                }
              >
                Select these {a.students.length}
              </Button>
            </li>
          ))}
        </ul>
        <p className="text-muted text-[13px]">
          {item.omitted > 0 ? `${counted(item.omitted, 'student')} left it out. ` : ''}
          The bars are the weakest, middle and best third by the total; first answers only.
        </p>
        {known?.explanation ? (
          <p className="text-[13px] break-words">
            <span className="font-semibold">Why:</span> {known.explanation}
          </p>
        ) : null}
        {KeyForm && known ? (
          <KeyForm
            key={`${item.item} ${known.rev}`}
            view={view}
            item={item.item}
            known={known}
            answers={item.answers.map((a) => a.answer)}
          />
        ) : null}
      </section>
    </Panel>
  );
}
