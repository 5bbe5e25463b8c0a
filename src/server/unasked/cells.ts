import type { Instant, Minutes } from '@/core/units';
import { isSubmitted } from '@/core/gradebook/status';
import type { TraitCells } from '@/core/people/savedAudience';
import { traitOf, type ThisTrait } from '@/core/people/trait';
import { eachWorkDay } from '@/core/activity/workDays';
import { localDate } from '@/core/calendar/zone';
import type { Occasion, RuleWork } from '@/core/unasked/occasions';
import { materialDays, materialOf, medianMinutes, minutesOn } from '@/core/unasked/material';
import type { CourseModel } from '@/data/queries/courseModel';
import type { Snapshot } from '../snapshot/snapshot';
import { classTraits, type AsOf, type ClassTraits } from '../snapshot/traits';

/** The assignments of a course as rules see them. */
export const ruleWorks = ({ activities, works }: CourseModel): RuleWork[] => {
  const handedIn = new Set(works.map((w) => Number(w.id)));
  return activities
    .filter((a) => handedIn.has(a.id))
    .map(({ id, kind, dueAt }) => ({ id, kind, due: dueAt?.getTime() ?? null }));
};

/** Medians of a class that are used again until it is evaluated anew. */
const kept = new WeakMap<ReadonlyMap<number, unknown>, Map<number, Promise<Minutes | null>>>();

/** Reads the cells of traits for occasions: of their students, and of the assignment each is about. */
export function occasionCells(snapshot: Snapshot, asOf: AsOf & { readonly at: Instant }) {
  let traits: Promise<ClassTraits> | null = null;
  let rows: Map<number, number> | null = null;
  const rowOf = async () =>
    (rows ??= new Map(
      (await (traits ??= classTraits(snapshot, asOf))).people.map((p, i) => [p.enrolmentId, i]),
    ));
  return async (key: string, of: readonly Occasion[]): Promise<TraitCells> => {
    const trait = traitOf(key);
    if (trait?.of === 'this') return ofThis(snapshot, trait.what, of, asOf.at);
    const places = await rowOf();
    const cells = await (await traits!).cells(key);
    return of.map(({ student }) => {
      const row = places.get(student);
      return row == null ? null : (cells[row] ?? null);
    });
  };
}

async function ofThis(
  snapshot: Snapshot,
  what: ThisTrait,
  of: readonly Occasion[],
  at: Instant,
): Promise<TraitCells> {
  const model = await snapshot.model();
  const scores = await snapshot.scores();
  const scoreOf = ({ student, work }: Occasion) => scores.get(student)?.get(String(work));
  if (what === 'percent') {
    const points = new Map(model.activities.map((a) => [a.id, a.points]));
    return of.map((o) => {
      const most = o.work == null ? null : points.get(o.work);
      const score = scoreOf(o);
      // The grade as it stands: one that was changed since counts as changed.
      return most && score?.points != null && !score.excused ? (100 * score.points) / most : null;
    });
  }
  const workDays = await snapshot.workDays();
  if (what === 'begun') {
    const today = localDate(at, model.term.zone);
    return of.map((o) => {
      if (isSubmitted(scoreOf(o), at)) return 'yes';
      let begun = false;
      const own = workDays.get(o.student);
      eachWorkDay(own, { from: model.term.start, to: today }, (row) => {
        if (own!.activity[row] === o.work) begun = true;
      });
      return begun ? 'yes' : 'no';
    });
  }
  const works = ruleWorks(model);
  const workOf = new Map(works.map((w) => [w.id, w]));
  const timeOf = (student: number, work: RuleWork, material: ReadonlySet<number>, until: Instant) => {
    const handedIn = scores.get(student)?.get(String(work.id))?.submitted ?? null;
    const days = materialDays(work, works, handedIn, until, model.term.zone);
    return minutesOn(workDays.get(student), material, days);
  };
  const medianOf = async (work: RuleWork): Promise<Minutes | null> => {
    const measured = await snapshot.measures();
    let known = kept.get(measured);
    if (!known) kept.set(measured, (known = new Map()));
    let median = known.get(work.id);
    if (!median) {
      const material = materialOf(work.id, model.covers);
      const those = [...measured.keys()].filter(
        (id) => scores.get(id)?.get(String(work.id))?.submitted != null,
      );
      median = Promise.resolve(medianMinutes(those.map((id) => timeOf(id, work, material, Infinity))));
      known.set(work.id, median);
    }
    return median;
  };
  const cells: (number | null)[] = [];
  for (const { student, work: id } of of) {
    const work = id == null ? undefined : workOf.get(id);
    const median = work ? await medianOf(work) : null;
    cells.push(
      work && median != null
        ? (100 * timeOf(student, work, materialOf(work.id, model.covers), at)) / median
        : null,
    );
  }
  return cells;
}
