import type { Term } from '../calendar/term';
import type { Instant } from '../units';
import { goesAt, heldBy, type Guards, type Held, type WhoReads, type WrittenTo } from './guards';
import { lookAt, NEW_RULE, type FoundOccasion, type Look } from './lookAt';
import type { LiveRule } from './rule';

/** What a rule would have done at an occasion. */
export interface WouldHave extends FoundOccasion {
  /** When it would have gone. */
  readonly goes: Instant;
  /** What would have held it back; null if nothing. */
  readonly held: Held | null;
}

/** A course over some weeks gone by. */
export interface Past {
  readonly course: number;
  readonly term: Term;
  /** When the rule looks, ascending; a pass looks at what came since the one before. */
  readonly passes: readonly Instant[];
  /** The class as it was at one of them, since the one before. */
  readonly lookOf: (from: Instant, at: Instant) => Promise<Look>;
  /** Who would have been written to, at an instant, without what the rule itself would have written. */
  readonly readerOf: (student: number, at: Instant) => WhoReads;
  /** Where an assignment stood for a student at an instant. */
  readonly workOf: (student: number, work: number, at: Instant) => { excused: boolean; handedIn: boolean };
}

/**
 * What a rule would have done over some weeks had it been switched on at their beginning: its passes are gone through
 * one after the other, as they would have been, each seeing only what was there then. Words to the instructor are held
 * back by nothing.
 */
export async function dryRun(
  rule: LiveRule,
  guards: Guards,
  past: Past,
  progress: (done: number, of: number) => Promise<void> = () => Promise.resolve(),
): Promise<WouldHave[]> {
  let state = NEW_RULE;
  let from = rule.since;
  const written = new Map<number, WrittenTo[]>();
  const seen = new Set<string>();
  const all: WouldHave[] = [];
  for (const [i, at] of past.passes.entries()) {
    const found = await lookAt(rule, state, await past.lookOf(from, at));
    state = found.state;
    from = at;
    for (const occasion of [...found.occasions].sort((a, b) => a.at - b.at)) {
      const { student, key, work } = occasion;
      // An occasion is one, however often its assignment is graded or moved.
      if (seen.has(`${student} ${key}`)) continue;
      seen.add(`${student} ${key}`);
      if (rule.then.do === 'word') {
        all.push({ ...occasion, goes: occasion.at, held: null });
        continue;
      }
      const goes = goesAt(occasion.at, guards, past.term.zone);
      const reader = past.readerOf(student, goes);
      const own = written.get(student) ?? [];
      const held = heldBy(
        { at: goes, course: past.course, about: rule.about },
        { ...reader, written: [...reader.written, ...own] },
        guards,
        past.term,
        work == null ? null : { ...past.workOf(student, work, goes), reminds: rule.when.on === 'due' },
      );
      if (held == null) {
        own.push({ at: goes, course: past.course, about: rule.about, unasked: true });
        written.set(student, own);
      }
      all.push({ ...occasion, goes, held });
    }
    await progress(i + 1, past.passes.length);
  }
  return all;
}
