/** A student's own answer to an item, with what is right and why. */
export interface OwnAnswerView {
  readonly item: string;
  readonly stem: string | null;
  readonly answer: string;
  readonly answerText: string;
  readonly attempt: number;
  /** What it counts, 0 to 1; null where it counts nothing. */
  readonly score: number | null;
  readonly right: readonly { readonly option: string; readonly text: string }[];
  readonly explanation: string | null;
  /** They have said that they do not see why. */
  readonly asked: boolean;
}
