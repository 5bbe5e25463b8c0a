import { and, eq, inArray } from 'drizzle-orm';
import { testsIn } from '@/core/rules/selection';
import { traitOf } from '@/core/people/trait';
import { isSubmitted } from '@/core/gradebook/status';
import { goesAt, heldBy } from '@/core/unasked/guards';
import { looksAgainAt } from '@/core/unasked/fresh';
import type { Grading } from '@/core/unasked/occasions';
import { lookAt, type Found, type FoundOccasion } from '@/core/unasked/lookAt';
import type { LiveRule } from '@/core/unasked/rule';
import type { OccasionState } from '@/core/unasked/states';
import { HOUR_MS, type Instant } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { activeStudents } from '@/data/queries/activeStudents';
import { changedSince } from '@/data/queries/revision';
import { holdsOf, ruleCourseOf, rulesOf, unseenGrades, type RuleRow } from '@/data/queries/rules';
import { gradesSeen, occasions, ruleCourses, ruleHolds, rules } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { now } from '../base/clock';
import { queueRules } from '../derive/outdated';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { ruleFault } from './faults';
import { hasPlace, looksAt } from './look';
import { ownerOf, runningCourse } from '../access/owner';
import { planMoments } from './planMoments';
import { readersOf } from './readers';
import { pauseRule } from './switches';

/** Share of a class, and least number, to whom no rule writes at once by itself. */
const MANY = { share: 0.5, least: 10 };

/** A rule as it is judged. */
export const liveRule = ({ id, since, parts }: RuleRow): LiveRule => ({
  id,
  since: since?.getTime() ?? Infinity,
  ...parts,
});

/** Whether a rule asks for what only an evaluation of the class tells. */
const asksClass = ({ where }: LiveRule): boolean =>
  testsIn(where).some((t) => traitOf(t.measure)?.of === 'measure');

interface Decided {
  readonly rule: RuleRow;
  readonly found: FoundOccasion;
  readonly state: OccasionState;
  readonly why: string | null;
  readonly goesAt: Instant | null;
}

/**
 * Lets the rules of a course look once: at what came in since they last did, and at what time has brought about. What
 * they decide is written in one transaction with how far they have looked, so that it is decided once, whatever stops in
 * between. Where the clock was set back, nothing is looked at until it has caught up.
 */
export async function passRules(db: Database, courseId: number): Promise<void> {
  const course = await runningCourse(db, courseId);
  if (!course) return;
  const at = now();
  const before = await ruleCourseOf(db, courseId);
  const from = before.lookedAt ?? at;
  if (at < from) return;
  const snapshot = await snapshotOf(course);
  const list = await soundRules(db, courseId, snapshot);
  if (list.length === 0) return;
  const changed = before.rev < course.rev ? await changedSince(db, courseId, before.rev) : [];
  // A grade can be returned at a time that was ahead when it came in: now and then all are looked at.
  const unseen = await unseenGrades(db, courseId, at, at - from >= HOUR_MS ? undefined : changed);
  // What only an evaluation tells is asked for once the class has been evaluated with these grades in it.
  const evaluated = course.evaluatedAt?.getTime() ?? -Infinity;
  const asks = list.some((r) => r.parts.when.on === 'graded' && asksClass(liveRule(r)));
  const gradings = asks ? unseen.filter((g) => g.at <= evaluated) : unseen;

  const found = await foundBy(db, snapshot, list, { from, at, gradings });
  const decided = await decide(db, courseId, snapshot, list, found, at);
  await db.transaction(async (tx) => {
    // Whoever looked meanwhile has decided already.
    await tx.orm
      .insert(ruleCourses)
      .values({ courseId, rev: 0 })
      .onConflictDoNothing({ target: ruleCourses.courseId });
    const [mark] = await tx.orm
      .select()
      .from(ruleCourses)
      .where(eq(ruleCourses.courseId, courseId))
      .for('update');
    if ((mark?.lookedAt?.getTime() ?? null) !== before.lookedAt) return;
    await storePass(tx, courseId, list, found, gradings, decided);
    // Grades that wait for an evaluation are looked at again.
    const rev = gradings.length < unseen.length ? before.rev : course.rev;
    await tx.orm
      .update(ruleCourses)
      .set({ lookedAt: new Date(at), rev })
      .where(eq(ruleCourses.courseId, courseId));
    const next = Math.min(
      ...decided.flatMap((d) => (d.state === 'to go' ? [d.goesAt!] : [])),
      ...(found.some((f) => f.waits) ? [looksAgainAt(at, course.zone)] : []),
    );
    if (next < Infinity) await queueRules(tx, courseId, Math.max(0, next - at));
  });
}

/** The rules that are on and can be judged; those that cannot pause, and say why. */
async function soundRules(db: Database, courseId: number, snapshot: Snapshot): Promise<RuleRow[]> {
  const all = (await rulesOf(db, courseId)).filter((r) => r.state === 'on');
  if (all.length === 0) return [];
  const { about } = await classTraits(snapshot, { only: [] });
  const sound: RuleRow[] = [];
  for (const rule of all) {
    const owner = await ownerOf(db, rule.userId, courseId);
    const fault = owner
      ? ruleFault(rule.parts, about)
      : 'Whoever it writes for does not teach this course any more.';
    if (fault == null) sound.push(rule);
    else await pauseRule(db, rule.id, fault);
  }
  return sound;
}

interface FoundBy extends Found {
  readonly rule: RuleRow;
  /** The day before is not whole yet. */
  readonly waits: boolean;
}

async function foundBy(
  db: Database,
  snapshot: Snapshot,
  list: readonly RuleRow[],
  {
    from,
    at,
    gradings,
  }: { readonly from: Instant; readonly at: Instant; readonly gradings: readonly Grading[] },
): Promise<FoundBy[]> {
  const model = await snapshot.model();
  const all = list.some((r) => r.parts.when.on !== 'graded' || hasPlace(r.parts));
  const students = all
    ? await activeStudents(db, model.row.id)
    : [...new Set(gradings.map((g) => g.student))];
  const plans = list.some((r) => r.parts.when.on === 'step overdue' || r.parts.when.on === 'plan finished')
    ? await planMoments(snapshot, students, model.term.zone)
    : [];
  const active = new Set(students);
  const look = looksAt(db, snapshot, model, {
    from,
    at,
    gradings: all ? gradings.filter((g) => active.has(g.student)) : gradings,
    students,
  });
  const holds = await holdsOf(
    db,
    list.flatMap((r) => (r.parts.when.on === 'holds' ? [r.id] : [])),
  );
  const found: FoundBy[] = [];
  for (const rule of list) {
    const live = liveRule(rule);
    const state = { holds: holds.get(rule.id) ?? new Map(), judged: rule.judgedOn };
    const result = await lookAt(live, state, { ...look(live), planMoments: plans });
    const waits = live.when.on === 'holds' && result.state.judged === state.judged && !result.stale;
    found.push({ rule, ...result, waits });
  }
  return found;
}

/** What becomes of each occasion: the rule higher in the list writes first, and the guards hold the others back. */
async function decide(
  db: Database,
  courseId: number,
  snapshot: Snapshot,
  list: readonly RuleRow[],
  found: readonly FoundBy[],
  at: Instant,
): Promise<Decided[]> {
  const all = found.flatMap(({ rule, occasions: own }) => own.map((o) => ({ rule, found: o })));
  if (all.length === 0) return [];
  const { term } = await snapshot.model();
  const { guards } = await ruleCourseOf(db, courseId);
  const known = await knownOccasions(
    db,
    list,
    all.map((o) => o.found.student),
  );
  const fresh = all.filter(({ rule, found: o }) => !known.has(`${rule.id} ${o.student} ${o.key}`));
  const readers = await readersOf(db, courseId, [...new Set(fresh.map((o) => o.found.student))], at);
  const scores = fresh.length > 0 ? await snapshot.scores() : null;
  const active = await activeStudents(db, courseId);
  const decidedNow = new Map<
    number,
    { at: Instant; course: number; about: RuleRow['about']; unasked: true }[]
  >();
  const countOf = new Map<number, number>();
  for (const { rule } of fresh) countOf.set(rule.id, (countOf.get(rule.id) ?? 0) + 1);
  return fresh.map(({ rule, found: o }): Decided => {
    const { then, about, when } = rule.parts;
    if (then.do === 'word') return { rule, found: o, state: 'word', why: null, goesAt: null };
    const goes = goesAt(at, guards, term.zone);
    const reader = readers(o.student);
    const own = decidedNow.get(o.student) ?? [];
    const score = o.work == null ? undefined : scores?.get(o.student)?.get(String(o.work));
    const why = heldBy(
      { at: goes, course: courseId, about },
      { ...reader, written: [...reader.written, ...own] },
      guards,
      term,
      o.work == null
        ? null
        : { excused: score?.excused === true, handedIn: isSubmitted(score, at), reminds: when.on === 'due' },
    );
    if (why) return { rule, found: o, state: 'held', why, goesAt: null };
    own.push({ at: goes, course: courseId, about, unasked: true });
    decidedNow.set(o.student, own);
    const many = countOf.get(rule.id)!;
    const tooMany = many >= MANY.least && many > active.length * MANY.share;
    const state = then.approve || tooMany ? 'waiting' : 'to go';
    const much = tooMany ? `${many} students at once: it asks first` : null;
    return { rule, found: o, state, why: much, goesAt: goes };
  });
}

/** Occasions that were decided before, as "rule student key". */
async function knownOccasions(
  { orm }: Access,
  list: readonly RuleRow[],
  students: readonly number[],
): Promise<Set<string>> {
  const rows = await orm
    .select({ rule: occasions.ruleId, student: occasions.enrolmentId, key: occasions.key })
    .from(occasions)
    .where(
      and(
        inArray(
          occasions.ruleId,
          list.map((r) => r.id),
        ),
        inArray(occasions.enrolmentId, [...new Set(students)]),
      ),
    );
  return new Set(rows.map((r) => `${r.rule} ${r.student} ${r.key}`));
}

async function storePass(
  tx: Access,
  courseId: number,
  list: readonly RuleRow[],
  found: readonly FoundBy[],
  gradings: readonly Grading[],
  decided: readonly Decided[],
): Promise<void> {
  const { orm } = tx;
  // A rule that was changed or switched off meanwhile does nothing by what it was.
  const asTheyAre = await orm
    .select({ id: rules.id, state: rules.state, changedAt: rules.changedAt })
    .from(rules)
    .where(
      inArray(
        rules.id,
        list.map((r) => r.id),
      ),
    )
    .for('update');
  const same = new Set(
    asTheyAre
      .filter((r) => {
        const then = list.find((l) => l.id === r.id)!;
        return r.state === 'on' && r.changedAt.getTime() === then.changedAt.getTime();
      })
      .map((r) => r.id),
  );
  await insertOccasions(
    tx,
    courseId,
    decided.filter((d) => same.has(d.rule.id)),
  );
  for (const { rule, state, stale } of found) {
    if (!same.has(rule.id)) continue;
    const staleAt = stale ? (rule.staleAt ?? new Date(now())) : null;
    if (rule.judgedOn === state.judged && (rule.staleAt == null) === (staleAt == null)) continue;
    await orm.update(rules).set({ judgedOn: state.judged, staleAt }).where(eq(rules.id, rule.id));
    if (rule.judgedOn === state.judged) continue;
    await orm.delete(ruleHolds).where(eq(ruleHolds.ruleId, rule.id));
    await insertMany(
      tx,
      ruleHolds,
      [...state.holds].map(([enrolmentId, hold]) => ({ ruleId: rule.id, enrolmentId, ...hold })),
    );
  }
  if (gradings.length > 0)
    await orm
      .insert(gradesSeen)
      .values(gradings.map((g) => ({ enrolmentId: g.student, activityId: g.work })))
      .onConflictDoNothing();
}

async function insertOccasions(tx: Access, courseId: number, decided: readonly Decided[]): Promise<void> {
  if (decided.length === 0) return;
  await tx.orm
    .insert(occasions)
    .values(
      decided.map(({ rule, found, state, why, goesAt: goes }) => ({
        ruleId: rule.id,
        courseId,
        enrolmentId: found.student,
        key: found.key,
        activityId: found.work,
        at: new Date(found.at),
        facts: [...found.facts],
        state,
        why,
        goesAt: goes == null ? null : new Date(goes),
      })),
    )
    .onConflictDoNothing();
}
