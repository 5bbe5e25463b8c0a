import type { LocalDate, Minutes } from '../units';

interface MailStep {
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
}

/** The plain text of the e-mail copy: the message, the plan if there is one, and where to find both. */
export function mailText(body: string, steps: readonly MailStep[], homeUrl: string): string {
  const plan =
    steps.length > 0
      ? `\n\nYour plan\n${steps.map((s, i) => `${i + 1}. ${s.title}, about ${s.minutes} min, by ${s.on}`).join('\n')}`
      : '';
  return `${body}${plan}\n\n--\nYou can read this and tick off your steps at ${homeUrl}\n`;
}
