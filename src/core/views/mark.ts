import type { Mark } from '../flags/rounds';

export interface MarkView extends Mark {
  readonly id: number;
  readonly by: string;
  readonly reason: string | null;
}
