import type { KeyShown } from '../items/disclosure';
import type { GridRow } from '../items/grid';
import type { QuizLook } from '../items/look';
import type { ItemOption, Treatment } from '../items/treatment';
import type { ViewFrame } from './frame';
import type { ItemChangeMade } from './itemChange';

/** An assignment with answers to its items. */
export interface QuizChoice {
  readonly id: number;
  readonly title: string;
  /** Students who answered something in it. */
  readonly students: number;
  /** When students see its answers. */
  readonly keyShown: KeyShown;
}

export interface ItemsView extends ViewFrame {
  /** The latest due first. */
  readonly quizzes: readonly QuizChoice[];
  /** The one that is looked at; null where no answers are known. */
  readonly quiz: QuizChoice | null;
  readonly look: QuizLook;
  /** Items with answers that are not scored yet, and those that count for nobody. */
  readonly unscored: readonly string[];
  readonly dropped: readonly string[];
  /** What is known of the items beside their answers, by item. */
  readonly known: Readonly<Record<string, KnownItem>>;
  /** Changes of keys, the latest first. */
  readonly changes: readonly (ItemChangeMade & { readonly item: string })[];
  /** Whether whoever looks may change a key. */
  readonly mayGrade: boolean;
  /** Students with answers that came faster than their items can be read, and how many these are. */
  readonly quick: { readonly students: readonly number[]; readonly answers: number };
  /** Students whose answers have no relation to the items. */
  readonly random: readonly number[];
  /** Students who have seen the key and say that they do not see why, by item. */
  readonly asks: readonly { readonly item: string; readonly students: readonly number[] }[];
  /** Other quizzes in which somebody does not see why. */
  readonly asksElsewhere: readonly {
    readonly id: number;
    readonly title: string;
    readonly students: number;
  }[];
  /** Answers of each student, where they are asked for. */
  readonly grid: readonly ItemGridRow[];
  /** Names of whoever answered, by id. */
  readonly names: Readonly<Record<number, string>>;
}

/** What is known of an item beside its answers. */
export interface KnownItem {
  readonly stem: string | null;
  readonly options: readonly ItemOption[];
  readonly keys: readonly string[];
  readonly explanation: string | null;
  readonly treatment: Treatment;
  readonly rev: number;
}

/** A student with their answers to the items of a quiz. */
export interface ItemGridRow {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  /** Share of the items that were right at once. */
  readonly right: number;
  readonly cells: GridRow;
}

/** Somebody whose wrong numbers lean to one side. */
export interface StudentLean {
  readonly student: number;
  readonly name: string;
  readonly text: string;
  readonly few: boolean;
}
