import type { Instant, LocalDate, Percent } from './units';

const LOCALE = 'en-GB';

/** Making a formatter takes as long as a hundred uses of one: each is made once. */
const formatters = new Map<string, Intl.DateTimeFormat>();

function inWords(at: Instant, zone: string, options: Intl.DateTimeFormatOptions): string {
  const key = `${zone} ${Object.keys(options).join(' ')}`;
  let formatter = formatters.get(key);
  if (!formatter)
    formatters.set(key, (formatter = new Intl.DateTimeFormat(LOCALE, { ...options, timeZone: zone })));
  return formatter.format(at);
}

const DAY = { day: 'numeric', month: 'short' } as const;
const TIME = { ...DAY, hour: '2-digit', minute: '2-digit' } as const;
const midnight = (date: LocalDate): Instant => Date.parse(`${date}T00:00:00Z`);

/** "18 Nov" of a calendar day. */
export const shortDay = (date: LocalDate): string => inWords(midnight(date), 'UTC', DAY);

/** "Wed 18 Nov" of a calendar day. */
export const weekdayDay = (date: LocalDate): string =>
  inWords(midnight(date), 'UTC', { weekday: 'short', ...DAY }).replace(',', '');

/** "3 Jan 2027" of an instant in a zone. */
export const dayWithYear = (at: Instant, zone: string): string =>
  inWords(at, zone, { ...DAY, year: 'numeric' });

/** "18 Nov, 09:41" of an instant in a zone. */
export const dayAndTime = (at: Instant, zone: string): string => inWords(at, zone, TIME);

/** "Sun 22 Nov 23:59" of an instant in a zone. */
export const weekdayAndTime = (at: Instant, zone: string): string =>
  inWords(at, zone, { weekday: 'short', ...TIME }).replace(',', '');

/** "19–25 Nov", or "28 Oct – 3 Nov" over two months. */
export const spanText = ({ from, to }: { readonly from: LocalDate; readonly to: LocalDate }): string => {
  if (from === to) return shortDay(from);
  return from.slice(0, 7) === to.slice(0, 7)
    ? `${Number(from.slice(8))}–${shortDay(to)}`
    : `${shortDay(from)} – ${shortDay(to)}`;
};

/** "31". */
export const whole = (value: number): string => String(Math.round(value));

/** "31 %", "+4.2", with at most one digit after the point and no trailing zero. */
export const oneDigit = (value: number): string => String(Math.round(value * 10) / 10);

export const percentText = (value: Percent | null): string =>
  value == null ? 'none yet' : `${Math.round(value)} %`;

/** "95 min" up to two hours, then "3 h 05 min". */
export function minutesText(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 120) return `${whole} min`;
  const rest = whole % 60;
  return rest === 0
    ? `${Math.floor(whole / 60)} h`
    : `${Math.floor(whole / 60)} h ${String(rest).padStart(2, '0')} min`;
}

/** "a", "a and b", "a, b and c". */
export const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)!}`;

/** "1 student", "12 students". */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString(LOCALE)} ${n === 1 ? one : many}`;

/** "1 day", "3 days", "2.5 days". */
export function count(value: number, singular: string, plural = `${singular}s`): string {
  const shown = Number.isInteger(value) ? String(value) : (Math.round(value * 10) / 10).toFixed(1);
  return `${shown} ${value === 1 ? singular : plural}`;
}

/** The first line of a text that says something, cut at so many characters. */
export function firstLine(text: string, most: number): string {
  const line = text.split('\n').find((l) => l.trim() !== '') ?? '';
  return line.length > most ? `${line.slice(0, most - 2)} …` : line;
}
