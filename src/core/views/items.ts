import type { QuizLook } from '../items/look';
import type { ViewFrame } from './frame';

/** An assignment with answers to its items. */
export interface QuizChoice {
  readonly id: number;
  readonly title: string;
  /** Students who answered something in it. */
  readonly students: number;
}

export interface ItemsView extends ViewFrame {
  /** The latest due first. */
  readonly quizzes: readonly QuizChoice[];
  /** The one that is looked at; null where no answers are known. */
  readonly quiz: QuizChoice | null;
  readonly look: QuizLook;
  /** Items with answers that are not scored yet. */
  readonly unscored: readonly string[];
  /** Names of whoever answered, by id. */
  readonly names: Readonly<Record<number, string>>;
}
