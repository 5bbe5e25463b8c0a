/** How a long piece of work stands. */
export interface JobView<T> {
  readonly state: 'running' | 'done' | 'failed' | 'cancelled';
  /** What it is at, in words. */
  readonly step: string;
  /** How many of how many; 0 of 0 where nobody can say. */
  readonly done: number;
  readonly of: number;
  readonly value: T | null;
  /** Why it failed. */
  readonly message: string | null;
}
