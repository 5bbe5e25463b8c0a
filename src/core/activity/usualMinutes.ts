import { median } from '../statistics/quantile';
import type { Minutes } from '../units';
import { secondsByActivity, type WorkDays } from './workDays';

/**
 * What an activity of a kind usually takes: the median, over all students and activities of the kind on which any time
 * was spent, of the minutes that one student spent on one of them. Kinds on which nobody spent any are left out.
 */
export function usualMinutes<K>(
  days: Iterable<WorkDays>,
  kindOf: (activity: number) => K | undefined,
): Map<K, Minutes> {
  const byKind = new Map<K, number[]>();
  for (const own of days) {
    for (const [activity, total] of secondsByActivity(own)) {
      const kind = kindOf(activity);
      if (kind === undefined || total <= 0) continue;
      const list = byKind.get(kind);
      if (list) list.push(total / 60);
      else byKind.set(kind, [total / 60]);
    }
  }
  return new Map([...byKind].map(([kind, list]) => [kind, median(list)!]));
}
