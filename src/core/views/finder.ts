import type { ActivityKind } from '../course/kinds';

/** What can be found in a course by its name. */
export interface FinderView {
  readonly students: readonly {
    readonly id: number;
    readonly name: string;
    readonly section: string | null;
  }[];
  readonly activities: readonly {
    readonly id: number;
    readonly title: string;
    readonly kind: ActivityKind;
  }[];
}
