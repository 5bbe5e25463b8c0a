import Link from 'next/link';
import type { ItemDifficulty } from '@/core/items/difficulty';
import { Panel } from '../parts/Panel';

/** How hard each item was: the mean score of first answers, as a length and as a figure. */
export function Items({
  items,
  href,
}: {
  readonly items: readonly ItemDifficulty[];
  /** Where the items are looked at with their answers. */
  readonly href: string;
}) {
  if (items.length === 0) return null;
  const hardest = items.reduce((a, b) => ((b.p ?? 1) < (a.p ?? 1) ? b : a));
  return (
    <Panel className="mb-3 p-4">
      <h2 className="font-serif text-lg font-semibold">
        {hardest.p == null
          ? 'Answers are in, scores are not'
          : `Hardest: ${hardest.item}, ${Math.round(100 * hardest.p)} % at the first answer`}
      </h2>
      <p className="text-muted mb-2 text-[13px]">
        Mean score of each item at the first answer of a student; later attempts have seen it.{' '}
        <Link href={href} className="text-teal underline">
          See the answers
        </Link>
      </p>
      <ul className="grid grid-cols-1 gap-x-8 gap-y-1 text-[13px] sm:grid-cols-2 lg:grid-cols-3">
        {items.map(({ item, p, answered }) => (
          <li key={item} className="flex items-center gap-2">
            <span className="w-24 break-words">{item}</span>
            <span className="bg-paper relative h-3 flex-1 overflow-hidden rounded-sm" aria-hidden>
              <span
                className="bg-teal absolute inset-y-0 left-0"
                style={{ width: `${Math.round(100 * (p ?? 0))}%` }}
              />
            </span>
            <span className="w-24 text-right whitespace-nowrap">
              {p == null ? 'no score' : `${Math.round(100 * p)} %`}{' '}
              <span className="text-muted">of {answered}</span>
            </span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
