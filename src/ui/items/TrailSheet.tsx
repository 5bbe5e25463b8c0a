'use client';
import { trailAction } from '@/actions/items';
import { counted, dayAndTime, percentText } from '@/core/format';
import { knownNow, USUAL_TRACING } from '@/core/outcomes/knowledgeTracing';
import { Definition } from '../parts/Definition';
import { Sheet } from '../parts/Sheet';
import { useAnswer } from '../parts/useAnswer';

const scoreWords = (score: number | null): string => {
  if (score == null) return 'not scored';
  if (score >= 1) return 'right';
  return score <= 0 ? 'wrong' : `${Math.round(100 * score)} % right`;
};

/** What a student answered to an item, step by step: what, when, right or not. */
export function TrailSheet({
  code,
  activityId,
  item,
  enrolmentId,
  name,
  zone,
  onClose,
}: {
  readonly code: string;
  readonly activityId: number;
  readonly item: string;
  readonly enrolmentId: number;
  readonly name: string;
  readonly zone: string;
  readonly onClose: () => void;
}) {
  const answer = useAnswer(trailAction, { code, activityId, item, enrolmentId });
  const found = answer.state === 'there' ? answer.value : null;
  const known = found && knownNow(found.steps);
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`${name}, ${item}`}
      description={found?.stem ?? 'Each answer, the first one first'}
    >
      {answer.state === 'asking' ? <p role="status">Loading …</p> : null}
      {answer.state === 'failed' ? <p className="text-plum">{answer.message}</p> : null}
      {known != null ? (
        <p className="mb-2">
          By these steps it is {percentText(100 * known)} likely that it is known by now.
          <Definition of="Known by now">
            {`Bayesian knowledge tracing over the scored steps (Corbett & Anderson 1995), with ${percentText(100 * USUAL_TRACING.known)} known before, ${percentText(100 * USUAL_TRACING.learn)} learnt a step, ${percentText(100 * USUAL_TRACING.slip)} slips and ${percentText(100 * USUAL_TRACING.guess)} lucky guesses: assumptions, not measured here.`}
          </Definition>
        </p>
      ) : null}
      {found ? (
        <ol className="space-y-1.5">
          {found.steps.map((s, i) => (
            <li key={i} className="border-line border-b pb-1.5 last:border-0">
              <span className="font-semibold break-words">{s.answer || 'left out'}</span>{' '}
              <span className={s.score != null && s.score >= 1 ? 'text-teal' : 'text-plum'}>
                {scoreWords(s.score)}
              </span>
              <span className="text-muted block text-[13px]">
                Attempt {s.attempt}
                {s.at == null ? '' : `, ${dayAndTime(s.at, zone)}`}
                {s.seconds == null ? '' : `, ${counted(Math.round(s.seconds), 'second')}`}
                {s.hints > 0 ? `, after ${counted(s.hints, 'hint')}` : ''}
                {s.tooQuick ? '; faster than it can be read, so it counts as no evidence' : ''}
              </span>
            </li>
          ))}
        </ol>
      ) : null}
    </Sheet>
  );
}
