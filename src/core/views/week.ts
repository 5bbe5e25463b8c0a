import type { Answer } from '../weekly/answers';
import type { ViewFrame } from './frame';

export interface WeekView extends ViewFrame {
  readonly students: number;
  readonly answers: readonly Answer[];
}
