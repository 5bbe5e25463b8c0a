/**
 * State of the e-mail copy. `sending` is written before the conversation with the mail server starts, so that a
 * restart in the middle knows which ones may have arrived; those it cannot settle become `unsure`.
 */
export type MailState =
  | 'queued'
  | 'sending'
  | 'sent'
  | 'failed'
  | 'unsure'
  | 'no address'
  /** They read their messages here only. */
  | 'turned off'
  /** They had left the course when it went: they do not see it either. */
  | 'left out';

/** Copies that did not arrive and can be tried again. */
export const NOT_ARRIVED: readonly MailState[] = ['failed', 'unsure', 'no address'];

/** The states in words. */
export const MAIL_SAYS: Readonly<Record<MailState, string>> = {
  queued: 'waiting to go out',
  sending: 'on its way',
  sent: 'sent',
  failed: 'did not arrive',
  unsure: 'may not have arrived',
  'no address': 'no address',
  'turned off': 'turned off by them',
  'left out': 'left out, they had left the course',
};

export const isOnTheWay = (state: MailState): boolean => state === 'queued' || state === 'sending';
export const hasNotArrived = (state: MailState): boolean => NOT_ARRIVED.includes(state);
