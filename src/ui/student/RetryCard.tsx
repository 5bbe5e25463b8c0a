import { counted, listed, minutesText, percentText } from '@/core/format';
import type { OwnRetry } from '@/core/views/student';
import { classes, finger } from '../parts/classes';
import { Panel } from '../parts/Panel';

/** Quizzes that can be tried again, with what to go over before. */
export function RetryCard({ retries }: { readonly retries: readonly OwnRetry[] }) {
  if (retries.length === 0) return null;
  return (
    <Panel className="p-5">
      <h3 className="mb-1 font-serif text-lg font-semibold">
        {counted(retries.length, 'quiz', 'quizzes')} that you can try again
      </h3>
      <ul className="divide-line divide-y">
        {retries.map((r) => (
          <li key={r.id} className="py-1.5">
            <a href={`#assignment-${r.id}`} className={classes('font-semibold hover:underline', finger)}>
              {r.title}
            </a>{' '}
            <span className="text-muted">
              {r.made > 1
                ? `first ${percentText(r.first)}, best ${percentText(r.best)}`
                : `you have ${percentText(r.best)}`}
              {r.left == null ? '' : `; ${counted(r.left, 'attempt')} left`}
            </span>
            <p>
              Before that, go over {listed(r.goOver.map((g) => `“${g.title}” (${minutesText(g.minutes)})`))}.
            </p>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
