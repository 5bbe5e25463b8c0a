import type { ReviewTime } from '../acts/review';
import type { Answer } from '../weekly/answers';
import type { ViewFrame } from './frame';

export interface WeekView extends ViewFrame {
  readonly students: number;
  /** The time of the class in these days, as a sentence. */
  readonly time: string;
  readonly answers: readonly Answer[];
  /** The viewer's weekly time for the course. */
  readonly review: ReviewTime | null;
}
