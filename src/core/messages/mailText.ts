import { weekdayDay } from '../format';
import { escapeHtml } from './docText';
import type { LocalDate, Minutes } from '../units';

interface MailStep {
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
}

const stepText = (s: MailStep) => `${s.title}, about ${s.minutes} min, by ${weekdayDay(s.on)}`;

/** What an e-mail copy says beside its text. */
export interface MailAlso {
  readonly steps: readonly MailStep[];
  /** Address of the student's own page. */
  readonly home: string;
  /** Whether times for a talk are offered. */
  readonly talks?: boolean;
}

const TALKS = 'Choose a time for a talk at';
const HOME = 'You can read this and tick off your steps at';

/** The plain text of the e-mail copy: the message, the plan if there is one, and where to find both. */
export function mailText(body: string, { steps, home, talks }: MailAlso): string {
  const plan =
    steps.length > 0 ? `\n\nYour plan\n${steps.map((s, i) => `${i + 1}. ${stepText(s)}`).join('\n')}` : '';
  const offer = talks ? `\n\n${TALKS} ${home}` : '';
  return `${body}${plan}${offer}\n\n--\n${HOME} ${home}\n`;
}

/** The same as a page of HTML. */
export function mailHtml(body: string, { steps, home, talks }: MailAlso): string {
  const plan =
    steps.length > 0
      ? `<p>Your plan</p>\n<ol>${steps.map((s) => `<li>${escapeHtml(stepText(s))}</li>`).join('')}</ol>\n`
      : '';
  const link = `<a href="${escapeHtml(home)}">${escapeHtml(home)}</a>`;
  const offer = talks ? `<p>${TALKS} ${link}</p>\n` : '';
  return `<!doctype html>\n<html lang="en"><body>\n${body}\n${plan}${offer}<p>--<br>${HOME} ${link}</p>\n</body></html>\n`;
}
