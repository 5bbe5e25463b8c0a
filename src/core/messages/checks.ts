import { parseDate } from '../calendar/day';
import type { LocalDate } from '../units';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
/** "25 Nov", "25 November 2026", "2026-11-25" */
const DAYS =
  /\b(\d{4}-\d\d-\d\d)\b|\b(\d{1,2})(?:st|nd|rd|th)?\s+(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?(?:\s+(\d{4}))?\b/gi;

/** Days that a text names, each as it stands there and as a day; without a year the one of today is meant. */
export function daysIn(text: string, today: LocalDate): { readonly said: string; readonly day: LocalDate }[] {
  return [...text.matchAll(DAYS)].flatMap((m) => {
    const [said, iso, day, month, year] = m;
    const written =
      iso ??
      `${year ?? today.slice(0, 4)}-${String(MONTHS.indexOf(month!.slice(0, 3).toLowerCase()) + 1).padStart(2, '0')}-${day!.padStart(2, '0')}`;
    const read = parseDate(written);
    return read.ok ? [{ said: said.trim(), day: read.value }] : [];
  });
}

/**
 * What would embarrass in a text as somebody reads it: a name that is missing, a brace that was left, a day gone by, a
 * number of nothing ("0 assignments"). In words; empty if nothing does.
 */
export function embarrassments(
  text: string,
  { givenName, today }: { readonly givenName: string; readonly today: LocalDate },
): string[] {
  const found: string[] = [];
  if (givenName.trim() === '') found.push('Their name is missing.');
  const greeting = /^(?:hello|hi|dear)\s*[,!.]/im.exec(text);
  if (greeting) found.push(`“${greeting[0]}” greets nobody.`);
  const brace = /\{[^}\n]*\}?/.exec(text);
  if (brace) found.push(`“${brace[0].slice(0, 40)}” was left as it is.`);
  for (const { said, day } of daysIn(text, today)) if (day < today) found.push(`“${said}” has gone by.`);
  const nothing = /\b0 (?:assignments?|missing|days?|steps?|exercises?|quizzes|minutes?|points?)\b/i.exec(
    text,
  );
  if (nothing) found.push(`“${nothing[0]}” says that there is nothing.`);
  if (/\b(?:null|undefined|NaN)\b/.test(text)) found.push('Something is missing in it.');
  return found;
}
