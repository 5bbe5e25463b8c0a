'use client';
import Link from 'next/link';
import { useState } from 'react';
import { outcomeItemsAction } from '@/actions/outcomes';
import { counted } from '@/core/format';
import type { ItemBehind, StudentBehind } from '@/core/views/outcomeItems';
import type { OutcomesView } from '@/core/views/outcomes';
import { Button } from '../parts/Button';
import { StudentLink } from '../parts/StudentLink';
import { useAnswer } from '../parts/useAnswer';

const percent = (share: number): string => `${Math.round(100 * share)} %`;
/** Lines that are shown at once. */
const SHOWN = 8;

/** The items behind an outcome: the hardest first, what is taken for what, and what each student saw of them. */
export default function OutcomeItems({
  view,
  outcome,
  title,
}: {
  readonly view: OutcomesView;
  readonly outcome: number;
  readonly title: string;
}) {
  const { code } = view.course;
  const [all, setAll] = useState(false);
  const answer = useAnswer(outcomeItemsAction, { code, outcome });
  if (answer.state === 'asking') return <p role="status">Loading the items …</p>;
  if (answer.state === 'failed') return <p className="text-plum">{answer.message}</p>;
  const { items, students } = answer.value;
  if (items.length === 0)
    return (
      <p className="border-line border-l-[3px] pl-3 text-[13px]">
        No answers to items are known here; what is known rests on grades.
      </p>
    );
  const shown = all ? items : items.slice(0, SHOWN);
  return (
    <section
      aria-label={`Items behind ${title}`}
      className="border-teal mt-1 border-l-[3px] pl-3 text-[13px]"
    >
      <h3 className="font-semibold">{counted(items.length, 'item')}, the hardest first</h3>
      <ul>
        {shown.map((i) => (
          <li key={`${i.activityId} ${i.item}`} className="border-line border-b py-1 last:border-0">
            <ItemLine code={code} item={i} />
          </li>
        ))}
      </ul>
      {items.length > SHOWN ? (
        <Button small look="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Fewer' : `All ${items.length} items`}
        </Button>
      ) : null}
      <h3 className="mt-2 font-semibold">Each student, who got least right first</h3>
      <ul className="max-h-72 overflow-auto" tabIndex={0} aria-label={`Each student in ${title}`}>
        {students.map((s) => (
          <li key={s.enrolmentId} className="border-line border-b py-1 last:border-0">
            <StudentLine code={code} student={s} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function ItemLine({ code, item: i }: { readonly code: string; readonly item: ItemBehind }) {
  return (
    <>
      <Link
        className="font-semibold underline-offset-2 hover:underline"
        href={`/c/${code}/items?work=${i.activityId}&item=${encodeURIComponent(i.item)}`}
      >
        {i.assignment}, {i.item}
      </Link>{' '}
      {i.stem ? <span className="break-words">{i.stem} </span> : null}
      <span className="text-muted">
        {i.right == null ? 'not scored yet' : `${percent(i.right)} right`} of {counted(i.answered, 'answer')}
      </span>
      {i.wrong ? (
        <span className="block break-words">
          {counted(i.wrong.count, 'student')} answered “{i.wrong.answer}”
          {i.wrong.text ? ` (${i.wrong.text})` : ''}
          {i.keys.length > 0 ? `; right is “${i.keys.join('” or “')}”` : ''}.
        </span>
      ) : null}
    </>
  );
}

function StudentLine({ code, student: s }: { readonly code: string; readonly student: StudentBehind }) {
  return (
    <>
      <StudentLink code={code} id={s.enrolmentId} from="outcomes">
        {s.name}
      </StudentLink>{' '}
      <span className="text-muted">
        saw {s.seen} of {s.of} items{s.right == null ? '' : `, ${percent(s.right)} right at first`}
      </span>
      {s.wrong.length > 0 ? (
        <details>
          <summary className="cursor-pointer">{counted(s.wrong.length, 'wrong first answer')}</summary>
          <ul>
            {s.wrong.map((w) => (
              <li key={w.item} className="break-words">
                {w.item}: “{w.answer}”{w.key ? ` instead of “${w.key}”` : ''}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </>
  );
}
