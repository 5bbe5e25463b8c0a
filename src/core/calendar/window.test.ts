import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isBreak, type Term } from './term';
import { addDays, daysBetween, localDate, startOfDay } from './zone';
import { inSpan, parseWindow, resolveWindow, windowText, type DaySpan, type WindowChoice } from './window';

const term: Term = { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] };
const today = '2026-11-25';
const withBreak: Term = {
  ...term,
  breaks: [{ name: 'Reading week', from: '2026-11-09', to: '2026-11-15' }],
};
const days = (span: DaySpan): string[] =>
  Array.from({ length: daysBetween(span.from, span.to) + 1 }, (_, d) => addDays(span.from, d)).filter((d) =>
    inSpan(span, d),
  );

describe('windows', () => {
  it('reads what an address can say, and nothing else', () => {
    expect(parseWindow('7d')).toBe('7d');
    expect(parseWindow('2026-11-02..2026-11-08')).toEqual({ from: '2026-11-02', to: '2026-11-08' });
    expect(parseWindow('2026-11-08..2026-11-02')).toEqual({ from: '2026-11-02', to: '2026-11-08' });
    for (const text of [undefined, '', '8d', '2026-02-29..2026-03-01', '2026-11-02', 'a..b', '..', '1..2..3'])
      expect(parseWindow(text)).toBeNull();
  });

  it('ends a rolling window today, and compares with as many days before', () => {
    expect(resolveWindow('7d', term, today)).toMatchObject({
      from: '2026-11-19',
      to: today,
      days: 7,
      before: { from: '2026-11-12', to: '2026-11-18' },
      note: null,
    });
    expect(resolveWindow('term', term, today)).toMatchObject({
      from: term.start,
      days: 59,
      before: null,
    });
  });

  it('leaves breaks out of what is compared, and the rest of today', () => {
    const week = resolveWindow({ from: '2026-11-16', to: '2026-11-22' }, withBreak, today, 635);
    // The week before is the reading week.
    expect(week.before).toEqual({ from: '2026-11-02', to: '2026-11-08', without: [] });
    const weeks = resolveWindow('28d', withBreak, today, 635);
    const readingWeek = { from: '2026-11-09', to: '2026-11-15' };
    expect([weeks.from, weeks.compared.without]).toEqual(['2026-10-29', [readingWeek]]);
    // 21 teaching days of 28: so many before.
    expect(weeks.before).toEqual({ from: '2026-10-08', to: '2026-10-28', without: [], until: 635 });
    expect(resolveWindow({ from: '2026-11-10', to: '2026-11-12' }, withBreak, today).before).toBeNull();
    expect(resolveWindow('7d', withBreak, '2026-10-09').before).toBeNull();
    const across = resolveWindow({ from: '2026-11-16', to: '2026-11-25' }, withBreak, today).before!;
    expect([across.from, across.to]).toEqual(['2026-10-30', '2026-11-08']);
    expect([inSpan(weeks.compared, '2026-11-08'), inSpan(weeks.compared, '2026-11-09')]).toEqual([
      true,
      false,
    ]);
  });

  it('rolls at local midnight, on the day of a change of clocks too', () => {
    // Europe/Lisbon turned its clocks back on 25 October 2026 (tz database): that day has 25 hours.
    const midnight = startOfDay('2026-10-26', term.zone);
    expect(midnight - startOfDay('2026-10-25', term.zone)).toBe(25 * 3_600_000);
    expect(resolveWindow('7d', term, localDate(midnight - 1, term.zone)).to).toBe('2026-10-25');
    expect(resolveWindow('7d', term, localDate(midnight, term.zone)).to).toBe('2026-10-26');
  });

  it('cuts days of one’s own to the term so far, and says so', () => {
    const cut = resolveWindow({ from: '2026-09-01', to: '2026-10-04' }, term, today);
    expect([cut.from, cut.to, cut.days, cut.before]).toEqual(['2026-09-28', '2026-10-04', 7, null]);
    expect(cut.note).toMatch(/Cut to/);
    const outside = resolveWindow({ from: '2025-01-01', to: '2025-01-31' }, term, today);
    expect([outside.choice, outside.from]).toEqual(['7d', '2026-11-19']);
    expect(outside.note).toMatch(/outside the term/);
  });

  it('is always inside the term so far, never empty, and reads back from its text', () => {
    const day = fc.integer({ min: -400, max: 400 }).map((d) => addDays(today, d));
    const choice: fc.Arbitrary<WindowChoice> = fc.oneof(
      fc.constantFrom('7d' as const, '28d' as const, 'term' as const),
      fc.tuple(day, day).map(([a, b]) => (a < b ? { from: a, to: b } : { from: b, to: a })),
    );
    fc.assert(
      fc.property(choice, day, (asked, now) => {
        expect(parseWindow(windowText(asked))).toEqual(asked);
        const w = resolveWindow(asked, withBreak, now);
        expect(w.from >= term.start).toBe(true);
        expect(w.days).toBe(daysBetween(w.from, w.to) + 1);
        expect(w.days).toBeGreaterThan(0);
        if (!w.before) return;
        const inside = days(w.before);
        expect(inside).toHaveLength(days(w.compared).length);
        for (const d of [...inside, ...days(w.compared)]) expect(isBreak(withBreak, d)).toBe(false);
        // Nothing between the two but a break.
        for (let d = addDays(w.before.to, 1); d < w.from; d = addDays(d, 1))
          expect(isBreak(withBreak, d)).toBe(true);
      }),
    );
  });
});
