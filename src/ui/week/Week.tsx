'use client';
import Link from 'next/link';
import type { Answer, Named } from '@/core/weekly/answers';
import type { WeekView } from '@/core/views/week';
import { Button, buttonClasses } from '../parts/Button';
import { Definition } from '../parts/Definition';
import { ExportLinks } from '../parts/ExportLinks';
import { spanText } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery, withScope } from '../ribbon/useQuery';

/** How many of a list stand on the page before “all”. */
const SHOWN = 6;

/** A page of answers for the week: each a sentence with its list, its rule and its next step. */
export function Week({ view }: { readonly view: WeekView }) {
  const { scope } = view;
  const check = view.answers.find((a) => a.id === 'check')?.list.length ?? 0;
  const praise = view.answers.find((a) => a.id === 'finished')?.list.length ?? 0;
  return (
    <>
      <ViewHead
        title={view.students === 0 ? 'Nobody is in this group' : `${check} to check on, ${praise} to praise`}
        aside={<ExportLinks code={view.course.code} list="week" />}
      >
        {scope.window.choice === '7d' ? 'The last seven days' : `The days ${spanText(scope.window)}`}, for{' '}
        {view.students} students. Every sentence says its rule behind the “i”.
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={scope} course={view.course} />
      {view.students === 0 ? (
        <Panel>
          <Nothing title="Choose another section above" />
        </Panel>
      ) : (
        <div className="grid items-start gap-3 lg:grid-cols-2">
          {view.answers.map((answer) => (
            <AnswerPanel key={answer.id} answer={answer} view={view} />
          ))}
        </div>
      )}
    </>
  );
}

function AnswerPanel({ answer, view }: { readonly answer: Answer; readonly view: WeekView }) {
  const { query } = useQuery();
  const { code } = view.course;
  const { pick } = usePick(code, view.tray);
  const ids = answer.list.filter((n) => n.kind === 'student').map((n) => n.id);
  const rest = answer.list.slice(SHOWN);
  return (
    <Panel className="p-4">
      <section aria-label={answer.question}>
        <div className="flex items-start justify-between gap-3">
          <div>
            <h2 className="text-muted text-[13px] font-semibold">
              {answer.question}
              <Definition of={answer.question}>{answer.rule}</Definition>
            </h2>
            <p className="font-serif text-lg leading-snug font-semibold">{answer.sentence}</p>
          </div>
          <span className="no-print shrink-0">
            {answer.reason && ids.length > 0 ? (
              <Button
                small
                aria-label={`Pick ${ids.length}: ${answer.question}`}
                onClick={() => pick(ids, `${answer.reason} ${spanText(view.scope.window)}`)}
              >
                Pick {ids.length}
              </Button>
            ) : null}
            {answer.id === 'class' && answer.list.length > 0 ? (
              <Link
                href={withScope(`/c/${code}/trends?tab=works`, query)}
                className={buttonClasses('plain', undefined, true)}
              >
                All works
              </Link>
            ) : null}
          </span>
        </div>
        {answer.list.length > 0 ? (
          <ul className="mt-2 space-y-0.5">
            {answer.list.slice(0, SHOWN).map((n) => (
              <Line key={`${n.kind}-${n.id}-${n.note}`} named={n} code={code} />
            ))}
          </ul>
        ) : null}
        {rest.length > 0 ? (
          <details>
            <summary className="text-muted hover:text-ink mt-1 w-fit text-[13px] leading-6">
              and {rest.length} more
            </summary>
            <ul className="space-y-0.5">
              {rest.map((n) => (
                <Line key={`${n.kind}-${n.id}-${n.note}`} named={n} code={code} />
              ))}
            </ul>
          </details>
        ) : null}
      </section>
    </Panel>
  );
}

function Line({ named, code }: { readonly named: Named; readonly code: string }) {
  const { query } = useQuery();
  return (
    <li className="flex gap-2 leading-6">
      <span className="w-44 shrink-0 truncate" title={named.name}>
        {named.kind === 'student' ? (
          <StudentLink code={code} id={named.id} from="week">
            {named.name}
          </StudentLink>
        ) : (
          <Link
            href={withScope(`/c/${code}/work/${named.id}`, query)}
            prefetch={false}
            className="font-semibold hover:underline"
          >
            {named.name}
          </Link>
        )}
      </span>
      <span className="text-muted min-w-0">{named.note}</span>
    </li>
  );
}
