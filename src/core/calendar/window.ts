import type { LocalDate } from '../units';
import { isBreak, teachingDaysBetween, type Term } from './term';
import { addDays, daysBetween } from './zone';

/** Rolling windows end today; `term` runs from its first day to today; or two days of one's own choice. */
export const PRESETS = ['7d', '28d', 'term'] as const;
export type Preset = (typeof PRESETS)[number];
export type WindowChoice = Preset | { readonly from: LocalDate; readonly to: LocalDate };

const PRESET_DAYS = { '7d': 7, '28d': 28 } as const;

/** A span of local days, both included. */
export interface DaySpan {
  readonly from: LocalDate;
  readonly to: LocalDate;
  /** Breaks in between that do not count. */
  readonly without?: readonly DaySpan[];
  /** Minute of the clock up to which the last day counts; all of it if left out. */
  readonly until?: number;
}

/** The days a view covers, and those before them to compare with. */
export interface Window extends DaySpan {
  readonly choice: WindowChoice;
  readonly days: number;
  /** The same days for comparing: without breaks. */
  readonly compared: DaySpan;
  /**
   * As many teaching days just before, breaks left out, the last only up to the present time of day while the window
   * ends today. Null where the term has not had so many, or the window holds no teaching day.
   */
  readonly before: DaySpan | null;
  /** Said when what was asked for could not be had as it was. */
  readonly note: string | null;
}

const isDay = (text: string) => {
  const date = new Date(`${text}T00:00:00Z`);
  return (
    /^\d{4}-\d\d-\d\d$/.test(text) &&
    !Number.isNaN(date.getTime()) &&
    date.toISOString().slice(0, 10) === text
  );
};

/** A choice from its text (`7d`, `28d`, `term`, `2026-11-02..2026-11-15`); null for anything else. */
export function parseWindow(text: string | undefined): WindowChoice | null {
  const preset = PRESETS.find((p) => p === text);
  if (preset) return preset;
  const [from, to, more] = (text ?? '').split('..');
  if (from == null || to == null || more != null || !isDay(from) || !isDay(to)) return null;
  return from <= to ? { from, to } : { from: to, to: from };
}

/** The text of a choice, as it stands in an address. */
export const windowText = (choice: WindowChoice): string =>
  typeof choice === 'string' ? choice : `${choice.from}..${choice.to}`;

/**
 * The days of a choice, cut to the part of the term that has begun. Rolling windows are whole local days that end
 * today, so they roll at local midnight. A window wholly outside falls back to the last seven days and says so.
 *
 * @param minute of the present time on the term's clock
 */
export function resolveWindow(
  choice: WindowChoice,
  term: Term,
  today: LocalDate,
  minute: number | null = null,
): Window {
  const end = addDays(term.start, term.weeks * 7 - 1);
  const last = today < term.start ? term.start : today > end ? end : today;
  const cut = (from: LocalDate, to: LocalDate, note: string | null, kept = choice): Window => {
    const first = from < term.start ? term.start : from;
    const until = to > last ? last : to;
    const days = daysBetween(first, until) + 1;
    return {
      choice: kept,
      from: first,
      to: until,
      days,
      compared: withoutBreaks(term, { from: first, to: until }),
      before:
        kept === 'term'
          ? null
          : spanBefore(
              term,
              { from: first, to: until },
              until === today && minute != null ? minute : undefined,
            ),
      note,
    };
  };
  if (choice === 'term') return cut(term.start, last, null);
  if (typeof choice === 'string') return cut(addDays(last, 1 - PRESET_DAYS[choice]), last, null);
  const { from, to } = choice;
  if (to < term.start || from > last) {
    return cut(
      addDays(last, -6),
      last,
      'The days asked for lie outside the term so far; these are the last seven.',
      '7d',
    );
  }
  const note =
    from < term.start || to > last ? 'Cut to the part of those days that lies in the term so far.' : null;
  return cut(from, to, note);
}

/** A span and the parts of it that lie in breaks. */
function withoutBreaks(term: Term, { from, to }: DaySpan): DaySpan {
  const without = term.breaks
    .filter((b) => b.from <= to && b.to >= from)
    .map((b) => ({ from: b.from < from ? from : b.from, to: b.to > to ? to : b.to }));
  return { from, to, without };
}

/** As many teaching days as a span holds, just before it; null where the term has not had so many. */
function spanBefore(term: Term, span: DaySpan, minute: number | undefined): DaySpan | null {
  let wanted = teachingDaysBetween(term, addDays(span.from, -1), span.to);
  if (wanted === 0) return null;
  let day = span.from;
  let to: LocalDate | null = null;
  while (wanted > 0) {
    day = addDays(day, -1);
    if (day < term.start) return null;
    if (isBreak(term, day)) continue;
    to ??= day;
    wanted--;
  }
  return { ...withoutBreaks(term, { from: day, to: to! }), ...(minute == null ? {} : { until: minute }) };
}

/** Whether a day lies in a span, and in no break that is left out of it. */
export const inSpan = (span: DaySpan, day: LocalDate): boolean =>
  day >= span.from && day <= span.to && !span.without?.some((b) => day >= b.from && day <= b.to);
