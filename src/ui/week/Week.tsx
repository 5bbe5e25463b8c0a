'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { pickedFor } from '@/core/acts/pick';
import { WEEK_PARTS, type Answer, type Named } from '@/core/weekly/answers';
import type { WeekView } from '@/core/views/week';
import { Button, buttonClasses } from '../parts/Button';
import { Definition } from '../parts/Definition';
import { ExportLinks } from '../parts/ExportLinks';
import { counted, spanText } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { withScope } from '../ribbon/withScope';
import { ReviewTime } from './ReviewTime';

/** How many of a list stand on the page before “all”. */
const SHOWN = 6;

/** A page of answers for the week in four parts: each a sentence with its list, its rule and its next step. */
export function Week({ view }: { readonly view: WeekView }) {
  const { scope } = view;
  const listed = (id: string) => view.answers.find((a) => a.id === id)?.list.length ?? 0;
  const [check, stand] = [listed('check'), listed('improved')];
  return (
    <>
      <ViewHead
        title={
          view.students === 0
            ? 'Nobody is in this group'
            : `${counted(check, 'student')} newly ${check === 1 ? 'needs' : 'need'} a talk, ${stand} ${stand === 1 ? 'stands' : 'stand'} out`
        }
        aside={
          <span className="flex flex-wrap items-center gap-2">
            <ReviewTime code={view.course.code} zone={view.course.zone} time={view.review} />
            <ExportLinks code={view.course.code} list="week" />
          </span>
        }
      >
        {spanText(scope.window)}, {counted(view.students, 'student')}. {view.time}. Every sentence says its
        rule behind the “i”.
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={scope} course={view.course} />
      {view.students === 0 ? (
        <Panel>
          <Nothing title="Choose another section above" />
        </Panel>
      ) : (
        <div className="gap-3 lg:columns-2">
          {WEEK_PARTS.map((part) => (
            <Panel key={part} className="mb-3 break-inside-avoid p-4">
              <section aria-label={part}>
                <h2 className="text-muted text-[13px] font-semibold">{part}</h2>
                {view.answers
                  .filter((a) => a.part === part)
                  .map((answer) => (
                    <AnswerLines key={answer.id} answer={answer} view={view} />
                  ))}
              </section>
            </Panel>
          ))}
        </div>
      )}
    </>
  );
}

function AnswerLines({ answer, view }: { readonly answer: Answer; readonly view: WeekView }) {
  const query = useSearchParams();
  const { code } = view.course;
  const { pick } = usePick(view);
  const ids = answer.list.filter((n) => n.kind === 'student').map((n) => n.id);
  const first = answer.folded ? [] : answer.list.slice(0, SHOWN);
  const rest = answer.list.slice(first.length);
  return (
    <div className="mt-2 first-of-type:mt-0.5">
      <div className="flex items-start justify-between gap-3">
        <p className="font-serif text-base leading-snug font-semibold">
          {answer.sentence}
          <Definition of={answer.sentence}>{answer.rule}</Definition>
        </p>
        <span className="no-print shrink-0">
          {answer.reason && ids.length > 0 ? (
            <Button
              small
              aria-label={`Select ${ids.length}: ${answer.sentence}`}
              onClick={() =>
                pick(ids, pickedFor(`${answer.reason}, ${spanText(view.scope.window)}`, answer.about))
              }
            >
              Select {ids.length}
            </Button>
          ) : null}
          {answer.id === 'class' && answer.list.length > 0 ? (
            <Link
              href={withScope(`/c/${code}/trends?tab=assignments`, query)}
              className={buttonClasses('plain', undefined, true)}
            >
              All assignments
            </Link>
          ) : null}
        </span>
      </div>
      {first.length > 0 ? (
        <ul className="mt-1 space-y-0.5">
          {first.map((n) => (
            <Line key={`${n.kind}-${n.id}-${n.note}`} named={n} code={code} />
          ))}
        </ul>
      ) : null}
      {rest.length > 0 ? (
        <details>
          <summary className="text-muted hover:text-ink mt-0.5 w-fit text-[13px] leading-6">
            {answer.folded ? 'Who they are' : `and ${rest.length} more`}
          </summary>
          <ul className="space-y-0.5">
            {rest.map((n) => (
              <Line key={`${n.kind}-${n.id}-${n.note}`} named={n} code={code} />
            ))}
          </ul>
        </details>
      ) : null}
    </div>
  );
}

function Line({ named, code }: { readonly named: Named; readonly code: string }) {
  const query = useSearchParams();
  return (
    <li className="flex gap-2 leading-6 max-sm:min-h-11 max-sm:items-center">
      <span className="w-36 shrink-0 break-words sm:w-44">
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
