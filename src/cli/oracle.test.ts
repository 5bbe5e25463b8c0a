import { writeFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gradesCommand } from './grades';
import { sessionsCommand } from './sessions';

// The rules written down again, as plainly as they can be and without regard to speed, to hold the real ones against.

const folder = mkdtempSync(join(tmpdir(), 'lantern-oracle-'));
const asFile = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const START = Date.parse('2026-10-01T00:00:00Z');
const iso = (at: number) => new Date(at).toISOString().replace('.000Z', 'Z');

interface Event {
  student: string;
  at: number;
  kind: string;
  duration: number | null;
}

function plainSessions(events: Event[], gapMinutes: number): string[] {
  const lines: string[] = [];
  for (const student of [...new Set(events.map((e) => e.student))].sort()) {
    const own = events.filter((e) => e.student === student).sort((a, b) => a.at - b.at);
    let open: Event[] = [];
    const close = () => {
      if (open.length === 0) return;
      let seconds = 0;
      for (let i = 0; i + 1 < open.length; i++) {
        const gap = (open[i + 1]!.at - open[i]!.at) / 1000;
        seconds += open[i]!.duration == null ? gap : Math.min(gap, open[i]!.duration!);
      }
      lines.push(`${student},${iso(open[0]!.at)},${iso(open.at(-1)!.at)},${seconds},${open.length}`);
      open = [];
    };
    for (const event of own) {
      const last = open.at(-1);
      if (last && (event.at - last.at > gapMinutes * 60_000 || event.kind === 'login')) close();
      open.push(event);
    }
    close();
  }
  return lines;
}

describe('lantern sessions, against the rule written plainly', () => {
  const event = fc.record({
    student: fc.constantFrom('anna', 'bo', 'Žofia'),
    kind: fc.constantFrom('login', 'view', 'watch'),
    duration: fc.option(fc.integer({ min: 0, max: 3000 }), { nil: null }),
  });
  it('cuts and times alike', () => {
    fc.assert(
      fc.property(
        // Different instants: what happens at one and the same is ordered by a rule of its own.
        fc.uniqueArray(fc.integer({ min: 0, max: 4000 }), { maxLength: 60 }),
        fc.array(event, { minLength: 60, maxLength: 60 }),
        fc.constantFrom(5, 17, 30),
        (minutes, parts, gap) => {
          const events = minutes.map((m, i) => ({ ...parts[i]!, at: START + m * 60_000 }));
          const csv = [
            'student,at,kind,duration_s',
            ...events.map((e) => `${e.student},${iso(e.at)},${e.kind},${e.duration ?? ''}`),
          ];
          const out = sessionsCommand(asFile('e.csv', `${csv.join('\n')}\n`), {
            gapMinutes: gap,
            last: 'zero',
          });
          expect(out.trim().split('\n').slice(1)).toEqual(plainSessions(events, gap));
        },
      ),
      { numRuns: 150 },
    );
  });
});

interface Work {
  id: string;
  category: 'c' | 'd';
  points: number;
  due: number | null;
}
interface Mark {
  activity: string;
  points: number | null;
  excused: boolean;
  submitted: number | null;
  returned: number | null;
}

const ASOF = START + 40 * 86_400_000;

/** The standing with open works left out (null), or filled with a share of their points. */
function plainStanding(
  works: Work[],
  marks: Mark[],
  drop: number,
  missing: 'zero' | 'ignore',
  fill: number | null,
): number | null {
  const weights = { c: 60, d: 40 };
  let top = 0;
  let bottom = 0;
  for (const category of ['c', 'd'] as const) {
    let counted: { id: string; got: number; of: number }[] = [];
    for (const work of works.filter((w) => w.category === category)) {
      const mark = marks.find((m) => m.activity === work.id);
      if (mark?.excused) continue;
      const returned = mark?.returned != null && mark.returned <= ASOF;
      const submitted = mark?.submitted != null && mark.submitted <= ASOF;
      if (returned && mark.points != null) counted.push({ id: work.id, got: mark.points, of: work.points });
      else if (missing === 'zero' && work.due != null && work.due <= ASOF && !submitted && !returned) {
        counted.push({ id: work.id, got: 0, of: work.points });
      } else if (fill != null) counted.push({ id: work.id, got: fill * work.points, of: work.points });
    }
    for (let n = 0; n < (category === 'c' ? drop : 0) && counted.length > 1; n++) {
      const worst = counted.reduce((a, b) => {
        const byShare = a.got / a.of - b.got / b.of || a.of - b.of || (a.id < b.id ? -1 : 1);
        return byShare <= 0 ? a : b;
      });
      counted = counted.filter((w) => w !== worst);
    }
    if (counted.length === 0) continue;
    const share = counted.reduce((t, w) => t + w.got, 0) / counted.reduce((t, w) => t + w.of, 0);
    top += weights[category] * share;
    bottom += weights[category];
  }
  return bottom > 0 ? (100 * top) / bottom : null;
}

describe('lantern grades, against the rule written plainly', () => {
  const day = fc.integer({ min: 0, max: 80 }).map((d) => START + d * 86_400_000);
  const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: null });
  const work = fc.record({
    category: fc.constantFrom<'c' | 'd'>('c', 'd'),
    points: fc.integer({ min: 1, max: 30 }),
    due: maybe(day),
    mark: maybe(
      fc.record({
        share: maybe(fc.integer({ min: 0, max: 10 })),
        excused: fc.boolean(),
        submitted: maybe(day),
        returned: maybe(day),
      }),
    ),
  });
  it('counts, drops, renormalises and fills alike', () => {
    fc.assert(
      fc.property(
        fc.array(work, { minLength: 1, maxLength: 9 }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom<'zero' | 'ignore'>('zero', 'ignore'),
        (list, drop, missing) => {
          const works = list.map((w, i) => ({
            id: `w${i}`,
            category: w.category,
            points: w.points,
            due: w.due,
          }));
          const marks = list.flatMap((w, i) =>
            w.mark
              ? [
                  {
                    ...w.mark,
                    activity: `w${i}`,
                    points: w.mark.share == null ? null : (w.mark.share * w.points) / 10,
                  },
                ]
              : [],
          );
          const date = (at: number | null) => (at == null ? null : iso(at));
          const json = JSON.stringify({
            policy: { missing },
            categories: [
              { id: 'c', weight: 60, drop_lowest: drop },
              { id: 'd', weight: 40, drop_lowest: 0 },
            ],
            activities: works.map((w) => ({ ...w, due: date(w.due) })),
            scores: marks.map((m) => ({
              student: 's',
              activity: m.activity,
              points: m.points,
              excused: m.excused,
              submitted: date(m.submitted),
              returned: date(m.returned),
            })),
          });
          const out = gradesCommand(asFile('g.json', json), ASOF);
          if (marks.length === 0) {
            expect(out).toBe('');
            return;
          }
          const got = JSON.parse(out) as Record<string, number | null>;
          const fills: [string, number | null][] = [
            ['standing', null],
            ['lowest_possible', 0],
            ['highest_possible', 1],
          ];
          for (const [field, fill] of fills) {
            const plain = plainStanding(works, marks, drop, missing, fill);
            if (plain == null) expect(got[field]).toBeNull();
            else expect(got[field]).toBeCloseTo(plain, 9);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});
