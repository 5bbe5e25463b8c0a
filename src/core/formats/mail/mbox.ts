import type { Instant } from '../../units';

/** A message as it goes into a mailbox file. */
export interface Kept {
  /** The envelope's sender. */
  readonly from: string;
  readonly at: Instant;
  /** The message by RFC 5322, its lines ended by CR LF. */
  readonly raw: string;
}

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** The time of a separator line in UTC: "Wed Nov 25 10:35:00 2026" (RFC 4155, appendix A). */
function separatorTime(at: Instant): string {
  const d = new Date(at);
  const two = (n: number) => String(n).padStart(2, '0');
  const day = String(d.getUTCDate()).padStart(2, ' ');
  const clock = [d.getUTCHours(), d.getUTCMinutes(), d.getUTCSeconds()].map(two).join(':');
  return `${DAYS[d.getUTCDay()]} ${MONTHS[d.getUTCMonth()]} ${day} ${clock} ${d.getUTCFullYear()}`;
}

/**
 * A mailbox file of messages in the default format of RFC 4155: each begins with a separator line, its lines end with LF,
 * and an empty line follows it. A line that would read as a separator is quoted by ">", and so is one that is quoted
 * already, so that a reader can undo it (common practice, called "mboxrd").
 */
export const writeMbox = (messages: readonly Kept[]): string =>
  messages
    .map(({ from, at, raw }) => {
      const lines = raw
        .replace(/\r\n/g, '\n')
        .replace(/\n*$/, '\n')
        .replace(/^(>*From )/gm, '>$1');
      return `From ${from.replace(/\s/g, '') || 'unknown'} ${separatorTime(at)}\n${lines}\n`;
    })
    .join('');
