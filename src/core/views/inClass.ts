import type { ItemLook } from '../items/look';
import type { ItemsView } from './items';

/** An item as it is shown to a class: nobody's name, and the key apart. */
export interface InClassView {
  readonly code: string;
  readonly quizId: number;
  readonly title: string;
  readonly item: string;
  /** Items of the quiz, the hardest first. */
  readonly items: readonly string[];
  readonly stem: string | null;
  /** What can be chosen, or for an item without options what was answered most. */
  readonly answers: readonly {
    readonly option: string;
    readonly text: string;
    readonly right: boolean;
    readonly count: number;
  }[];
  readonly sat: number;
  readonly omitted: number;
  readonly explanation: string | null;
}

/** Answers that stand for an item without options: more do not fit on a wall. */
const MOST_ANSWERS = 6;

/** What of the items is shown in class; null where there is no such item. Without one asked for, the hardest. */
export function inClass(view: ItemsView, asked: string | undefined): InClassView | null {
  const { quiz, look, known, course } = view;
  const hardest = [...look.items].sort((a, b) => (a.difficulty ?? 0) - (b.difficulty ?? 0));
  const found: ItemLook | undefined = asked == null ? hardest[0] : look.items.find((i) => i.item === asked);
  if (!quiz || !found) return null;
  const of = known[found.item];
  const countOf = new Map(found.answers.map((a) => [a.answer, a.students.length]));
  const keys = new Set(of?.keys ?? []);
  const options = of?.options.length
    ? of.options
    : found.answers.slice(0, MOST_ANSWERS).map((a) => ({ option: a.answer, text: '' }));
  return {
    code: course.code,
    quizId: quiz.id,
    title: quiz.title,
    item: found.item,
    items: hardest.map((i) => i.item),
    stem: of?.stem ?? null,
    answers: options.map(({ option, text }) => ({
      option,
      text,
      right: keys.has(option),
      count: countOf.get(option) ?? 0,
    })),
    sat: look.n,
    omitted: found.omitted,
    explanation: of?.explanation ?? null,
  };
}
