/**
 * State of the e-mail copy. `sending` is written before the conversation with the mail server starts, so that a
 * restart in the middle knows which ones may have arrived; those it cannot settle become `unsure`.
 */
export type MailState = 'queued' | 'sending' | 'sent' | 'failed' | 'unsure' | 'no address';
