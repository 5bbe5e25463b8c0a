/** What assigning something would do. */
export interface GivePreview {
  /** Whom it is for, and how many of them get something. */
  readonly students: number;
  readonly gives: number;
  /** Who has some of it already, and who has done it. */
  readonly have: readonly string[];
  readonly done: readonly string[];
  /** Who gets more time. */
  readonly later: readonly string[];
  /** What nobody else is expected to do from then on. */
  readonly narrows: readonly string[];
  /** Earlier outcomes that are worth mixing in. */
  readonly mixIn: readonly { readonly id: number; readonly title: string; readonly outcome: string }[];
}

/** What the sheet that assigns is filled from. */
export interface GiveChoices {
  readonly activities: readonly { readonly id: number; readonly title: string; readonly resource: boolean }[];
  /** All of the course, its sections and the groups of whoever asks. */
  readonly targets: readonly { readonly value: string; readonly label: string }[];
  readonly zone: string;
}
