import type { Instant, LocalDate, Percent } from '@/core/units';

const LOCALE = 'en-GB';

/** "18 Nov" of a calendar day. */
export const shortDay = (date: LocalDate): string =>
  new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(`${date}T00:00:00Z`),
  );

/** "Wed 18 Nov" of a calendar day. */
export const weekdayDay = (date: LocalDate): string =>
  new Intl.DateTimeFormat(LOCALE, { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
    .format(new Date(`${date}T00:00:00Z`))
    .replace(',', '');

/** "18 Nov, 09:41" of an instant in a zone. */
export const dayAndTime = (at: Instant, zone: string): string =>
  new Intl.DateTimeFormat(LOCALE, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  }).format(new Date(at));

/** "Sun 22 Nov, 23:59" of an instant in a zone. */
export const weekdayAndTime = (at: Instant, zone: string): string =>
  new Intl.DateTimeFormat(LOCALE, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  })
    .format(new Date(at))
    .replace(',', '');

export const percentText = (value: Percent | null): string =>
  value == null ? 'none yet' : `${Math.round(value)} %`;

/** "95 min" up to two hours, then "3 h 20". */
export function minutesText(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 120) return `${whole} min`;
  const rest = whole % 60;
  return rest === 0 ? `${Math.floor(whole / 60)} h` : `${Math.floor(whole / 60)} h ${rest}`;
}

/** "1 student", "12 students". */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString(LOCALE)} ${n === 1 ? one : many}`;
