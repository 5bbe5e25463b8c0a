import type { Snapshot } from '../snapshot/snapshot';
import { breakWeeks, weekOf, weekSpan } from '@/core/calendar/term';
import type { RibbonWeek } from '@/core/views/ribbon';

/** The weeks of a course's term, with the class's time on task, breaks and due dates. */
export async function termRibbon(snapshot: Snapshot): Promise<RibbonWeek[]> {
  const { term, activities } = await snapshot.model();
  const medians = await snapshot.classWeeks();
  const dueWorks = activities
    .flatMap((a) => (a.dueAt == null ? [] : [{ title: a.title, due: a.dueAt.getTime() }]))
    .sort((a, b) => a.due - b.due);
  const medianOf = new Map(medians.map((m) => [m.week, m.medianSeconds / 60]));
  const breaks = new Set(breakWeeks(term));
  const placed = dueWorks.map((w) => ({
    title: w.title,
    at: w.due,
    week: weekOf(term, w.due),
  }));
  return Array.from({ length: term.weeks }, (_, i) => {
    const week = i + 1;
    const { from, until } = weekSpan(term, week);
    const due = placed
      .filter((w) => w.week === week)
      .map((w) => ({ title: w.title, place: (w.at - from) / (until - from) }));
    return { week, medianMinutes: medianOf.get(week) ?? null, isBreak: breaks.has(week), due, from, until };
  });
}
