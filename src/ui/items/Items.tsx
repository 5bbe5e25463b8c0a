'use client';
import dynamic from 'next/dynamic';
import { counted, oneDigit } from '@/core/format';
import type { ItemLook } from '@/core/items/look';
import { LEAST_SITTERS } from '@/core/items/look';
import { itemGridTable } from '@/core/tables/itemGrid';
import { itemsTable } from '@/core/tables/items';
import type { ItemsView } from '@/core/views/items';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { Choose } from '../parts/Choose';
import { Definition } from '../parts/Definition';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { Panel, ViewHead } from '../parts/Panel';
import { address, useAddress } from '../parts/useAddress';
import { ScopeBar } from '../ribbon/ScopeBar';
import { ItemAnswers } from './ItemAnswers';
import { KeyShownChoice } from './KeyShownChoice';

const ADDRESS = address({
  work: null,
  item: null,
  tab: 'items',
  order: null,
  sort: itemsTable.usual,
  by: itemGridTable.usual,
});
const AnswerGrid = dynamic(() => import('./AnswerGrid'));
const ItemNotes = dynamic(() => import('./ItemNotes'));

/** The items of a quiz: which call for a look, and what was answered. */
export function Items({ view }: { readonly view: ItemsView }) {
  const { quiz, quizzes, look, unscored } = view;
  const { code } = view.course;
  const { asked, ask, note } = useAddress(ADDRESS);
  const opened = look.items.find((i) => i.item === asked.item) ?? null;
  const calls = look.items.filter((i) => i.call != null);
  const isGrid = asked.tab === 'students';
  return (
    <>
      <ViewHead title={headline(view, calls)}>
        {quiz ? (
          <>
            {counted(look.n, 'student')}, {counted(look.k, 'item')}, first answers only.
            {look.sem == null ? null : (
              <>
                {' '}
                A total is good to about ± {oneDigit(look.sem)} of {look.k} points.
                <Definition of="How good a total is">
                  {`The standard error of measurement: the standard deviation of the totals times the root of 1 less alpha. Cronbach’s alpha of this quiz is ${look.alpha!.toFixed(2)}.`}
                </Definition>
              </>
            )}
          </>
        ) : (
          'Import responses.csv, with a line for each answer.'
        )}
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} days={false} />
      {quiz ? (
        <>
          <div className="no-print mb-2 flex flex-wrap items-center gap-2">
            <Choose
              label="Quiz"
              className="w-72"
              value={String(quiz.id)}
              options={quizzes.map((q) => ({ value: String(q.id), label: `${q.title} (${q.students})` }))}
              onChange={(work) => ask({ work, item: null })}
            />
            <Chips
              label="Look at"
              value={asked.tab === 'students' ? 'students' : 'items'}
              options={[
                { value: 'items', label: 'Items', count: look.k },
                { value: 'students', label: 'Answers of each student', count: quiz.students },
              ]}
              onChange={(tab) => ask({ tab })}
            />
            <span className="ml-auto">
              {isGrid ? (
                <ExportLinks
                  code={code}
                  list="answers"
                  extra={{ work: String(quiz.id), order: asked.order, sort: asked.by }}
                />
              ) : (
                <ExportLinks code={code} list="items" extra={{ work: String(quiz.id), sort: asked.sort }} />
              )}
            </span>
          </div>
          {view.mayGrade ? <KeyShownChoice key={quiz.id} code={code} quiz={quiz} /> : null}
          {view.asksElsewhere.length > 0 ? (
            <p className="mb-2 flex flex-wrap items-center gap-2 text-[13px]">
              Who has seen the key and still does not see why:
              {view.asksElsewhere.map((q) => (
                <Button key={q.id} small onClick={() => ask({ work: String(q.id), item: null })}>
                  {q.students} in {q.title}
                </Button>
              ))}
            </p>
          ) : null}
          {look.n < LEAST_SITTERS ? (
            <p className="text-muted mb-2">
              Under {LEAST_SITTERS} students no item is judged: the figures rest on too few.
            </p>
          ) : null}
          {isGrid ? (
            <AnswerGrid
              view={view}
              order={asked.order}
              onOrder={(order) => note({ order })}
              sort={asked.by}
              onSort={(by) => note({ by })}
            />
          ) : null}
          {!isGrid && calls.length > 0 && !opened ? (
            <Panel className="border-l-amber mb-3 border-l-[3px] px-3 py-2">
              <ul aria-label="Items that call for a look">
                {calls.map((i) => (
                  <li key={i.item} className="flex flex-wrap items-baseline gap-2 py-0.5">
                    <Button small look="quiet" onClick={() => note({ item: i.item })}>
                      {i.item}
                    </Button>
                    <span className="min-w-0 flex-1">{i.call}</span>
                  </li>
                ))}
              </ul>
            </Panel>
          ) : null}
          {!isGrid && opened ? (
            <ItemAnswers view={view} item={opened} onClose={() => note({ item: null })} />
          ) : null}
          {isGrid ? null : (
            <DataTable
              label="Items"
              columns={itemsTable.columns(view, {})}
              show={{
                item: (r: ItemLook) => (
                  <Button
                    small
                    look="quiet"
                    aria-expanded={r.item === asked.item}
                    onClick={() => note({ item: r.item === asked.item ? null : r.item })}
                  >
                    {r.item}
                  </Button>
                ),
              }}
              rows={itemsTable.rows(view, {})}
              idOf={(r) => r.item}
              start={asked.sort}
              onSort={(sort) => note({ sort })}
              empty="No item of it is scored yet."
            />
          )}
          {isGrid ? null : <ItemNotes view={view} />}
          {unscored.length > 0 ? (
            <p className="text-muted mt-2 text-[13px]">
              Not scored yet, and so left out: {unscored.join(', ')}.
            </p>
          ) : null}
        </>
      ) : null}
    </>
  );
}

function headline({ quiz }: ItemsView, calls: readonly ItemLook[]): string {
  if (!quiz) return 'No answers to items are known yet';
  if (calls.length === 0) return `No item of ${quiz.title} calls for a look`;
  return `${counted(calls.length, 'item')} of ${quiz.title} ${calls.length === 1 ? 'calls' : 'call'} for a look`;
}
