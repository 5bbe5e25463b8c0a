'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { RuleForm } from '@/core/forms/rule';
import { counted } from '@/core/format';
import { starterFor } from '@/core/messages/starters';
import { RULE_STARTERS } from '@/core/unasked/starters';
import type { RulesView } from '@/core/views/rules';
import { Button } from '../parts/Button';
import { Panel, ViewHead } from '../parts/Panel';
import { newForm, RuleCard } from './RuleCard';
import { RuleLog } from './RuleLog';
import { Waiting } from './Waiting';
import { Which } from './Which';
import { Words } from './Words';

/** Below the rules, so that the page does not wait for what a form needs. */
const Guards = dynamic(() => import('./Guards').then((m) => m.Guards), {
  ssr: false,
  loading: () => <Panel className="min-h-56">{null}</Panel>,
});
const RuleSheet = dynamic(() => import('./RuleSheet').then((m) => m.RuleSheet));

const OWN: RuleForm = {
  id: null,
  name: '',
  starter: null,
  numbers: {},
  parts: {
    when: { on: 'graded', which: { any: true } },
    where: { all: [] },
    about: 'other',
    then: {
      do: 'message',
      approve: true,
      withPlan: false,
      offersTalk: false,
      ...starterFor('other'),
    },
  },
};

function headline({ rules, waiting }: RulesView): string {
  const on = rules.filter((r) => r.state === 'on').length;
  const head = on === 0 ? 'No rule is on yet' : `${counted(on, 'rule')} ${on === 1 ? 'is' : 'are'} on`;
  return waiting.length === 0
    ? head
    : `${head}; ${counted(waiting.length, 'message')} ${waiting.length === 1 ? 'waits' : 'wait'} for your yes`;
}

/** The rules of a course: what they ask, what they are, what guards them, and what they did. */
export function Rules({ view }: { readonly view: RulesView }) {
  const { course, about, rules } = view;
  const [own, setOwn] = useState(false);
  const starters = Object.keys(RULE_STARTERS).filter(
    (key) => !rules.some((r) => r.own && r.form.starter === key),
  );
  return (
    <>
      <ViewHead
        title={headline(view)}
        aside={
          <span className="flex flex-wrap items-center gap-3">
            <Which code={course.code} shows="rules" />
            <Button onClick={() => setOwn(true)}>Write a rule of your own …</Button>
          </span>
        }
      >
        Each is one sentence and one switch. A dry run shows what it would have written in the weeks gone by.
      </ViewHead>
      <div className="space-y-4">
        <Waiting course={course} lines={view.waiting} />
        <Words frame={view} lines={view.words} />
        <section aria-label="Rules" className="grid gap-3 lg:grid-cols-2">
          {rules.map((line, i) => (
            <RuleCard
              // What was saved anew is another card: its numbers are those that were saved.
              key={`${line.id} ${JSON.stringify(line.form)}`}
              course={course}
              about={about}
              line={line}
              form={line.form}
              first={i === 0}
              last={i === rules.length - 1}
            />
          ))}
        </section>
        {starters.length > 0 ? (
          <section aria-label="Rules to begin with">
            <h2 className="mb-2 font-serif text-lg font-semibold">
              {rules.length === 0 ? 'To begin with' : 'More to begin with'}
            </h2>
            <div className="grid gap-3 lg:grid-cols-2">
              {starters.map((key) => (
                <RuleCard
                  key={key}
                  course={course}
                  about={about}
                  line={null}
                  form={newForm(key)}
                  first
                  last
                />
              ))}
            </div>
          </section>
        ) : null}
        <Guards code={course.code} zone={course.zone} guards={view.guards} changes={view.changes} />
        <RuleLog course={course} lines={view.log} more={view.moreLogged} />
      </div>
      {own ? <RuleSheet code={course.code} about={about} form={OWN} onClose={() => setOwn(false)} /> : null}
    </>
  );
}
