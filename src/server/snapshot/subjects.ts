import { sumDays, sumWorks, type DayFigures } from '@/core/activity/dayFigures';
import { shareBefore } from '@/core/activity/partOfDay';
import { openedOnly } from '@/core/activity/workDays';
import type { DaySpan } from '@/core/calendar/window';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { isResource, type ActivityKind } from '@/core/course/kinds';
import type { Subject } from '@/core/measures/measure';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import type { Snapshot } from './snapshot';

/**
 * Students of a course as measures see them, of whatever days.
 *
 * @param kind the one kind of activity that will be asked for, if any
 * @param options.whole whether it will be asked when somebody was there and what they only opened
 * @param options.measured what was found of them, if not by the last evaluation
 */
export async function subjectsOf(
  snapshot: Snapshot,
  ids: readonly number[],
  kind: ActivityKind | null,
  {
    whole = false,
    measured: known,
  }: { readonly whole?: boolean; readonly measured?: ReadonlyMap<number, StudentMeasures> } = {},
): Promise<Subject[]> {
  const { activities, row } = await snapshot.model();
  const measured = known ?? (await snapshot.measures());
  const days = await snapshot.days();
  const workDays = kind || whole ? await snapshot.workDays() : null;
  const sessions = await snapshot.sessions();
  const scores = whole ? await snapshot.scores() : null;
  const ofKind = new Set(activities.filter((a) => a.kind === kind).map((a) => a.id));
  const assignments = new Set(activities.filter((a) => !isResource(a.kind)).map((a) => a.id));
  return ids.map((id): Subject => {
    const known = new Map<string, DayFigures>();
    return {
      id,
      measured: measured.get(id) ?? null,
      figures: (span, of) => {
        const key = `${span.from} ${span.to} ${span.until} ${span.without?.length} ${of}`;
        let found = known.get(key);
        if (!found) {
          const part =
            span.until == null ? 1 : shareBefore(sessions.get(id) ?? [], span.to, span.until, row.zone);
          found = of
            ? sumWorks(workDays?.get(id), span, ofKind, part)
            : sumDays(days.get(id) ?? [], span, part);
          known.set(key, found);
        }
        return found;
      },
      present: (span) => {
        const { from, until } = instants(span, row.zone);
        const within = (sessions.get(id) ?? []).filter((t) => t.from >= from && t.from < until);
        return { first: within.at(0)?.from ?? null, last: within.at(-1)?.until ?? null };
      },
      openedOnly: (span) => {
        const own = scores?.get(id);
        const untouched = (activity: number) => {
          const score = own?.get(String(activity));
          return score?.submitted == null && score?.points == null;
        };
        return [...openedOnly(workDays?.get(id), span, assignments)].filter(untouched).length;
      },
    };
  });
}

/** Instants of a span of days in a zone: from the first on, until before the last is over. */
export const instants = (span: DaySpan, zone: string) => ({
  from: startOfDay(span.from, zone),
  until: startOfDay(addDays(span.to, 1), zone),
});
