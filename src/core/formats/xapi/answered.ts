import type { ItemOption } from '../../items/treatment';
import type { Seconds } from '../../units';
import type { Statement } from './statement';

/** How many hints were taken before an answer, where a source says so in the extensions of the context. */
export const HINTS = 'https://ready-lantern.example/xapi/hints';
const LONGEST_NAME = 200;
const LONGEST_ANSWER = 4000;

/** What a statement tells of an item: what it asks, and what is right. */
export interface ToldItem {
  readonly stem: string | null;
  readonly options: readonly ItemOption[];
  /** Answers that are right; none if it does not say. */
  readonly keys: readonly string[];
}

/** An answer to an item, as a statement tells of it. */
export interface AnsweredItem {
  readonly item: string;
  readonly answer: string;
  /** Share of what the item gives, 0 to 1; null if it does not say. */
  readonly score: number | null;
  readonly seconds: Seconds | null;
  readonly hints: number;
  readonly told: ToldItem;
}

type Texts = Readonly<Record<string, string>>;

/** The part of a definition that tells of an item (xAPI 1.0.3, part two, 2.4.4.1); the statement was checked. */
interface Definition {
  readonly description?: Texts;
  readonly name?: Texts;
  readonly interactionType?: string;
  readonly choices?: readonly { readonly id: string; readonly description?: Texts }[];
  readonly correctResponsesPattern?: readonly string[];
}

/** English where it is there, else what comes first. */
const inWords = (texts: Texts | undefined): string | null => {
  const of = texts ?? {};
  const english = Object.keys(of).find((tag) => tag.toLowerCase().startsWith('en'));
  return of[english ?? Object.keys(of)[0] ?? ''] ?? null;
};

/** Right answers of a pattern that stand for one answer each: ranges of numbers are none. */
const keysOf = (patterns: readonly string[]): string[] => [
  ...new Set(
    patterns
      .map((p) => p.replace(/^(\{[a-z_]+=[^}]*\})+/, '').trim())
      .filter((p) => p !== '' && !p.includes('[:]')),
  ),
];

const toldBy = (d: Definition): ToldItem => ({
  stem: inWords(d.description) ?? inWords(d.name),
  options: (d.choices ?? []).map((c) => ({ option: c.id, text: inWords(c.description) ?? '' })),
  keys: keysOf(d.correctResponsesPattern ?? []),
});

/** The last part of an IRI, as an item is named. */
function lastPart(iri: string): string {
  const last = iri.split(/[/#:]/).findLast((part) => part !== '') ?? iri;
  try {
    return decodeURIComponent(last).slice(0, LONGEST_NAME);
  } catch {
    return last.slice(0, LONGEST_NAME);
  }
}

/** Share of a stated score; null without one, or where it is out of its own bounds. */
function shareOf({ result }: Statement): number | null {
  const { score, success } = result ?? {};
  const whole = score?.max == null ? null : score.max - (score.min ?? 0);
  const share =
    score?.scaled ??
    (score?.raw != null && whole != null && whole > 0 ? (score.raw - (score.min ?? 0)) / whole : null);
  if (share != null) return Math.min(1, Math.max(0, share));
  return success == null ? null : success ? 1 : 0;
}

/**
 * The answer that a statement about an item tells of. The item is named by the last part of its IRI, as files name it.
 *
 * @param seconds the stated duration, checked
 */
export function answeredBy(statement: Statement, seconds: Seconds | null): AnsweredItem | null {
  const { id } = statement.object;
  if (id == null) return null;
  const hints = statement.context?.extensions?.[HINTS];
  // The schema of statements has checked what a definition may hold.
  const { definition } = statement.object as { readonly definition?: Definition };
  return {
    item: lastPart(id),
    answer: (statement.result?.response ?? '').slice(0, LONGEST_ANSWER),
    score: shareOf(statement),
    seconds,
    hints: typeof hints === 'number' && Number.isInteger(hints) && hints > 0 ? Math.min(hints, 1000) : 0,
    told: toldBy(definition ?? {}),
  };
}
