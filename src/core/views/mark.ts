import type { Mark } from '../acts/rounds';

export interface MarkView extends Mark {
  readonly id: number;
  readonly by: string;
  readonly reason: string | null;
}
