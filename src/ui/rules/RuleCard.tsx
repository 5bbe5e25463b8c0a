'use client';
import { ArrowDown, ArrowUp } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { endRuleAction, moveRuleAction, saveRuleAction, switchRuleAction } from '@/actions/rules';
import type { RuleForm } from '@/core/forms/rule';
import { counted, dayAndTime } from '@/core/format';
import type { ClassAbout } from '@/core/people/traitAbout';
import { RULE_STARTERS, usualNumbers } from '@/core/unasked/starters';
import { ruleSentence } from '@/core/unasked/words';
import type { CourseHead } from '@/core/views/courseHead';
import type { RuleLine } from '@/core/views/rules';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { classes } from '../parts/classes';
import { NumberSentence } from '../parts/NumberSentence';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

const DryRunSheet = dynamic(() => import('./DryRunSheet').then((m) => m.DryRunSheet));
const RuleSheet = dynamic(() => import('./RuleSheet').then((m) => m.RuleSheet));

/** A starter as a form, before anybody has saved it. */
export const newForm = (starter: string): RuleForm => {
  const numbers = usualNumbers(starter);
  const { name, make } = RULE_STARTERS[starter]!;
  return { id: null, name, starter, numbers, parts: make(numbers) };
};

/** One rule: its sentence with its numbers, its switch, and what it did. */
export function RuleCard({
  course,
  about,
  line,
  form,
  first,
  last,
}: {
  readonly course: CourseHead;
  readonly about: ClassAbout;
  /** The saved rule; null for a starter that is not. */
  readonly line: RuleLine | null;
  readonly form: RuleForm;
  readonly first: boolean;
  readonly last: boolean;
}) {
  const { code } = course;
  const { busy, act } = useAct();
  const [numbers, setNumbers] = useState<Record<string, number | null>>({ ...form.numbers });
  const [opened, setOpened] = useState(form);
  const [sheet, setSheet] = useState<'dry run' | 'change' | null>(null);
  const starter = form.starter == null ? undefined : RULE_STARTERS[form.starter];
  const mine = line == null || line.own;
  const on = line?.state === 'on';
  const whole = (): RuleForm => {
    const set: Record<string, number> = {};
    for (const [key, value] of Object.entries(numbers)) if (value != null) set[key] = value;
    if (!starter) return form;
    return {
      ...form,
      numbers: set,
      parts: { ...starter.make({ ...form.numbers, ...set }), then: form.parts.then },
    };
  };
  const changed = starter?.numbers.some((n) => numbers[n.key] !== form.numbers[n.key]) ?? false;
  const { then } = form.parts;
  const store = (rule: RuleForm, options: Parameters<typeof act<number>>[1]) => {
    const over = (was: object | null) => saveRuleAction({ code, rule, was });
    act(() => over(rule.id == null ? null : opened), {
      ...options,
      edit: { mine: rule, over },
      then: (id) => {
        setOpened(rule);
        options?.then?.(id);
      },
    });
  };
  const save = (next: RuleForm, done: string) => store(next, { done });
  const turn = () => {
    if (line && !changed)
      return act(() => switchRuleAction({ code, id: line.id, on: !on }), {
        done: on ? `“${form.name}” is off.` : `“${form.name}” is on from now.`,
        undo: () => act(() => switchRuleAction({ code, id: line.id, on })),
      });
    store(whole(), {
      then: (id) =>
        act(() => switchRuleAction({ code, id, on: !on }), { done: `“${form.name}” is on from now.` }),
    });
  };
  return (
    <Panel className={classes('h-full p-3.5', on && 'border-l-amber border-l-[3px]')}>
      <section aria-label={form.name}>
        <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1">
          <h3 className="font-serif text-lg font-semibold">{form.name}</h3>
          <button
            type="button"
            role="switch"
            aria-checked={on}
            aria-label={`${form.name}: on`}
            disabled={busy || !mine}
            onClick={turn}
            className={classes(
              'inline-flex min-h-8 items-center gap-2 rounded-full border px-3 text-sm max-sm:min-h-11',
              'disabled:cursor-not-allowed disabled:opacity-55',
              on
                ? 'border-teal bg-teal text-on-teal font-semibold'
                : 'border-edge/60 text-muted hover:border-ink',
            )}
          >
            <span
              aria-hidden
              className={classes('size-2.5 rounded-full', on ? 'bg-on-teal' : 'border-edge border')}
            />
            {on ? 'On' : 'Off'}
          </button>
        </div>
        {starter ? (
          <p className="max-w-prose">
            <NumberSentence
              sentence={starter.sentence}
              numbers={starter.numbers}
              values={numbers}
              disabled={busy || !mine}
              onChange={(key, value) => setNumbers((now) => ({ ...now, [key]: value }))}
            />
          </p>
        ) : (
          <p className="max-w-prose leading-7">{ruleSentence(form.parts, about)}</p>
        )}
        {line?.state === 'paused' ? (
          <p role="alert" className="text-plum">
            Paused by itself: {line.why}
          </p>
        ) : null}
        {line?.stale ? (
          <p className="text-plum">Nothing is known of anybody now: {line.stale}. It writes to nobody.</p>
        ) : null}
        <div className="mt-2 flex flex-wrap items-center gap-2">
          {then.do === 'message' && mine ? (
            <Chips
              label={`${form.name}: how it goes`}
              value={then.approve ? 'ask' : 'self'}
              options={[
                { value: 'ask', label: 'asks me first' },
                { value: 'self', label: 'goes by itself' },
              ]}
              onChange={(next) => {
                const rule = whole();
                save(
                  { ...rule, parts: { ...rule.parts, then: { ...then, approve: next === 'ask' } } },
                  next === 'ask' ? 'It asks you first.' : 'It goes by itself.',
                );
              }}
            />
          ) : (
            <span className="text-muted text-[13px]">
              {then.do === 'word'
                ? 'a word to you, with a draft'
                : then.approve
                  ? 'asks first'
                  : 'goes by itself'}
            </span>
          )}
          <Button small onClick={() => setSheet('dry run')}>
            Dry run
          </Button>
          {mine ? (
            <Button small look="quiet" onClick={() => setSheet('change')}>
              {starter ? 'Text …' : 'Change …'}
            </Button>
          ) : null}
          {changed && line ? (
            <Button
              small
              look="main"
              disabled={busy}
              onClick={() => save(whole(), 'Saved. It looks from now on.')}
            >
              Save the numbers
            </Button>
          ) : null}
          {line && mine ? (
            <span className="ml-auto flex items-center gap-1">
              <Button
                small
                look="quiet"
                aria-label={`${form.name}: move up`}
                disabled={busy || first}
                onClick={() => act(() => moveRuleAction({ code, id: line.id, up: true }))}
              >
                <ArrowUp className="size-3.5" aria-hidden />
              </Button>
              <Button
                small
                look="quiet"
                aria-label={`${form.name}: move down`}
                disabled={busy || last}
                onClick={() => act(() => moveRuleAction({ code, id: line.id, up: false }))}
              >
                <ArrowDown className="size-3.5" aria-hidden />
              </Button>
              <Button
                small
                look="quiet"
                disabled={busy}
                onClick={() =>
                  act(() => endRuleAction({ code, id: line.id }), {
                    done: `“${form.name}” has ended. What it did stays below.`,
                  })
                }
              >
                End it
              </Button>
            </span>
          ) : null}
        </div>
        {line ? (
          <p className="text-muted mt-1.5 text-[13px]">
            {line.since == null ? 'Off' : `On since ${dayAndTime(line.since, course.zone)}`}
            {line.own ? '' : `, by ${line.by}`} · {counted(line.sent, 'message')} sent · {line.held} held back
            {line.words > 0 ? ` · ${counted(line.words, 'word')} to you` : ''}
          </p>
        ) : null}
      </section>
      {sheet === 'dry run' ? (
        <DryRunSheet course={course} form={whole()} onClose={() => setSheet(null)} />
      ) : null}
      {sheet === 'change' ? (
        <RuleSheet code={code} about={about} form={whole()} onClose={() => setSheet(null)} />
      ) : null}
    </Panel>
  );
}
