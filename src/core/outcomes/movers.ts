import { isResource, type ActivityKind } from '../course/kinds';
import type { Instant } from '../units';
import type { MasteryLevel } from './mastery';

/** An activity as it stands for one student. */
export interface OwnActivity {
  readonly id: number;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly due: Instant | null;
  /** It can still be handed in, opened or done again. */
  readonly open: boolean;
  readonly done: boolean;
  readonly opened: boolean;
  /** Share of the points, once they are returned. */
  readonly share: number | null;
  /** Attempts that are left; null for as many as one likes. */
  readonly left: number | null;
}

/** What a student could do about an outcome. */
export interface Mover {
  readonly activity: number;
  readonly words: string;
}

/** A score from which on doing it again moves little. */
const GOOD = 0.85;

/**
 * What would move an outcome that is not secure, the nearest first: what is due and not handed in, practice, a quiz that can
 * be tried again and did not go well, a page or film that was not opened. None where nothing of the course is left for it.
 */
export function movers(level: MasteryLevel, behind: readonly OwnActivity[]): Mover[] {
  if (level === 'secure') return [];
  const open = behind.filter((a) => a.open);
  const isWork = (a: OwnActivity) => !isResource(a.kind) && a.kind !== 'practice';
  const due = open
    .filter((a) => isWork(a) && !a.done)
    .sort((a, b) => (a.due ?? Infinity) - (b.due ?? Infinity))
    .map((a) => ({ activity: a.id, words: `hand in ${a.title}` }));
  const again = open
    .filter(
      (a) => isWork(a) && a.done && a.left !== 0 && a.share != null && a.share < GOOD && a.kind === 'quiz',
    )
    .sort((a, b) => a.share! - b.share!)
    .map((a) => ({ activity: a.id, words: `try ${a.title} again` }));
  const practice = open
    .filter((a) => a.kind === 'practice')
    .map((a) => ({ activity: a.id, words: a.opened ? `go on with ${a.title}` : `begin ${a.title}` }));
  const material = open
    .filter((a) => isResource(a.kind) && !a.opened)
    .map((a) => ({ activity: a.id, words: `${a.kind === 'video' ? 'watch' : 'read'} ${a.title}` }));
  return [...due, ...again, ...material, ...practice];
}
