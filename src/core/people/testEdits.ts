import type { ColumnTest } from '../rules/selection';
import { traitKey, type Trait } from './trait';
import { traitAbout, type ClassAbout, type TraitAbout } from './traitAbout';

/** How a number can be compared, as the builder says it. */
export const COMPARISONS = [
  { value: '<', label: 'under' },
  { value: '<=', label: 'at most' },
  { value: '>', label: 'over' },
  { value: '>=', label: 'at least' },
  { value: '=', label: 'exactly' },
  { value: 'between', label: 'from … to' },
  { value: 'lowest', label: 'among the lowest' },
  { value: 'highest', label: 'among the highest' },
  { value: 'known', label: 'known' },
] as const;
export type NumberTest = (typeof COMPARISONS)[number]['value'];

/** Shares of a class that a place begins with. */
const USUAL_SHARE = 20;

/** A test of another kind on the same column, with as much of its numbers as still means something. */
export function retested(test: ColumnTest, is: NumberTest): ColumnTest {
  const { measure } = test;
  const value = 'value' in test && typeof test.value === 'number' ? test.value : 0;
  switch (is) {
    case 'known':
      return { measure, is };
    case 'between':
      return { measure, is, value, to: 'to' in test ? test.to : value };
    case 'lowest':
    case 'highest':
      return { measure, is, percent: 'percent' in test ? test.percent : USUAL_SHARE };
    default:
      return { measure, is, value };
  }
}

/** The test a trait begins with: a likely limit, or its first value. */
export function firstTest(trait: Trait, about: TraitAbout, course: ClassAbout): ColumnTest {
  const measure = traitKey(trait);
  if (about.kind === 'choice') {
    const [first] = about.values;
    return { measure, is: 'in', value: first ? [first.value] : [] };
  }
  const points = trait.of === 'score' ? course.works.find((w) => w.id === trait.work)?.points : null;
  return {
    measure,
    is: '<',
    value: points == null ? (USUAL_LIMIT[trait.of] ?? 1) : Math.round(points * 0.6),
  };
}
const USUAL_LIMIT: Partial<Record<Trait['of'], number>> = { percent: 60, measure: 30 };

/** The same test asked of another trait, if it can be; else the one that begins. */
export function moved(
  test: ColumnTest,
  trait: Trait,
  course: ClassAbout,
  before: TraitAbout | null,
): ColumnTest {
  const about = traitAbout(trait, course)!;
  if (before && about.kind === before.kind) {
    if (
      about.kind === 'number' &&
      before.kind === 'number' &&
      about.unit === before.unit &&
      about.noun === before.noun
    )
      return { ...test, measure: traitKey(trait) };
    if (about.kind === 'choice' && before.kind === 'choice') {
      const there = test.is === 'in' ? test.value.filter((v) => about.values.some((a) => a.value === v)) : [];
      if (there.length > 0) return { measure: traitKey(trait), is: 'in', value: there };
    }
  }
  return firstTest(trait, about, course);
}
