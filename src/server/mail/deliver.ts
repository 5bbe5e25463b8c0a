import type { Transporter } from 'nodemailer';
import type Mail from 'nodemailer/lib/mailer';
import type { MailState } from '@/core/messages/mailState';
import { nowDate } from '../base/clock';
import { keptMail, usesStandIn } from './kept';

/** What became of an e-mail, as it is stored. */
export interface MailResult {
  readonly mailState: MailState;
  readonly mailError?: string | null;
  readonly sentAt?: Date;
}

export interface Outcome {
  readonly state: MailResult;
  /** The server takes mail for nobody now: there is no use in trying the next copy. */
  readonly nobodyNow?: boolean;
}

export const NO_SERVER: Outcome = {
  state: { mailState: 'failed', mailError: 'No mail server is set up (SMTP_URL).' },
};

const sent = (): MailResult => ({ mailState: 'sent', sentAt: nowDate(), mailError: null });

/**
 * Offers an e-mail to the mail server.
 *
 * @param onRefused is told what the server says of an address that it refuses for good
 */
export async function deliver(
  transport: Transporter,
  mail: Mail.Options & { readonly messageId: string },
  onRefused: (said: string) => Promise<unknown>,
): Promise<Outcome> {
  try {
    await transport.sendMail(mail);
    return { state: sent() };
  } catch (error) {
    return afterFailure(error, mail.messageId, onRefused);
  }
}

/**
 * What became of an e-mail that was left in the middle of a conversation with the mail server. The stand-in's folder tells
 * whether it has it; any other server cannot be asked, so it is shown as unsure and nobody gets it twice.
 */
export async function leftInTheMiddle(messageId: string): Promise<MailResult> {
  if (await keptMail(messageId)) return sent();
  if (usesStandIn()) return { mailState: 'queued' };
  return {
    mailState: 'unsure',
    mailError: 'The server stopped while sending; it may or may not have arrived.',
  };
}

interface MailFailure {
  readonly responseCode?: number;
  readonly response?: string;
  readonly command?: string;
  readonly code?: string;
}

/** Parts of a conversation before the text of the message. */
const BEFORE_TEXT = ['CONN', 'EHLO', 'HELO', 'MAIL FROM', 'RCPT TO'];

/** What a failed conversation means: a clear no, nothing sent for now, or nobody knows. */
async function afterFailure(
  error: unknown,
  messageId: string,
  onRefused: (said: string) => Promise<unknown>,
): Promise<Outcome> {
  const failure: MailFailure = error instanceof Error ? (error as Error & MailFailure) : {};
  const failed = (mailError: string): Outcome => ({ state: { mailState: 'failed', mailError } });
  if (failure.responseCode) {
    const said = (failure.response ?? '').slice(0, 240);
    if (failure.responseCode >= 500) {
      if (failure.command === 'RCPT TO') await onRefused(said);
      return failed(`The mail server refused it: ${said}`);
    }
    // 4yz is a transient negative reply: the same may go through later (RFC 5321, 4.2.1).
    return {
      state: { mailState: 'queued', mailError: `The mail server asks to wait: ${said}` },
      nobodyNow:
        failure.responseCode === 421 || failure.command === 'CONN' || failure.command === 'MAIL FROM',
    };
  }
  if (failure.code === 'ETLS')
    return failed('The mail server offers no encryption, so nothing was sent (see LANTERN_MAIL_PLAIN).');
  if (!failure.command || BEFORE_TEXT.includes(failure.command))
    return {
      state: { mailState: 'queued', mailError: 'The mail server could not be reached.' },
      nobodyNow: true,
    };
  if (await keptMail(messageId)) return { state: sent() };
  return {
    state: {
      mailState: 'unsure',
      mailError: 'The connection broke while sending; it may or may not have arrived.',
    },
  };
}
