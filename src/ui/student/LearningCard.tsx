import type { OwnOutcome } from '@/core/views/student';
import { OutcomeRanges } from '../brief/OutcomeRanges';
import { Panel } from '../parts/Panel';
import { OwnQuizzes } from './OwnQuizzes';

/** What a level means to the one whose it is. */
const LEVEL_WORDS: Readonly<Record<OwnOutcome['level'], string>> = {
  secure: 'You have this.',
  developing: 'You are on the way.',
  'not yet': 'This is not there yet.',
  'too little data': 'Too little is known of this yet.',
};

/** A student's outcomes in words: where each stands, what it rests on, what would move it, and one thing to do next. */
export function LearningCard({
  outcomes,
  next,
  disclosed,
  readAloud,
}: {
  readonly outcomes: readonly OwnOutcome[];
  readonly next: string | null;
  readonly disclosed: readonly { readonly id: number; readonly title: string }[];
  readonly readAloud: boolean;
}) {
  return (
    <Panel className="space-y-4 p-5">
      <h3 className="font-serif text-lg font-semibold">What you have learned so far</h3>
      {next ? (
        <p className="border-amber border-l-[3px] pl-3">
          <span className="font-semibold">One thing to do next.</span> {next}
        </p>
      ) : null}
      <OutcomeRanges outcomes={outcomes} />
      <details>
        <summary className="cursor-pointer font-semibold">What each rests on, and what would move it</summary>
        <ul>
          {outcomes.map((o) => (
            <li key={o.id} className="border-line border-t py-1.5 first:border-t-0">
              <span className="font-semibold">{o.title}.</span> {LEVEL_WORDS[o.level]}
              {o.movers.length > 0 ? ` What would move it: ${o.movers.join('; ')}.` : ''}
              {o.rests.length > 0 ? (
                <span className="text-muted block text-[13px]">
                  It rests on{' '}
                  {o.rests.map((r, i) => (
                    <span key={r.id}>
                      {i > 0 ? ', ' : ''}
                      <a href={`#assignment-${r.id}`} className="hover:underline">
                        {r.title}
                      </a>{' '}
                      ({r.words})
                    </span>
                  ))}
                  .
                </span>
              ) : null}
            </li>
          ))}
        </ul>
      </details>
      {disclosed.length > 0 ? <OwnQuizzes quizzes={disclosed} readAloud={readAloud} /> : null}
    </Panel>
  );
}
