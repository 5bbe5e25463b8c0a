import type { Picked } from '../acts/pick';

export interface TrayItem extends Picked {
  readonly enrolmentId: number;
  /** The view they were selected in. */
  readonly source: string;
}
